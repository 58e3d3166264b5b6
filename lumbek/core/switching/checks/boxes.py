"""Do the conductors fit their terminals, and the accessories their boxes?"""

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point
from lumbek.core.model.terminals import Join
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving

QUESTION = Question("boxes", "Terminals and boxes", "Does it all go in, without crowding a terminal?", "terminals")


def box_depth_mm(book: Rulebook, point: Point) -> float | None:
    """Return the least depth of box in mm that what sits at a point usually needs; None where nothing does."""
    if not point.accessories:
        return None
    data = book.switching
    deepest = max(data.box_mm[accessory.kind] for accessory in point.accessories)
    return max(deepest, data.several_gangs_box_mm) if len(point.accessories) > 1 else deepest


def conductors_at(circuit: Circuit, join: Join) -> tuple[int, float]:
    """Return how many conductors share the terminals of a join, links between them counted, and the thickest in mm²."""
    sizes = [circuit.cable_of(circuit.leg(end.leg)).csa_mm2 for end in join.ends if end.circuit is None]
    links = 2 * max(0, len(join.terminals) - 1)
    return len(join.ends) + links, max(sizes, default=circuit.cable.csa_mm2)


def too_many(book: Rulebook, circuit: Circuit, join: Join) -> int:
    """Return by how many conductors a join goes beyond what its terminals take: what then needs a connector."""
    if not join.terminals or join.terminals == ("E",):
        return 0
    count, csa = conductors_at(circuit, join)
    most = next((number for size, number in book.switching.per_terminal if csa <= size), 1)
    return max(0, count - most * len(join.terminals))


def check_boxes(proving: Proving) -> ProvedAnswer:
    """Hold conductors to their terminals and accessories to their boxes (BS 7671 526.2, 526.5, 134.1.1).

    A terminal that is found crowded fails; in new work a connector in the box takes what is too many.
    """
    hazards: list[Hazard] = []
    steps, cautions = [], []
    for number, point in proving.points():
        title, place = proving.title(number, point.id), proving.place(number, point.id)
        depth = box_depth_mm(proving.book, point)
        if depth is not None and point.plate.box_mm is not None and point.plate.box_mm < depth:
            words = f"The box at {title} is {plain(point.plate.box_mm)} mm deep; this needs {plain(depth)} mm"
            hazards.append(Hazard(id="shallow-box", check=QUESTION.id, words=words, place=place))
        elif depth is not None:
            steps.append(Step(text=f"Box at {title}", sum=f"at least {plain(depth)} mm deep"))
        several = len([each for each in point.accessories if each.kind == "intermediate"])
        if several and len(point.accessories) > 1 and not point.plate.grid:
            words = f"{title} has an intermediate among several gangs: that takes a grid plate"
            hazards.append(Hazard(id="mixed-plate", check=QUESTION.id, words=words, place=place))
        circuit = proving.circuits[number]
        for join in point.joins:
            over = too_many(proving.book, circuit, join)
            if not over:
                continue
            named = ", ".join(join.terminals)
            words = f"{len(join.ends)} conductors in {named} at {title}: {over} too many"
            if point.state == "as-found":
                hazards.append(Hazard(id="crowded", check=QUESTION.id, words=words, place=place))
            else:
                cautions.append(f"{words}; join them in a connector, with one tail to the terminal")
    steps += [Step(text=each.words) for each in hazards]
    if hazards:
        first = hazards[0]
        check = QUESTION.check(proving, Verdict.FAIL, first.words, place=first.place, steps=tuple(steps))
        return ProvedAnswer(check, tuple(hazards))
    if not steps and not cautions:
        return ProvedAnswer(QUESTION.not_applicable(proving, "No box with a switch in it"))
    caution = cautions[0] if cautions else ""
    return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, "All fits", steps=tuple(steps), caution=caution))
