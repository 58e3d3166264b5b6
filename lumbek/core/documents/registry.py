"""Every kind of paper there is: who makes it, of what, in which forms, for whom, and whether it is issued."""

from collections.abc import Callable
from typing import Literal

from lumbek.core.documents.calculation import calculation_paper
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.labels import labels_paper
from lumbek.core.documents.make_off import make_off_paper
from lumbek.core.documents.paper import Paper
from lumbek.core.documents.results import results_paper
from lumbek.core.documents.schedule import schedule_paper
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


_MAKERS: dict[PaperKind, Callable[[Gathered], Paper]] = {
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


def make_paper(kind: PaperKind, gathered: Gathered) -> Paper:
    """Return a paper of what was gathered."""
    return _MAKERS[kind](gathered)
