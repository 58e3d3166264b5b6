"""The work of a job: its steps in the order they are done, the days, how far it has come, what was used."""

from collections.abc import Sequence
from decimal import Decimal

from lumbek.core.model.inspection import InspectionKept
from lumbek.core.value import Frozen
from lumbek.core.work.boxes import box_steps, pull_steps
from lumbek.core.work.circuits import circuit_steps
from lumbek.core.work.days import WorkDay, days_of, van_of
from lumbek.core.work.rooms import room_steps
from lumbek.core.work.said import HoursOf, UsedOf, said_of_work, used_of
from lumbek.core.work.site import WorkSite
from lumbek.core.work.step import PHASES, StepStands, WorkStep


class WorkDone(Frozen):
    """What was said on a day: the steps done, left and missing by their keys, as they stand now."""

    day: str
    done: tuple[str, ...]
    left: tuple[str, ...]
    missing: tuple[str, ...]


class WorkAnswer(Frozen):
    """All of it. `holds` are what has to be done before anything is closed, by the keys of the steps still open."""

    steps: tuple[WorkStep, ...]
    days: tuple[WorkDay, ...]
    minutes: Decimal
    minutes_left: Decimal
    holds: tuple[str, ...]
    done: tuple[WorkDone, ...]
    hours: tuple[HoursOf, ...]
    used: tuple[UsedOf, ...]


def work_of(site: WorkSite, records: Sequence[InspectionKept]) -> WorkAnswer:
    """Return the work of a job as it stands."""
    said = said_of_work(records)
    steps = tuple(_standing(step, said.steps) for step in in_order(site))
    return WorkAnswer(
        steps=steps,
        days=days_of(steps, site.terms),
        minutes=sum((step.minutes for step in steps), Decimal(0)),
        minutes_left=sum((step.minutes for step in steps if step.stands.status != "done"), Decimal(0)),
        holds=tuple(step.key for step in steps if step.is_hold and step.stands.status != "done"),
        done=_by_day(steps),
        hours=said.hours,
        used=used_of(van_of(steps), said.used),
    )


def in_order(site: WorkSite) -> tuple[WorkStep, ...]:
    """Return every step: phase by phase, in each room by room as the plan lists them, what is of no room last."""
    rooms = {room.id: at for at, room in enumerate(site.places.rooms)}
    steps = [*room_steps(site), *pull_steps(site), *box_steps(site), *circuit_steps(site)]
    return tuple(sorted(steps, key=lambda each: (PHASES.index(each.phase), rooms.get(each.room, len(rooms)))))


def _standing(step: WorkStep, said: dict[str, StepStands]) -> WorkStep:
    """Return a step as it stands; what follows from readings nobody ticks."""
    return step if step.follows else step.model_copy(update={"stands": said.get(step.key, step.stands)})


def _by_day(steps: Sequence[WorkStep]) -> tuple[WorkDone, ...]:
    keys: dict[tuple[str, str], list[str]] = {}
    for step in steps:
        day, status = step.stands.at[:10], step.stands.status
        if day and status != "to-do":
            keys.setdefault((day, status), []).append(step.key)
    return tuple(
        WorkDone(
            day=day,
            **{status: tuple(keys.get((day, status), ())) for status in ("done", "left", "missing")},
        )
        for day in sorted({day for day, _ in keys}, reverse=True)
    )
