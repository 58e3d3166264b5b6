"""Does every RCD on the way see the faults of the loads, and is it left in peace by their leakage?"""

from collections.abc import Callable
from dataclasses import dataclass

from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.model.device import RcdType
from lumbek.core.model.point import DcPart
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study

QUESTION = Question("rcd-type", "RCD type", "Can the RCD see a fault beside the d.c. part of its loads?", "rcd-type")
LEAKAGE = Question("leakage", "Leakage on the RCD", "Do the loads leave the RCD in peace?", "leakage")
_RATING = ("rated residual current of every RCD on the way",)
# From the blindest to the one that sees all.
ORDER: tuple[RcdType, ...] = ("AC", "A", "F", "B")


@dataclass(frozen=True)
class Need:
    """The least type of RCD that surely sees, and what asks for it.

    `hopeless` types are blind to what is there for certain. Between the two only what is `unknown` decides; where
    nothing is unknown the type is `advised`, and a lesser one that is not hopeless serves.
    """

    type: RcdType
    why: str
    hopeless: tuple[RcdType, ...] = ()
    unknown: str = ""


def needed_type(study: Study) -> Need:
    """Return the least type of RCD for the loads (531.3.3): of what stands there the first of these that it has.

    Type AC is for fixed equipment that is known to give no d.c.: whatever has a socket-outlet wants type A at least,
    and so does equipment of which that is not known. For single-phase speed-controlled motors type F is advised, and
    type A serves. Charging equipment that is not said to detect 6 mA d.c. itself asks for type B
    (722.531.3.101).
    """
    found = (need for rule in _NEEDS if (need := rule(study)) is not None)
    return next(found, Need("AC", "fixed equipment with no d.c. part"))


def _of_dc(study: Study, *parts: DcPart) -> str | None:
    """Return what a load with such a d.c. part is called; None where there is none."""
    loads = ((load, load.name or point.title) for point in study.circuit.points for load in point.loads)
    return next((title for load, title in loads if load.dc in parts), None)


def _smooth(study: Study) -> Need | None:
    title = _of_dc(study, "smooth")
    return None if title is None else Need("B", title, hopeless=("AC", "A", "F"))


def _silent_charger(study: Study) -> Need | None:
    told = ("smooth", "smooth-6ma")
    if all(any(load.dc in told for load in point.loads) for point in study.standing.chargers):
        return None
    unknown = "d.c. part of the charging equipment: does it detect 6 mA d.c. itself"
    return Need("B", "vehicle charging, unless it detects 6 mA d.c. itself", hopeless=("AC",), unknown=unknown)


def _silent_inverter(study: Study) -> Need | None:
    inverter = next((point for point in study.standing.sources if not any(load.dc for load in point.loads)), None)
    if inverter is None:
        return None
    unknown = f"d.c. part of {inverter.title}, by its maker"
    return Need("B", "an inverter, unless its maker says that it passes no d.c.", hopeless=("AC",), unknown=unknown)


def _mixed(study: Study) -> Need | None:
    title = _of_dc(study, "mixed")
    return None if title is None else Need("F", title, hopeless=("AC",))


def _pulsed(study: Study) -> Need | None:
    title = _of_dc(study, "pulsed", "smooth-6ma")
    return None if title is None else Need("A", title, hopeless=("AC",))


def _sockets(study: Study) -> Need | None:
    if not study.standing.sockets:
        return None
    return Need("A", "socket-outlets: nobody knows what will be plugged in", hopeless=("AC",))


def _unsaid(study: Study) -> Need | None:
    users = study.standing.users
    unsaid = [point for point in users if not point.loads or any(load.dc != "none" for load in point.loads)]
    if users and not unsaid:
        return None
    what = f"d.c. part of the loads at {unsaid[0].title}" if unsaid else "loads of the circuit"
    return Need("A", "electronics, as most appliances have", unknown=f"{what}: has any of them electronics")


# From what blinds most to what blinds least.
_NEEDS: tuple[Callable[[Study], Need | None], ...] = (
    _smooth,
    _silent_charger,
    _silent_inverter,
    _mixed,
    _pulsed,
    _sockets,
    _unsaid,
)


def check_rcd_type(study: Study) -> Check:
    """Type AC < A < F < B, by the d.c. part of the loads, for every RCD on the way (531.3.3).

    One ahead is blinded by the same d.c. as the circuit's own. A type that only falls short of what is not known is
    not failed by it.
    """
    if not study.rcds:
        return QUESTION.not_applicable(study, "No RCD")
    need = needed_type(study)
    steps = [Step(text=f"Asked for by {need.why}", sum=f"type {need.type}")]
    known = [(each, each.rcd.type) for each in study.rcds if each.rcd is not None and each.rcd.type is not None]
    steps += [Step(text=each.where[0].upper() + each.where[1:], sum=f"type {kind}") for each, kind in known]
    if not known:
        return QUESTION.cannot_tell(study, ("type of the RCD",), steps=tuple(steps))
    # The blindest decides: a fault beside d.c. must be seen by each that is there to see it.
    worst, kind = min(known, key=lambda each: ORDER.index(each[1]))
    fits, blind = ORDER.index(kind) >= ORDER.index(need.type), kind in need.hopeless
    if not blind and (len(known) < len(study.rcds) or (not fits and need.unknown)):
        missing = [need.unknown] if not fits and need.unknown else []
        missing += ["type of the RCD"] if len(known) < len(study.rcds) else []
        return QUESTION.cannot_tell(
            study, tuple(missing), answer=f"Type {kind}: needs the {missing[0]}", steps=tuple(steps)
        )
    where = "" if worst.own else f", {worst.where}"
    return QUESTION.check(
        study,
        Verdict.FAIL if blind else Verdict.PASS,
        f"Type {kind}{where}, needs {'A' if need.type == 'F' else need.type}",
        place=study.whole,
        steps=tuple(steps),
        caution="" if fits or blind else f"{need.why}: speed-controlled motors do better behind type F.",
    )


def leakage_ma(study: Study) -> list[float]:
    """Return the protective-conductor currents that are stated, mA."""
    return [load.leakage_ma for point in study.circuit.points for load in point.loads if load.leakage_ma]


def check_leakage(study: Study) -> Check:
    """Sum of protective-conductor currents <= 0.3 x the least rated residual current on the way, mA (531.3.2)."""
    known = [(rcd.rated_ma, rcd) for rcd in study.known_rcds if rcd.rated_ma is not None]
    leaks = leakage_ma(study)
    if not study.rcds:
        return LEAKAGE.not_applicable(study, "No RCD")
    if not leaks:
        return LEAKAGE.not_applicable(study, "No leakage stated")
    if not known:
        return LEAKAGE.cannot_tell(study, _RATING)
    rated_ma, rcd = min(known, key=lambda each: each[0])
    part = study.rulebook.data.residual.leakage_fraction
    total, limit = sum(leaks), part * rated_ma
    if len(known) < len(study.rcds) and hold(total, limit, "at most")[0] is Verdict.PASS:
        return LEAKAGE.cannot_tell(study, _RATING)
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
            Step(text="Limit", sum=f"{plain(part)} × {plain(rated_ma)} = {plain(limit)} mA"),
        ),
        caution="The RCD is shared: add what its other circuits leak." if rcd.shared else "",
    )
