"""Work that takes a while, as something to be done elsewhere: PDFs, proposals, fault finding, large files.

A service returns a `Piece`: what is to be done, as a call that can be sent to another process, and what is made of its
answer here. Who asks for it decides where it is done (`lumbek/api/pool.py`).
"""

from collections.abc import Callable
from dataclasses import dataclass
from time import process_time
from typing import Generic, TypeVar

from lumbek.core.board.house import House
from lumbek.core.board.propose import BoardProposals, Order, propose_boards
from lumbek.core.board.with_circuit import house_fails_with
from lumbek.core.choosing.propose import Proposals, propose
from lumbek.core.diagnosis.answer import Diagnosis, diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import patient_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.items.compared import DesignCompared, JobToCompare, compare
from lumbek.core.items.prices import PriceList
from lumbek.core.items.quote import quote_of
from lumbek.core.items.take_off import take_off_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.model.places import Places
from lumbek.core.model.reading import Reading, standing
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.supply import Supply
from lumbek.core.routes.answer import RoutedHouse, routes_of
from lumbek.core.routes.breaks import LegBreaks, breaks_of
from lumbek.core.routes.order import RunOrder
from lumbek.core.routes.orders import orders_of
from lumbek.core.routes.pipes_of import PipeLayout, pipes_of
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import Mended
from lumbek.core.switching.plan import SwitchingPlan, plan
from lumbek.core.work.answer import work_of
from lumbek.core.work.site import site_of
from lumbek.services.views import Preview, QuoteView, RoutesView, WorkView

Made = TypeVar("Made")


@dataclass(frozen=True)
class Piece(Generic[Made]):
    """A piece of work. Unless it is known, `call` can be pickled; `then` is run here with what it made."""

    call: Callable[[], Made]
    then: Callable[[Made], Made] | None = None
    # Whether it is hardly any work, such as to hand over what was made before: not worth a process.
    known: bool = False


# Each of these takes what is small to send, and finds its rulebook where it is done.


def proposals(head: JobHead, house: House, key: str, placed: Circuit, read: Read) -> Proposals:
    """Return what may be done with a circuit as it sits in its house."""
    fails = house_fails_with(house, key)
    return propose(house.rulebook, house.supply, placed, head.protection_school, read, fails)


def board_proposals(house: House, order: Order) -> BoardProposals:
    """Return what the boards of a house could be."""
    return propose_boards(house, order)


def diagnosis(
    head: JobHead, supply: Supply, design: Circuit, readings: tuple[Reading, ...], ambient_c: float
) -> Diagnosis:
    """Return what the readings of a circuit leave under suspicion. Raises CannotDiagnoseError."""
    read = Read.of(readings, ambient_c)
    patient = patient_of(study_of(rulebook_of(head), supply, design, read=read), ambient_c)
    return diagnosis_of(open_inquiry(patient, taken_of(patient, standing(readings))))


def preview(head: JobHead, supply: Supply, placed: Circuit, read: Read) -> Preview:
    """Return a circuit as it sits in its house, judged."""
    return Preview(design=placed, result=judge_circuit(rulebook_of(head), supply, placed, read))


def switching_plan(head: JobHead, design: Circuit, scheme: Scheme) -> SwitchingPlan:
    """Return the least way of wiring a scheme into a circuit."""
    return plan(rulebook_of(head), design, scheme)


# Processor time for looking for the least repair, and for comparing usual wirings; at once, for something to show.
_SEARCH_S, _COMPARE_S = 20.0, 10.0
_SEARCH_AT_ONCE_S, _COMPARE_AT_ONCE_S = 0.3, 0.4


def mended(head: JobHead, design: Circuit, at_once: bool = False) -> Mended | None:
    """Return the least re-connections that put a circuit right; `at_once` what is found in a moment."""
    if at_once:
        return mend(rulebook_of(head), design, _for(_SEARCH_AT_ONCE_S), _for(_COMPARE_AT_ONCE_S))
    return mend(rulebook_of(head), design, _for(_SEARCH_S), _for(_COMPARE_S))


def _for(seconds: float) -> Callable[[], bool]:
    """Return a clock of the processor: whether there is time for more, from when it is asked first."""
    began: list[float] = []

    def more() -> bool:
        began[:] = began or [process_time()]
        return process_time() - began[0] < seconds

    return more


def routes(
    version: int, places: Places, boards: tuple[Board, ...], rulebook: RulebookId, designs: list[tuple[str, Circuit]]
) -> RoutesView:
    """Return the way of every leg of some circuits."""
    return RoutesView(version=version, ways=places.ways, answer=routes_of(places, boards, rulebook, designs))


def run_orders(
    places: Places, boards: tuple[Board, ...], rulebook: RulebookId, marks: tuple[str, ...]
) -> tuple[RunOrder, ...]:
    """Return the best orders of a run through marks."""
    return orders_of(RoutedHouse(places, boards, rulebook), marks)


def quote(
    head: JobHead,
    places: Places,
    boards: tuple[Board, ...],
    designs: list[tuple[str, Circuit]],
    prices: PriceList,
    terms: QuoteTerms,
    version: int,
) -> QuoteView:
    """Return what a job takes, and its quote."""
    found = routes_of(places, boards, head.rulebook, designs)
    take_off = take_off_of(places, designs, found, rulebook_of(head))
    return QuoteView(take_off=take_off, quote=quote_of(take_off, prices, terms), terms=terms, version=version)


def designs_compared(head: JobHead, job: JobToCompare, key: str) -> tuple[DesignCompared, ...]:
    """Return the ways of designing a circuit beside each other."""
    return compare(rulebook_of(head), job, key)


def work(
    version: int,
    head: JobHead,
    places: Places,
    boards: tuple[Board, ...],
    designs: list[tuple[str, Circuit]],
    terms: QuoteTerms,
    readings: dict[str, tuple[Reading, ...]],
    records: tuple[InspectionKept, ...],
) -> WorkView:
    """Return the work of a job as it stands."""
    site = site_of(places, boards, rulebook_of(head), designs, terms, readings)
    return WorkView(version=version, work=work_of(site, records))


def slab_pipes(
    places: Places,
    boards: tuple[Board, ...],
    rulebook: RulebookId,
    designs: list[tuple[str, Circuit]],
    marks: tuple[str, ...],
) -> PipeLayout:
    """Return the pipes of a slab, from the first board to marks."""
    return pipes_of(RoutedHouse(places, boards, rulebook), designs, marks)


def leg_breaks(
    places: Places, boards: tuple[Board, ...], rulebook: RulebookId, key: str, design: Circuit, marks: tuple[str, ...]
) -> tuple[LegBreaks, ...]:
    """Return which legs of a circuit to break for new places."""
    return breaks_of(RoutedHouse(places, boards, rulebook), key, design, marks)
