"""What was said of the work so far: how steps stand, hours by day, and what was used."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from lumbek.core.items.amounts import Unit
from lumbek.core.items.take_off import TakeOffItem
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.site import StepSaid, Used, Worked
from lumbek.core.value import Frozen
from lumbek.core.work.step import StepStands


class HoursOf(Frozen):
    """How long somebody worked on a day, all that was said of it together."""

    day: str
    who: str
    minutes: int


class UsedOf(Frozen):
    """What was planned of something, and what was used: pieces or metres; `key` alone where nothing was planned."""

    key: str
    what: str
    unit: Unit
    planned: Decimal
    used: Decimal


@dataclass
class SaidOfWork:
    """All that stands of what was said of the work."""

    steps: dict[str, StepStands] = field(default_factory=dict)
    minutes: dict[tuple[str, str], int] = field(default_factory=dict)
    used: dict[str, Decimal] = field(default_factory=dict)

    @property
    def hours(self) -> tuple[HoursOf, ...]:
        """Hours by day and person, the latest day first."""
        days = sorted(self.minutes, key=lambda each: each[1])
        days.sort(key=lambda each: each[0], reverse=True)
        return tuple(HoursOf(day=day, who=who, minutes=self.minutes[day, who]) for day, who in days)


def said_of_work(records: Sequence[InspectionKept]) -> SaidOfWork:
    """Return what stands of records, the oldest first."""
    found = SaidOfWork()
    for kept in records:
        match kept.said:
            case StepSaid() as said:
                found.steps[said.step] = StepStands(status=said.status, note=said.note, by=kept.by, at=kept.when)
            case Worked() as said:
                key = (said.day, said.who)
                found.minutes[key] = found.minutes.get(key, 0) + said.minutes
            case Used() as said:
                found.used[said.item] = found.used.get(said.item, Decimal(0)) + said.count
            case _:
                pass
    return found


def used_of(items: Sequence[TakeOffItem], used: dict[str, Decimal]) -> tuple[UsedOf, ...]:
    """Return what was used against what was planned, in the order of the take-off; then what nobody planned."""
    found = [
        UsedOf(key=each.key, what=each.what, unit=each.unit, planned=each.quantity, used=used.get(each.key, Decimal(0)))
        for each in items
        if each.sort != "work"
    ]
    planned = {each.key for each in found}
    more = sorted(key for key in used if key not in planned)
    return (*found, *(UsedOf(key=key, what=key, unit="each", planned=Decimal(0), used=used[key]) for key in more))
