"""Everything about a job: its survey and every circuit."""

from collections.abc import Callable, Iterable, Iterator

from lumbek.core.judgement import CircuitResult, judge_studied
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import Reading, standing
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook, rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.testing.sheet import Sheet, test_sheet
from lumbek.core.value import Frozen


class CircuitAnswer(Frozen):
    """One circuit's design results and its test sheet."""

    number: int
    name: str
    result: CircuitResult
    tests: Sheet


def insulation_mohm(readings: tuple[Reading, ...]) -> list[float]:
    """Return the insulation readings in force, in MΩ."""
    return [
        reading.value
        for (quantity, _), reading in standing(readings).items()
        if quantity in ("insulation-ll", "insulation-le") and reading.value is not None
    ]


def answer_circuit(
    rulebook: Rulebook, supply: Supply, circuit: JobCircuit, peers_mohm: tuple[float, ...] = ()
) -> CircuitAnswer:
    """Return all answers about one circuit; `peers_mohm` are the insulation readings of the others."""
    studied = study_of(rulebook, supply, circuit.design)
    return CircuitAnswer(
        number=circuit.design.number,
        name=circuit.design.name,
        result=judge_studied(studied),
        tests=test_sheet(studied.middle, circuit.readings, peers_mohm),
    )


def answer_circuits(job: Job, circuits: Callable[[], Iterable[JobCircuit]] | None = None) -> Iterator[CircuitAnswer]:
    """Yield the answers circuit by circuit, so that a large job needs no more memory than its largest one.

    `circuits` gives the circuits anew at each call where they are not held in the job: the insulation readings of
    all are wanted beside each.
    """
    rulebook = rulebook_of(job)
    given = circuits or (lambda: job.circuits)
    peers = tuple(mohm for circuit in given() for mohm in insulation_mohm(circuit.readings))
    for circuit in given():
        yield answer_circuit(rulebook, job.supply, circuit, peers)
