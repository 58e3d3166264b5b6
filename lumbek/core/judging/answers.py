"""Everything about a job: its survey and every circuit."""

from collections.abc import Callable, Iterable, Iterator

from lumbek.core.board.house import House, house_of_job
from lumbek.core.board.judge import HouseResult
from lumbek.core.board.shared_rcds import shared_rcds
from lumbek.core.documents.facts import CircuitFacts, facts_of
from lumbek.core.judging.check import Verdict, worst_of
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.job import Job, JobCircuit, JobHead
from lumbek.core.model.reading import AT_RCDS, Reading, standing
from lumbek.core.model.visit import copper_c
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.testing.sheet import NO_HOUSE, HouseTests, SharedTests, Sheet, is_isolated, sheet_of
from lumbek.core.value import Frozen


class CircuitAnswer(Frozen):
    """One circuit's design results and its test sheet."""

    number: int
    name: str
    result: CircuitResult
    tests: Sheet
    facts: CircuitFacts

    @property
    def verdict(self) -> Verdict:
        """The verdict on the design and on what was read of it, together."""
        return worst_of((self.result.verdict, self.tests.verdict))


class Totals:
    """How a job stands, added up circuit by circuit: designs and readings, with the survey."""

    def __init__(self, survey: Verdict) -> None:
        """Begin with the verdict on the survey."""
        self.survey, self.verdict = survey, survey
        self.house = Verdict.NOT_APPLICABLE
        self.circuits = dict.fromkeys(Verdict, 0)
        self.readings = dict.fromkeys(Verdict, 0)

    def add(self, answer: CircuitAnswer) -> None:
        """Count one circuit and what was read of it."""
        self.circuits[answer.verdict] += 1
        for check in answer.tests.judged:
            self.readings[check.verdict] += 1
        self.verdict = worst_of((self.verdict, answer.verdict))

    def add_house(self, house: HouseResult, described: bool) -> None:
        """Count what the circuits share; what is open of boards that nobody has described keeps no job open."""
        self.house = house.verdict
        if described or house.verdict is Verdict.FAIL:
            self.verdict = worst_of((self.verdict, house.verdict))

    def words(self) -> str:
        """Return the totals in one line."""
        bad, open_ = Verdict.FAIL, Verdict.CANNOT_TELL
        return (
            f"{sum(self.circuits.values())} circuits: {self.circuits[bad]} failing, {self.circuits[open_]} open. "
            f"Readings: {self.readings[bad]} failing, {self.readings[open_]} open. Survey: {self.survey.value}. "
            f"Boards: {self.house.value}."
        )

    def as_json(self) -> dict[str, object]:
        """Return the totals as fields."""
        return {
            "circuits_by_verdict": {verdict.value: count for verdict, count in self.circuits.items()},
            "readings_by_verdict": {verdict.value: count for verdict, count in self.readings.items()},
            "boards_verdict": self.house.value,
            "verdict": self.verdict.value,
        }


def insulation_mohm(readings: tuple[Reading, ...]) -> list[float]:
    """Return the insulation readings in force, in MΩ."""
    return [
        reading.value
        for (quantity, _), reading in standing(readings).items()
        if quantity in ("insulation-ll", "insulation-le") and reading.value is not None
    ]


def tests_of_house(house: House, head: JobHead, readings: tuple[Reading, ...], key: str) -> HouseTests:
    """Return what a house says of the tests of one of its circuits; `readings` are those of the installation."""
    guards = [each for each in shared_rcds(house) if key in each.circuits]
    nearest = min(guards, key=lambda each: len(each.circuits), default=None)
    shared = None
    if nearest is not None:
        own = tuple(each for each in readings if each.quantity in AT_RCDS and each.point == nearest.key)
        shared = SharedTests(title=nearest.place.name, readings=own)
    return HouseTests(extent=head.extent, isolated=is_isolated(readings), shared=shared)


def answer_circuit(
    house: House,
    circuit: JobCircuit,
    peers_mohm: tuple[float, ...] = (),
    ambient_c: float = 20.0,
    told: HouseTests = NO_HOUSE,
) -> CircuitAnswer:
    """Return all answers about a circuit where it sits, read at `ambient_c`.

    `peers_mohm` are the insulation readings of the others; `told` is what the house says of its tests.
    """
    read = Read.of(circuit.readings, ambient_c)
    studied = study_of(house.rulebook, house.supply, house.effective(circuit), read=read)
    return CircuitAnswer(
        number=circuit.design.number,
        name=circuit.design.name,
        result=judge_studied(studied),
        tests=sheet_of(studied, circuit.readings, peers_mohm, ambient_c, told),
        facts=facts_of(studied.longest),
    )


def answer_circuits(
    job: Job, circuits: Callable[[], Iterable[JobCircuit]] | None = None, house: House | None = None
) -> Iterator[CircuitAnswer]:
    """Yield the answers circuit by circuit, so that a large job needs little more memory than its largest one.

    `circuits` gives the circuits anew at each call where they are not held in the job: the insulation readings of
    all are wanted beside each.
    """
    given = circuits or (lambda: job.circuits)
    house = house or house_of_job(job, given())
    peers = tuple(mohm for circuit in given() for mohm in insulation_mohm(circuit.readings))
    for circuit in given():
        told = tests_of_house(house, job, job.readings, circuit.key)
        yield answer_circuit(house, circuit, peers, copper_c(job.visits), told)
