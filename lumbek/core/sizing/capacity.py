"""What each segment of a leg carries: Iz = It x Ca x Cg x Ci x Cs x Cd x Cf x Cc."""

from collections.abc import Callable
from dataclasses import dataclass
from math import prod

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.numbers import plain, show
from lumbek.core.result import Step
from lumbek.core.rulebooks import Rulebook


@dataclass(frozen=True)
class Capacity:
    """Iz in A of one segment with its working; Iz is None where a table has no entry, and `missing` says.

    `it_a` is the tabulated current and `factor` what its surroundings leave of it, the fuse's Cf and Cc apart.
    """

    leg: str
    segment: int
    iz_a: float | None
    it_a: float = 0.0
    factor: float = 1.0
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

    `loaded` is 2, or 3 for three phases. A BS 3036 fuse ahead counts as Cf = 0.725, with Cc = 0.9 in the ground.
    Cables that carry no more than 30 % of their grouped rating are left out of the count for Cg (BS 7671
    Appendix 4, 2.3.3; IEC 60364-5-52, B.52.2.1). Between table entries the less favourable one is taken.
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
    surroundings = prod(value for _, value in factors if value is not None)
    if semi_enclosed:
        factors.append(("Cf", rulebook.data.capacity.semi_enclosed))
        # In the ground its slow operation and the ground's slow warming come together.
        if rulebook.data.methods[method].medium == "ground":
            factors.append(("Cc", rulebook.data.capacity.semi_enclosed_buried))
    iz = it
    for _, value in factors:
        iz *= value or 0.0
    counted = segment.grouped_circuits - segment.lightly_loaded

    def working() -> tuple[Step, ...]:
        product = " × ".join([plain(it), *(plain(value or 0.0) for _, value in factors)])
        names = " × ".join(["It", *(name for name, _ in factors)])
        left_out = (
            Step(
                text=f"Group of {segment.grouped_circuits}, {segment.lightly_loaded} of them at no more than "
                f"{plain(100 * rulebook.data.capacity.light_part)} % of their grouped rating",
                sum=f"{counted} count",
            ),
        )
        return (
            *(left_out if segment.lightly_loaded else ()),
            Step(
                text=f"Table {table}: {plain(cable.csa_mm2)} mm², method {method}, "
                f"{rulebook.data.methods[method].name}",
                sum=f"It = {plain(it)} A",
            ),
            Step(text=names, sum=f"Iz = {product} = {show(iz, 1)} A")
            if factors
            else Step(text="No factor applies", sum=f"Iz = It = {show(iz, 1)} A"),
        )

    return Capacity(leg=leg.id, segment=index, iz_a=iz, it_a=it, factor=surroundings, working=working)


def _factors(rulebook: Rulebook, segment: Segment, cable: Cable, method: str) -> list[tuple[str, float | None]]:
    """Return the factors that differ from their reference condition, by their usual names."""
    rules = rulebook.data.methods[method]
    factors: list[tuple[str, float | None]] = []
    if segment.ambient_c is not None and segment.ambient_c != rulebook.reference_ambient_c(method):
        factors.append(("Ca", rulebook.ambient_factor(method, cable.insulation, segment.ambient_c)))
    grouping = rulebook.grouping_factor(segment.arrangement, segment.grouped_circuits - segment.lightly_loaded)
    if grouping != 1.0:
        factors.append(("Cg", grouping))
    if segment.insulation_mm > 0 and not rules.insulation_included:
        factors.append(("Ci", rulebook.insulation_factor(segment.insulation_mm)))
    if rules.medium == "ground":
        if segment.soil_km_w is not None:
            factors.append(("Cs", rulebook.soil_factor(method, segment.soil_km_w)))
        depth = 1.0 if segment.depth_m is None else rulebook.depth_factor(segment.depth_m)
        if depth != 1.0:
            factors.append(("Cd", depth))
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
