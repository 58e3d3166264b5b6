"""The other ways one circuit may be designed: where lighting is looped; sockets as a ring, one radial or two.

A ring is on 32 A; a radial in 2.5 mm² on 20 A, in more on 32 A (BS 7671 appendix 15, informative: the usual ones). What
comes of each is judged as any design is: none is taken for granted because it is usual.
"""

from collections.abc import Iterator, Sequence
from itertools import count, pairwise
from typing import NamedTuple, get_args

from lumbek.core.circuit.routes import in_school
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.point import JOINT_KINDS
from lumbek.core.model.scheme import LightingSchool, Route, Scheme
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.order import RunOrder
from lumbek.core.routes.orders import orders_of
from lumbek.core.routes.tails import slack_of
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.plan import plan

RING_A, RADIAL_A, THICK_RADIAL_A, THICK_MM2 = 32.0, 20.0, 32.0, 4.0
SCHOOL_NAMES: dict[LightingSchool, str] = {
    "at-light": "Looped at the light",
    "at-switch": "Looped at the switch",
    "at-joint": "Looped at a joint box",
    "two-plate": "Two plates, in singles",
}
SHAPE_NAMES = {"ring": "One ring", "radial": "One radial", "two-radials": "Two radials"}


class Variant(NamedTuple):
    """A circuit designed some way, two where it is parted; or why it cannot be."""

    name: str
    designs: tuple[Circuit, ...] = ()
    why_not: str = ""


def variants_of(book: Rulebook, routed: RoutedHouse, key: str, design: Circuit) -> tuple[Variant, ...]:
    """Return the other ways of designing a circuit that is laid anew; none for one that is there or of another kind."""
    if any(leg.state == "as-found" for leg in design.legs) or design.state != "new":
        return ()
    if design.kind == "lighting" and design.scheme is not None and design.scheme.controls:
        return tuple(_schools(book, routed, key, design, design.scheme))
    if design.kind == "sockets" and design.points:
        return tuple(_shapes(routed, key, design))
    return ()


def _schools(book: Rulebook, routed: RoutedHouse, key: str, design: Circuit, scheme: Scheme) -> Iterator[Variant]:
    for school in get_args(LightingSchool):
        if school == "at-joint" and not any(point.kind in JOINT_KINDS for point in design.points):
            continue
        looped = with_lengths(routed, key, in_school(design, scheme, school))
        planned = plan(book, design, looped)
        if planned.best is None:
            why = (*planned.problems, *(each.words for each in planned.missing))
            yield Variant(SCHOOL_NAMES[school], why_not="; ".join(why) or "nothing fits")
        else:
            yield Variant(SCHOOL_NAMES[school], (planned.best.design,))


def with_lengths(routed: RoutedHouse, key: str, scheme: Scheme) -> Scheme:
    """Return a scheme whose runs are as long as their ways through the house, slack at both ends."""

    def laid(route: Route) -> Route:
        one, other = routed.mark_of(key, route.a), routed.mark_of(key, route.b)
        way = None if one is None or other is None else routed.finder.way(one, other)
        slack = slack_of(routed.places.ways, route.a, route.b)
        return route if way is None else route.model_copy(update={"length_m": (way.mm + slack) / 1000})

    return scheme.model_copy(update={"routes": tuple(map(laid, scheme.routes))})


def _shapes(routed: RoutedHouse, key: str, design: Circuit) -> Iterator[Variant]:
    at = {point.id: routed.mark_of(key, point.id) for point in design.points}
    lost = [design.point_title(point) for point, mark in at.items() if mark is None]
    if lost:
        why = f"{', '.join(lost)}: at no mark of the plan"
        yield from (Variant(name, why_not=why) for name in SHAPE_NAMES.values())
        return
    points = {mark: point for point, mark in at.items() if mark is not None}
    orders = orders_of(routed, tuple(points), routed.board_mark(key))
    for shape, name in SHAPE_NAMES.items():
        order = next((each for each in orders if each.shape == shape), None)
        if order is None:
            few = shape == "two-radials" and len(points) < 2
            yield Variant(name, why_not="there is one place" if few else "no way leads to all of its places")
        else:
            yield Variant(name, tuple(_run(design, order, points)))


def _run(design: Circuit, order: RunOrder, points: dict[str, str]) -> Iterator[Circuit]:
    """Yield the circuits of a run: two radials are two, on a device each."""
    by_id = {point.id: point for point in design.points}
    for at, run in enumerate(order.runs):
        places = [points[mark] for mark in run]
        ends = [BOARD, *places, *((BOARD,) if order.shape == "ring" else ())]
        update: dict[str, object] = {
            "points": tuple(by_id[place].model_copy(update={"joins": ()}) for place in places),
            "legs": _legs(ends),
            "board_joins": (),
            "device": design.device.model_copy(update={"rating_a": _rating_a(order.shape, design.cable.csa_mm2)}),
        }
        if at:
            update["name"] = f"{design.name}, second"
        yield design.model_copy(update=update)


def _legs(ends: Sequence[str]) -> tuple[Leg, ...]:
    numbers = count(1)
    return tuple(Leg(id=f"L{next(numbers)}", a=a, b=b) for a, b in pairwise(ends))


def _rating_a(shape: str, csa_mm2: float) -> float:
    if shape == "ring":
        return RING_A
    return THICK_RADIAL_A if csa_mm2 >= THICK_MM2 else RADIAL_A
