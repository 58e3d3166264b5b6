"""Lengths worked back from readings: what the copper says of the cable that is in the wall."""

from lumbek.core.circuit.changes.legs import SetSegment
from lumbek.core.judging.check import Step
from lumbek.core.model.leg import Leg
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study
from lumbek.core.testing.taken import Taken
from lumbek.core.value import Frozen


class LegLength(Frozen):
    """A leg with the length that is drawn and the one that the readings give, in m."""

    leg: str
    title: str
    drawn_m: float | None
    found_m: float


class FoundLengths(Frozen):
    """What the readings say of a circuit's lengths, with the working; nothing where they do not say enough."""

    legs: tuple[LegLength, ...] = ()
    steps: tuple[Step, ...] = ()
    # What puts them into the design.
    commands: tuple[SetSegment, ...] = ()


# Longer than this no run of a house is: what would take more is no cable.
_LONGEST_M = 150.0


def lengths_from_readings(taken: Taken) -> FoundLengths:
    """Return lengths by l = R / ρ', the readings brought to 20 °C; where they give no more, a whole in words.

    Of a ring r1 gives the whole, shared by its legs as they are drawn; a single leg that is not drawn has what is left.
    Along a run what lies between two readings is what R1+R2 grows by.
    """
    found = _of_ring(taken) if taken.study.shape.is_ring else _of_run(taken)
    commands = tuple(command for each in found.legs for command in _commands(taken, each))
    return found.model_copy(update={"commands": commands})


def _commands(taken: Taken, found: LegLength) -> list[SetSegment]:
    """Return what gives a leg its length: its segments keep their proportion."""
    segments = taken.study.legs[found.leg].segments
    drawn = sum(segment.length_m or 0.0 for segment in segments)
    parts = [(segment.length_m or 0.0) / drawn if drawn else 1 / len(segments) for segment in segments]
    return [
        SetSegment(leg=found.leg, index=at, length_m=round(max(found.found_m * part, 0.1), 2), length_to_m=None)
        for at, part in enumerate(parts)
    ]


def _of_ring(taken: Taken) -> FoundLengths:
    study, r1 = taken.study, taken.value("r1")
    legs = [study.legs[leg] for leg in study.shape.ring_legs]
    each = {study.rulebook.milliohm_per_m(study.circuit.cable_of(leg), "L") for leg in legs}
    if r1 is None or len(each) != 1 or None in each:
        return FoundLengths()
    (milliohm,) = each
    factor = study.rulebook.temperature_factor(taken.ambient_c)
    whole = r1 / factor * 1000 / (milliohm or 1.0)
    known = sum(leg.length_m or 0.0 for leg in legs)
    sum_ = f"{show(r1)} Ω / {show(factor, 3)} / {show(milliohm or 0)} mΩ/m = {show(whole, 1)} m"
    step = Step(text="r1 at 20 °C by its resistance per metre", sum=f"{sum_}; {show(known, 1)} m drawn")
    if whole > _LONGEST_M:
        return FoundLengths(steps=(step, _no_cable()))
    silent = [leg for leg in legs if leg.length_m is None]
    if silent:
        return _left_over(study, silent, whole - known, step)
    return FoundLengths(
        legs=tuple(_length(study, leg, (leg.length_m or 0.0) * whole / known) for leg in legs), steps=(step,)
    )


def _length(study: Study, leg: Leg, metres: float) -> LegLength:
    return LegLength(leg=leg.id, title=study.leg_title(leg.id), drawn_m=leg.length_m, found_m=round(metres, 1))


def _left_over(study: Study, silent: list[Leg], left_m: float, step: Step) -> FoundLengths:
    """Return what is left for legs that nobody has drawn: the length of one, of several together."""
    if left_m <= 0:
        return FoundLengths(
            steps=(step, Step(text="Less than what is drawn already: the drawing or the reading is off"))
        )
    if len(silent) == 1:
        return FoundLengths(legs=(_length(study, silent[0], left_m),), steps=(step,))
    names = ", ".join(study.leg_title(leg.id) for leg in silent)
    return FoundLengths(steps=(step, Step(text=f"Together: {names}", sum=f"{show(left_m, 1)} m")))


def _no_cable() -> Step:
    return Step(text=f"No run of a house is longer than {plain(_LONGEST_M)} m: a joint or a break reads so, no cable")


def _of_run(taken: Taken) -> FoundLengths:
    """Return what lies between two readings along a run; of several legs that are not drawn only their sum."""
    study, legs, steps = taken.study, list[LegLength](), list[Step]()
    factor = study.rulebook.temperature_factor(taken.ambient_c)
    for chain in study.shape.walk:
        before = 0.0 if chain.start == "board" else taken.value("r1+r2", chain.start)
        between: list[Leg] = []
        for step in chain.steps:
            between.append(study.legs[step.leg])
            here = taken.value("r1+r2", step.point)
            if here is None:
                continue
            if before is not None and here > before:
                found = _stretch(study, between, (here - before) / factor, f"({show(here)} - {show(before)}) Ω", factor)
                legs += found.legs
                steps += found.steps
            before, between = here, []
    return FoundLengths(legs=tuple(legs), steps=tuple(steps))


def _stretch(study: Study, between: list[Leg], ohm: float, shown: str, factor: float) -> FoundLengths:
    """Return the lengths of the legs between two readings, Ω at 20 °C apart."""
    each = {
        sum(study.rulebook.milliohm_per_m(study.circuit.cable_of(leg), core) or 0.0 for core in ("L", "E"))
        for leg in between
    }
    if len(each) != 1 or 0.0 in each:
        return FoundLengths()
    (per_m,) = each
    metres = ohm * 1000 / per_m
    title = ", ".join(study.leg_title(leg.id) for leg in between)
    step = Step(text=title, sum=f"{shown} / {show(factor, 3)} / {show(per_m)} mΩ/m = {show(metres, 1)} m")
    if metres > _LONGEST_M:
        return FoundLengths(steps=(step, _no_cable()))
    if len(between) == 1:
        return FoundLengths(legs=(_length(study, between[0], metres),), steps=(step,))
    silent = [leg for leg in between if leg.length_m is None]
    known = sum(leg.length_m or 0.0 for leg in between)
    if silent:
        return _left_over(study, silent, metres - known, step)
    return FoundLengths(
        legs=tuple(_length(study, leg, (leg.length_m or 0.0) * metres / known) for leg in between), steps=(step,)
    )
