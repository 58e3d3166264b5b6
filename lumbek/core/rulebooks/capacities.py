"""What a cable carries where it is laid, and the voltage it drops, from the tables of a pack."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks.conductors import Conductors
from lumbek.core.rulebooks.tables import at_or_above, rows

# How a method lays a cable in the ground; one that is not here covers both.
_LAYINGS = {"D1": ("duct",), "D2": ("direct",)}


def _lower(factors: Iterable[float | None]) -> float | None:
    """Return the lower of the factors for each way to lie; None where there is none, or one is beyond its table."""
    found = list(factors)
    known = [factor for factor in found if factor is not None]
    return min(known) if known and len(known) == len(found) else None


@dataclass(frozen=True)
class Capacities(Conductors):
    """What a cable carries. All lookups return None where the tables have no entry, never a guess."""

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
