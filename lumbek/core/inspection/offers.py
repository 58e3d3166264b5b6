"""What Lumbek knows of a house that an inspector would record, offered as findings that are filled in.

A person accepts, changes or dismisses each. What belongs to new work is no finding: it stands in the way of its papers.
"""

from collections.abc import Iterator
from typing import Literal

from lumbek.core.board.judge import HouseResult
from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.codes import BY_GRAVITY, coded
from lumbek.core.inspection.kinds import Suggestion, answers_behind, finding_kinds, suggest
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Check, Code, Place, Verdict
from lumbek.core.model.found import FoundKept
from lumbek.core.model.inspection import FindingSpot, TurnsOn
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.reading import Quantity
from lumbek.core.testing.sheet import Item
from lumbek.core.value import Frozen

# Which sort of finding a failing check is.
_OF_CHECK = {
    "cpc": "no-cpc-lighting",
    "rcd": "no-30ma",
    "rcd-type": "rcd-ac",
    "bath": "zone-ip",
    "bath-bonding": "bath-no-30ma",
    "zs": "disconnection",
    "shape": "ring-open",
    "cable": "device-too-large",
    "joints": "joints-open",
    "arc-fault": "no-arc-fault",
    "enclosure": "board-burns",
    "open-ways": "live-parts",
    "neutrals": "shared-neutral",
    "surge": "no-surge",
    "bonding": "main-bonding",
    "earthing-conductor": "bonding-small",
    "ze": "unexplained",
    "tails": "device-too-large",
}
# Of the supply: the code of what has no questions of its own.
_OF_SUPPLY: dict[str, tuple[Code, str]] = {
    "fault-current": ("C2", "A great fault may burst a device"),
    "main-fuse": ("FI", "The distributor's"),
}
# Which sort of finding a reading is that fails.
_OF_READING: dict[Quantity, str] = {
    "isolation": "not-found",
    "r1": "ring-open",
    "rn": "ring-open",
    "r2": "ring-open",
    "cross-ln": "ring-open",
    "cross-le": "ring-open",
    "r1+r2": "unexplained",
    "r2-lead": "no-cpc",
    "insulation-ll": "insulation-low",
    "insulation-le": "insulation-low",
    "insulation-l-e": "insulation-low",
    "insulation-n-e": "insulation-low",
    "board-insulation": "insulation-low",
    "polarity": "pole-in-neutral",
    "supply-polarity": "supply-reversed",
    "zs": "disconnection",
    "ze": "unexplained",
    "earth-continuity": "no-earthing",
    "bonding": "main-bonding",
    "electrode": "no-earthing",
    "own-electrode": "no-earthing",
    "rcd-half": "rcd-fails",
    "rcd-trip": "rcd-fails",
    "rcd-five": "rcd-fails",
    "rcd-button": "rcd-fails",
    "shared-rcd-half": "rcd-fails",
    "shared-rcd-trip": "rcd-fails",
    "shared-rcd-five": "rcd-fails",
    "shared-rcd-ramp": "rcd-fails",
    "shared-rcd-wave": "rcd-fails",
    "shared-rcd-button": "rcd-fails",
    "afdd-button": "no-arc-fault",
}
# Insulation that is not below its limit, and not good: further investigation (in MΩ).
_FALLING_MOHM = 2.0
_INSULATION: tuple[Quantity, ...] = ("insulation-ll", "insulation-le", "insulation-l-e", "insulation-n-e")


class Offer(Frozen):
    """A finding that is filled in: what offers it, of which sort, where, what was seen, and the usual code."""

    key: str
    kind: str
    title: str
    spot: FindingSpot
    where: str
    seen: str
    clause: str
    answers: tuple[TurnsOn, ...] = ()
    suggestion: Suggestion
    # What says so, line by line: checks with their answers, readings.
    because: tuple[str, ...] = ()


def offers_of(gathered: Gathered) -> tuple[Offer, ...]:
    """Return every finding that a house offers, gravest first; what one matter shows in several ways is one offer."""
    every = [
        *_of_supply(gathered),
        *_of_boards(gathered, gathered.shared),
        *_of_circuits(gathered),
        *_of_found(gathered),
    ]
    merged: dict[str, Offer] = {}
    for each in every:
        there = merged.get(each.key)
        merged[each.key] = each if there is None else _both(there, each)
    return tuple(sorted(merged.values(), key=lambda each: BY_GRAVITY.index(each.suggestion.code)))


def _both(one: Offer, other: Offer) -> Offer:
    """Return two offers of one matter as one: what both say, and the answers of both."""
    known = {each.id for each in one.answers}
    answers = (*one.answers, *(each for each in other.answers if each.id not in known))
    because = tuple(dict.fromkeys((*one.because, *other.because)))
    if one.kind == "other":
        return one.model_copy(update={"because": because})
    return one.model_copy(update={"answers": answers, "because": because, "suggestion": suggest(one.kind, answers)})


def _offer(
    gathered: Gathered,
    about: str,
    kind: str,
    spot: FindingSpot,
    where: str,
    seen: str,
    because: tuple[str, ...],
    answers: tuple[TurnsOn, ...] = (),
) -> Offer:
    of = finding_kinds()[kind]
    return Offer(
        key=f"{about}/{kind}",
        kind=kind,
        title=of.title,
        spot=spot,
        where=where,
        seen=seen,
        clause=of.clause(gathered.job.rulebook),
        answers=answers,
        suggestion=suggest(kind, answers),
        because=because,
    )


def _line(check: Check) -> str:
    return f"{check.title}: {check.answer}"


def _of_check(gathered: Gathered, about: str, check: Check, spot: FindingSpot, where: str) -> Offer:
    """Return the offer that a failing check makes: by the questions of its sort, or with its own code."""
    general = next((key for key in _OF_CHECK if check.id == key or check.id.startswith(f"{key}-")), "")
    kind = _OF_CHECK.get(check.id) or _OF_CHECK.get(general, "other")
    seen = _line(check)
    if kind == "main-bonding" and check.value is not None:
        kind = "bonding-small"
    if kind == "no-cpc-lighting" and check.code != "C3" and not _serves_light(gathered, spot):
        kind = "no-cpc"
    if kind != "other":
        answers = answers_behind(kind, check.code) if check.code else ()
        return _offer(gathered, about, kind, spot, where, seen, (seen,), answers)
    own = Suggestion(code=check.code, why=check.code_why, open=())
    offer = _offer(gathered, f"{about}/{check.id}", "other", spot, where, seen, (seen,))
    return offer.model_copy(update={"title": check.title, "clause": check.clause.ref, "suggestion": own})


def _serves_light(gathered: Gathered, spot: FindingSpot) -> bool:
    circuit = next((each for each in gathered.job.circuits if each.key == spot.circuit), None)
    return circuit is not None and any(point.kind in ("light", "switch") for point in circuit.design.points)


# The supply


def _of_supply(gathered: Gathered) -> Iterator[Offer]:
    for check in gathered.survey.checks:
        if check.verdict is Verdict.FAIL:
            spot = FindingSpot(of="supply", id=check.id, words=check.title)
            offer = _of_check(gathered, f"supply/{check.id}", check, spot, "The supply")
            if check.id in _OF_SUPPLY:
                code, why = _OF_SUPPLY[check.id]
                offer = offer.model_copy(update={"suggestion": Suggestion(code=code, why=why, open=())})
            yield offer
    for item in gathered.sheet.items:
        if _fails(item):
            spot = FindingSpot(of="supply", id=item.quantity, words=item.title)
            yield _of_item(gathered, f"supply/{item.point or item.quantity}", item, spot, item.place or "The supply")


# The boards


def _of_boards(gathered: Gathered, result: HouseResult) -> Iterator[Offer]:
    """Yield what fails of boards that existed before; of new ones it is no finding."""
    states = {board.id: board.state for board in gathered.house.boards}
    old = any(state != "new" for state in states.values())
    for check in result.checks:
        place = check.place
        board = states.get(place.id, "") if place is not None else ""
        if check.verdict is Verdict.FAIL and old and board != "new":
            spot = _board_spot(place)
            where = place.name if place is not None else "The boards"
            yield _of_check(gathered, f"boards/{place.id if place else ''}", coded(check), spot, where)


def _board_spot(place: Place | None) -> FindingSpot:
    if place is None or place.kind not in ("board", "way"):
        return FindingSpot(of="job", words=place.name if place else "")
    return FindingSpot(of="board" if place.kind == "board" else "way", id=place.id, words=place.name)


# The circuits


def _of_circuits(gathered: Gathered) -> Iterator[Offer]:
    for circuit, answer in zip(gathered.job.circuits, gathered.answers, strict=True):
        if circuit.design.state != "new":
            yield from _of_design(gathered, circuit, answer)
            yield from _of_readings(gathered, circuit, answer)


def _where(answer: CircuitAnswer, name: str = "") -> str:
    own = f"Circuit {answer.number}, {answer.name}"
    return f"{own}: {name}" if name and name != answer.name else own


def _of_design(gathered: Gathered, circuit: JobCircuit, answer: CircuitAnswer) -> Iterator[Offer]:
    for check in answer.result.checks:
        if _departs(circuit, check):
            spot, name = _circuit_spot(circuit, check.place)
            yield _of_check(gathered, circuit.key, check, spot, _where(answer, name))


def _departs(circuit: JobCircuit, check: Check) -> bool:
    """Whether a check is a departure of what exists: it fails, or is met and coded all the same.

    Old wiring without a cpc is one whatever stands at it. What fails without a code is of new work on it.
    """
    if check.code == "none":
        return False
    if check.verdict is Verdict.FAIL:
        return bool(check.code) or circuit.design.state == "as-found"
    at_point = check.place is not None and check.place.kind == "point"
    return bool(check.code) or (check.id == "cpc" and check.verdict is Verdict.CANNOT_TELL and at_point)


def _circuit_spot(circuit: JobCircuit, place: Place | None) -> tuple[FindingSpot, str]:
    """Return where in a circuit something is: its point or leg, or the whole of it; and what that part is called."""
    if place is None or place.kind not in ("point", "leg"):
        return _whole(circuit), ""
    spot = _part(circuit, "point" if place.kind == "point" else "leg", place.id, place.name)
    return spot, place.name


def _whole(circuit: JobCircuit) -> FindingSpot:
    return FindingSpot(of="circuit", id=circuit.key, circuit=circuit.key, words=circuit.design.name)


def _part(circuit: JobCircuit, of: Literal["point", "leg"], part: str, name: str) -> FindingSpot:
    return FindingSpot(of=of, id=part, circuit=circuit.key, words=name[:80])


def _of_readings(gathered: Gathered, circuit: JobCircuit, answer: CircuitAnswer) -> Iterator[Offer]:
    for item in answer.tests.items:
        if _fails(item) or _is_falling(item):
            spot = _whole(circuit) if item.point is None else _part(circuit, "point", item.point, item.place)
            yield _of_item(gathered, circuit.key, item, spot, _where(answer, item.place))
    for check in answer.tests.between:
        if check.verdict is not Verdict.PASS:
            seen = _line(check)
            yield _offer(gathered, circuit.key, "unexplained", _whole(circuit), _where(answer), seen, (seen,))


def _fails(item: Item) -> bool:
    return item.check is not None and item.check.verdict is Verdict.FAIL


def _is_falling(item: Item) -> bool:
    """Whether insulation passes, and is less than twice what it has to be."""
    reading = item.reading
    return (
        item.quantity in _INSULATION
        and reading is not None
        and reading.value is not None
        and not reading.beyond
        and reading.value < _FALLING_MOHM
    )


def _of_item(gathered: Gathered, about: str, item: Item, spot: FindingSpot, where: str) -> Offer:
    """Return the offer that a reading makes which fails, or falls."""
    kind = _OF_READING.get(item.quantity, "other") if _fails(item) else "insulation-falling"
    said = item.check.answer if item.check is not None else ""
    seen = f"{item.title}{f', {item.place}' if item.place else ''}: {said}"
    return _offer(gathered, about, kind, spot, where, seen, (seen,))


# What was found on the job


def _of_found(gathered: Gathered) -> Iterator[Offer]:
    for found in gathered.job.found:
        if found.kind == "fault":
            yield _found_offer(gathered, found, "other", found.title)
        elif found.kind == "traced":
            for line in found.lines:
                if line.why:
                    yield _found_offer(gathered, found, "not-found", f"{line.name}: {line.why}")


def _found_offer(gathered: Gathered, found: FoundKept, kind: str, seen: str) -> Offer:
    circuit = next((each for each in gathered.job.circuits if each.design.number == found.circuit), None)
    if circuit is not None:
        spot, where = _whole(circuit), f"Circuit {circuit.design.number}, {circuit.design.name}"
    elif found.board:
        spot, where = FindingSpot(of="board", id=found.board), "The board"
    else:
        spot, where = FindingSpot(), "The house"
    because = tuple(": ".join(filter(None, (line.name, line.belongs_to))) for line in found.lines[:6])
    offer = _offer(gathered, f"found/{found.id}", kind, spot, where, seen, because)
    return offer.model_copy(update={"title": found.title}) if kind == "other" else offer
