"""One rulebook: devices and fault protection on top of conductors and capacities, and how a pack is loaded.

The checks ask a `Rulebook`, never a standard by name, so an edition is added by adding data.
"""

import json
from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources.abc import Traversable

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Device
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.rulebooks.capacities import Capacities
from lumbek.core.rulebooks.common import Appliance, CircuitKindRules, DeviceType, EvidenceRules, SwitchingData
from lumbek.core.rulebooks.rules import RulebookData
from lumbek.core.rulebooks.tables import DATA, rows


@dataclass(frozen=True)
class Rulebook(Capacities):
    """A rulebook in force. All lookups return None where the tables have no entry, never a guess."""

    @cached_property
    def appliances(self) -> dict[str, Appliance]:
        """Appliances to choose loads from."""
        raw = json.loads((self.common / "appliances.json").read_text(encoding="utf-8"))
        return {key: Appliance.model_validate(value) for key, value in raw.items()}

    @cached_property
    def switching(self) -> SwitchingData:
        """What is usual of boxes, terminals and cables of lighting, and how conductors are coloured."""
        return SwitchingData.model_validate_json((self.common / "switching.json").read_text(encoding="utf-8"))

    @cached_property
    def evidence(self) -> EvidenceRules:
        """How far readings and cables may be from what is there."""
        return EvidenceRules.model_validate_json((self.common / "evidence.json").read_text(encoding="utf-8"))

    @cached_property
    def _let_through(self) -> list[tuple[float, str, float, float]]:
        return [
            (
                float(row["fault_up_to_ka"]),
                row["curve"],
                float(row["rating_up_to_a"]),
                float(row["let_through_a2s"]),
            )
            for row in rows(self.common / "let_through.csv")
        ]

    def let_through_a2s(self, device: Device, fault_ka: float) -> tuple[float, float] | None:
        """Return (A²s, up to kA): the most that a class 3 breaker lets through at a fault current (EN 60898-1).

        None where its curve, its rating or so great a current is not listed.
        """
        fitting = [
            (energy, most_ka)
            for most_ka, curve, most_a, energy in self._let_through
            if curve == device.curve and device.rating_a <= most_a and fault_ka <= most_ka
        ]
        return min(fitting, default=None)

    def withstand_k(self, cable: Cable, conductor: str) -> float:
        """Return k in A √s / mm² of a conductor of this cable (434.5.2, 543.1.3)."""
        rules = self.data.withstand
        return (
            rules.k_armour[cable.insulation]
            if conductor == "E" and cable.earth_by == "armour"
            else rules.k[cable.insulation]
        )

    @cached_property
    def devices(self) -> dict[str, DeviceType]:
        """Protective devices by standard."""
        raw = json.loads((self.common / "devices.json").read_text(encoding="utf-8"))
        return {key: DeviceType.model_validate(value) for key, value in raw.items()}

    @cached_property
    def kinds(self) -> dict[CircuitKind, CircuitKindRules]:
        """Kinds of circuit, with the devices and cables that are usual under this rulebook."""
        raw = json.loads((self.common / "kinds.json").read_text(encoding="utf-8"))
        kinds = {key: CircuitKindRules.model_validate(value) for key, value in raw.items()}
        pairs, cables = self.data.usual, self.data.usual_cables
        return {
            key: kind.model_copy(
                update={
                    "usual": pairs.get(key, kind.usual),
                    "cable": cables.get(kind.cable, kind.cable),
                    **self._differs(key),
                }
            )
            for key, kind in kinds.items()
        }

    def _differs(self, kind: CircuitKind) -> dict[str, object]:
        """Return what this rulebook says otherwise of a kind: with another point its fuse goes too."""
        said = self.data.kinds_differ.get(kind)
        found: dict[str, object] = said.model_dump(exclude_none=True) if said else {}
        return {**found, "fuse_a": None} if "point" in found else found

    @cached_property
    def _published_zs(self) -> dict[tuple[str, float, float], float]:
        own, common = self.pack / "max_zs.csv", self.common / "max_zs.csv"
        return {
            (row["device"], float(row["rating_a"]), float(row["disconnection_s"])): float(row["max_zs_ohm"])
            for row in rows(own if own.is_file() else common)
        }

    def published_zs_ohm(self, device: Device, time_s: float) -> float | None:
        """Return the published greatest Zs in Ω for this device and disconnection time, if listed.

        Breakers act within 0.1 s at their trip multiple, so the 0.4 s figure serves for every time.
        """
        breaker = self.devices[device.standard].form == "breaker"
        if device.standard == "bs3871":
            return None
        key = f"bs-en-60898-{device.curve}" if breaker else device.standard
        times = (time_s, 0.4) if breaker else (time_s,)
        for time in times:
            found = self._published_zs.get((key, device.rating_a, time))
            if found is not None:
                return found
        return None

    def listed_fuse(self, device: Device, time_s: float) -> Device:
        """Return the fuse whose figure counts for this one: itself, or the next larger of its kind that is listed.

        A smaller fuse of the same kind is at least as quick. Breakers, and fuses beyond the table, stay as they are.
        """
        larger = [
            rating
            for standard, rating, time in self._published_zs
            if (standard, time) == (device.standard, time_s) and rating >= device.rating_a
        ]
        return device.model_copy(update={"rating_a": min(larger)}) if larger else device

    def trip_current_a(self, device: Device, time_s: float) -> float | None:
        """Return Ia in A: the current that surely operates the device within `time_s`.

        For breakers the multiple of In that their type acts at for certain; for fuses from the published table, by
        the next larger where one is not listed, Ia = U0 Cmin / Zs with the Cmin of the table. A TT time of 0.2 s has
        no fuse table: None.
        """
        if device.curve is not None:
            return self.data.fault_protection.trip_multiple[device.curve] * device.rating_a
        published = self.published_zs_ohm(self.listed_fuse(device, time_s), time_s)
        return None if published is None else self.u0_v * self.data.fault_protection.published_cmin / published

    def disconnection_time_s(self, device: Device, sockets: bool, final: bool, earthing: str) -> float:
        """Return the greatest disconnection time in s (Table 41.1 and 411.3.2.2 to 411.3.2.4).

        A final circuit with any socket-outlet has the short time up to a greater rating.
        """
        rules = self.data.fault_protection
        most = rules.socket_final_up_to_a if sockets else rules.fixed_final_up_to_a
        times = rules.final_s if final and device.rating_a <= most else rules.other_s
        return times.TT if earthing == "TT" else times.TN

    def protects(self, device: Device | None) -> bool:
        """Whether there is a device, and it protects a cable against overload; a switch or RCCB does not."""
        return device is not None and self.devices[device.standard].overload_protection

    def needed_iz_a(self, device: Device) -> float:
        """Return what a cable must carry in A to be guarded by a device: In, or I2 / 1.45 of a gG fuse (433.1)."""
        rules = self.data.capacity
        multiple = next((i2 for most_a, i2 in rules.fuse_i2 if device.rating_a <= most_a), None)
        if not self.devices[device.standard].gg or multiple is None:
            return device.rating_a
        return max(device.rating_a, device.rating_a * multiple / rules.fuse_i2_iz)

    def earthing_conductor_mm2(self, line_mm2: float) -> float:
        """Return the least protective conductor in mm² for a line conductor (Table 54.7; IEC 60364-5-54 Table 54.2)."""
        rules = self.data.earthing_conductor
        if line_mm2 <= rules.same_up_to_mm2:
            return line_mm2
        if line_mm2 <= rules.one_size_up_to_mm2:
            return rules.same_up_to_mm2
        return line_mm2 * rules.beyond_fraction

    def usual_breaking_ka(self, fault_ka: float | None) -> float:
        """Return the least usual breaking capacity in kA for a fault current; the first where it is not known."""
        usual = self.data.breaking.usual_ka
        return next((each for each in usual if fault_ka is None or fault_ka <= each), usual[-1])

    @property
    def measured_zs_factor(self) -> float:
        """The part of the design limit that a loop measured at ambient temperature may reach."""
        factor = self.data.fault_protection.measured_factor
        return factor if isinstance(factor, float) else factor[0] / factor[1]

    @property
    def measured_zs_words(self) -> str:
        """That part as it is written: 0.8, or 2/3."""
        factor = self.data.fault_protection.measured_factor
        return f"{factor:g}" if isinstance(factor, float) else f"{factor[0]}/{factor[1]}"


class UnknownEditionError(ValueError):
    """A rulebook that is not known in the edition asked for; the message names those that are."""


def editions_of(rulebook_id: str, packs: tuple[Rulebook, ...]) -> tuple[Rulebook, ...]:
    """Return the editions of a rulebook among these packs, in their order."""
    return tuple(each for each in packs if each.id == rulebook_id)


def packs_in(folder: Traversable) -> tuple[Rulebook, ...]:
    """Return every pack in `folder`, the newest edition first."""
    packs = (load_pack(each) for each in folder.iterdir() if (each / "rules.json").is_file())
    return tuple(sorted(packs, key=lambda each: each.data.since, reverse=True))


@cache
def _own_packs() -> tuple[Rulebook, ...]:
    return packs_in(DATA)


def load_rulebook(rulebook_id: RulebookId, edition: str = "") -> Rulebook:
    """Return a rulebook in an edition, the newest if none is named. Raises UnknownEditionError."""
    editions = editions_of(rulebook_id, _own_packs())
    for each in editions:
        if edition in ("", each.data.edition):
            return each
    known = ", ".join(each.data.edition for each in editions)
    raise UnknownEditionError(f"{edition} is not known here; known are: {known}")


def rulebook_of(head: JobHead) -> Rulebook:
    """Return the rulebook that a job is judged by. Raises UnknownEditionError."""
    return load_rulebook(head.rulebook, head.edition)


def load_pack(pack: Traversable) -> Rulebook:
    """Load a rulebook from a folder that holds `rules.json` and its tables."""
    data = RulebookData.model_validate_json((pack / "rules.json").read_text(encoding="utf-8"))
    return Rulebook(data=data, pack=pack, common=DATA / "common")
