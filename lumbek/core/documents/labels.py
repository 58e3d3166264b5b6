"""What is written at the boards, as a paper: labels in true size, circuit chart, notices, a note to who lives there."""

from collections.abc import Iterator

from lumbek.core.board.labels import MODULE_MM, BoardSheet, sheet_of_board
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Block, Column, LabelStrip, NoticeSheet, Paper, Row, Section, Table, Words

# So many labels lie side by side on a page.
IN_A_STRIP = 14

_CHART = (
    Column(key="place", heading="Way", align="centre", strong=True),
    Column(key="numbers", heading="Circuit", align="centre", strong=True),
    Column(key="feeds", heading="Feeds"),
    Column(key="device", heading="Device"),
    Column(key="rcd", heading="RCD"),
    Column(key="neutral", heading="Neutral"),
)
_LINE = Column(key="line", heading="Line")


def labels_paper(gathered: Gathered) -> Paper:
    """Return what is written at the boards of a job."""
    sheets = [sheet_of_board(gathered.house, board) for board in gathered.house.boards]
    return Paper(
        kind="labels",
        title="Labels, circuit charts and notices",
        job=gathered.job.name,
        upright=False,
        sections=tuple(section for sheet in sheets for section in _sections(sheet)),
        statements=(f"Print at 100 %: a label is {MODULE_MM} mm wide.",),
    )


def _sections(sheet: BoardSheet) -> Iterator[Section]:
    where = f"{sheet.place}. " if sheet.place else ""
    strips: list[Block] = [
        LabelStrip(module_mm=MODULE_MM, labels=sheet.labels[start : start + IN_A_STRIP])
        for start in range(0, len(sheet.labels), IN_A_STRIP)
    ]
    fed = Words(lines=(f"{where}Fed from {sheet.fed_from}.",))
    columns = (*_CHART, _LINE) if sheet.labels and sheet.labels[0].line else _CHART
    rows = tuple(Row(cells={each.key: str(getattr(label, each.key)) for each in columns}) for label in sheet.labels)
    yield Section(title=sheet.board, blocks=(fed, *strips), new_page=True)
    yield Section(title="Circuit chart", blocks=(Table(columns=columns, rows=rows),))
    yield Section(title="Notices", blocks=(NoticeSheet(notices=sheet.notices),))
    yield Section(title="For who lives here", blocks=(Words(lines=sheet.note, kind="note"),))
