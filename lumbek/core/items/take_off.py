"""What a job takes: cable by type with its cuts and drums, boxes, accessories, devices, fixings, and work.

Counts follow from the marks of the plan and the ways of the legs; a leg without a way goes by the length that is drawn.
"""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from decimal import Decimal

from lumbek.core.items.amounts import (
    HALF_WAY,
    Amounts,
    Sort,
    Sum,
    Unit,
    accessory_of,
    box_of,
    cable_of,
    device_of,
    laying_of,
    work_on,
)
from lumbek.core.items.drums import DrumPlan, drums_for
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.places import Places
from lumbek.core.routes.answer import LegRoute, RoutesAnswer
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen


class TakeOffItem(Frozen):
    """Something by its key, how much of it, and in which unit; metres in whole mm."""

    key: str
    sort: Sort
    what: str
    unit: Unit
    count: int

    @property
    def quantity(self) -> Decimal:
        """How much of it in its unit: pieces, or metres."""
        return Decimal(self.count) / 1000 if self.unit == "m" else Decimal(self.count)


class Cut(Frozen):
    """A piece of cable: where it goes, and how long it is in mm."""

    leg: str
    mm: int


class CableCuts(Frozen):
    """The cuts of one cable, each with where it goes, and the drums they come off; None where one is too long."""

    key: str
    what: str
    cuts: tuple[Cut, ...]
    drums: DrumPlan | None


class TakeOff(Frozen):
    """All that a job takes, and what keeps it from being whole."""

    items: tuple[TakeOffItem, ...]
    cuts: tuple[CableCuts, ...]
    missing: tuple[str, ...]


def take_off_of(
    places: Places, designs: Sequence[tuple[str, Circuit]], routes: RoutesAnswer, rulebook: Rulebook
) -> TakeOff:
    """Return what a job takes."""
    ways = {(leg.circuit, leg.leg): leg for leg in routes.legs}
    cables, missing = _cables(designs, ways, rulebook)
    counts: Amounts = Counter()
    for mark in places.marks:
        if mark.is_put_in:
            counts += box_of(mark) + accessory_of(mark)
    for _, design in designs:
        counts += device_of(design, rulebook)
    for key, design, leg in new_legs(designs):
        counts += laying_of(leg.cable or design.cable, ways.get((key, leg.id)))
    for each in work_on(places, designs, ways).values():
        counts += each
    tested = len({key for key, _, _ in new_legs(designs)})
    if tested:
        counts[HALF_WAY] = tested
    for cut in cables:
        counts[Sum(cut.key, "cable", cut.what, "m")] = sum(each.mm for each in cut.cuts)
    return TakeOff(items=items_of(counts), cuts=cables, missing=missing)


_ORDER: Mapping[Sort, int] = {"cable": 0, "box": 1, "accessory": 2, "device": 3, "fixing": 4, "work": 5}


def items_of(counts: Amounts) -> tuple[TakeOffItem, ...]:
    """Return what is counted as items, in the order of a list."""
    sums = sorted(counts, key=lambda each: (_ORDER[each.sort], each.key))
    return tuple(TakeOffItem(**each._asdict(), count=counts[each]) for each in sums)


def _cables(
    designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute], rulebook: Rulebook
) -> tuple[tuple[CableCuts, ...], tuple[str, ...]]:
    cuts: dict[Sum, list[Cut]] = defaultdict(list)
    missing = []
    for key, design, leg in new_legs(designs):
        taken = cable_of(leg, design, ways.get((key, leg.id)), rulebook)
        if taken is None:
            missing.append(f"Circuit {design.number}, {leg.a} to {leg.b}: no length, and no way on the plan")
            continue
        for cable, mm in taken.items():
            cuts[cable].append(Cut(leg=f"{design.number}: {leg.a} to {leg.b}", mm=mm))
    found = (
        CableCuts(key=cable.key, what=cable.what, cuts=tuple(each), drums=drums_for([cut.mm for cut in each]))
        for cable, each in sorted(cuts.items())
    )
    return tuple(found), tuple(missing)
