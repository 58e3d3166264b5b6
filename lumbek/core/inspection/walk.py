"""The walk of an inspection: place by place, what is looked at there, and what the model knows of it already.

What the model says is offered to be confirmed; nothing counts as looked at until a person says so.
"""

import json
from collections.abc import Callable, Iterator
from functools import cache

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.standing import Inspection, StandingItem
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.inspection import ItemOutcome
from lumbek.core.numbers import counted
from lumbek.core.rulebooks.tables import DATA
from lumbek.core.value import Frozen


class ItemKind(Frozen):
    """Something to look at: its topic, what it asks, clauses, the sorts of finding it leads to, what knows of it."""

    id: str
    topic: int
    asks: str
    clause: str
    kinds: tuple[str, ...]
    model: str = ""


class AreaKind(Frozen):
    """A sort of place with what is looked at there."""

    id: str
    title: str
    items: tuple[ItemKind, ...]


class ModelSays(Frozen):
    """What the model says of an item: sound or not, or that it does not apply, and by what."""

    outcome: ItemOutcome
    words: str


class WalkItem(Frozen):
    """An item at a place: what the model says of it, and how it stands."""

    kind: ItemKind
    model: ModelSays | None
    standing: StandingItem | None


class WalkArea(Frozen):
    """A place of the walk."""

    key: str
    kind: str
    title: str
    items: tuple[WalkItem, ...]

    @property
    def open(self) -> tuple[WalkItem, ...]:
        """What nobody has looked at yet."""
        return tuple(item for item in self.items if item.standing is None)


@cache
def area_kinds() -> dict[str, AreaKind]:
    """Return every sort of place by its id."""
    raw = json.loads((DATA / "common" / "inspection_items.json").read_text(encoding="utf-8"))
    return {key: AreaKind.model_validate({"id": key, **each}) for key, each in raw.items()}


TOPICS = {
    1: "Intake",
    2: "Other sources",
    3: "Earthing and bonding",
    4: "Board",
    5: "Final circuits",
    6: "Bath and shower rooms",
    7: "Other special places",
    8: "Solar, charging, storage",
}


def walk_of(gathered: Gathered, inspection: Inspection) -> tuple[WalkArea, ...]:
    """Return the places of a house in the order one walks them, with what is looked at in each."""
    knows = _Knows(gathered)
    return tuple(
        WalkArea(
            key=key,
            kind=kind,
            title=title,
            items=tuple(
                WalkItem(kind=item, model=knows.of(item.model), standing=inspection.items.get((key, item.id)))
                for item in area_kinds()[kind].items
            ),
        )
        for key, kind, title in _areas(gathered)
    )


def _areas(gathered: Gathered) -> Iterator[tuple[str, str, str]]:
    """Yield key, sort and title of each place: the intake, boards, circuits, rooms, loft, what is special."""
    kinds, house = area_kinds(), gathered.house
    yield "intake", "intake", kinds["intake"].title
    for board in house.boards:
        yield f"board:{board.id}", "board", board.name
    yield "circuits", "circuits", kinds["circuits"].title
    baths = _bath_rooms(gathered)
    for room in house.places.rooms:
        yield f"room:{room.id}", "room", room.name
        if room.id in baths:
            yield f"bath:{room.id}", "bath", f"{room.name}: bath or shower"
    if not house.places.rooms:
        yield "room:all", "room", "Every room"
    if not baths:
        yield "bath:all", "bath", kinds["bath"].title
    yield "loft", "loft", kinds["loft"].title
    yield "special", "special", kinds["special"].title


def _bath_rooms(gathered: Gathered) -> set[str]:
    """Return the rooms that have a bath or shower: where something stands in or near a zone."""
    return {
        point.at.room
        for circuit in gathered.job.circuits
        for point in circuit.design.points
        if point.zone is not None and point.at.room is not None
    }


class _Knows:
    """What the model knows of items, worked out when first asked for."""

    def __init__(self, gathered: Gathered) -> None:
        self._gathered = gathered
        self._supply, self._house = gathered.survey.checks, gathered.shared.checks
        self._circuits = tuple(check for answer in gathered.answers for check in answer.result.checks)
        self._own: dict[str, Callable[[], ModelSays | None]] = {
            "sources": self._sources,
            "main-switch": self._main_switch,
            "polarity": self._polarity,
        }

    def of(self, name: str) -> ModelSays | None:
        """Return what is known by a name; nothing where nothing is."""
        where, _, check = name.partition(":")
        by = {"survey": self._supply, "board": self._house, "circuits": self._circuits}.get(where)
        if by is not None:
            return _together([each for each in by if each.id == check or each.id.startswith(f"{check}-")])
        return self._own[name]() if name in self._own else None

    def _sources(self) -> ModelSays | None:
        named = [
            point.title
            for circuit in self._gathered.job.circuits
            for point in circuit.design.points
            if point.kind in ("source", "charger")
        ]
        return ModelSays(outcome="sound", words=f"Drawn: {', '.join(named[:4])}") if named else None

    def _main_switch(self) -> ModelSays | None:
        mains = [board.known_main for board in self._gathered.house.boards if board.is_root]
        if not mains or None in mains:
            return None
        return ModelSays(outcome="sound", words="On record at the board")

    def _polarity(self) -> ModelSays | None:
        read = [
            item.reading
            for answer in self._gathered.answers
            for item in answer.tests.items
            if item.quantity == "polarity"
        ]
        if not read or any(each is None for each in read):
            return None
        wrong = sum(each is not None and each.correct is False for each in read)
        if wrong:
            return ModelSays(
                outcome="finding", words=f"Polarity wrong on {wrong} of {counted(len(read), 'circuit', 'circuits')}"
            )
        every = "the circuit" if len(read) == 1 else f"all {len(read)} circuits"
        return ModelSays(outcome="sound", words=f"Polarity read right on {every}")


def _together(checks: list[Check]) -> ModelSays | None:
    """Return what several checks say of one item: all passed, or one failed; nothing where one is open."""
    asked = [each for each in checks if each.verdict is not Verdict.NOT_APPLICABLE]
    failing = [each for each in asked if each.verdict is Verdict.FAIL]
    if failing:
        return ModelSays(outcome="finding", words="; ".join(f"{each.title}: {each.answer}" for each in failing[:3]))
    if not asked or any(each.verdict is Verdict.CANNOT_TELL for each in asked):
        return None
    title = asked[0].title
    return ModelSays(
        outcome="sound", words=f"{title}: {asked[0].answer}" if len(asked) == 1 else f"{title}: {len(asked)} in order"
    )
