"""Vehicle charging: a circuit and an RCD of its own for each charging point, on whatever circuit it stands."""

from typing import NamedTuple

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import Point
from lumbek.core.study.study import Study

# What breaks the neutral by its nature.
_ALL_POLES = ("bs-en-61008",)

QUESTION = Question(
    "charging", "Vehicle charging", "Has each charging point a circuit and an RCD of its own?", "charging"
)


class _Told(NamedTuple):
    """What is wrong, what is missing, and a step of the working, of one thing that is asked."""

    wrong: str = ""
    missing: str = ""
    step: Step | None = None


def check_charging(study: Study) -> Check:
    """A dedicated circuit (722.311.201) and an RCD for each charging point, in it or in its device (722.531.3)."""
    chargers = study.standing.chargers
    if not chargers:
        return QUESTION.not_applicable(study, "No vehicle is charged here")
    told = (_own_circuit(study), _own_rcd(study), _all_poles(study))
    steps = (Step(text=f"Charging points: {titles(chargers)}"), *filter(None, (each.step for each in told)))
    wrong = next(filter(None, (each.wrong for each in told)), "")
    missing = tuple(filter(None, (each.missing for each in told)))
    if not wrong and missing:
        return QUESTION.cannot_tell(study, missing, steps=steps)
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        wrong or "A circuit and an RCD of its own",
        place=study.point_place(chargers[0].id),
        steps=steps,
    )


def _others(study: Study) -> list[Point]:
    """Return what else draws on the circuit."""
    ids = {point.id for point in study.standing.chargers}
    return [point for point in study.standing.users if point.id not in ids]


def _own_circuit(study: Study) -> _Told:
    others = _others(study)
    if not others or not study.rulebook.data.charging.own_circuit:
        return _Told()
    return _Told(wrong=f"Shares its circuit with {titles(others)}")


def _own_rcd(study: Study) -> _Told:
    """Each charging point has an RCD in it, or the only one has that of its circuit, which nobody shares."""
    if not study.rulebook.data.charging.own_rcd:
        return _Told()
    chargers = study.standing.chargers
    without = [point for point in chargers if point.own_rcd is not True]
    own = next((each for each in study.rcds if each.own), None)
    shared = own is None or (own.rcd is not None and own.rcd.shared)
    where = "in the equipment" if not without else "in the circuit's device" if not shared else "not known"
    step = Step(text="An RCD of its own for each", sum=where)
    if not without:
        return _Told(step=step)
    if len(chargers) > 1 or shared or _others(study):
        if all(point.own_rcd is None for point in without):
            return _Told(missing=f"whether {titles(without)} has an RCD of its own in it", step=step)
        return _Told(wrong=f"{titles(without)}: no RCD of its own", step=step)
    return _Told(missing="RCD of the circuit" if own is not None and own.rcd is None else "", step=step)


def _all_poles(study: Study) -> _Told:
    poles = _breaks_all(study)
    if poles is None:
        return _Told(missing="whether the device of the charging point breaks all live conductors, the neutral too")
    return _Told() if poles else _Told(wrong="The device leaves the neutral joined")


def _breaks_all(study: Study) -> bool | None:
    """Whether the device that guards a charging point breaks every live conductor (722.531.3.1); None: nobody said.

    One with its own RCD in it is guarded there.
    """
    if all(point.own_rcd for point in study.standing.chargers):
        return True
    devices = [each.device for each in study.rcds] or [study.circuit.device]
    said = [True if device.standard in _ALL_POLES else device.all_poles for device in devices]
    if True in said:
        return True
    return None if None in said else False
