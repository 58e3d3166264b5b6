"""An RCD that trips: which circuit, which load, the wiring, two neutrals mixed, or only the sum of what leaks."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from math import exp
from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.diagnosis.questions import YesNo, after, next_question
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import PASSIVE_KINDS
from lumbek.core.model.text import Name
from lumbek.core.value import Frozen

When = Literal["at-once", "under-load", "now-and-then"]
# Before anything is asked: how the kinds share suspicion, by when it trips.
_WEIGHTS: dict[When, dict[str, float]] = {
    "at-once": {"line": 3.0, "neutral": 2.0, "load": 4.0, "mixed": 1.0, "sum": 0.5, "rcd": 0.7},
    "under-load": {"line": 1.0, "neutral": 3.0, "load": 3.0, "mixed": 3.0, "sum": 0.5, "rcd": 0.3},
    "now-and-then": {"line": 1.0, "neutral": 1.0, "load": 4.0, "mixed": 1.0, "sum": 3.0, "rcd": 0.5},
}
_ENOUGH = 0.9
_EFFORT = {
    **{"on": 1.0, "apart": 1.8, "unplugged": 1.4, "n-earth": 1.7, "n-bar": 1.6, "bare": 2.5},
    **{"ramp": 1.2, "clamp": 0.9, "live-earth": 1.3},
}
# What is said of these rests on their own test: never on having asked everything else.
_OWN_TEST = {"rcd": "ramp", "sum": "clamp"}
# Of loads that leak to earth, so many do it from their neutral: a single-pole breaker leaves that in.
_BY_NEUTRAL = 0.35
# What trips now and then is waited for so many times as long as it takes in the mean.
_TIMES_WAITED = 3.0


class TripAnswer(Frozen):
    """A question that was asked, and whether it tripped (yes) or held; for how long that was waited for, in hours."""

    question: str
    tripped: bool
    waited_h: Annotated[float, Field(ge=0, le=10_000)] | None = None


class TripSuspect(Frozen):
    """What may make it trip, and how likely."""

    id: str
    title: str
    share: float


class TripStep(Frozen):
    """What to do next, and what to look at."""

    id: str
    title: str
    yes: str
    no: str
    # How long it is worth waiting before it counts as having held, in hours.
    wait_h: float | None = None


class BehindRcd(Frozen):
    """An RCD of the board that several circuits share, and their numbers: what hangs on it is known."""

    id: str
    title: str
    board: str
    rated_ma: float | None
    circuits: tuple[int, ...]


class Trips(Frozen):
    """Where the search stands: suspects, the next step, or what to do about the one that is left."""

    suspects: tuple[TripSuspect, ...]
    next: TripStep | None
    sentence: str
    leakage_ma: float
    groups: tuple[BehindRcd, ...] = ()


def find_trip(
    circuits: Sequence[Circuit],
    when: When,
    answers: Sequence[TripAnswer],
    rated_ma: float = 30.0,
    every_h: float | None = None,
) -> Trips:
    """Return what makes an RCD over these circuits trip, as far as the answers say.

    What trips now and then, `every_h` hours in the mean, and held for t hours would have tripped by then with
    1 - exp(-t / every_h) (Poisson): less than that is no answer.
    """
    leakage = sum(load.leakage_ma for circuit in circuits for point in circuit.points for load in point.loads)
    titles, share = _suspects(circuits, when, leakage / rated_ma)
    asked: dict[str, YesNo] = {}
    for each in answers:
        question = _by_id(circuits, share, each.question)
        if question is not None:
            asked[each.question] = question
            share = after(share, _waited(question, when, each, every_h), each.tripped)
    ranked = sorted(share.items(), key=lambda item: -item[1])
    best = ranked[0]
    step = None
    own = _OWN_TEST.get(best[0])
    if best[1] >= _ENOUGH and own is not None and own not in asked:
        step = _by_id(circuits, share, own)
    elif best[1] < _ENOUGH:
        step = next_question(share, [each for each in _questions(circuits, share) if each.id not in asked])
    wait_h = _TIMES_WAITED * every_h if when == "now-and-then" and every_h and step and not _is_read(step.id) else None
    return Trips(
        suspects=tuple(TripSuspect(id=each, title=titles[each], share=round(part, 3)) for each, part in ranked[:8]),
        next=None if step is None else TripStep(id=step.id, title=step.title, yes=step.yes, no=step.no, wait_h=wait_h),
        sentence=titles[best[0]] if step is None else f"{sum(part > 0.01 for _, part in ranked)} suspects left.",
        leakage_ma=leakage,
    )


def _is_read(question_id: str) -> bool:
    return question_id.split("/", maxsplit=1)[0] in _ANSWERS


def _waited(question: YesNo, when: When, answer: TripAnswer, every_h: float | None) -> YesNo:
    """Return a question as far as it was answered: what trips now and then may just not have tripped yet."""
    if when != "now-and-then" or _is_read(question.id):
        return question
    reached = 0.6 if every_h is None or answer.waited_h is None else 1 - exp(-answer.waited_h / every_h)
    return replace(question, likely={suspect: part * reached for suspect, part in question.likely.items()})


def _suspects(circuits: Sequence[Circuit], when: When, leaking: float) -> tuple[dict[str, Name], dict[str, float]]:
    titles: dict[str, Name] = {}
    kinds: dict[str, list[str]] = {}

    def add(kind: str, suspect: str, title: str) -> None:
        titles[suspect] = title
        kinds.setdefault(kind, []).append(suspect)

    for circuit in circuits:
        name = f"{circuit.number} {circuit.name}"
        add("line", f"line/{circuit.number}", f"Line to earth in the wiring of {name}")
        add("neutral", f"neutral/{circuit.number}", f"Neutral to earth in the wiring of {name}")
        add("mixed", f"mixed/{circuit.number}", f"The neutral of {name} joined with another circuit's")
        for point in circuit.points:
            if point.loads or point.kind not in PASSIVE_KINDS:
                add("load", f"load/{circuit.number}/{point.id}", f"What is connected at {point.title}, {name}")
    add("sum", "sum", "No fault: what leaks in all its loads adds up")
    add("rcd", "rcd", "The RCD itself, or what is wired to it")
    weights = dict(_WEIGHTS[when])
    # A sum near half the rated current trips it by itself (BS 7671 531.3.2: 30 % at most).
    weights["sum"] *= 0.2 if leaking < 0.3 else 1.0 if leaking < 0.5 else 4.0
    total = sum(weights[kind] for kind in kinds)
    share = {suspect: weights[kind] / total / len(some) for kind, some in kinds.items() for suspect in some}
    return titles, share


def _circuit_of(suspect: str) -> int | None:
    kind, *rest = suspect.split("/")
    return int(rest[0]) if kind not in ("sum", "rcd") else None


def _by_circuit(circuits: Sequence[Circuit], share: dict[str, float]) -> dict[str, float]:
    """Return the suspicion that rests on each circuit, by its number."""
    found = {str(circuit.number): 0.0 for circuit in circuits}
    for suspect, part in share.items():
        number = _circuit_of(suspect)
        if number is not None:
            found[str(number)] += part
    return found


def _questions(circuits: Sequence[Circuit], share: dict[str, float]) -> list[YesNo]:
    """Return what may be asked: breakers off by halves of the suspicion, loads out, neutrals out."""
    by_circuit = _by_circuit(circuits, share)
    ids = ["on/" + "+".join(sorted(_half(by_circuit), key=int)), "bare", *_READS]
    for number in sorted(by_circuit, key=lambda each: -by_circuit[each])[:4]:
        ids += [f"{kind}/{number}" for kind in ("on", "apart", "unplugged", "n-earth", "n-bar")]
        loads = {
            suspect.split("/")[2]: part for suspect, part in share.items() if suspect.startswith(f"load/{number}/")
        }
        half = _half(loads)
        ids += [f"unplugged/{number}/{'+'.join(sorted(some))}" for some in (half, half[:1]) if some]
    return list(filter(None, (_by_id(circuits, share, each) for each in dict.fromkeys(ids))))


def _half(parts: dict[str, float]) -> list[str]:
    """Return the likeliest few that hold about half of all suspicion."""
    found: list[str] = []
    reached, total = 0.0, sum(parts.values())
    for name, part in sorted(parts.items(), key=lambda item: -item[1]):
        # Near enough to half: of two alike, one.
        if reached >= 0.45 * total:
            break
        found.append(name)
        reached += part
    return found


def _by_id(circuits: Sequence[Circuit], suspects: Iterable[str], question_id: str) -> YesNo | None:
    names = {circuit.number: f"{circuit.number} {circuit.name}" for circuit in circuits}
    kind, *rest = question_id.split("/")
    numbers = [int(each) for each in rest[0].split("+") if each.isdigit()] if rest else []
    if any(number not in names for number in numbers) or (not numbers and kind not in ("bare", *_READS)):
        return None
    likely = {suspect: _trips(kind, numbers, rest, suspect) for suspect in suspects}
    listed = ", ".join(names[number] for number in numbers)
    points = rest[1].split("+") if len(rest) > 1 else []
    out = ", ".join(_point(circuits, numbers[0], each) for each in points) or "everything"
    title = {
        "on": f"Only these on, all other breakers off: {listed}. Reset.",
        "apart": f"{listed}: breaker off and its neutral out of the bar; all others on. Reset.",
        "unplugged": f"{listed}: unplug {out}, the rest as it was. Reset.",
        "n-earth": (
            f"{listed}: everything on it unplugged or off at both poles; then isolated, proved dead, its neutral out "
            "of the bar. Insulation, neutral to earth."
        ),
        "n-bar": f"{listed}: isolated, proved dead, its neutral out of the bar. Insulation, to the other neutrals.",
        "bare": "Isolated, proved dead: everything out of the RCD's outgoing side. Then on again, reset.",
        "ramp": "The RCD with all its circuits off: ramp test, and no trip at half of what it is rated for.",
        "clamp": "A clamp for leakage round line and neutral of the tails, all on: over 30 % of the RCD's rating?",
        "live-earth": (
            "Isolated, proved dead, everything unplugged, neutrals left in: insulation at the board, line and neutral "
            "together to earth."
        ),
    }[kind]
    yes, no = _ANSWERS.get(kind, ("It trips", "It holds"))
    return YesNo(
        question_id,
        title,
        yes,
        no,
        likely,
        _EFFORT[kind],
    )


# What is read rather than waited for, and how that reads.
_ANSWERS = {
    "n-earth": ("It reads low", "It reads high"),
    "n-bar": ("It reads low", "It reads high"),
    "live-earth": ("It reads low", "It reads high"),
    "ramp": ("Too early, or at half", "In order"),
    "clamp": ("Yes, over", "No, less"),
}


def _point(circuits: Sequence[Circuit], number: int, point_id: str) -> str:
    points = {point.id: point for circuit in circuits if circuit.number == number for point in circuit.points}
    return points[point_id].title if point_id in points else point_id


# How likely each kind of suspect makes a reading of the whole show it.
_READS: dict[str, dict[str, float]] = {
    "ramp": {"rcd": 0.97},
    "clamp": {"sum": 0.95, "line": 0.7, "neutral": 0.5, "load": 0.5, "mixed": 0.3},
    "live-earth": {"line": 0.95, "neutral": 0.95},
}


def _trips(kind: str, numbers: list[int], rest: list[str], suspect: str) -> float:
    """Return how likely the answer is yes, that it trips or reads low, with this suspect at fault."""
    what, mine = suspect.split("/", maxsplit=1)[0], _circuit_of(suspect)
    if kind in _READS:
        return _READS[kind].get(what, 0.0)
    if kind in ("n-earth", "n-bar"):
        return float(what == ("neutral" if kind == "n-earth" else "mixed") and mine in numbers)
    if kind == "bare" or what == "rcd":
        return float(what == "rcd")
    if what == "sum":
        return {"on": 0.15, "apart": 0.5, "unplugged": 0.4}[kind]
    if kind == "on":
        # A single-pole breaker leaves the neutral in: a neutral to earth trips with whatever else draws.
        return 0.9 if what == "neutral" else max(_BY_NEUTRAL if what == "load" else 0.0, float(mine in numbers))
    if kind == "apart":
        return float(mine not in numbers)
    if what == "load" and mine in numbers and (len(rest) < 2 or suspect.split("/")[2] in rest[1].split("+")):
        return 0.0
    # With nothing plugged in little goes astray by a neutral that is mixed.
    return 0.3 if what == "mixed" and mine in numbers and len(rest) < 2 else 1.0
