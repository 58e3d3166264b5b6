"""What is written at the boards, as a paper: labels in true size, circuit chart, notices, a note to who lives there."""

from collections.abc import Iterator

from lumbek.core.board.labels import MODULE_MM, NEXT_BLANK, BoardSheet, Notice, sheet_of_board
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Block, Column, LabelStrip, NoticeSheet, Paper, Row, Section, Table, Words
from lumbek.core.inspection.standing import standing_of
from lumbek.core.judging.check import Verdict

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
    more, next_day = tuple(_of_checks(gathered)), standing_of(gathered.job.inspection).particulars.next_day
    sheets = [
        sheet.model_copy(update={"notices": tuple(_dated(each, next_day) for each in (*sheet.notices, *more))})
        for sheet in sheets
    ]
    return Paper(
        kind="labels",
        title="Labels, circuit charts and notices",
        job=gathered.job.name,
        upright=False,
        sections=tuple(section for sheet in sheets for section in _sections(sheet)),
        statements=(f"Print at 100 %: a label is {MODULE_MM} mm wide.",),
    )


def _dated(notice: Notice, next_day: str | None) -> Notice:
    """Return a notice with the day of the next inspection, where somebody has said it."""
    return notice.model_copy(update={"text": notice.text.replace(NEXT_BLANK, next_day)}) if next_day else notice


def _of_checks(gathered: Gathered) -> Iterator[Notice]:
    """Yield the notices that checks name: circuits without a cpc, heating in a floor."""
    for circuit, answer in zip(gathered.job.circuits, gathered.answers, strict=True):
        name = f"circuit {answer.number}, {answer.name}"
        if any(check.id == "cpc" and (check.code or check.verdict is Verdict.FAIL) for check in answer.result.checks):
            yield Notice(
                title="No protective conductor",
                text=f"There is none on {name}: only class II fittings and insulated switches, and nothing of metal.",
                why="Who changes a fitting must know (411.3.1.1).",
            )
        if circuit.design.kind == "floor-heating":
            yield Notice(
                title="Heating in the floor",
                text=f"Of {name}. Do not drill, screw or nail into that floor, and do not cover it.",
                why="Its cable lies just under the surface (753.514).",
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
