"""What each segment of a leg carries: Iz = It x Ca x Cg x Ci x Cf."""

from collections.abc import Callable
from dataclasses import dataclass

from lumbek.core.model.circuit import Cable, Circuit, Leg, Segment
from lumbek.core.numbers import plain, show
from lumbek.core.result import Step
from lumbek.core.rulebooks import Rulebook

SEMI_ENCLOSED_FACTOR = 0.725
# Buried ratings hold down to this depth (IEC 60364-5-52, B.52.1).
TABLE_DEPTH_M = 0.8


@dataclass(frozen=True)
class Capacity:
    """Iz in A of one segment with its working; Iz is None where a table has no entry, and `missing` says."""

    leg: str
    segment: int
    iz_a: float | None
    working: Callable[[], tuple[Step, ...]] = tuple
    missing: str = ""

    @property
    def steps(self) -> tuple[Step, ...]:
        """The working, put into words only for the segment that is shown."""
        return self.working()


def segment_capacity(
    rulebook: Rulebook, circuit: Circuit, leg: Leg, index: int, semi_enclosed: bool, loaded: int = 2
) -> Capacity:
    """Return the capacity of one segment (BS 7671 Appendix 4; IEC 60364-5-52 Annex B).

    `loaded` is 2, or 3 for three phases. A BS 3036 fuse ahead counts as Cf = 0.725. Between table entries the less
    favourable one is taken.
    """
    segment, cable = leg.segments[index], leg.cable or circuit.cable
    method = segment.method or circuit.method
    found = rulebook.tabulated_capacity_a(cable, method, loaded)
    if found is None:
        return Capacity(leg=leg.id, segment=index, iz_a=None, missing=_unrated(rulebook, cable, method))
    it, table = found
    factors = _factors(rulebook, segment, cable, method)
    unknown = [name for name, value in factors if value is None]
    if unknown:
        return Capacity(
            leg=leg.id,
            segment=index,
            iz_a=None,
            missing=f"{unknown[0]}: beyond its table ({_surroundings(segment)})",
        )
    if semi_enclosed:
        factors.append(("Cf", SEMI_ENCLOSED_FACTOR))
    iz = it
    for _, value in factors:
        iz *= value or 0.0

    def working() -> tuple[Step, ...]:
        product = " × ".join([plain(it), *(plain(value or 0.0) for _, value in factors)])
        names = " × ".join(["It", *(name for name, _ in factors)])
        return (
            Step(
                text=f"Table {table}: {plain(cable.csa_mm2)} mm², method {method}, "
                f"{rulebook.data.methods[method].name}",
                sum=f"It = {plain(it)} A",
            ),
            Step(text=names, sum=f"Iz = {product} = {show(iz, 1)} A")
            if factors
            else Step(text="No factor applies", sum=f"Iz = It = {show(iz, 1)} A"),
        )

    return Capacity(leg=leg.id, segment=index, iz_a=iz, working=working)


def _factors(rulebook: Rulebook, segment: Segment, cable: Cable, method: str) -> list[tuple[str, float | None]]:
    """Return the factors that differ from their reference condition, by their usual names."""
    rules = rulebook.data.methods[method]
    factors: list[tuple[str, float | None]] = []
    if segment.ambient_c is not None and segment.ambient_c != rulebook.reference_ambient_c(method):
        factors.append(("Ca", rulebook.ambient_factor(method, cable.insulation, segment.ambient_c)))
    grouping = rulebook.grouping_factor(segment.arrangement, segment.grouped_circuits)
    if grouping != 1.0:
        factors.append(("Cg", grouping))
    if segment.insulation_mm > 0 and not rules.insulation_included:
        factors.append(("Ci", rulebook.insulation_factor(segment.insulation_mm)))
    if rules.medium == "ground":
        if segment.soil_km_w is not None:
            factors.append(("Cs", rulebook.soil_factor(method, segment.soil_km_w)))
        if segment.depth_m is not None and segment.depth_m > TABLE_DEPTH_M:
            # Deeper is cooler to lose heat from: no table here says by how much, so nothing is assumed.
            factors.append(("Cd", None))
    return factors


def _unrated(rulebook: Rulebook, cable: Cable, method: str) -> str:
    kind = rulebook.data.cables[cable.type]
    if method not in kind.methods:
        return (
            f"method: {kind.name.lower()} has no rating by method {method} in {rulebook.data.short}; "
            f"it has {', '.join(kind.methods)}"
        )
    sizes = ", ".join(plain(csa) for csa in rulebook.listed_csas(cable, method))
    return f"cable: {plain(cable.csa_mm2)} mm² is not listed for method {method}; listed are {sizes or 'none'}"


def _surroundings(segment: Segment) -> str:
    ambient = "" if segment.ambient_c is None else f"{plain(segment.ambient_c)} °C, "
    depth = "" if segment.depth_m is None else f", {plain(segment.depth_m)} m deep"
    return f"{ambient}{segment.grouped_circuits} circuits together{depth}"
