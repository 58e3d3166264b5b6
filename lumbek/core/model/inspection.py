"""What an inspection says: findings, items looked at, what was opened, tasks, signatures. Records, only ever added.

A record says the whole of what it is about, as it stands from then on; what was said before stays beside it.
"""

from decimal import ROUND_HALF_UP, Decimal
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.judging.check import Code
from lumbek.core.model.reading import Stamp
from lumbek.core.model.site import StepSaid, Used, Worked
from lumbek.core.model.text import GivenName, Id, Name, Note
from lumbek.core.model.visit import Day
from lumbek.core.value import Frozen

SpotKind = Literal["supply", "board", "way", "circuit", "point", "leg", "room", "job"]
# What it is about may be named by ids that the model made of several: `board:B1`, `C3:P2`.
RecordKey = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9+/:_. -]{0,199}$")]
GivenNote = Annotated[Note, Field(min_length=1)]
# Money is in decimals, never floats.
Price = Annotated[Decimal, Field(ge=0, le=1_000_000, allow_inf_nan=False)]


class FindingSpot(Frozen):
    """Where something was found: a part of the model by its id, or free words. A point or leg names its circuit."""

    of: SpotKind = "job"
    id: Annotated[str, Field(max_length=80)] = ""
    circuit: Id | None = None
    words: Name = ""


class TurnsOn(Frozen):
    """An answer to a question that a code turns on."""

    id: Id
    answer: Literal["yes", "no"]


class DangerDealt(Frozen):
    """What was done at once about a danger: made safe how, locked, who was told, and whether they refused."""

    made_safe: Note = ""
    lock: Name = ""
    told: Name = ""
    told_at: Stamp | None = None
    refused: bool = False
    distributor: Name = ""

    @property
    def answered(self) -> bool:
        """Whether it has been dealt with: made safe or refused, and somebody was told when."""
        return bool((self.made_safe or self.refused) and self.told and self.told_at)


FindingStatus = Literal["open", "made-safe", "done", "refused", "outside"]


class FindingSaid(Frozen):
    """A finding as it stands from now on. Said again under the same id, it corrects what was said before."""

    record: Literal["finding"] = "finding"
    finding: Id
    # What sort of thing it is: what its code turns on is asked by that.
    kind: Id = "other"
    spot: FindingSpot = FindingSpot()
    seen: GivenNote
    clause: Name = ""
    # What a person decided; nothing while nobody has. What was suggested then, and why it was departed from.
    code: Code = ""
    suggested: Code = ""
    why: Note = ""
    departs: Note = ""
    answers: Annotated[tuple[TurnsOn, ...], Field(max_length=12)] = ()
    since: Name = ""
    status: FindingStatus = "open"
    danger: DangerDealt | None = None
    # What it was offered by; empty where a person found it.
    offer: RecordKey | None = None

    @model_validator(mode="after")
    def _says_why_it_departs(self) -> Self:
        if self.code and self.suggested and self.code != self.suggested and not self.departs:
            raise ValueError(f"departs: {self.suggested} was suggested; say why it is {self.code}")
        return self

    @property
    def is_danger(self) -> bool:
        """Whether it cannot wait: C1, and not dealt with."""
        return self.code == "C1" and self.status in ("open", "made-safe", "refused") and not self._dealt

    @property
    def _dealt(self) -> bool:
        return self.danger is not None and self.danger.answered


class OfferDismissed(Frozen):
    """What was offered, and is no finding, with a word on why."""

    record: Literal["dismissed"] = "dismissed"
    offer: RecordKey
    why: GivenNote


ItemOutcome = Literal["sound", "finding", "not-verified", "limited", "not-applicable"]


class ItemLine(Frozen):
    """One item of a place: what came of looking at it; why, where it was not looked at."""

    item: Id
    outcome: ItemOutcome
    why: Note = ""

    @model_validator(mode="after")
    def _says_why(self) -> Self:
        if self.outcome in ("not-verified", "limited") and not self.why:
            raise ValueError(f"why: say why {self.item} was not looked at")
        return self


class ItemsSaid(Frozen):
    """Items of one place as somebody looked at them."""

    record: Literal["items"] = "items"
    # The area, with the board or room it is: `board:B1`.
    area: RecordKey
    lines: Annotated[tuple[ItemLine, ...], Field(min_length=1, max_length=60)]


class Opened(Frozen):
    """An accessory that was opened or read for the sample, and whether it was sound."""

    record: Literal["opened"] = "opened"
    circuit: Id
    point: Id
    sound: bool
    note: Note = ""


class Limitation(Frozen):
    """What was not looked at: agreed, with whom and why, or met on site."""

    what: GivenNote
    why: Note = ""
    agreed_with: Name = ""


class SameAddress(Frozen):
    """An earlier paper of the installation."""

    what: GivenName
    number: Name = ""
    day: Day | None = None


class Particulars(Frozen):
    """What papers ask that no drawing holds. A field of None leaves what was said before; an empty one clears it."""

    record: Literal["particulars"] = "particulars"
    # Why the inspection was asked for; who lives there; how old, by what; what was altered; what papers there are.
    reason: Note | None = None
    occupier: Name | None = None
    is_let: bool | None = None
    age: Note | None = None
    alterations: Note | None = None
    last_papers: Annotated[tuple[SameAddress, ...], Field(max_length=20)] | None = None
    # What was covered, what share of it was looked at and tested, and what was not.
    covers: Note | None = None
    share_percent: Annotated[float, Field(gt=0, le=100)] | None = None
    limitations: Annotated[tuple[Limitation, ...], Field(max_length=60)] | None = None
    # The customer's own earlier changes; what could not be isolated, and what had to stay on.
    customers_changes: Note | None = None
    not_isolated: Note | None = None
    kept_on: Note | None = None
    summary: Note | None = None
    # Of work done: what, when finished, departures from the rules with who accepts them, comments on what exists.
    work: Note | None = None
    finished: Day | None = None
    departures: Note | None = None
    departures_accepted_by: Name | None = None
    comments: Note | None = None
    # Of the earthing: the electrode, and of what the conductors are.
    electrode: Note | None = None
    earthing_material: Name | None = None
    bonding_material: Name | None = None
    next_day: Day | None = None
    next_why: Note | None = None

    def over(self, earlier: "Particulars") -> "Particulars":
        """Return what stands when this is said after something earlier."""
        said = {name: value for name in Particulars.model_fields if (value := getattr(self, name)) is not None}
        return earlier.model_copy(update=said)


class TaskPart(Frozen):
    """A material or a piece of work with its price, each."""

    what: GivenName
    count: Annotated[float, Field(gt=0, le=10_000)] = 1
    price: Price = Decimal(0)


class PutRight(Frozen):
    """How it is shown that something was put right: before and after, the old part and the new one, where it was."""

    before: Note = ""
    after: Note = ""
    old_part: Name = ""
    new_part: Name = ""


class Touched(Frozen):
    """What a task touched: a circuit, or one point of it."""

    circuit: Id
    point: Id | None = None


TaskStatus = Literal["proposed", "agreed", "refused", "done"]


class TaskSaid(Frozen):
    """What is done about findings, as it stands from now on."""

    record: Literal["task"] = "task"
    task: Id
    findings: Annotated[tuple[Id, ...], Field(min_length=1, max_length=60)]
    what: GivenNote
    parts: Annotated[tuple[TaskPart, ...], Field(max_length=60)] = ()
    status: TaskStatus = "proposed"
    agreed_by: Name = ""
    day: Day | None = None
    by: Name = ""
    touched: Annotated[tuple[Touched, ...], Field(max_length=60)] = ()
    proof: PutRight | None = None

    @model_validator(mode="after")
    def _is_proved(self) -> Self:
        if self.status == "done" and (self.proof is None or not self.proof.after):
            raise ValueError("proof: what is done says what was read or seen after it")
        if self.status == "agreed" and not self.agreed_by:
            raise ValueError("agreed_by: say who agreed")
        return self

    @property
    def price(self) -> Decimal:
        """What it costs, all parts together, each line to the penny, halves up."""
        lines = (Decimal(str(part.count)) * part.price for part in self.parts)
        return sum((line.quantize(Decimal("0.01"), ROUND_HALF_UP) for line in lines), Decimal("0.00"))


SignedRole = Literal["designer", "constructor", "inspector", "authoriser"]


class Signed(Frozen):
    """Somebody answers for a part of the work, as the job stood: `covers` is a hash of that."""

    record: Literal["signed"] = "signed"
    role: SignedRole
    covers: Annotated[str, Field(pattern=r"^([0-9a-f]{64})?$")] = ""


class LastReading(Frozen):
    """A reading of another paper: of a circuit by its number, or of the installation."""

    circuit: Annotated[int, Field(ge=1, le=9999)] | None = None
    place: Name = ""
    quantity: Name
    value: Annotated[float, Field(ge=0, le=100_000)]
    beyond: bool = False
    day: Day | None = None
    by: Name = ""


class LastTime(Frozen):
    """The readings of an earlier paper, typed in or taken in."""

    record: Literal["last"] = "last"
    paper: SameAddress
    readings: Annotated[tuple[LastReading, ...], Field(max_length=2000)]


class NotifyAnswers(Frozen):
    """What decides whether work is notifiable, as it was answered."""

    record: Literal["notify"] = "notify"
    answers: Annotated[tuple[TurnsOn, ...], Field(max_length=12)] = ()


InspectionRecord = Annotated[
    FindingSaid
    | OfferDismissed
    | ItemsSaid
    | Opened
    | Particulars
    | TaskSaid
    | Signed
    | LastTime
    | NotifyAnswers
    | StepSaid
    | Worked
    | Used,
    Field(discriminator="record"),
]


class InspectionMade(Frozen):
    """A record with when it was made, by the clock of the device, where that was not when it came in."""

    said: InspectionRecord
    said_at: Stamp | None = None


class InspectionKept(InspectionMade):
    """A record as it is kept: who said it, and when."""

    id: Id
    by: Name
    at: Stamp

    @property
    def when(self) -> Stamp:
        """When it was said."""
        return self.said_at or self.at
