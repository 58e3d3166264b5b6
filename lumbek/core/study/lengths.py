"""Settling what is not known of a circuit's lengths: from a measured resistance, and ranges from end to end."""

from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.numbers import plain, show
from lumbek.core.rulebooks import Rulebook

# Beyond this many legs with a range, single legs are no longer tried one by one.
_MOST_SINGLE = 10


@dataclass(frozen=True)
class Lengths:
    """A circuit whose lengths are known as far as they can be; ranges are still ranges in `circuit`."""

    circuit: Circuit
    assumptions: tuple[str, ...]

    @cached_property
    def ranged(self) -> frozenset[str]:
        """The legs whose length is only known within a range."""
        return frozenset(
            leg.id for leg in self.circuit.legs if any(segment.length_to_m is not None for segment in leg.segments)
        )

    @cached_property
    def variants(self) -> tuple[Circuit, ...]:
        """The circuits to judge: all short, each uncertain leg against the others, all long; the greatest last.

        Resistances, Zs and drops of open runs only grow with length, so all long is their worst; how a ring shares
        its current is worst where one side is long and the other short, which the single ones cover.
        """
        if not self.ranged:
            return (self.circuit,)
        picks = [frozenset[str]()]
        if 1 < len(self.ranged) <= _MOST_SINGLE:
            each = [leg.id for leg in self.circuit.legs if leg.id in self.ranged]
            picks += [frozenset({leg_id}) for leg_id in each] + [self.ranged - {leg_id} for leg_id in each]
        picks.append(self.ranged)
        return tuple(
            self._at({leg_id: float(leg_id in pick) for leg_id in self.ranged}) for pick in dict.fromkeys(picks)
        )

    @cached_property
    def middle(self) -> Circuit:
        """The circuit with every range at its middle: what a reading is expected from."""
        return self._at(dict.fromkeys(self.ranged, 0.5)) if self.ranged else self.circuit

    def _at(self, part: dict[str, float]) -> Circuit:
        """Return the circuit with the range of each leg at this part of it, 0 the shortest and 1 the longest."""
        legs = tuple(_definite(leg, part[leg.id]) if leg.id in part else leg for leg in self.circuit.legs)
        return self.circuit.model_copy(update={"legs": legs})


def settle(rulebook: Rulebook, circuit: Circuit) -> Lengths:
    """Return what is known of a circuit's lengths, and in words what was worked out or taken for granted."""
    assumptions: list[str] = []
    legs = tuple(_from_resistance(rulebook, circuit, leg, assumptions) for leg in circuit.legs)
    found = Lengths(circuit.model_copy(update={"legs": legs}) if assumptions else circuit, ())
    for leg in found.circuit.legs:
        if leg.id in found.ranged:
            low = sum(segment.length_m or 0.0 for segment in leg.segments)
            high = sum(segment.length_to_m or segment.length_m or 0.0 for segment in leg.segments)
            assumptions.append(f"{circuit.leg_title(leg)}: {plain(low)} to {plain(high)} m")
    return Lengths(found.circuit, tuple(assumptions))


def _from_resistance(rulebook: Rulebook, circuit: Circuit, leg: Leg, assumptions: list[str]) -> Leg:
    """Fill in a length that is not known from the line's measured resistance: l = r1 / ρ' at 20 °C."""
    if leg.measured_r1_ohm is None or leg.length_m is not None or len(leg.segments) != 1:
        return leg
    each = rulebook.milliohm_per_m(leg.cable or circuit.cable, "L")
    if each is None:
        return leg
    length = leg.measured_r1_ohm * 1000 / each
    found = f"{plain(leg.measured_r1_ohm)} Ω / {plain(each)} mΩ/m at 20 °C"
    assumptions.append(f"{circuit.leg_title(leg)}: {show(length, 1)} m from r1, {found}")
    return leg.model_copy(update={"segments": (leg.segments[0].model_copy(update={"length_m": length}),)})


def _definite(leg: Leg, part: float) -> Leg:
    segments = tuple(
        segment
        if segment.length_to_m is None or segment.length_m is None
        else segment.model_copy(
            update={"length_m": _between(segment.length_m, segment.length_to_m, part), "length_to_m": None}
        )
        for segment in leg.segments
    )
    return leg.model_copy(update={"segments": segments})


def _between(low: float, high: float, part: float) -> float:
    """Return low, high or their middle, the ends exactly."""
    return {0.0: low, 1.0: high}.get(part, (low + high) / 2)
