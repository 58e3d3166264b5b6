"""What the use cases answer with; the API hands these out as they are."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from lumbek.core.board.judge import HouseResult
from lumbek.core.inspection.whole import InspectionWhole
from lumbek.core.items.quote import Quote
from lumbek.core.items.take_off import TakeOff
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.found import FoundKept
from lumbek.core.model.inspection import SignedRole
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.model.places import Places, Storey
from lumbek.core.model.routes import RouteRules
from lumbek.core.model.scheme import Route
from lumbek.core.model.supply import Supply
from lumbek.core.model.text import Id
from lumbek.core.model.visit import Visit
from lumbek.core.plan.answer import PlanAnswer
from lumbek.core.routes.answer import RoutesAnswer
from lumbek.core.survey.judgement import Survey
from lumbek.core.switching.faces import Face
from lumbek.core.switching.prove import Proof
from lumbek.core.switching.unknown import ContinuityTest, LooseEnd
from lumbek.core.testing.sheet import Sheet
from lumbek.core.value import Frozen
from lumbek.core.work.answer import WorkAnswer


class SignView(Frozen):
    """A signature: whose, for what, and whether it covers the job as it stands."""

    role: SignedRole
    by: str
    at: str
    stands: bool


class InspectionView(Frozen):
    """An inspection as it stands."""

    job_id: UUID
    whole: InspectionWhole
    signed: tuple[SignView, ...]


class DueLine(Frozen):
    """A job whose next inspection falls due on a day."""

    job_id: UUID
    name: str
    client: str
    address: str
    day: str
    why: str
    overdue: bool


class JobLine(Frozen):
    """A job in the list."""

    id: UUID
    name: str
    client: str
    address: str
    rulebook: RulebookId
    circuits: int
    changed_by: str
    changed_at: datetime


class CircuitLine(Frozen):
    """A circuit in its job: what it is, and how it stands."""

    id: UUID
    number: int
    name: str
    kind: str
    shape: str
    device: str
    verdict: Verdict
    worst: str
    taken: int
    total: int
    tests: Verdict
    cautions: int


class Gist(Frozen):
    """Where a job stands, and what is next: in words, with the stage to go to, and the circuit where it is one."""

    verdict: Verdict
    next: str
    stage: str
    circuit_id: UUID | None = None


class JobView(Frozen):
    """A job, open: head, supply, what the survey decides, its circuits, and what is next."""

    id: UUID
    version: int
    head: JobHead
    supply: Supply
    survey: Survey
    circuits: tuple[CircuitLine, ...]
    gist: Gist
    changed_by: str
    changed_at: datetime
    can_undo: bool
    can_redo: bool


class Issued(Frozen):
    """A document as it was issued; `stands` is whether the job still is as it was then."""

    id: UUID
    kind: str
    title: str
    number: int
    firm_number: int
    code: str
    by: str
    at: datetime
    sha256: str
    stands: bool
    # The number of the paper that stands instead.
    corrected_by: int | None = None


class BoardsView(Frozen):
    """The boards of a job, every circuit in a way, with everything there is to say of what its circuits share."""

    job_id: UUID
    version: int
    boards: tuple[Board, ...]
    result: HouseResult
    changed_by: str
    changed_at: datetime
    can_undo: bool
    can_redo: bool


class RoomLine(Frozen):
    """A room, and how many things are in it."""

    id: Id
    name: str
    storey: Id | None
    holds: int


class PlanPoint(Frozen):
    """A point of a circuit that may sit at a mark: in which circuit, what it is called, in which room."""

    circuit: str
    number: int
    point: str
    title: str
    room: Id | None


class PlanView(Frozen):
    """The plan of a job: its rooms and marks as they are kept, and all there is to say of them."""

    job_id: UUID
    version: int
    places: Places
    answer: PlanAnswer
    points: tuple[PlanPoint, ...]
    changed_by: str
    changed_at: datetime
    can_undo: bool
    can_redo: bool


class RoutesView(Frozen):
    """The ways of a job's cables, on which version of its plan, and what is said of them."""

    version: int
    ways: RouteRules
    answer: RoutesAnswer


class QuoteView(Frozen):
    """What a job takes, its quote, and the terms of that: how often they were put down is their version."""

    version: int
    take_off: TakeOff
    quote: Quote
    terms: QuoteTerms


class WorkView(Frozen):
    """The work of a job on a version of its plan."""

    version: int
    work: WorkAnswer


class PlacesView(Frozen):
    """The storeys and rooms of a job."""

    job_id: UUID
    version: int
    storeys: tuple[Storey, ...]
    rooms: tuple[RoomLine, ...]
    changed_by: str
    changed_at: datetime
    can_undo: bool
    can_redo: bool


class CircuitView(Frozen):
    """A circuit, open, with everything there is to say of its design."""

    id: UUID
    job_id: UUID
    version: int
    design: Circuit
    result: CircuitResult
    changed_by: str
    changed_at: datetime
    can_undo: bool
    can_redo: bool
    focus: str = ""
    # What its own electrode was read at on its test sheet, Ω, where it stands on one: the design has what counts.
    electrode_read_ohm: float | None = None


class SwitchingLine(Frozen):
    """A circuit with something to switch, and how it stands."""

    id: UUID
    number: int
    name: str
    verdict: Verdict
    worst: str
    switches: int
    lamps: int


class SwitchingView(Frozen):
    """The boxes of a circuit and of those wired into it, and the proof over all states."""

    circuit: CircuitView
    others: tuple[int, ...]
    faces: tuple[Face, ...]
    proof: Proof
    # Where cable may run, as it is taken for a plan.
    routes: tuple[Route, ...]
    loose: tuple[LooseEnd, ...]
    next_test: ContinuityTest | None


class AttachmentLine(Frozen):
    """A photo or a paper with what it shows; `circuit` is the key of the circuit that is part of."""

    id: UUID
    shows: str
    of: str
    circuit: str | None
    note: str
    kind: str
    by: str
    taken_at: datetime


class WiringRecordView(Frozen):
    """How a circuit was connected at a moment."""

    id: UUID
    taken_at: datetime
    by: str
    note: str


class Preview(Frozen):
    """A circuit as it would be after some commands, and what would be said of it; nothing is kept."""

    design: Circuit
    result: CircuitResult


class LibraryLine(Frozen):
    """One of the firm's usual circuits."""

    id: UUID
    name: str
    design: Circuit
    by: str


class InstallationView(Frozen):
    """The test sheet of an installation as a whole, its visits, and instruments whose calibration had run out."""

    job_id: UUID
    sheet: Sheet
    visits: tuple[Visit, ...]
    found: tuple[FoundKept, ...]
    expired: tuple[str, ...]


class SheetView(Frozen):
    """A circuit's test sheet."""

    circuit_id: UUID
    job_id: UUID
    number: int
    name: str
    ambient_c: float
    sheet: Sheet
    design: Verdict


class NotificationLine(Frozen):
    """Work that was handed in to the office: it waits, was received, or was refused for a reason."""

    id: UUID
    by: str
    at: datetime
    state: Literal["waits", "received", "refused"]
    receipt: str = ""
    said: str = ""
    answered_at: datetime | None = None


class NotifyingView(Frozen):
    """What was handed in of a job, what is missing to hand it in, and whether an office is named here at all."""

    office: bool
    missing: tuple[str, ...]
    lines: tuple[NotificationLine, ...]
