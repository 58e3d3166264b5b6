"""What has been worked out, kept by what it was worked out from, so that nothing is worked out twice."""

import json
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from functools import partial
from threading import Event, Lock
from typing import Any, NamedTuple, TypeVar, cast
from uuid import UUID

from lumbek.core.board.member import Member
from lumbek.core.diagnosis.answer import Diagnosis
from lumbek.core.diagnosis.hook_up import HookUp, hook_up
from lumbek.core.diagnosis.patient import patient_of
from lumbek.core.documents.facts import CircuitFacts, facts_of
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobHead
from lumbek.core.model.reading import Reading, standing
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.door import Studied, study_of
from lumbek.core.study.read import Read
from lumbek.core.survey.judgement import Survey, judge_supply
from lumbek.core.testing.lengths import FoundLengths, lengths_from_readings
from lumbek.core.testing.sheet import HouseTests, Sheet, sheet_of
from lumbek.core.testing.taken import Taken
from lumbek.services import heavy
from lumbek.services.heavy import Piece

Found = TypeVar("Found")

# What is kept is counted in points of circuits: about 25 kB each with everything that is known of it.
MOST_POINTS = 4000


@dataclass(frozen=True)
class Source:
    """What a circuit's results follow from: the circuit and its version, the house, and its seat there, as text."""

    circuit_id: UUID
    version: int
    house: str
    seat: str = ""


class Seated(NamedTuple):
    """A circuit as it sits in its house, in its job, what its results follow from, and what was read of it."""

    source: Source
    head: JobHead
    supply: Supply
    design: Circuit
    read: Read = Read()


class Conditions(NamedTuple):
    """What readings of a circuit are taken under: insulation of the others, copper temperature, what the house says."""

    peers_mohm: tuple[float, ...] = ()
    ambient_c: float = 20.0
    house: HouseTests = HouseTests()


def house_key(head: JobHead, supply: Supply) -> str:
    """Return what of a job the results of its circuits follow from: rulebook, edition and supply."""
    return json.dumps([head.rulebook, head.edition, supply.model_dump(mode="json")], sort_keys=True)


class Results:
    """Results by their source, those longest unused forgotten first; safe to ask from several threads."""

    def __init__(self, most_points: int = MOST_POINTS) -> None:
        self._most, self._held = most_points, 0
        self._kept: OrderedDict[Hashable, tuple[int, Any]] = OrderedDict()
        self._lock = Lock()
        self._under_way: dict[Hashable, Event] = {}
        # How many circuits were worked out: what a test of this counts.
        self.worked_out = 0

    def survey(self, head: JobHead, supply: Supply) -> Survey:
        """Return what the survey of a job decides."""
        key = ("survey", house_key(head, supply), head.extent)
        return self._of(key, 10, lambda: judge_supply(rulebook_of(head), supply, head.extent))

    def view(self, job_id: UUID, marks: Hashable, circuits: int, make: Callable[[], Found]) -> Found:
        """Return a job as it is opened, by what that follows from."""
        return self._of(("view", job_id, marks), circuits // 10 + 1, make)

    def member(self, key: tuple[UUID, int, str], make: Callable[[], Member]) -> Member:
        """Return what a house asks of a circuit, by its id, its version and its rulebook."""
        return self._of(("member", key), 1, make)

    def design(self, circuit_id: UUID, version: int, read: Callable[[], Circuit]) -> Circuit:
        """Return the design of a circuit at a version, read where it is not known yet."""
        return self._of(("design", circuit_id, version), 4, read)

    def has_member(self, key: tuple[UUID, int, str]) -> bool:
        """Whether that is known already."""
        return ("member", key) in self._kept

    def circuit(self, seated: Seated) -> CircuitResult:
        """Return the verdict on a circuit."""
        return self._judged(seated)[1]

    def sheet(self, seated: Seated, readings: tuple[Reading, ...], on: Conditions) -> Sheet:
        """Return the test sheet of a circuit."""
        studied = self._judged(seated)[0]
        return self._of(
            ("sheet", seated.source, seated.read, readings, on),
            len(seated.design.points) + 2,
            lambda: sheet_of(studied, readings, on.peers_mohm, on.ambient_c, on.house),
        )

    def lengths(self, seated: Seated, readings: tuple[Reading, ...], ambient_c: float) -> FoundLengths:
        """Return what the readings of a circuit say of its lengths."""
        studied = self._judged(seated)[0]
        return lengths_from_readings(Taken(studied.middle, standing(readings), (), ambient_c))

    def diagnosis(self, seated: Seated, readings: tuple[Reading, ...], ambient_c: float) -> Piece[Diagnosis]:
        """Return what the readings of a circuit leave under suspicion; its call raises CannotDiagnoseError."""
        key = ("diagnosis", seated.source, readings, ambient_c)
        found: Diagnosis | None = self._known(key)
        if found is not None:
            return Piece(lambda: found, known=True)
        weight = len(seated.design.points) + 2
        return Piece(
            partial(heavy.diagnosis, seated.head, seated.supply, seated.design, readings, ambient_c),
            lambda made: self._of(key, weight, lambda: made),
        )

    def hook_up(self, seated: Seated, sheet: Sheet) -> HookUp:
        """Return a circuit as a tester is told of it. Raises CannotDiagnoseError."""
        return hook_up(patient_of(self._judged(seated)[0]), sheet)

    def answer(self, seated: Seated, readings: tuple[Reading, ...], on: Conditions) -> CircuitAnswer:
        """Return all answers about one circuit."""
        return CircuitAnswer(
            number=seated.design.number,
            name=seated.design.name,
            result=self.circuit(seated),
            tests=self.sheet(seated, readings, on),
            facts=self._judged(seated)[2],
        )

    def _judged(self, seated: Seated) -> tuple[Studied, CircuitResult, CircuitFacts]:
        def work() -> tuple[Studied, CircuitResult, CircuitFacts]:
            self.worked_out += 1
            studied = study_of(rulebook_of(seated.head), seated.supply, seated.design, read=seated.read)
            return studied, judge_studied(studied), facts_of(studied.longest)

        return self._of(("judged", seated.source, seated.read), len(seated.design.points) + 4, work)

    def _known(self, key: Hashable) -> Any:
        with self._lock:
            if key not in self._kept:
                return None
            self._kept.move_to_end(key)
            return self._kept[key][1]

    def _of(self, key: Hashable, weight: int, work: Callable[[], Found]) -> Found:
        while True:
            known = self._known(key)
            if known is not None:
                return cast("Found", known)
            with self._lock:
                under_way = self._under_way.get(key)
                if under_way is None:
                    self._under_way[key] = mine = Event()
            if under_way is None:
                break
            # Somebody works this very thing out: to do it as well would only take longer for both.
            under_way.wait()
        try:
            found = work()
            self._keep(key, weight, found)
        finally:
            with self._lock:
                del self._under_way[key]
            mine.set()
        return found

    def _keep(self, key: Hashable, weight: int, found: object) -> None:
        with self._lock:
            if key in self._kept:
                return
            self._kept[key] = (weight, found)
            self._held += weight
            while self._held > self._most and len(self._kept) > 1:
                _, (freed, _) = self._kept.popitem(last=False)
                self._held -= freed
