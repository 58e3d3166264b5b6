"""Lengths worked back from readings: what the copper says of the cable that is in the wall."""

from lumbek.core.circuit.changes.legs import SetSegment
from lumbek.core.numbers import show
from lumbek.core.result import Step
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


def lengths_from_readings(taken: Taken) -> FoundLengths:
    """Return lengths by l = R / ρ', the readings brought to 20 °C.

    Of a ring r1 gives the whole, shared by its legs as they are drawn; along a run each leg is what R1+R2 grows by.
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
    drawn = [leg.length_m for leg in legs]
    if r1 is None or len(each) != 1 or None in each or any(length is None for length in drawn):
        return FoundLengths()
    (milliohm,) = each
    total = sum(length or 0.0 for length in drawn)
    factor = study.rulebook.temperature_factor(taken.ambient_c)
    whole = r1 / factor * 1000 / (milliohm or 1.0)
    step = Step(
        text="r1 at 20 °C by its resistance per metre",
        sum=f"{show(r1)} Ω / {show(factor, 3)} / {show(milliohm or 0)} mΩ/m = {show(whole, 1)} m; "
        f"{show(total, 1)} m drawn",
    )
    return FoundLengths(
        legs=tuple(
            LegLength(
                leg=leg.id,
                title=study.leg_title(leg.id),
                drawn_m=leg.length_m,
                found_m=round((leg.length_m or 0.0) * whole / total, 1),
            )
            for leg in legs
        ),
        steps=(step,),
    )


def _of_run(taken: Taken) -> FoundLengths:
    study, found, steps = taken.study, list[LegLength](), list[Step]()
    factor = study.rulebook.temperature_factor(taken.ambient_c)
    for chain in study.shape.walk:
        before = 0.0 if chain.start == "board" else taken.value("r1+r2", chain.start)
        for step in chain.steps:
            here = taken.value("r1+r2", step.point)
            leg = study.legs[step.leg]
            cable = study.circuit.cable_of(leg)
            each = [study.rulebook.milliohm_per_m(cable, core) for core in ("L", "E")]
            if before is not None and here is not None and here > before and all(each):
                per_m = sum(one or 0.0 for one in each)
                metres = (here - before) / factor * 1000 / per_m
                title = study.leg_title(step.leg)
                found.append(LegLength(leg=step.leg, title=title, drawn_m=leg.length_m, found_m=round(metres, 1)))
                steps.append(
                    Step(
                        text=title,
                        sum=f"({show(here)} - {show(before)}) Ω / {show(factor, 3)} / {show(per_m)} mΩ/m "
                        f"= {show(metres, 1)} m",
                    )
                )
            before = here
    return FoundLengths(legs=tuple(found), steps=tuple(steps))
