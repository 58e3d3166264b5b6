"""One shape for every paper: a head, sections of blocks, statements, signatures, and what is missing.

A paper is data: what sets it as a page or writes it as a table knows none of them by name.
"""

from typing import Annotated, Literal

from pydantic import Field, computed_field

from lumbek.core.board.labels import Notice, WayLabel
from lumbek.core.judging.check import Check
from lumbek.core.routes.hidden import HiddenWall
from lumbek.core.switching.make_off import TerminalLine
from lumbek.core.value import Frozen

BLANK = "–"


class Fact(Frozen):
    """A name and what stands for it."""

    name: str
    value: str


class Facts(Frozen):
    """What is known at a glance, side by side."""

    block: Literal["facts"] = "facts"
    facts: tuple[Fact, ...]


class Column(Frozen):
    """A column: its key, its heading, the group it stands under.

    `only` where it is not for every form, `whole` where its cells are kept on one line.
    """

    key: str
    heading: str
    group: str = ""
    align: Literal["left", "right", "centre"] = "left"
    strong: bool = False
    whole: bool = False
    only: Literal["", "csv"] = ""


class Row(Frozen):
    """One line, each cell as it is printed by its column's key; which of them are bad; `struck` where it is past."""

    cells: dict[str, str]
    bad: tuple[str, ...] = ()
    struck: bool = False


class Table(Frozen):
    """Columns and rows; `dense` where many columns have to go on a page."""

    block: Literal["table"] = "table"
    columns: tuple[Column, ...]
    rows: tuple[Row, ...]
    dense: bool = False


class Words(Frozen):
    """Lines of text: plain, a list, what is to be minded, or a note to be hung up."""

    block: Literal["words"] = "words"
    lines: tuple[str, ...]
    kind: Literal["plain", "list", "strong", "warning", "note"] = "plain"


class Workings(Frozen):
    """Checks with their workings, to be followed by hand."""

    block: Literal["workings"] = "workings"
    checks: tuple[Check, ...]


class LabelStrip(Frozen):
    """Labels of the ways of a board, in true size."""

    block: Literal["labels"] = "labels"
    module_mm: int
    labels: tuple[WayLabel, ...]


class NoticeSheet(Frozen):
    """Notices to be cut out and stuck."""

    block: Literal["notices"] = "notices"
    notices: tuple[Notice, ...]


class Terminals(Frozen):
    """The terminals of a box, to be ticked off."""

    block: Literal["terminals"] = "terminals"
    terminals: tuple[TerminalLine, ...]


class WallDrawing(Frozen):
    """A wall as one faces it, with what lies in it."""

    block: Literal["wall"] = "wall"
    wall: HiddenWall


class Photo(Frozen):
    """A photograph by its id, with what it shows, by whom and when."""

    id: str
    caption: str
    taken: str


class Photos(Frozen):
    """Photographs, each above its caption."""

    block: Literal["photos"] = "photos"
    photos: tuple[Photo, ...]


Block = Annotated[
    Facts | Table | Words | Workings | LabelStrip | NoticeSheet | Terminals | WallDrawing | Photos,
    Field(discriminator="block"),
]


class Section(Frozen):
    """A part of a paper; `framed` where it is to be kept together, `new_page` where it begins one."""

    title: str = ""
    blocks: tuple[Block, ...]
    framed: bool = False
    new_page: bool = False
    # Set across the page, where the rest of the paper stands upright: wide tables.
    across: bool = False


class Signature(Frozen):
    """A place to sign; signed where it says by whom, and on which day."""

    role: str
    by: str = ""
    on: str = ""


class Want(Frozen):
    """What a paper still wants, and where in the job that is said: the stage, and what to look for there."""

    words: str
    at: str = ""


class Paper(Frozen):
    """A paper. A draft says why it cannot be issued: `missing`."""

    kind: str
    title: str
    # What it is of where it is not a whole job: a circuit.
    of: str = ""
    job: str = ""
    client: str = ""
    address: str = ""
    rulebook: str = ""
    advice: str = ""
    upright: bool = True
    sections: tuple[Section, ...]
    # What it says where it is no draft, and never else.
    claim: str = ""
    statements: tuple[str, ...] = ()
    signatures: tuple[Signature, ...] = ()
    missing: tuple[str, ...] = ()
    # Where what is missing is said, of that which has a place.
    wants: tuple[Want, ...] = ()

    @computed_field  # type: ignore[prop-decorator]
    @property
    def draft(self) -> bool:
        """Whether it may not be issued."""
        return bool(self.missing)

    @property
    def tables(self) -> tuple[Table, ...]:
        """All its tables, in order."""
        return tuple(each for section in self.sections for each in section.blocks if isinstance(each, Table))

    def held_back(self, reason: str) -> "Paper":
        """Return it as a draft, for one reason more."""
        return self.model_copy(update={"missing": (reason, *self.missing)})


COMPETENT = "For competent persons; local rules and notification duties come first."
PREDICTED = "Predicted values are not shown here and never replace a test."
