"""What is to be read again after a repair: the tests of what was touched, and of nothing else."""

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.standing import standing_of
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.reading import Quantity, standing
from lumbek.core.value import Frozen

# What opening a point can disturb there, and on its circuit as a whole.
_AT_POINT: tuple[Quantity, ...] = ("r1+r2", "r2-lead", "cross-le", "cross-ln", "zs")
_OF_CIRCUIT: tuple[Quantity, ...] = (
    "r1",
    "rn",
    "r2",
    "insulation-ll",
    "insulation-le",
    "polarity",
    "rcd-trip",
    "rcd-button",
)
# Of a point that was opened: its circuit's insulation and polarity, beside its own loop.
_WITH_POINT: tuple[Quantity, ...] = ("insulation-ll", "insulation-le", "polarity")


class TestAgain(Frozen):
    """A reading that is older than a repair of what it is of."""

    circuit: str
    quantity: Quantity
    point: str | None
    words: str


def tested_again(gathered: Gathered) -> tuple[TestAgain, ...]:
    """Return the readings that stand from before a repair that touched what they are of."""
    circuits = {circuit.key: circuit for circuit in gathered.job.circuits}
    repaired = [
        (circuits[touched.circuit], touched.point, task.last.at)
        for task in standing_of(gathered.job.inspection).tasks.values()
        if task.said.status == "done"
        for touched in task.said.touched
        if touched.circuit in circuits
    ]
    found: dict[tuple[str, Quantity, str | None], TestAgain] = {}
    for circuit, point, at in repaired:
        for (quantity, place), reading in standing(circuit.readings).items():
            if reading.when < at and _is_touched(quantity, place, point):
                found[circuit.key, quantity, place] = _again(circuit, quantity, place)
    return tuple(found.values())


def _again(circuit: JobCircuit, quantity: Quantity, place: str | None) -> TestAgain:
    drawn = place is not None and place in {point.id for point in circuit.design.points}
    where = f", {circuit.design.point_title(place)}" if place is not None and drawn else ""
    words = f"circuit {circuit.design.number}, {quantity}{where}"
    return TestAgain(circuit=circuit.key, quantity=quantity, point=place, words=words)


def _is_touched(quantity: Quantity, place: str | None, point: str | None) -> bool:
    """Whether a reading is of what was touched: the whole circuit, or one point of it."""
    if point is None:
        return quantity in (*_AT_POINT, *_OF_CIRCUIT)
    return (place == point and quantity in _AT_POINT) or (place is None and quantity in _WITH_POINT)
