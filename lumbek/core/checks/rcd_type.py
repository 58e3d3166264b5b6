"""Does the RCD see the faults of its loads, and is it left in peace by their leakage?"""

from dataclasses import dataclass

from lumbek.core.model.point import DcPart
from lumbek.core.numbers import plain, show
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("rcd-type", "RCD type", "Can the RCD see a fault beside the d.c. part of its loads?", "rcd-type")
LEAKAGE = Question("leakage", "Leakage on the RCD", "Do the loads leave the RCD in peace?", "leakage")
# From the blindest to the one that sees all.
ORDER = ("AC", "A", "F", "B")
NEEDED: dict[DcPart, str] = {"none": "AC", "pulsed": "A", "mixed": "F", "smooth-6ma": "A", "smooth": "B"}


@dataclass(frozen=True)
class Need:
    """The least type of RCD, what asks for it, and where it is an assumption what would settle it."""

    type: str
    why: str
    unknown: str = ""


def needed_type(study: Study) -> Need:
    """Return the least type of RCD for the loads (531.3.3).

    With no loads stated type A is the working default: most appliances hold electronics. Charging equipment
    that is not said to detect 6 mA d.c. itself is taken not to, and asks for type B (722.531.3.101).
    """
    loads = [(load, load.name or point.title) for point in study.circuit.points for load in point.loads]
    if study.rulebook.kinds[study.circuit.kind].wants_dc_detection:
        silent = [title for load, title in loads if load.dc not in ("smooth", "smooth-6ma")]
        if silent or not loads:
            unknown = "d.c. part of the charging equipment: does it detect 6 mA d.c. itself"
            return Need("B", "vehicle charging, unless it detects 6 mA d.c. itself", unknown)
    if not loads:
        return Need("A", "electronics, as most appliances have", "loads of the circuit: has any of them electronics")
    kind, why = max(((NEEDED[load.dc], title) for load, title in loads), key=lambda each: ORDER.index(each[0]))
    return Need(kind, why)


def check_rcd_type(study: Study) -> Check:
    """Type AC < A < F < B, by the d.c. part of the loads (531.3.3).

    A type that only falls short of an assumption is not failed by it, but no type below A suits vehicle charging.
    """
    rcd = study.circuit.device.rcd
    if rcd is None:
        return QUESTION.not_applicable(study, "No RCD")
    need = needed_type(study)
    fits = ORDER.index(rcd.type) >= ORDER.index(need.type)
    steps = (Step(text=f"Asked for by {need.why}", sum=f"type {need.type}"),)
    hopeless = need.type == "B" and rcd.type == "AC"
    if not fits and need.unknown and not hopeless:
        answer = f"Type {rcd.type}: needs the {need.unknown}"
        return QUESTION.cannot_tell(study, (need.unknown,), answer=answer, steps=steps)
    return QUESTION.check(
        study,
        Verdict.PASS if fits else Verdict.FAIL,
        f"Type {rcd.type}, needs {need.type}",
        place=study.whole,
        steps=steps,
    )


def leakage_ma(study: Study) -> list[float]:
    """Return the protective-conductor currents that are stated, mA."""
    return [load.leakage_ma for point in study.circuit.points for load in point.loads if load.leakage_ma]


def check_leakage(study: Study) -> Check:
    """Sum of protective-conductor currents <= 0.3 x rated residual current, mA (531.3.2)."""
    rcd, leaks = study.circuit.device.rcd, leakage_ma(study)
    if rcd is None or not leaks:
        why = "No RCD" if rcd is None else "No leakage stated"
        return LEAKAGE.not_applicable(study, why)
    part = study.rulebook.data.residual.leakage_fraction
    total, limit = sum(leaks), part * rcd.rated_ma
    return LEAKAGE.held(
        study,
        total,
        limit,
        "at most",
        "{value} mA, limit {limit} mA",
        unit="mA",
        place=study.whole,
        steps=(
            Step(text="The loads together", sum=f"{' + '.join(show(leak) for leak in leaks)} = {show(total)} mA"),
            Step(text="Limit", sum=f"{plain(part)} × {plain(rcd.rated_ma)} = {plain(limit)} mA"),
        ),
        caution="The RCD is shared: add what its other circuits leak." if rcd.shared else "",
    )
