"""What stands between the supply and a circuit: its devices and feeds, and the loop and fault current they leave."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from math import hypot

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.model.supply import Supply
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.feeds import Feed, feeds_of
from lumbek.core.study.resistance import cold_loop_ohm, core_ohm, hot_loop_ohm

# What is wanted where a house stands on an electrode that nobody is said to have measured.
ELECTRODE = "resistance of the electrode, measured"
# And where a circuit stands on an electrode of its own.
OWN_ELECTRODE = "resistance of its own electrode, measured"


def known_fault_current_ka(rulebook: Rulebook, supply: Supply) -> float | None:
    """Return the greatest fault current in kA that is known at the origin: as surveyed, or U0 / Ze to earth."""
    to_earth = None
    if supply.ze_ohm and supply.earthing != "TT":
        to_earth = rulebook.u0_v / supply.ze_ohm / 1000
    known = [ka for ka in (supply.fault_current_ka, to_earth) if ka is not None]
    return max(known, default=None)


def main_fuse_of(supply: Supply) -> Device | None:
    """Return the distributor's fuse as a device; None where it is not known."""
    fuse = supply.main_fuse
    if fuse.rating_a is None or fuse.standard == "unknown":
        return None
    return Device(standard=fuse.standard, curve=None, rating_a=fuse.rating_a, rcd=None)


@dataclass(frozen=True)
class AheadOf:
    """What stands ahead of one circuit on one supply."""

    rulebook: Rulebook
    supply: Supply
    circuit: Circuit

    @cached_property
    def protection(self) -> Device | None:
        """The device that protects the circuit's cable: its own, else the nearest ahead that can.

        A switch-disconnector protects nothing: then the last device ahead that can, then the main fuse;
        None where the main fuse is not known.
        """
        for device in (self.circuit.device, *(ahead.device for ahead in reversed(self.circuit.ahead))):
            if self.rulebook.protects(device):
                return device
        return self.main_fuse

    @property
    def main_fuse(self) -> Device | None:
        """The distributor's fuse as a device; None where it is not known."""
        return main_fuse_of(self.supply)

    @property
    def behind_switch(self) -> bool:
        """Whether the circuit's own device only switches."""
        return not self.rulebook.protects(self.circuit.device)

    @cached_property
    def feeds(self) -> tuple[Feed, ...]:
        """The feed cables between the origin and the circuit's device, each with what protects it."""
        return feeds_of(self.rulebook, self.circuit, self.main_fuse) if self.circuit.ahead else ()

    @cached_property
    def feed_loop_ohm(self) -> float | None:
        """Line and cpc of the feeds in Ω, hot; None where a size is not listed."""
        return self._loop_of_feeds_ohm(hot_loop_ohm)

    def _loop_of_feeds_ohm(self, loop_ohm: Callable[[Rulebook, Cable, float | None], float | None]) -> float | None:
        total = 0.0
        for feed in self.feeds:
            ohm = loop_ohm(self.rulebook, feed.cable, feed.length_m)
            if ohm is None:
                return None
            total += ohm
        return total

    @property
    def earthing(self) -> str | None:
        """The earthing system that serves this circuit: an electrode of its own makes it TT."""
        return "TT" if self.circuit.own_earth is not None else self.supply.earthing

    @property
    def ze_ohm(self) -> float | None:
        """The loop outside this circuit in Ω, at its board: Ze as surveyed or assumed, and the feeds' loop.

        With an electrode of its own, that electrode's resistance. None where it is not known.
        """
        if self.circuit.own_earth is not None:
            return self.circuit.own_earth.electrode_ohm
        origin = self.origin_ze_ohm
        return None if origin is None or self.feed_loop_ohm is None else origin + self.feed_loop_ohm

    @property
    def cold_ze_ohm(self) -> float | None:
        """The same loop as it is read: the feeds at 20 °C."""
        loop, origin = self._loop_of_feeds_ohm(cold_loop_ohm), self.origin_ze_ohm
        if self.circuit.own_earth is not None or not self.feeds:
            return self.ze_ohm
        return None if origin is None or loop is None else origin + loop

    @property
    def unmeasured_electrode(self) -> str | None:
        """What is wanted where the circuit stands on an electrode that nobody is said to have measured; else None."""
        own = self.circuit.own_earth
        if own is None:
            return ELECTRODE if self.origin_unmeasured else None
        return OWN_ELECTRODE if own.electrode_ohm is not None and own.measured_ohm is None else None

    @property
    def outside_measured(self) -> bool:
        """Whether the loop outside was measured where the circuit's earth begins: at the origin, or its electrode."""
        own = self.circuit.own_earth
        return self.supply.ze_origin == "measured" if own is None else own.measured_ohm is not None

    @property
    def origin_unmeasured(self) -> bool:
        """Whether the house stands on an electrode that nobody is said to have measured."""
        return self.supply.earthing == "TT" and self.supply.ze_ohm is not None and self.supply.ze_origin != "measured"

    @property
    def origin_ze_ohm(self) -> float | None:
        """Ze in Ω at the origin: as surveyed, or what the rulebook lets one assume of such a supply.

        Nothing may be assumed of an electrode.
        """
        if self.supply.ze_ohm is not None:
            return self.supply.ze_ohm
        return self.rulebook.data.supply.assumed_ze_ohm.get(self.supply.earthing or "")

    @property
    def assumed_ze_ohm(self) -> float | None:
        """Ze in Ω at the origin where it is not measured and stands on what may be assumed; None otherwise."""
        return self.origin_ze_ohm if self.supply.ze_ohm is None else None

    @property
    def fault_current_ka(self) -> float | None:
        """Prospective fault current in kA at the origin: the greatest known, or the greatest that may be declared."""
        if self.supply.fault_current_ka is None:
            return self.rulebook.data.supply.assumed_fault_current_ka
        return self.known_fault_current_ka

    @property
    def known_fault_current_ka(self) -> float | None:
        """The greatest fault current in kA that is known at the origin: as surveyed, or U0 / Ze to earth (434.1).

        None where neither is. An electrode's loop says nothing of the supply.
        """
        return known_fault_current_ka(self.rulebook, self.supply)

    @cached_property
    def feed_fault_ohm(self) -> float | None:
        """The least resistance in Ω that the feeds put in the way of a fault, cold; None where a size is not listed.

        Of one that is only known to lie between two lengths the least counts.
        Between the lines of three phases only one conductor counts; else a line and the better way back.
        """
        total = 0.0
        for feed in self.feeds:
            line, *back = (core_ohm(self.rulebook, feed.cable, core, feed.least_m) for core in CONDUCTORS)
            if line is None:
                return None
            ways = [0.0] if self.supply.phases == 3 else [ohm for ohm in back if ohm is not None]
            total += line + min(ways, default=0.0)
        return total

    @cached_property
    def board_fault_current_ka(self) -> float | None:
        """Prospective fault current in kA at the circuit's own board, behind the feeds: no less than the true one.

        I = U0 / √((U0 / I0)² + R²): the source taken as a reactance and the feed, cold, as a resistance, which
        is the least that the two together can be. None where a feed's size is not listed.
        """
        origin = self.fault_current_ka
        if origin is None or not self.feeds:
            return origin
        if self.feed_fault_ohm is None:
            return None
        u0 = self.rulebook.u0_v
        return u0 / hypot(u0 / (origin * 1000), self.feed_fault_ohm) / 1000
