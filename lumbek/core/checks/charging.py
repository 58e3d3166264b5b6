"""Vehicle charging: a circuit and an RCD of its own for each charging point, on whatever circuit it stands."""

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

# What breaks the neutral by its nature.
_ALL_POLES = ("bs-en-61008",)

QUESTION = Question(
    "charging", "Vehicle charging", "Has each charging point a circuit and an RCD of its own?", "charging"
)


def check_charging(study: Study) -> Check:
    """A dedicated circuit (722.311.201) and an RCD for each charging point, in it or in its device (722.531.3)."""
    chargers = study.standing.chargers
    rules = study.rulebook.data.charging
    if not chargers:
        return QUESTION.not_applicable(study, "No vehicle is charged here")
    ids = {point.id for point in chargers}
    others = [point for point in study.standing.users if point.id not in ids]
    steps = [Step(text=f"Charging points: {titles(chargers)}")]
    wrong, missing = "", list[str]()
    if others and rules.own_circuit:
        wrong = f"Shares its circuit with {titles(others)}"
    if rules.own_rcd:
        without = [point for point in chargers if point.own_rcd is not True]
        own = next((each for each in study.rcds if each.own), None)
        shared = own is None or (own.rcd is not None and own.rcd.shared)
        if without and (len(chargers) > 1 or shared or others):
            unsaid = [point for point in without if point.own_rcd is None]
            if len(unsaid) == len(without):
                missing.append(f"whether {titles(unsaid)} has an RCD of its own in it")
            else:
                wrong = wrong or f"{titles(without)}: no RCD of its own"
        elif without and own is not None and own.rcd is None:
            missing.append("RCD of the circuit")
        steps.append(
            Step(
                text="An RCD of its own for each",
                sum="in the equipment" if not without else "in the circuit's device" if not shared else "not known",
            )
        )
    poles = _breaks_all(study)
    if poles is False:
        wrong = wrong or "The device leaves the neutral joined"
    elif poles is None:
        missing.append("whether the device of the charging point breaks all live conductors, the neutral too")
    if not wrong and missing:
        return QUESTION.cannot_tell(study, tuple(missing), steps=tuple(steps))
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        wrong or "A circuit and an RCD of its own",
        place=study.point_place(chargers[0].id),
        steps=tuple(steps),
    )


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
