"""What may sit in the zones of a bath or shower room."""

import re
from collections.abc import Iterator
from typing import NamedTuple

from lumbek.core.circuit.standing import SOCKETS
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import JOINT_KINDS, SWITCH_KINDS, Point
from lumbek.core.numbers import counted, plain
from lumbek.core.study.study import Study

QUESTION = Question("bath", "Bath zones", "May each point sit where it does in the bath or shower room?", "bath")
# What a room with a bath or shower is called.
_NAMED = re.compile(r"\bbath|\bshower|\ben[- ]?suite|\bwet ?room", re.IGNORECASE)
_SWITCHES = (*SWITCH_KINDS, "fused-spur")


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
    if point.plan_zone is not None and point.plan_zone != point.zone:
        # Neither is believed: the tape or the person is wrong.
        words = f"said to be in zone {point.zone}, and the plan has it in zone {point.plan_zone}"
        return Objection(words.replace("zone outside", "none"), missing=f"which zone {point.title} is in")
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
    if zone not in rules.switch_zones and point.kind in _SWITCHES:
        return Objection(f"no switches in zone {zone}")
    return None


def _tightness(study: Study, point: Point) -> Objection | None:
    """Return why a point is not tight enough for its zone, or may not be: IPX7 in zone 0, IPX4 in 1 and 2 (701.512)."""
    zone = zone_of(study, point)
    wanted = study.rulebook.data.bath.ip_by_zone.get(zone or "")
    # A shaver supply is made to stand where no jet reaches it, and is held to its own standard.
    if wanted is None or point.kind in ("shaver-socket", "cord-switch"):
        return None
    if not point.ip or point.ip[3] == "X":
        return Objection(f"{wanted} at least in zone {zone}", missing=f"IP rating of {point.title}")
    if int(point.ip[3]) < int(wanted[3]):
        return Objection(f"{point.ip} in zone {zone}, needs {wanted}")
    return None


def _unplaced(study: Study) -> tuple[Point, ...]:
    """Return the points of a bath room of which nobody has said where they stand: all of its sockets at least.

    A room that holds a point with a zone is one, and so is one that is called so.
    """
    placed = study.standing.in_bath_room
    rooms = {point.room_name for point in placed if point.room_name}
    rooms |= {point.room_name for point in study.circuit.points if _NAMED.search(point.room_name)}
    inside = [
        point
        for point in study.circuit.points
        if point.zone is None and point.kind not in (*JOINT_KINDS, "unknown-end") and point.room_name in rooms
    ]
    if not placed and study.circuit.surroundings.bath_room:
        inside += [point for point in study.standing.sockets if point not in inside and not point.room_name]
    return tuple(inside)


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


def _where(study: Study, fine: list[Point]) -> Iterator[Step]:
    """Yield how far the zones reach where that is not as usual, and what those points that are right were held to."""
    rules = study.rulebook.data.bath
    if study.circuit.surroundings.no_tray:
        reach = plain(rules.no_tray_zone_1_m)
        yield Step(text=f"A shower with no tray: zone 1 reaches {reach} m from the head, and there is no zone 2")
    for point in fine:
        zone = zone_of(study, point)
        if zone in rules.ip_by_zone:
            yield Step(text=f"{point.title}, zone {zone}", sum=f"{rules.ip_by_zone[zone]} at least")


def check_bath_zones(study: Study) -> Check:
    """Sockets and switches out of zones 0 to 2, SELV alone in zone 0, what stands in a zone tight enough (701.512).

    Where a point of such a room stands must be said before any of it can be told.
    """
    placed, unplaced = study.standing.in_bath_room, _unplaced(study)
    if not placed and not unplaced:
        return QUESTION.not_applicable(study, "No point placed in a bath room")
    found = [(point, why) for point in placed if (why := objection(study, point) or _tightness(study, point))]
    found += [
        (point, Objection("where it stands is not said", missing=f"where {point.title} stands in the bath room"))
        for point in unplaced
    ]
    wrong = next(((point, why) for point, why in found if not why.missing), None)
    fine = [point for point in placed if all(point is not each for each, _ in found)]
    steps = [*(Step(text=point.title, sum=why.why) for point, why in found), *_where(study, fine)]
    if found and wrong is None:
        missing = tuple(why.missing for _, why in found)
        return QUESTION.cannot_tell(study, missing, steps=tuple(steps), place=study.point_place(found[0][0].id))
    caution = _for_the_nation(study, placed)
    if wrong is not None:
        point, why = wrong
        place = study.point_place(point.id)
        answer = f"{point.title}: {why.why}"
        return QUESTION.check(study, Verdict.FAIL, answer, place=place, steps=tuple(steps), caution=caution)
    answer = counted(len(placed), "point placed", "points placed")
    return QUESTION.check(study, Verdict.PASS, answer, place=study.whole, steps=tuple(steps), caution=caution)


def _for_the_nation(study: Study, placed: tuple[Point, ...]) -> str:
    """Return what the rulebook leaves to national rules of sockets outside the zones; nothing where it says itself."""
    socket = next((point for point in placed if point.kind in SOCKETS and point.zone == "outside"), None)
    if socket is None or study.rulebook.data.bath.socket_from_zone_1_m is not None:
        return ""
    return f"{socket.title}: how far from zone 1 is for the national rule."
