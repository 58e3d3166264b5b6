"""Where 30 mA residual-current protection is wanted, and whether it is there."""

from lumbek.core.numbers import plain
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("rcd", "RCD protection", "Is there 30 mA protection where it is wanted?", "rcd")


def reasons(study: Study) -> list[str]:
    """Return why this circuit wants additional protection, in words; empty if nothing asks for it."""
    rules, circuit = study.rulebook.data.rcd, study.circuit
    kind = study.rulebook.kinds[circuit.kind]
    rating, place = circuit.device.rating_a, circuit.surroundings
    has_sockets = study.group == "sockets" or any(
        point.kind in ("socket-single", "socket-twin", "control-with-socket") for point in circuit.points
    )
    found = []
    if has_sockets and rating <= rules.sockets_up_to_a:
        found.append(f"socket-outlets up to {plain(rules.sockets_up_to_a)} A")
    if study.group == "lighting" and rules.lighting:
        found.append("lighting in a dwelling")
    if kind.rcd_for:
        found.append(kind.rcd_for)
    if place.bath_room and rules.bath_room and not kind.rcd_for:
        found.append("a room with a bath or shower")
    if place.concealed_shallow and rules.concealed_cables:
        found.append("cable in a wall at less than 50 mm with no earthed metal covering")
    if study.ahead.earthing == "TT" and rules.tt_final:
        found.append("a TT supply")
    if kind.outdoors == "feed" and rating <= rules.outdoor_up_to_a:
        found.append(f"mobile equipment outdoors up to {plain(rules.outdoor_up_to_a)} A")
    return found


def check_rcd(study: Study) -> Check:
    """Rated residual current of 30 mA at most, undelayed, where additional protection is wanted (411.3.3 etc.)."""
    why = reasons(study)
    if not why:
        return QUESTION.not_applicable(study, "Nothing here asks for one")
    rcd = study.circuit.device.rcd
    most = study.rulebook.data.rcd.most_ma
    steps = tuple(Step(text=f"Wanted for {reason}") for reason in why)
    fits = rcd is not None and rcd.is_additional(most)
    if rcd is None:
        answer = "None fitted"
    else:
        delayed = ", time-delayed" if rcd.delayed else ""
        answer = f"{plain(rcd.rated_ma)} mA type {rcd.type}{delayed}{', shared' if rcd.shared else ''}"
    caution = ""
    if fits and rcd is not None and rcd.type == "AC":
        caution = "Type AC is blind to a d.c. part: only where no load can give one."
    elif fits and rcd is not None and rcd.shared and study.group == "alarms":
        caution = "Another circuit can trip this RCD and silence the alarms: give them one of their own."
    return QUESTION.check(
        study,
        Verdict.PASS if fits else Verdict.FAIL,
        answer,
        value=None if rcd is None else rcd.rated_ma,
        limit=most,
        sense="at most",
        unit="mA",
        decimals=0,
        place=study.whole,
        steps=steps,
        caution=caution,
    )
