"""The make-off sheet of a circuit as a paper: a box to a block, to be taken into the loft."""

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Block, Column, Paper, Row, Section, Table, Terminals, Words
from lumbek.core.switching.make_off import BoxSheet, MakeOff, make_off

_CABLES = (
    Column(key="way", heading="Cable"),
    Column(key="cable", heading="Sort"),
    Column(key="length", heading="Length", align="right"),
    Column(key="cores", heading="Cores"),
)
_PARTS = (Column(key="what", heading="Part"), Column(key="count", heading="How many", align="right"))


def make_off_paper(gathered: Gathered) -> Paper:
    """Return the make-off sheet of a circuit."""
    sheet = make_off(gathered.rulebook, gathered.circuit)
    written = [f"On the circuit chart: {sheet.chart}", *(f"Notice: {each}" for each in sheet.notices)]
    return Paper(
        kind="make-off",
        title="Make-off",
        of=sheet.title,
        job=gathered.job.name,
        sections=(
            Section(blocks=(Words(lines=(sheet.safety,), kind="warning"),)),
            *map(_box, sheet.boxes),
            Section(title="Cables", blocks=(_cables(sheet),), framed=True),
            Section(title="Parts", blocks=(_parts(sheet), Words(lines=tuple(written))), framed=True),
        ),
    )


def _box(box: BoxSheet) -> Section:
    cables = " · ".join(f"{each.cores}-core {each.words}{' (found)' if each.found else ''}" for each in box.cables)
    said = (f"{box.what}{f' · {box.box}' if box.box else ''}", *(f"Mark {label}" for label in box.labels), cables)
    blocks: tuple[Block, ...] = (Words(lines=tuple(filter(None, said))), Terminals(terminals=box.terminals))
    return Section(title=box.title, blocks=blocks, framed=True)


def _cables(sheet: MakeOff) -> Table:
    rows = [
        Row(
            cells={
                "way": f"{each.words}{' (found)' if each.found else ''}",
                "cable": each.cable,
                "length": each.length,
                "cores": ", ".join(each.used) + (f"; spare: {', '.join(each.spare)}" if each.spare else ""),
            }
        )
        for each in sheet.cables
    ]
    return Table(columns=_CABLES, rows=tuple(rows))


def _parts(sheet: MakeOff) -> Table:
    return Table(
        columns=_PARTS, rows=tuple(Row(cells={"what": each.what, "count": str(each.count)}) for each in sheet.parts)
    )
