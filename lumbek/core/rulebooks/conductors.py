"""Sizes, resistances and temperatures of conductors, from the tables of a pack."""

from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.cable import Cable
from lumbek.core.numbers import plain
from lumbek.core.rulebooks.base import Pack
from lumbek.core.rulebooks.tables import rows


@dataclass(frozen=True)
class Conductors(Pack):
    """What a conductor is and resists. All lookups return None where the tables have no entry, never a guess."""

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

    def _steel_milliohm_per_m(self, cable: Cable) -> float | None:
        if cable.earth_by == "armour":
            return self._armour.get((cable.cores, cable.csa_mm2))
        stated = cable.conduit_milliohm_per_m
        return self._conduit.get(cable.conduit) if stated is None else stated

    def milliohm_per_m(self, cable: Cable, conductor: str) -> float | None:
        """Return the resistance at 20 °C in mΩ/m of a cable's L, N or E; None where no table has it.

        E is a core, the steel armour (maker's greatest figure), or a conduit by its stated figure, else by the book's
        impedance of its size and gauge at a fault (joints sound); None where nobody
        has said what it is, and where there is none.
        """
        if conductor == "E" and (cable.earth_by in (None, "none") or cable.lacks_core):
            return None
        if conductor == "E" and cable.earth_by in ("armour", "conduit"):
            return self._steel_milliohm_per_m(cable)
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
