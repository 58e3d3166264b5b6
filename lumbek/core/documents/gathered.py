"""Everything that a paper is made from."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple, TypedDict

from lumbek.core.board.house import House, house_of_job
from lumbek.core.board.judge import HouseResult, judge_house
from lumbek.core.items.prices import PriceList
from lumbek.core.items.take_off import TakeOff, take_off_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.judging.answers import CircuitAnswer, answer_circuits
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.places.named import named
from lumbek.core.routes.answer import RoutesAnswer, routes_of
from lumbek.core.rulebooks import Rulebook
from lumbek.core.survey.judgement import Survey, judge_supply
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.testing.sheet import Sheet
from lumbek.core.work.answer import WorkAnswer, work_of
from lumbek.core.work.site import WorkSite, site_of


class PaperHead(TypedDict):
    """What stands at the head of a paper of a job, as fields of it."""

    job: str
    client: str
    address: str
    rulebook: str
    advice: str


class FindingPhoto(NamedTuple):
    """A photograph of a finding: by whom, and on which day."""

    id: str
    finding: str
    by: str
    on: str


@dataclass(frozen=True)
class Gathered:
    """A job with its house and how to come by the answers to its circuits; the circuit that a paper is of, if one."""

    job: Job
    house: House
    answer: Callable[[], Sequence[CircuitAnswer]]
    of: JobCircuit | None = None
    # What a signature has to cover to stand; None where nobody can tell, outside of where the job is kept.
    covers: str | None = None
    # The firm's prices and the terms of its quote; none outside of where they are kept.
    prices: PriceList = field(default_factory=PriceList)
    terms: QuoteTerms = field(default_factory=QuoteTerms)
    # Photographs of its findings, the oldest first; none outside of where they are kept.
    photos: tuple[FindingPhoto, ...] = ()

    @cached_property
    def answers(self) -> tuple[CircuitAnswer, ...]:
        """The answers, worked out where a paper asks for them."""
        return tuple(self.answer())

    @cached_property
    def survey(self) -> Survey:
        """The supply, judged."""
        return judge_supply(self.rulebook, self.house.supply, self.job.extent)

    @cached_property
    def shared(self) -> HouseResult:
        """What the circuits share, judged."""
        return judge_house(self.house)

    @cached_property
    def sheet(self) -> Sheet:
        """The tests of the installation as a whole."""
        return installation_sheet(self.rulebook, self.house.supply, self.job.readings, self.house, self.job.extent)

    @cached_property
    def routes(self) -> RoutesAnswer:
        """The ways of all legs, by its plan."""
        return routes_of(self.job.places, self.job.boards, self.job.rulebook, self._designs)

    @cached_property
    def take_off(self) -> TakeOff:
        """What the job takes."""
        return take_off_of(self.job.places, self._designs, self.routes, self.rulebook)

    @cached_property
    def work(self) -> WorkAnswer:
        """The work of the job as it stands."""
        return work_of(self.site, self.job.inspection)

    @cached_property
    def site(self) -> WorkSite:
        """The job as its work is planned from it."""
        job, readings = self.job, {circuit.key: circuit.readings for circuit in self.job.circuits}
        return site_of(job.places, job.boards, self.rulebook, self._designs, self.terms, readings)

    @property
    def _designs(self) -> list[tuple[str, Circuit]]:
        return [(circuit.key, circuit.design) for circuit in self.job.circuits]

    @property
    def head(self) -> PaperHead:
        """The head of its papers."""
        book = self.rulebook.data
        job = self.job
        return PaperHead(job=job.name, client=job.client, address=job.address, rulebook=book.title, advice=book.advice)

    @property
    def rulebook(self) -> Rulebook:
        """The rulebook that the job is judged by."""
        return self.house.rulebook

    @property
    def circuit(self) -> Circuit:
        """The circuit that a paper is of, as it sits in its house."""
        assert self.of is not None, "only asked of what is a circuit's paper"
        return self.house.effective(self.of)


def with_rooms(job: Job) -> Job:
    """Return a job whose points say what their rooms are called, as papers say it."""
    name_of = job.places.name_of
    circuits = tuple(each.model_copy(update={"design": named(each.design, name_of)}) for each in job.circuits)
    return job.model_copy(update={"circuits": circuits})


def gather(job: Job, key: str | None = None) -> Gathered:
    """Return a job as its papers are made from it, or one of its circuits."""
    job = with_rooms(job)
    house = house_of_job(job)
    of = next((each for each in job.circuits if each.key == key), None) if key else None
    return Gathered(job, house, lambda: tuple(answer_circuits(job, house=house)), of)
