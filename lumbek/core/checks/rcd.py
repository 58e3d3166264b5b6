"""Where 30 mA residual-current protection is wanted, and whether it is there."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Rcd
from lumbek.core.model.leg import Leg
from lumbek.core.numbers import plain
from lumbek.core.study.residual import UNSAID, RcdOnTheWay
from lumbek.core.study.study import Study

QUESTION = Question("rcd", "RCD protection", "Is there 30 mA protection where it is wanted?", "rcd")


class Reason(NamedTuple):
    """Why additional protection is wanted: for certain, or where what is missing is so."""

    why: str
    missing: str = ""


def reasons(study: Study) -> list[Reason]:
    """Return why this circuit wants additional protection; empty if nothing asks for it."""
    return list(_reasons(study))


def _reasons(study: Study) -> Iterator[Reason]:
    rules, standing = study.rulebook.data.rcd, study.standing
    kind = study.rulebook.kinds[study.circuit.kind]
    # It is the outlet's rating that counts, not the circuit's: those drawn here take plugs of no more than this.
    if standing.sockets:
        yield Reason(f"socket-outlets up to {plain(rules.sockets_up_to_a)} A: {titles(standing.sockets)}")
    lights = "lighting in a dwelling" if standing.lights and rules.lighting else ""
    yield from map(Reason, filter(None, (lights, "vehicle charging" if standing.chargers else kind.rcd_for)))
    if rules.bath_room and standing.bath_room is not False and "bath" not in kind.rcd_for:
        missing = "" if standing.bath_room else "whether it is in a room with a bath or shower"
        yield Reason("a room with a bath or shower", missing)
    if rules.concealed_cables:
        yield from _in_walls(study)


def _in_walls(study: Study) -> Iterator[Reason]:
    """Yield the reason that a cable in a wall gives: shallow, and with no earthed metal round it (522.6.202).

    Armour is earthed metal; so is the conduit that serves as a cpc. What lies in the ground is in no wall.
    """
    shallow = study.circuit.surroundings.concealed_shallow
    if shallow is False or all(_has_metal_round_it(study, leg) for leg in study.wires.legs):
        return
    missing = "whether cables run in walls at less than 50 mm" if shallow is None else ""
    yield Reason("cable in a wall at less than 50 mm with no earthed metal covering", missing)


def _has_metal_round_it(study: Study, leg: Leg) -> bool:
    cable, book = study.circuit.cable_of(leg), study.rulebook
    in_ground = all(
        book.data.methods[method].medium == "ground"
        for segment in leg.segments
        if (method := segment.method or study.circuit.method) in book.data.methods
    )
    return cable.type == "armoured" or cable.earth_by == "conduit" or in_ground


def additional(study: Study) -> bool | None:
    """Whether an RCD on the way gives additional protection (415.1.1); None where one may and is not known."""
    most = study.rulebook.data.rcd.most_ma
    found = [None if each.rcd is None else each.rcd.is_additional(most) for each in study.rcds]
    if True in found:
        return True
    return None if None in found else False


def rcd_words(rcd: Rcd) -> str:
    """Return an RCD as it is called."""
    rated = "RCD of unknown rating" if rcd.rated_ma is None else f"{plain(rcd.rated_ma)} mA"
    kind = "" if rcd.type is None else f" type {rcd.type}"
    return f"{rated}{kind}{', time-delayed' if rcd.delayed else ''}{', shared' if rcd.shared else ''}"


def _nearest(study: Study) -> RcdOnTheWay | None:
    """Return the RCD to show: the one that gives the protection, else the last that is known."""
    most = study.rulebook.data.rcd.most_ma
    known = [each for each in reversed(study.rcds) if each.rcd is not None]
    return next((each for each in known if each.rcd and each.rcd.is_additional(most)), known[0] if known else None)


def _shown(found: RcdOnTheWay | None) -> str:
    if found is None or found.rcd is None:
        return "None fitted"
    return rcd_words(found.rcd) if found.own else f"{rcd_words(found.rcd)}, {found.where}"


def _reason_not_sure(why: Sequence[Reason]) -> tuple[str, ...]:
    """Return what would say whether one is wanted at all, where no reason is sure."""
    return tuple(each.missing for each in why) if all(each.missing for each in why) else ()


def _unsaid(study: Study) -> tuple[str, ...]:
    """Return what is not known of the RCDs on the way."""
    disputed = next((each.rcd.disputed for each in study.rcds if each.rcd and each.rcd.disputed), "")
    return (f"RCD of the circuit: {disputed}" if disputed else UNSAID,)


def _missing(study: Study, why: Sequence[Reason], fits: bool | None) -> tuple[str, ...]:
    """Return what must be said first, where no RCD fits or nobody knows whether one does."""
    if fits:
        return ()
    return (*_reason_not_sure(why), *(_unsaid(study) if fits is None else ()))


_SILENCED = "Another circuit can trip this RCD and silence the alarms: give them one of their own."


def check_rcd(study: Study) -> Check:
    """Rated residual current of 30 mA at most, undelayed, where additional protection is wanted (411.3.3 etc.).

    An RCD ahead of the circuit counts like its own.
    """
    why = reasons(study)
    if not why:
        return QUESTION.not_applicable(study, "Nothing here asks for one")
    fits, shown = additional(study), _nearest(study)
    steps = tuple(Step(text=f"Wanted for {reason.why}") for reason in why)
    missing = _missing(study, why, fits)
    if missing:
        return QUESTION.cannot_tell(study, missing, steps=steps)
    rcd = shown.rcd if shown else None
    silenced = fits and rcd is not None and rcd.shared and study.circuit.kind == "alarms"
    return QUESTION.check(
        study,
        Verdict.PASS if fits else Verdict.FAIL,
        _shown(shown),
        value=None if rcd is None else rcd.rated_ma,
        limit=study.rulebook.data.rcd.most_ma,
        sense="at most",
        unit="mA",
        decimals=0,
        place=study.whole,
        steps=steps,
        caution=_SILENCED if silenced else "",
    )
