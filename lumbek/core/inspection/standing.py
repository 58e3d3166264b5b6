"""What stands of all that an inspection said: the last of each matter, with what was said of it before."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from lumbek.core.model.inspection import (
    FindingSaid,
    InspectionKept,
    ItemLine,
    ItemsSaid,
    LastTime,
    NotifyAnswers,
    OfferDismissed,
    Opened,
    Particulars,
    Signed,
    TaskSaid,
)
from lumbek.core.value import Frozen


class WhoWhen(Frozen):
    """Who said something, and when."""

    by: str
    at: str


class StandingFinding(Frozen):
    """A finding as it stands, who said so and when; what was said of it before, the oldest first."""

    said: FindingSaid
    last: WhoWhen
    earlier: tuple[FindingSaid, ...] = ()
    earlier_by: tuple[WhoWhen, ...] = ()

    @property
    def first(self) -> WhoWhen:
        """Who found it, and when."""
        return self.earlier_by[0] if self.earlier_by else self.last


class StandingItem(Frozen):
    """An item of an area as it stands."""

    line: ItemLine
    last: WhoWhen


class StandingTask(Frozen):
    """A task as it stands, and what it costs."""

    said: TaskSaid
    last: WhoWhen
    price: Decimal


class StandingSign(Frozen):
    """A signature with what it covers."""

    said: Signed
    last: WhoWhen


@dataclass
class Inspection:
    """Everything that stands of an inspection."""

    findings: dict[str, StandingFinding] = field(default_factory=dict)
    dismissed: dict[str, tuple[str, WhoWhen]] = field(default_factory=dict)
    items: dict[tuple[str, str], StandingItem] = field(default_factory=dict)
    opened: dict[tuple[str, str], tuple[Opened, WhoWhen]] = field(default_factory=dict)
    particulars: Particulars = field(default_factory=Particulars)
    tasks: dict[str, StandingTask] = field(default_factory=dict)
    signed: dict[str, StandingSign] = field(default_factory=dict)
    last: dict[str, LastTime] = field(default_factory=dict)
    notify: NotifyAnswers | None = None

    @property
    def coded(self) -> list[StandingFinding]:
        """The findings inside the extent, gravest first; those without a code yet before all."""
        inside = [each for each in self.findings.values() if each.said.status != "outside"]
        return sorted(inside, key=lambda each: (GRAVITY[each.said.code], each.first.at))

    @property
    def dangers(self) -> list[StandingFinding]:
        """Dangers that nobody has dealt with."""
        return [each for each in self.findings.values() if each.said.is_danger]


GRAVITY = {"": 0, "C1": 1, "C2": 2, "FI": 3, "C3": 4, "none": 5}


def standing_of(records: Sequence[InspectionKept]) -> Inspection:
    """Return what stands of records, the oldest first."""
    found = Inspection()
    for each in records:
        _take(found, each)
    return found


def _take(found: Inspection, kept: InspectionKept) -> None:
    said, who = kept.said, WhoWhen(by=kept.by, at=kept.when)
    match said:
        case FindingSaid():
            found.findings[said.finding] = _finding(found.findings.get(said.finding), said, who)
            if said.offer:
                found.dismissed.pop(said.offer, None)
        case OfferDismissed():
            found.dismissed[said.offer] = (said.why, who)
        case ItemsSaid():
            found.items |= {(said.area, line.item): StandingItem(line=line, last=who) for line in said.lines}
        case Opened():
            found.opened[said.circuit, said.point] = (said, who)
        case Particulars():
            found.particulars = said.over(found.particulars)
        case _:
            _take_deed(found, said, who)


def _take_deed(found: Inspection, said: object, who: WhoWhen) -> None:
    match said:
        case TaskSaid():
            found.tasks[said.task] = StandingTask(said=said, last=who, price=said.price)
        case Signed():
            found.signed[said.role] = StandingSign(said=said, last=who)
        case LastTime():
            found.last[said.paper.what] = said
        case NotifyAnswers():
            found.notify = said


def _finding(before: StandingFinding | None, said: FindingSaid, who: WhoWhen) -> StandingFinding:
    if before is None:
        return StandingFinding(said=said, last=who)
    return StandingFinding(
        said=said,
        last=who,
        earlier=(*before.earlier, before.said),
        earlier_by=(*before.earlier_by, before.last),
    )
