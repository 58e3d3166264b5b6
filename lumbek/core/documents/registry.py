"""Every kind of paper there is: who makes it, of what, in which forms, for whom, and whether it is issued."""

from collections.abc import Callable
from typing import Literal

from lumbek.core.documents.calculation import calculation_paper
from lumbek.core.documents.certificate import certificate_paper
from lumbek.core.documents.condition import condition_paper
from lumbek.core.documents.danger import danger_paper
from lumbek.core.documents.fix_sheets import first_fix_paper, second_fix_paper
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.hidden_sheet import hidden_paper
from lumbek.core.documents.householder import householder_paper
from lumbek.core.documents.isolation import isolation_paper
from lumbek.core.documents.labels import labels_paper
from lumbek.core.documents.make_off import make_off_paper
from lumbek.core.documents.minor_works import minor_works_paper
from lumbek.core.documents.paper import Paper
from lumbek.core.documents.quote_sheet import quote_paper
from lumbek.core.documents.remedials import remedials_paper
from lumbek.core.documents.results import results_paper
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.documents.set_out_sheet import set_out_paper
from lumbek.core.documents.take_off_sheet import take_off_paper
from lumbek.core.documents.verification import verification_paper
from lumbek.core.model.job import RulebookId
from lumbek.core.value import Frozen

Form = Literal["pdf", "csv"]


class PaperKind(Frozen):
    """A kind of paper. `issued`: it says that something complies, and is handed over by a deed of its own only.

    `every_reading`: it shows those too that a later one stands for.
    """

    id: str
    title: str
    of: Literal["job", "circuit"]
    forms: tuple[Form, ...]
    reader: str
    issued: bool = False
    every_reading: bool = False
    # Made with the firm's prices and the terms of the job's quote.
    priced: bool = False
    # Handed over at once by whoever makes it, and never marked a draft: it claims nothing.
    at_once: bool = False
    # By which rulebooks it is made; by all where none is named.
    rulebooks: tuple[RulebookId, ...] = ()


_MAKERS: dict[PaperKind, Callable[[Gathered], Paper]] = {
    PaperKind(
        id="condition",
        title="Condition report",
        of="job",
        forms=("pdf", "csv"),
        reader="who owns the installation, and its next inspector",
        issued=True,
        rulebooks=("bs7671",),
    ): condition_paper,
    PaperKind(
        id="certificate",
        title="Installation certificate",
        of="job",
        forms=("pdf", "csv"),
        reader="who takes new work over",
        issued=True,
        rulebooks=("bs7671",),
    ): certificate_paper,
    PaperKind(
        id="minor-works",
        title="Minor works",
        of="job",
        forms=("pdf", "csv"),
        reader="who takes a change over",
        issued=True,
        rulebooks=("bs7671",),
    ): minor_works_paper,
    PaperKind(
        id="verification",
        title="Report of verification",
        of="job",
        forms=("pdf", "csv"),
        reader="who takes the installation over, and its next inspector",
        issued=True,
        rulebooks=("iec60364",),
    ): verification_paper,
    PaperKind(
        id="remedials",
        title="Completion of remedials",
        of="job",
        forms=("pdf", "csv"),
        reader="who has the report that found them",
        issued=True,
    ): remedials_paper,
    PaperKind(
        id="danger",
        title="Notice of danger",
        of="job",
        forms=("pdf",),
        reader="who lives there, who owns it: at once",
        at_once=True,
    ): danger_paper,
    PaperKind(
        id="isolation",
        title="Isolation record",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever works on what is dead",
        at_once=True,
        every_reading=True,
    ): isolation_paper,
    PaperKind(
        id="householder",
        title="For who lives here",
        of="job",
        forms=("pdf",),
        reader="who lives there",
        at_once=True,
    ): householder_paper,
    PaperKind(
        id="schedule",
        title="Schedule",
        of="job",
        forms=("pdf", "csv"),
        reader="who takes the installation over, and its next inspector",
        issued=True,
    ): schedule_paper,
    PaperKind(
        id="results",
        title="Test results",
        of="job",
        forms=("pdf", "csv"),
        reader="the supervisor, and whoever tests next",
        every_reading=True,
    ): results_paper,
    PaperKind(
        id="labels",
        title="Labels, charts, notices",
        of="job",
        forms=("pdf",),
        reader="the boards, and who lives there",
    ): labels_paper,
    PaperKind(
        id="set-out",
        title="Set-out sheet",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever marks out the rooms",
        at_once=True,
    ): set_out_paper,
    PaperKind(
        id="take-off",
        title="Take-off",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever buys, and loads the van",
        at_once=True,
    ): take_off_paper,
    PaperKind(
        id="first-fix",
        title="First fix",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever cuts, drills and pulls",
        at_once=True,
    ): first_fix_paper,
    PaperKind(
        id="second-fix",
        title="Second fix",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever fits what is seen",
        at_once=True,
    ): second_fix_paper,
    PaperKind(
        id="hidden",
        title="What lies in walls and floors",
        of="job",
        forms=("pdf", "csv"),
        reader="whoever drills there later",
        at_once=True,
    ): hidden_paper,
    PaperKind(
        id="quote",
        title="Quote",
        of="job",
        forms=("pdf",),
        reader="the customer",
        at_once=True,
        priced=True,
    ): quote_paper,
    PaperKind(
        id="calculation",
        title="Calculation sheet",
        of="circuit",
        forms=("pdf",),
        reader="whoever checks the design by hand",
    ): calculation_paper,
    PaperKind(
        id="make-off",
        title="Make-off sheet",
        of="circuit",
        forms=("pdf",),
        reader="who connects the boxes",
    ): make_off_paper,
}

KINDS = tuple(_MAKERS)


def kind_of(kind_id: str) -> PaperKind | None:
    """Return a kind of paper by its id."""
    return next((each for each in KINDS if each.id == kind_id), None)


def kinds_of_job(rulebook: RulebookId) -> list[PaperKind]:
    """Return the papers of a whole job that are made by a rulebook."""
    return [each for each in KINDS if each.of == "job" and each.rulebooks in ((), (rulebook,))]


def make_paper(kind: PaperKind, gathered: Gathered) -> Paper:
    """Return a paper of what was gathered."""
    return _MAKERS[kind](gathered)
