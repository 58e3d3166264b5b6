"""Is there a protective conductor at every point?"""

from lumbek.core.circuit.standing import is_touchable
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import JOINT_KINDS, Point
from lumbek.core.network.flows import is_open
from lumbek.core.study.study import Study

QUESTION = Question("cpc", "Protective conductor", "Does a cpc reach every point?", "cpc")


def earthless(study: Study) -> tuple[Point, ...]:
    """Return the points that no cpc reaches because a cable on the way has none."""
    if not study.wires.without_cpc:
        return ()
    cold = study.wires.cold
    if cold is not None:
        return tuple(point for point in study.circuit.points if is_open(cold.joined_ohm.get(point.id, 0.0)))
    out = study.graph.distance.keys() - _reached_by_cpc(study)
    return tuple(point for point in study.circuit.points if point.id in out)


def _reached_by_cpc(study: Study) -> set[str]:
    """Return to which places a cpc comes: how long the legs are does not matter."""
    reached, queue, bare = {BOARD}, [BOARD], set(study.wires.without_cpc)
    for here in queue:
        for leg in study.graph.at[here]:
            there = leg.other_end(here)
            if leg.id not in bare and there not in reached:
                reached.add(there)
                queue.append(there)
    return reached


def _ring_without(study: Study) -> str | None:
    """Return the leg of a ring of outlets whose cable has no cpc (543.2.9); None where all have one."""
    if not study.is_socket_ring:
        return None
    return next((leg for leg in study.wires.without_cpc if leg in study.shape.ring_legs), None)


def check_cpc(study: Study) -> Check:
    """A cpc to every point (411.3.1.1); what was found without one may only feed class II equipment.

    New work without a cpc fails. Old lighting without one is coded: C3 where everything on it is of class II or
    insulated, C2 where it is not.
    """
    bare = study.wires.without_cpc
    legs = study.legs
    unsaid = next((leg.id for leg in study.wires.legs if study.circuit.cable_of(leg).earth_unsaid), None)
    if unsaid is not None:
        missing = (f"what serves as the cpc of {study.leg_title(unsaid)}: a core, or the armour",)
        return QUESTION.cannot_tell(study, missing, place=study.leg_place(unsaid))
    if not bare:
        return QUESTION.not_applicable(study, "Every cable has one")
    place = study.leg_place(bare[0])
    lacking = next((leg for leg in bare if study.circuit.cable_of(legs[leg]).lacks_core), None)
    if lacking is not None:
        step = Step(text="Both cores of a two-core cable are live: there is none to be the cpc. Its armour may be")
        return QUESTION.check(study, Verdict.FAIL, "No core for it", place=study.leg_place(lacking), steps=(step,))
    broken = _ring_without(study)
    if broken is not None:
        return QUESTION.check(
            study,
            Verdict.FAIL,
            f"The cpc is no ring: none from {study.leg_title(broken)}",
            clause=study.clause("cpc-ring"),
            place=study.leg_place(broken),
            steps=(Step(text="Every point of a ring has the cpc of both its sides, whatever stands there"),),
        )
    points = earthless(study)
    new = next((point for point in points if point.state == "new"), None)
    if new is not None or any(legs[leg].state == "new" for leg in bare):
        return QUESTION.check(
            study,
            Verdict.FAIL,
            "None, on new work",
            place=study.point_place(new.id) if new else place,
            steps=(Step(text="New cable takes a cpc to every point, whatever stands there"),),
        )
    return _as_found(study, points)


def _as_found(study: Study, points: tuple[Point, ...]) -> Check:
    """Return what is to be said of points that were found without a cpc: by what can be touched there."""
    metal = next((point for point in points if is_touchable(point)), None)
    if metal is not None:
        return QUESTION.check(
            study,
            Verdict.FAIL,
            f"None at {metal.title}",
            code="C2",
            code_why="Metal within reach that a fault makes live",
            place=study.point_place(metal.id),
            steps=(Step(text="Only class II fittings and insulated plates and boxes may stand where no cpc comes"),),
        )
    unseen = [point for point in points if is_touchable(point) is None and point.kind not in JOINT_KINDS]
    if unseen:
        unknown = tuple(f"whether {point.title} is of class II, or insulated" for point in unseen)
        return QUESTION.cannot_tell(study, unknown, place=study.point_place(unseen[0].id))
    return QUESTION.check(
        study,
        Verdict.PASS,
        "None, and everything is of class II",
        code="C3",
        code_why="No cpc, and nothing that needs one now",
        place=study.leg_place(study.wires.without_cpc[0]),
        caution="Old wiring with no cpc: class II only, a notice at the board, and a cpc with the next rewiring.",
        steps=(Step(text="Every fitting, plate and box on it is said to be of class II or insulated"),),
    )
