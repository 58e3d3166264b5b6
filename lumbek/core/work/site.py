"""What the steps of a job are made from: its plan, its circuits, the ways of their legs, readings and terms."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import TypedDict

from lumbek.core.board.tree import seated
from lumbek.core.items.amounts import Amounts, cable_sum, length_mm
from lumbek.core.items.labour import minutes_of
from lumbek.core.items.take_off import TakeOffItem, items_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Mark
from lumbek.core.model.reading import Reading
from lumbek.core.places.named import named
from lumbek.core.routes.answer import LegRoute, RoutedHouse, answer_routes
from lumbek.core.routes.apart import Keeps
from lumbek.core.routes.limits import Bears
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.rulebooks import Rulebook
from lumbek.core.work.step import CableAt


class StepTakes(TypedDict):
    """What a step takes, and how long, as fields of it."""

    takes: tuple[TakeOffItem, ...]
    minutes: Decimal


@dataclass(frozen=True)
class WorkSite:
    """A job as its work is planned from it."""

    routed: RoutedHouse
    designs: Sequence[tuple[str, Circuit]]
    ways: Mapping[tuple[str, str], LegRoute]
    rulebook: Rulebook
    terms: QuoteTerms
    # What stands of the readings of each circuit.
    readings: Mapping[str, tuple[Reading, ...]]
    # How joists and walls bear what is cut out of them.
    bears: tuple[Bears, ...] = ()
    keeps: tuple[Keeps, ...] = ()

    @property
    def places(self) -> Places:
        """Its plan."""
        return self.routed.places

    @cached_property
    def marks(self) -> Mapping[str, Mark]:
        """Its marks by their ids."""
        return {mark.id: mark for mark in self.places.marks}

    @cached_property
    def new_legs(self) -> tuple[tuple[str, Circuit, Leg], ...]:
        """Every leg that is laid now, with its circuit."""
        return tuple(new_legs(self.designs))

    def mark_of(self, circuit: str, end: str) -> Mark | None:
        """Return the mark that an end of a leg is at; None where it is at none."""
        return self.marks.get(self.routed.mark_of(circuit, end) or "")

    @cached_property
    def _points(self) -> Mapping[tuple[str, str], str]:
        return {(key, point.id): point.name for key, design in self.designs for point in design.points}

    def name_of(self, mark: Mark) -> str:
        """Return what a mark is called: by its own name, by its point's, else by its id."""
        own = mark.name or (self._points.get((mark.point.circuit, mark.point.point), "") if mark.point else "")
        return own or mark.id.replace("-", " ")

    def room_of(self, circuit: str, end: str, design: Circuit) -> str:
        """Return the room that an end of a leg is in; nothing where nobody has said."""
        mark = self.mark_of(circuit, end)
        if mark is not None:
            return mark.room
        point = design.point(end) if end != BOARD else None
        return "" if point is None else point.at.room or ""

    @cached_property
    def cables_at(self) -> Mapping[str, tuple[CableAt, ...]]:
        """The cables that end at each mark, found ones too."""
        found: dict[str, list[CableAt]] = {}
        for key, design in self.designs:
            for leg in design.legs:
                for mark, cable in self._ends(key, design, leg):
                    found.setdefault(mark, []).append(cable)
        return {mark: tuple(each) for mark, each in found.items()}

    def _ends(self, key: str, design: Circuit, leg: Leg) -> Iterator[tuple[str, CableAt]]:
        for here, there in ((leg.a, leg.b), (leg.b, leg.a)):
            mark = self.mark_of(key, here)
            if mark is None:
                continue
            is_found = leg.state == "as-found"
            yield (
                mark.id,
                CableAt(
                    circuit=design.number,
                    leg=leg.id,
                    cable=cable_sum(leg.cable or design.cable, self.rulebook).what,
                    csa_mm2=(leg.cable or design.cable).csa_mm2,
                    cores=len((leg.cable or design.cable).core_names),
                    to=called(design, there),
                    to_room=self.room_of(key, there, design),
                    mm=None if is_found else length_mm(leg, self.ways.get((key, leg.id))),
                    is_long=not is_found and mark.id in self.routed.tails,
                    is_found=is_found,
                ),
            )

    def taken(self, amounts: Amounts) -> StepTakes:
        """Return what a step takes, and its minutes: as fields of it."""
        items = items_of(amounts)
        return StepTakes(takes=items, minutes=minutes_of(items, self.terms))


def site_of(
    places: Places,
    boards: tuple[Board, ...],
    rulebook: Rulebook,
    designs: Sequence[tuple[str, Circuit]],
    terms: QuoteTerms,
    readings: Mapping[str, tuple[Reading, ...]],
) -> WorkSite:
    """Return a job as its work is planned from it; circuits that are in no way yet are seated at its first board."""
    designs = [(key, named(design, places.name_of)) for key, design in designs]
    routed = RoutedHouse(places, seated(boards, [key for key, _ in designs]), rulebook.id)
    found = answer_routes(routed, designs)
    ways = {(each.circuit, each.leg): each for each in found.legs}
    return WorkSite(routed, designs, ways, rulebook, terms, readings, found.bears, found.keeps)


def called(design: Circuit, end: str) -> str:
    """Return what an end of a leg is called."""
    point = design.point(end) if end != BOARD else None
    if point is None:
        return "the board"
    return point.name if point.name == point.room_name and point.name else point.title
