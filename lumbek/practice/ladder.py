"""The ladder of skills: which level comes next in each kind, and what was missed comes again, sooner or later.

What went badly comes again the next day; gone well, after three days, a week, three weeks (spaced repetition: each
time it is known the gap grows). A level is left when two exercises in a row went well at it.
"""

from collections.abc import Sequence

from lumbek.core.value import Frozen
from lumbek.practice.exercise import MOST_LEVEL, Kind
from lumbek.practice.make import KINDS

WELL = 80
_IN_A_ROW = 2
_GAPS_DAYS = (1, 3, 7, 21)


class Past(Frozen):
    """An exercise that has ended: what it was, how it went, and on which day, counted from anywhere."""

    kind: Kind
    level: int
    seed: int
    marks: int
    day: int

    @property
    def went_well(self) -> bool:
        """Whether it went well."""
        return self.marks >= WELL


class Rung(Frozen):
    """What comes next in a kind: at which level, the same again where a seed is named, and why."""

    kind: Kind
    title: str
    level: int
    seed: int | None
    why: str
    done: int
    best: int


def level_of(past: Sequence[Past]) -> int:
    """Return the level that somebody is at in a kind: each is left after two in a row that went well."""
    level, row = 1, 0
    for each in past:
        if each.level < level:
            continue
        level = max(level, each.level)
        row = row + 1 if each.went_well else 0
        if row >= _IN_A_ROW and level < MOST_LEVEL:
            level, row = level + 1, 0
    return level


def due_again(past: Sequence[Past], today: int) -> Past | None:
    """Return the exercise that went badly once and is due, the one longest overdue first; None where none is."""
    due: list[tuple[int, Past]] = []
    by_exercise: dict[tuple[int, int], list[Past]] = {}
    for each in past:
        by_exercise.setdefault((each.level, each.seed), []).append(each)
    for tries in by_exercise.values():
        if all(each.went_well for each in tries):
            continue
        known = 0
        for each in tries:
            known = known + 1 if each.went_well else 0
        if known >= len(_GAPS_DAYS):
            continue
        when = tries[-1].day + _GAPS_DAYS[known]
        if when <= today:
            due.append((when, tries[-1]))
    return min(due, key=lambda each: each[0])[1] if due else None


def ladder(past: Sequence[Past], today: int) -> tuple[Rung, ...]:
    """Return what comes next in every kind, in the order in which they are learnt; `past` is the oldest first."""
    found = []
    for kind, exercise in KINDS.items():
        own = [each for each in past if each.kind == kind]
        again = due_again(own, today)
        level = level_of(own)
        if again is not None:
            why = f"missed on the way, {again.marks} of 100 marks: once more"
        else:
            why = "to begin with" if not own else f"level {level}"
        found.append(
            Rung(
                kind=kind,
                title=exercise.title,
                level=level if again is None else again.level,
                seed=None if again is None else again.seed,
                why=why,
                done=len(own),
                best=max((each.marks for each in own if each.level == level), default=0),
            )
        )
    return tuple(found)
