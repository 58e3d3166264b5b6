"""Does every core end say what it is, by its colour or by a sleeve?"""

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.network.wiring import CoreAt
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.colours import Use, colour_of, needs_sleeve, scheme_of, sleeve_colour
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving
from lumbek.core.switching.states import States

QUESTION = Question(
    "marks",
    "Colours and sleeves",
    "Does every core end say what it is?",
    "identification",
)


class EndSeen(NamedTuple):
    """A core end in a box, with its join."""

    circuit: int
    point: str
    end: CoreEnd
    join: Join


def ends_of(circuits: Mapping[int, Circuit]) -> Iterator[EndSeen]:
    """Yield every core end that a join names, with where it is."""
    for number, circuit in circuits.items():
        places = ((BOARD, circuit.board_joins), *((point.id, point.joins) for point in circuit.points))
        for point, joins in places:
            for join in joins:
                for end in join.ends:
                    if end.circuit is None:
                        yield EndSeen(number, point, end, join)


def use_at(proving: Proving, number: int, leg: str, core: str, point: str) -> Use | None:
    """Return what a core is used as; None for one that is nothing in any state."""
    part = proving.states.part_of(CoreAt(leg, core, point, number))
    if part is None:
        return None
    cluster = proving.states.cluster_of(part)
    if proving.states.joined(cluster, part, "L").any():
        return "line"
    for kind, use in (("N", "neutral"), ("E", "earth")):
        if proving.states.joined(cluster, part, kind).any():
            return use  # type: ignore[return-value]
    return None


def check_marks(proving: Proving) -> ProvedAnswer:
    """Hold colours and sleeves to what cores are used as (BS 7671 514.3, 514.4; IEC 60364-5-51 514.3).

    A wrong sleeve misleads, and fails; one that is missing fails on what is new, and is told of what was found.
    """
    hazards: list[Hazard] = []
    schemes: set[str] = set()
    for seen in ends_of(proving.circuits):
        circuit = proving.circuits[seen.circuit]
        leg = circuit.leg(seen.end.leg)
        cable = circuit.cable_of(leg)
        schemes.add(cable.colours)
        use = use_at(proving, seen.circuit, leg.id, seen.end.core, seen.point)
        # A cpc that is used for anything else is another check's; one that is a cpc needs no sleeve.
        if use is None or seen.end.core == "E":
            continue
        scheme = scheme_of(proving.book, cable)
        colour = colour_of(proving.book, cable, seen.end.core)
        place, where = proving.place(seen.circuit, seen.point), proving.title(seen.circuit, seen.point)
        wrong = seen.end.marked is not None and seen.end.marked != use
        if not wrong and (seen.end.marked is not None or not needs_sleeve(scheme, colour, use)):
            continue
        says = f"says {seen.end.marked}" if wrong else f"needs a {sleeve_colour(scheme, use)} sleeve"
        words = f"{colour.capitalize()} of {circuit.leg_title(leg)} at {where} is {use} and {says}"
        grave = wrong or leg.state == "new"
        hazards.append(Hazard(id="unmarked", check=QUESTION.id, words=words, place=place, grave=grave))
    mixed = "" if len(schemes) < 2 else "Old and new colours meet: put up the notice that says so"
    steps = tuple(Step(text=each.words) for each in hazards)
    worst = [each for each in hazards if each.grave]
    if worst:
        answer = worst[0].words if len(worst) == 1 else f"{len(worst)} core ends do not say what they are"
        check = QUESTION.check(proving, Verdict.FAIL, answer, place=worst[0].place, steps=steps, caution=mixed)
    else:
        told = f"{len(hazards)} core ends found without a sleeve" if hazards else mixed
        check = QUESTION.check(proving, Verdict.PASS, "Each says what it is", steps=steps, caution=told)
    return ProvedAnswer(check, tuple(hazards))


def sleeved(book: Rulebook, circuit: Circuit) -> Circuit:
    """Return the circuit with a sleeve on every core end whose colour says something else, and on no other."""
    proving = Proving(book, States({circuit.number: circuit}))

    def end(point: str, core_end: CoreEnd) -> CoreEnd:
        if core_end.circuit is not None:
            return core_end
        leg = circuit.leg(core_end.leg)
        use = use_at(proving, circuit.number, leg.id, core_end.core, point)
        cable = circuit.cable_of(leg)
        wanted = use is not None and needs_sleeve(scheme_of(book, cable), colour_of(book, cable, core_end.core), use)
        return core_end.model_copy(update={"marked": use if wanted else None})

    def joins(point: str, all_of: tuple[Join, ...]) -> tuple[Join, ...]:
        return tuple(join.model_copy(update={"ends": tuple(end(point, each) for each in join.ends)}) for join in all_of)

    points = tuple(point.model_copy(update={"joins": joins(point.id, point.joins)}) for point in circuit.points)
    return circuit.model_copy(update={"points": points, "board_joins": joins(BOARD, circuit.board_joins)})
