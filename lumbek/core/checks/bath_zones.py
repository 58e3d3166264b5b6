"""What may sit in the zones of a bath or shower room."""

from typing import NamedTuple

from lumbek.core.circuit.standing import SOCKETS
from lumbek.core.model.point import Point
from lumbek.core.numbers import plain
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("bath", "Bath zones", "May each point sit where it does in the bath or shower room?", "bath")
_SWITCHES = ("switch", "fused-spur", "cord-switch")


class Objection(NamedTuple):
    """Why a point may not sit where it does: for certain, or unless what is missing says otherwise."""

    why: str
    missing: str = ""


def zone_of(study: Study, point: Point) -> str | None:
    """Return the zone that a point counts as in: without a tray what lies within 1.2 m is zone 1, and there is no 2."""
    no_tray = study.circuit.surroundings.no_tray
    return "1" if no_tray and point.zone == "2" else point.zone


def objection(study: Study, point: Point) -> Objection | None:
    """Return why a point may not sit in its zone (701.512), or None."""
    rules, zone = study.rulebook.data.bath, zone_of(study, point)
    if zone is None:
        return None
    if point.selv_v is not None:
        most = rules.selv_zone_0_v if zone in (rules.selv_only_zone, "1") else rules.selv_v
        fits = zone == "outside" or point.selv_v <= most
        return None if fits else Objection(f"SELV of {plain(most)} V at the most in zone {zone}")
    if zone == rules.selv_only_zone:
        return Objection(f"only SELV of {plain(rules.selv_zone_0_v)} V in zone {zone}")
    if point.kind == "shaver-socket":
        return None if zone in rules.shaver_zones else Objection(f"no shaver supply in zone {zone}")
    if point.kind in SOCKETS:
        return _socket(study, point, zone)
    if zone != "outside" and point.kind == "cord-switch":
        return Objection(f"its body is in zone {zone}: only the cord may hang there")
    if zone != "outside" and point.kind in _SWITCHES:
        return Objection(f"no switches in zone {zone}")
    return None


def _socket(study: Study, point: Point, zone: str) -> Objection | None:
    """Return why a socket-outlet may not be where it is: in a zone, or too near one (701.512.3)."""
    far = study.rulebook.data.bath.socket_from_zone_1_m
    if zone != "outside":
        return Objection(f"no sockets in zone {zone}")
    if far is None:
        return None
    if point.from_zone_1_m is None:
        return Objection(f"{plain(far)} m from zone 1 at least", missing=f"distance of {point.title} from zone 1")
    if point.from_zone_1_m < far:
        return Objection(f"{plain(point.from_zone_1_m)} m from zone 1, needs {plain(far)} m")
    return None


def check_bath_zones(study: Study) -> Check:
    """Sockets and switches out of zones 0 to 2, SELV alone in zone 0 (7-701, 701.512)."""
    placed = study.standing.in_bath_room
    if not placed:
        return QUESTION.not_applicable(study, "No point placed in a bath room")
    rules = study.rulebook.data.bath
    found = [(point, why) for point in placed if (why := objection(study, point))]
    wrong = next(((point, why) for point, why in found if not why.missing), None)
    steps = [Step(text=point.title, sum=why.why) for point, why in found]
    if study.circuit.surroundings.no_tray:
        reach = plain(rules.no_tray_zone_1_m)
        steps.append(
            Step(text=f"A shower with no tray: zone 1 reaches {reach} m from the head, and there is no zone 2")
        )
    steps += [
        Step(text=f"{point.title}, zone {zone}", sum=f"{rules.ip_by_zone[zone]} at least")
        for point in placed
        if (zone := zone_of(study, point)) in rules.ip_by_zone and all(point is not each for each, _ in found)
    ]
    if found and wrong is None:
        missing = tuple(why.missing for _, why in found)
        return QUESTION.cannot_tell(study, missing, steps=tuple(steps), place=study.point_place(found[0][0].id))
    sockets = [point for point in placed if point.kind in SOCKETS and point.zone == "outside"]
    nationally = bool(sockets) and rules.socket_from_zone_1_m is None
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        f"{wrong[0].title}: {wrong[1].why}" if wrong else f"{len(placed)} points placed",
        place=study.point_place(wrong[0].id) if wrong else study.whole,
        steps=tuple(steps),
        caution=f"{sockets[0].title}: how far from zone 1 is for the national rule." if nationally else "",
    )
