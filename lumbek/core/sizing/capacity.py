"""What each segment of a leg carries: Iz = It x Ca x Cg x Ci x Cs x Cd x Cf x Cc."""

from collections.abc import Callable, Hashable, Iterable, Iterator, Sequence
from math import prod
from typing import NamedTuple

from lumbek.core.judging.check import Step
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.numbers import plain, show
from lumbek.core.rulebooks import Rulebook

# How a cable lies that nothing keeps warm: what insulation round it takes away is taken from this.
_OPEN_METHOD = "C"


class Capacity(NamedTuple):
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


def capacities_of(
    rulebook: Rulebook, circuit: Circuit, legs: Iterable[Leg], semi_enclosed: Callable[[Leg], bool], loaded: int
) -> dict[str, tuple[Capacity, ...]]:
    """Return the capacity of every segment of these legs, by leg; what lies alike is worked out once."""
    known: dict[Hashable, Capacity] = {}

    def one(leg: Leg, index: int) -> Capacity:
        semi = semi_enclosed(leg)
        alike = (leg.cable, semi, leg.segments[index].surroundings)
        found = known.get(alike)
        if found is None:
            found = known[alike] = segment_capacity(rulebook, circuit, leg, index, semi, loaded)
        return found._replace(leg=leg.id, segment=index)

    return {leg.id: tuple(one(leg, index) for index in range(len(leg.segments))) for leg in legs}


def segment_capacity(
    rulebook: Rulebook, circuit: Circuit, leg: Leg, index: int, semi_enclosed: bool, loaded: int = 2
) -> Capacity:
    """Return the capacity of one segment (BS 7671 Appendix 4; IEC 60364-5-52 Annex B).

    `loaded` is 2, or 3 for three phases. A BS 3036 fuse ahead counts as Cf = 0.725; in the ground Cc counts for
    every device (433.1.203). Cables that carry no more than 30 % of their grouped rating are left out of the count
    for Cg (BS 7671 Appendix 4, 2.3.3; IEC 60364-5-52, B.52.2.1). Between table entries the less favourable one is
    taken. A cable hotter than its terminals may be is held to what keeps them cool (512.1.5): the lesser of its own
    column and that of their temperature.
    """
    segment, cable = leg.segments[index], leg.cable or circuit.cable
    method = segment.method or circuit.method
    own = _by_column(rulebook, leg, index, cable, method, semi_enclosed, loaded)
    limit_c, cool_c = rulebook.data.conductors.limit_c, rulebook.data.capacity.cool_terminals_c
    if own.iz_a is None or circuit.terminals_90 or limit_c[cable.insulation] <= cool_c:
        return own
    insulation = next(each for each, limit in limit_c.items() if limit == cool_c)
    cooler = cable.model_copy(update={"insulation": insulation})
    return _held_cool(own, _by_column(rulebook, leg, index, cooler, method, semi_enclosed, loaded), cool_c)


def _held_cool(own: Capacity, cool: Capacity, cool_c: float) -> Capacity:
    """Return the lesser of a cable's own column and that of the temperature its terminals are taken as fit for."""
    own_a = own.iz_a or 0.0
    if cool.iz_a is None:
        return cool
    if cool.iz_a >= own_a:
        return own

    def working() -> tuple[Step, ...]:
        words = f"The terminals are taken as fit for {plain(cool_c)} °C, so the cable carries what that column gives"
        return (*cool.steps, Step(text=words, sum=f"its own column: {show(own_a, 1)} A"))

    return cool._replace(working=working)


def _by_column(
    rulebook: Rulebook, leg: Leg, index: int, cable: Cable, method: str, semi_enclosed: bool, loaded: int
) -> Capacity:
    """Return the capacity of one segment by the column of this cable's insulation."""
    segment = leg.segments[index]
    found = rulebook.tabulated_capacity_a(cable, method, loaded)
    if found is None:
        return Capacity(leg=leg.id, segment=index, iz_a=None, missing=_unrated(rulebook, cable, method))
    it, table = found
    factors = _factors(rulebook, segment, cable, method)
    unknown = [name for name, value in factors if value is None]
    if unknown:
        beyond = f"{unknown[0]}: beyond its table ({_surroundings(segment)})"
        return Capacity(leg=leg.id, segment=index, iz_a=None, missing=beyond)
    laid = _as_surrounded(rulebook, segment, cable, method, it, loaded)
    known = [(name, value) for name, value in factors if value is not None]
    surroundings = prod(value for _, value in known)
    known += _by_device(rulebook, method, semi_enclosed)
    iz = prod((value for _, value in known), start=laid)

    def working() -> tuple[Step, ...]:
        rated = rulebook.rated_csa_mm2(cable.csa_mm2)
        size = rulebook.size_words(cable.csa_mm2) + (f", rated as {plain(rated)} mm²" * (rated != cable.csa_mm2))
        return (
            *_left_out(rulebook, segment),
            Step(
                text=f"Table {table}: {size}, method {method}, {rulebook.data.methods[method].name}",
                sum=f"It = {plain(it)} A",
            ),
            *(_surrounded(rulebook, segment, laid) if laid != it else ()),
            _multiplied(laid, known, iz),
        )

    return Capacity(leg=leg.id, segment=index, iz_a=iz, it_a=laid, factor=surroundings, working=working)


def _by_device(rulebook: Rulebook, method: str, semi_enclosed: bool) -> Iterator[tuple[str, float]]:
    """Yield the factors by what guards the cable: a fuse that melts late, and any device in the ground (433.1.203)."""
    if semi_enclosed:
        yield "Cf", rulebook.data.capacity.semi_enclosed
    buried = rulebook.data.capacity.buried
    if rulebook.data.methods[method].medium == "ground" and buried != 1:
        yield "Cc", buried


def _left_out(rulebook: Rulebook, segment: Segment) -> Iterator[Step]:
    if segment.lightly_loaded:
        yield Step(
            text=f"Group of {segment.grouped_circuits}, {segment.lightly_loaded} of them at no more than "
            f"{plain(100 * rulebook.data.capacity.light_part)} % of their grouped rating",
            sum=f"{segment.grouped_circuits - segment.lightly_loaded} count",
        )


def _surrounded(rulebook: Rulebook, segment: Segment, laid_a: float) -> Iterator[Step]:
    yield Step(
        text=f"{plain(segment.insulation_mm)} mm of it in insulation: no more than method "
        f"{_OPEN_METHOD} × {plain(rulebook.insulation_factor(segment.insulation_mm))}",
        sum=f"It = {plain(round(laid_a, 6))} A",
    )


def _multiplied(laid_a: float, factors: Sequence[tuple[str, float]], iz_a: float) -> Step:
    if not factors:
        return Step(text="No factor applies", sum=f"Iz = It = {show(iz_a, 1)} A")
    product = " × ".join([plain(round(laid_a, 6)), *(plain(value) for _, value in factors)])
    return Step(text=" × ".join(["It", *(name for name, _ in factors)]), sum=f"Iz = {product} = {show(iz_a, 1)} A")


def _as_surrounded(rulebook: Rulebook, segment: Segment, cable: Cable, method: str, it_a: float, loaded: int) -> float:
    """Return It in A of a method that has insulation in its figure, with the insulation that is said besides.

    It is no more than a cable in the open has with that length of it surrounded (523.9).
    """
    if segment.insulation_mm <= 0 or not rulebook.data.methods[method].insulation_included:
        return it_a
    opened = rulebook.tabulated_capacity_a(cable, _OPEN_METHOD, loaded)
    return it_a if opened is None else min(it_a, opened[0] * rulebook.insulation_factor(segment.insulation_mm))


def _factors(rulebook: Rulebook, segment: Segment, cable: Cable, method: str) -> list[tuple[str, float | None]]:
    """Return the factors that differ from their reference condition, by their usual names."""
    rules = rulebook.data.methods[method]
    factors: list[tuple[str, float | None]] = []
    if segment.ambient_c is not None and segment.ambient_c != rulebook.reference_ambient_c(method):
        factors.append(("Ca", rulebook.ambient_factor(method, cable.insulation, segment.ambient_c)))
    together = segment.grouped_circuits - segment.lightly_loaded
    grouping = (
        rulebook.ground_grouping_factor(method, segment.spacing, together)
        if rules.medium == "ground"
        else rulebook.grouping_factor(segment.arrangement, together)
    )
    if grouping != 1.0:
        factors.append(("Cg", grouping))
    if segment.insulation_mm > 0 and not rules.insulation_included:
        factors.append(("Ci", rulebook.insulation_factor(segment.insulation_mm)))
    return [*factors, *(_in_ground(rulebook, segment, method) if rules.medium == "ground" else ())]


def _in_ground(rulebook: Rulebook, segment: Segment, method: str) -> Iterator[tuple[str, float | None]]:
    if segment.soil_km_w is not None:
        yield "Cs", rulebook.soil_factor(method, segment.soil_km_w)
    depth = 1.0 if segment.depth_m is None else rulebook.depth_factor(segment.depth_m)
    if depth != 1.0:
        yield "Cd", depth


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
