"""What may sit in the zones of a bath or shower room."""

from lumbek.core.model.point import Point
from lumbek.core.numbers import plain
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("bath", "Bath zones", "May each point sit where it does in the bath or shower room?", "bath")
_SOCKETS = ("socket-single", "socket-twin", "control-with-socket")
_ZONES = ("0", "1", "2")


def objection(study: Study, point: Point) -> str:
    """Return why a point may not sit in its zone (7-701), or nothing."""
    if point.zone not in _ZONES:
        return ""
    if point.kind in _SOCKETS:
        return f"no sockets in zone {point.zone}"
    if point.kind in ("switch", "fused-spur"):
        return f"no switches in zone {point.zone} but cord-operated ones"
    if point.zone == study.rulebook.data.bath.selv_only_zone and point.kind != "cord-switch":
        return "only SELV of 12 V in zone 0"
    return ""


def check_bath_zones(study: Study) -> Check:
    """Sockets and switches out of zones 0 to 2, SELV alone in zone 0 (7-701, 701.512)."""
    placed = [point for point in study.circuit.points if point.zone is not None]
    if not placed:
        return QUESTION.not_applicable(study, "No point placed in a bath room")
    rules = study.rulebook.data.bath
    wrong = [(point, why) for point in placed if (why := objection(study, point))]
    steps = [Step(text=point.title, sum=why) for point, why in wrong]
    steps += [
        Step(text=f"{point.title}, zone {point.zone}", sum=f"{rules.ip_by_zone[point.zone]} at least")
        for point in placed
        if point.zone in rules.ip_by_zone and all(point is not each for each, _ in wrong)
    ]
    far = rules.socket_from_zone_1_m
    sockets = [point for point in placed if point.kind in _SOCKETS and point.zone == "outside"]
    how_far = f"{plain(far)} m" if far is not None else "as far as the national rule says"
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        f"{wrong[0][0].title}: {wrong[0][1]}" if wrong else f"{len(placed)} points placed",
        place=study.point_place(wrong[0][0].id) if wrong else study.whole,
        steps=tuple(steps),
        caution=f"{sockets[0].title} must be {how_far} from zone 1." if sockets and not wrong else "",
    )
