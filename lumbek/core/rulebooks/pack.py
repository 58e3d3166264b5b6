"""One rulebook: its figures loaded from a data pack, and the predicates that read them.

The checks ask a `Rulebook`, never a standard by name, so an edition is added by adding data.
"""

import json
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources.abc import Traversable

from lumbek.core.judging.check import Clause
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Device
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.numbers import plain
from lumbek.core.rulebooks.rules import (
    Appliance,
    CircuitKindRules,
    DeviceType,
    EvidenceRules,
    RulebookData,
    SwitchingData,
)
from lumbek.core.rulebooks.tables import DATA, at_or_above, rows

# How a method lays a cable in the ground; one that is not here covers both.
_LAYINGS = {"D1": ("duct",), "D2": ("direct",)}


def _lower(factors: Iterable[float | None]) -> float | None:
    """Return the lower of the factors for each way to lie; None where there is none, or one is beyond its table."""
    found = list(factors)
    known = [factor for factor in found if factor is not None]
    return min(known) if known and len(known) == len(found) else None


@dataclass(frozen=True)
class Rulebook:
    """A rulebook in force. All lookups return None where the tables have no entry, never a guess."""

    data: RulebookData
    pack: Traversable
    common: Traversable

    @property
    def id(self) -> RulebookId:
        """The rulebook's id in jobs and results."""
        return self.data.id

    @property
    def u0_v(self) -> float:
        """Nominal voltage line to earth, V."""
        return self.data.supply.u0_v

    def clause(self, key: str) -> Clause:
        """Return the clause that a check applies; KeyError for an unknown key."""
        return self._clauses[key]

    @cached_property
    def _clauses(self) -> dict[str, Clause]:
        short = self.data.short
        return {key: Clause(rulebook=short, ref=each.ref, text=each.text) for key, each in self.data.clauses.items()}

    # Conductors

    @cached_property
    def conductor_milliohm_per_m(self) -> dict[float, float]:
        """Copper conductors at 20 °C: csa in mm² to mΩ/m."""
        return {
            float(row["csa_mm2"]): float(row["milliohm_per_m_20c"])
            for row in rows(self.common / "conductor_resistance.csv")
            if row["material"] == "copper"
        } | {csa: milliohm for csa, (_, milliohm) in self.imperial.items()}

    @cached_property
    def imperial(self) -> dict[float, tuple[str, float]]:
        """Old conductors by their area in mm²: what they are called, and their mΩ/m at 20 °C.

        Those with the area of a metric size are that size.
        """
        found = {
            float(row["csa_mm2"]): (row["stranding"], float(row["milliohm_per_m_20c"]))
            for row in rows(self.common / "imperial.csv")
        }
        metric = {float(row["csa_mm2"]) for row in rows(self.common / "conductor_resistance.csv")}
        return {csa: each for csa, each in found.items() if csa not in metric}

    def rated_csa_mm2(self, csa_mm2: float) -> float:
        """Return the size whose ratings a conductor has: itself, or for an old one the next smaller metric size."""
        if csa_mm2 not in self.imperial:
            return csa_mm2
        return max(each for each in self.conductor_milliohm_per_m if each < csa_mm2 and each not in self.imperial)

    def size_words(self, csa_mm2: float) -> str:
        """Return a size as it is called: in mm², of an old conductor with its strands."""
        strands = f" ({self.imperial[csa_mm2][0]})" if csa_mm2 in self.imperial else ""
        return f"{plain(csa_mm2)} mm²{strands}"

    @cached_property
    def flat_cpc_mm2(self) -> dict[float, float]:
        """The cpc inside flat cables: line csa to cpc csa, mm²."""
        return {
            float(row["line_csa_mm2"]): float(row["cpc_csa_mm2"]) for row in rows(self.common / "flat_cable_cpc.csv")
        }

    def cpc_mm2(self, cable: Cable) -> float | None:
        """Return the cpc size in mm²: as stated, else the usual one for the type of cable."""
        if cable.cpc_mm2 is not None:
            return cable.cpc_mm2
        kind = self.data.cables[cable.type]
        return self.flat_cpc_mm2.get(cable.csa_mm2) if kind.cpc == "flat" else cable.csa_mm2

    @cached_property
    def flex(self) -> dict[float, dict[str, float]]:
        """Flexible cords by csa in mm²: rating in A, mΩ/m at 20 °C (IEC 60228 class 5), mV/A/m."""
        return {
            float(row["csa_mm2"]): {key: float(value) for key, value in row.items()}
            for row in rows(self.common / "flex.csv")
        }

    @cached_property
    def _armour(self) -> dict[tuple[int, float], float]:
        return {
            (int(row["cores"]), float(row["csa_mm2"])): float(row["armour_milliohm_per_m_20c_max"])
            for row in rows(self.common / "armour_resistance.csv")
        }

    @cached_property
    def _conduit(self) -> dict[str | None, float]:
        return {row["conduit"]: float(row["milliohm_per_m"]) for row in rows(self.common / "conduit.csv")}

    def milliohm_per_m(self, cable: Cable, conductor: str) -> float | None:
        """Return the resistance at 20 °C in mΩ/m of a cable's L, N or E; None where no table has it.

        E is a core, the steel armour (maker's greatest figure), or a conduit by its stated figure, else by the book's
        impedance of its size and gauge at a fault (joints sound); None where nobody
        has said what it is, and where there is none.
        """
        if conductor == "E":
            if cable.earth_by in (None, "none") or cable.lacks_core:
                return None
            if cable.earth_by == "armour":
                return self._armour.get((cable.cores, cable.csa_mm2))
            if cable.earth_by == "conduit":
                stated = cable.conduit_milliohm_per_m
                return self._conduit.get(cable.conduit) if stated is None else stated
        csa = self.cpc_mm2(cable) if conductor == "E" else cable.csa_mm2
        if csa is None:
            return None
        if cable.type == "flex":
            return self.flex[csa]["milliohm_per_m_20c"] if csa in self.flex else None
        return self.conductor_milliohm_per_m.get(csa)

    def hot_factor(self, cable: Cable, conductor: str = "L") -> float:
        """Return the factor on 20 °C resistance at the insulation's limit: 1.20 at 70 °C, 1.28 at 90 °C.

        R = R20 (1 + 0.004 (t - 20)), IEC 60228 and BS 7671 Appendix 3. Armour is 10 K cooler and of steel; conduit
        stays at 20 °C.
        """
        if conductor == "E" and cable.earth_by == "armour":
            return self.data.conductors.armour_factor[cable.insulation]
        if conductor == "E" and cable.earth_by == "conduit":
            return 1.0
        return self.temperature_factor(self.data.conductors.limit_c[cable.insulation])

    def temperature_factor(self, conductor_c: float) -> float:
        """Return the factor on 20 °C resistance of copper at a temperature in °C: 1 + 0.004 (t - 20)."""
        return 1 + self.data.conductors.per_kelvin * (conductor_c - 20)

    # Capacity

    @cached_property
    def _ratings(self) -> dict[tuple[str, str, int, str, float], tuple[float, str]]:
        return {
            (
                row["cable"],
                row["insulation"],
                int(row["loaded_conductors"]),
                row["method"],
                float(row["csa_mm2"]),
            ): (float(row["current_a"]), row["table"])
            for row in rows(self.pack / "cable_ratings.csv")
        }

    def tabulated_capacity_a(self, cable: Cable, method: str, loaded: int = 2) -> tuple[float, str] | None:
        """Return (It in A, table) for a cable and reference method with `loaded` conductors."""
        kind = self.data.cables.get(cable.type)
        if kind is None or method not in kind.methods:
            return None
        if cable.type == "flex":
            found = self.flex.get(cable.csa_mm2)
            return (found["current_a"], "4F3A") if found else None
        rated_as = kind.rated_as.get(method, kind.rating_rows)
        return self._ratings.get((rated_as, cable.insulation, loaded, method, self.rated_csa_mm2(cable.csa_mm2)))

    def listed_csas(self, cable: Cable, method: str, loaded: int = 2) -> list[float]:
        """Return the sizes in mm² that have a tabulated capacity for this type of cable and method."""
        if cable.type == "flex":
            return sorted(self.flex)
        kind = self.data.cables[cable.type]
        rows_key = kind.rated_as.get(method, kind.rating_rows)
        return sorted(key[4] for key in self._ratings if key[:4] == (rows_key, cable.insulation, loaded, method))

    @cached_property
    def _ambient(self) -> dict[tuple[str, str], dict[float, float]]:
        table: dict[tuple[str, str], dict[float, float]] = {}
        for row in rows(self.pack / "ambient_factor.csv"):
            key = (row["medium"], row["insulation"])
            table.setdefault(key, {})[float(row["temperature_c"])] = float(row["factor"])
        return table

    def reference_ambient_c(self, method: str) -> float:
        """Return the temperature the tables are drawn up for: 30 °C in air, 20 °C in the ground."""
        return 30.0 if self.data.methods[method].medium == "air" else 20.0

    def ambient_factor(self, method: str, insulation: str, temperature_c: float) -> float | None:
        """Return Ca, taking the next warmer entry between entries; None above the table."""
        return at_or_above(self._ambient[self.data.methods[method].medium, insulation], temperature_c)

    @cached_property
    def _grouping(self) -> dict[str, dict[float, float]]:
        table: dict[str, dict[float, float]] = {}
        for row in rows(self.common / "grouping_factor.csv"):
            table.setdefault(row["arrangement"], {})[float(row["circuits"])] = float(row["factor"])
        return table

    def grouping_factor(self, arrangement: str, circuits: int) -> float | None:
        """Return Cg for that many circuits together, taking the next larger entry; None beyond the table."""
        return at_or_above(self._grouping[arrangement], circuits)

    @cached_property
    def _grouping_ground(self) -> dict[tuple[str, str], dict[float, float]]:
        table: dict[tuple[str, str], dict[float, float]] = {}
        for row in rows(self.common / "grouping_ground.csv"):
            table.setdefault((row["laid"], row["spacing"]), {1.0: 1.0})[float(row["circuits"])] = float(row["factor"])
        return table

    def ground_grouping_factor(self, method: str, spacing: str, circuits: int) -> float | None:
        """Return Cg for that many circuits side by side in the ground (BS 7671 4C2, 4C3; IEC B.52.18, B.52.19).

        Where a method covers ducts and direct burial the lower factor counts; None beyond the tables.
        """
        tables = [self._grouping_ground.get((laid, spacing)) for laid in _LAYINGS.get(method, ("duct", "direct"))]
        return _lower(at_or_above(table, circuits) for table in tables if table is not None)

    @cached_property
    def _soil(self) -> dict[str, dict[float, float]]:
        table: dict[str, dict[float, float]] = {}
        for row in rows(self.common / "soil_factor.csv"):
            table.setdefault(row["laying"], {})[float(row["km_per_w"])] = float(row["factor"])
        return table

    def soil_factor(self, method: str, km_per_w: float) -> float | None:
        """Return the factor for the soil's thermal resistivity in K m / W (IEC 60364-5-52 Table B.52.16).

        The ratings hold at 2.5 K m / W. Where a method covers ducts and direct burial the lower factor counts.
        """
        layings = _LAYINGS.get(method, ("duct", "direct"))
        return _lower(at_or_above(self._soil[laying], km_per_w) for laying in layings)

    @cached_property
    def _depth(self) -> dict[float, float]:
        return {float(row["depth_m"]): float(row["factor"]) for row in rows(self.common / "depth_factor.csv")}

    def depth_factor(self, depth_m: float) -> float | None:
        """Return Cd for a cable buried that deep (BS 7671 Table 4B4, the column for direct burial, which is lower).

        The ratings hold at 0.7 m; shallower counts as that, between entries the deeper one; None beyond the table.
        """
        return at_or_above(self._depth, depth_m)

    @cached_property
    def _insulation(self) -> dict[float, float]:
        return {
            float(row["length_in_insulation_mm"]): float(row["factor"])
            for row in rows(self.common / "insulation_factor.csv")
        }

    def insulation_factor(self, length_mm: float) -> float:
        """Return Ci for a cable surrounded by thermal insulation over that length (523.9).

        No length gives 1; lengths between entries take the longer one; beyond 500 mm it stays 0.5.
        """
        if length_mm <= 0:
            return 1.0
        factor = at_or_above(self._insulation, length_mm)
        return min(self._insulation.values()) if factor is None else factor

    # Voltage drop

    @cached_property
    def _volt_drop(self) -> dict[tuple[str, int, float], float]:
        return {
            (row["insulation"], int(row["phases"]), float(row["csa_mm2"])): float(row["mv_per_a_m"])
            for row in rows(self.common / "voltage_drop.csv")
        }

    def volt_drop_mv_per_a_m(self, cable: Cable, phases: int = 1) -> float | None:
        """Return the tabulated voltage drop in mV per A and m: both conductors for single phase."""
        if cable.type == "flex":
            return self.flex[cable.csa_mm2]["mv_per_a_m"] if cable.csa_mm2 in self.flex and phases == 1 else None
        return self._volt_drop.get((cable.insulation, phases, self.rated_csa_mm2(cable.csa_mm2)))

    def volt_drop_limit_percent(self, lights: bool) -> float:
        """Return the greatest drop in percent of U0: for lights, and for all else."""
        rules = self.data.volt_drop
        return rules.lighting_percent if lights else rules.other_percent

    # Devices and fault protection

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
