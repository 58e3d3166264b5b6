"""What a check of something existing gives beside its verdict, and what an alteration does not ask.

What exists departs from the rules of new work: told as an inspector records it. Of a circuit that is altered only what
is new is asked, and what that relies on; what is left open of the rest keeps nothing open.
"""

from lumbek.core.inspection.codes import coded
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.study.study import Study

# What an alteration relies on is asked all the same: its device, cable and cpc, its loop, its RCD, its places.
_NOT_RELIED_ON = ("demand", "switches", "arc-fault", "leakage", "rcd-series", "feed", "feed-zs", "feed-withstand",
                  "ring-current", "volt-drop", "switching")  # fmt: skip
_OUTSIDE = "Outside what is altered"


def as_recorded(study: Study, check: Check) -> Check:
    """Return a check as it stands for what exists: coded where it fails, left out where an alteration asks no more."""
    state = study.circuit.state
    if state == "new":
        return check
    if state == "altered" and check.verdict is Verdict.CANNOT_TELL and _is_outside(study, check.id):
        return check.model_copy(
            update={"verdict": Verdict.NOT_APPLICABLE, "answer": _OUTSIDE, "missing": (), "missing_codes": ()}
        )
    return check if is_of_new_work(study, check) else coded(check, _turns_on(study, check))


def _is_outside(study: Study, check_id: str) -> bool:
    """Whether what is open of an altered circuit is nobody's to ask: it is not new, and nothing new relies on it."""
    circuit = study.circuit
    if check_id == "breaking":
        return not circuit.device_new
    if check_id == "withstand":
        return all(leg.state == "as-found" for leg in circuit.legs)
    return check_id in _NOT_RELIED_ON


def is_of_new_work(study: Study, check: Check) -> bool:
    """Whether what a check finds is of a new circuit, or of new work on one that is altered."""
    if study.circuit.state != "altered" or check.place is None:
        return study.circuit.state == "new"
    new = {leg.id for leg in study.circuit.legs if leg.state == "new"}
    new |= {point.id for point in study.circuit.points if point.state == "new"}
    return check.place.id in new


def _turns_on(study: Study, check: Check) -> str:
    """Return what makes a departure graver than it usually is; nothing where nothing does."""
    if check.id == "rcd":
        if study.standing.bath_room is True and not study.circuit.surroundings.supplementary_bonding:
            return "A bath room with neither 30 mA nor its metal bonded"
        if study.rulebook.kinds[study.circuit.kind].outdoors is not None:
            return "It serves equipment outdoors"
    if check.id == "rcd-type" and (study.standing.chargers or study.standing.sources):
        return "Smooth d.c. blinds it"
    return ""
