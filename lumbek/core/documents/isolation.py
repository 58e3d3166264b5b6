"""The isolation record: what was made dead, how it was proved, and with which lock."""

from collections.abc import Iterator

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, COMPETENT, Column, Paper, Row, Section, Table, Words
from lumbek.core.documents.results import reading_words
from lumbek.core.model.reading import Reading

_COLUMNS = (
    Column(key="what", heading="What", strong=True),
    Column(key="device", heading="By which device"),
    Column(key="before", heading="Indicator proved before", align="centre"),
    Column(key="pairs", heading="Pairs tested dead"),
    Column(key="after", heading="And after", align="centre"),
    Column(key="dead", heading="Outcome", strong=True),
    Column(key="lock", heading="Lock, key with"),
    Column(key="by", heading="By"),
    Column(key="at", heading="At", whole=True),
)


def isolation_paper(gathered: Gathered) -> Paper:
    """Return every isolation on record, of the whole and of each circuit, in order of time."""
    asking, job = Asking(), gathered.job
    rows = sorted(_rows(gathered), key=lambda row: row.cells["at"])
    if not rows:
        asking.want("Nothing was isolated on record", "tests")
    return Paper(
        kind="isolation",
        title="Isolation record",
        job=job.name,
        client=job.client,
        address=job.address,
        rulebook=gathered.rulebook.data.title,
        upright=False,
        sections=(
            Section(
                blocks=(
                    Table(columns=_COLUMNS, rows=tuple(rows)),
                    Words(
                        lines=("Dead when it was proved. Before work goes on after a break it is proved again.",),
                        kind="warning",
                    ),
                )
            ),
        ),
        statements=(COMPETENT,),
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def _rows(gathered: Gathered) -> Iterator[Row]:
    yield from (_row("The whole installation", each) for each in gathered.job.readings if each.quantity == "isolation")
    for circuit in gathered.job.circuits:
        name = f"Circuit {circuit.design.number}, {circuit.design.name}"
        yield from (_row(name, each) for each in circuit.readings if each.quantity == "isolation")


def _row(what: str, reading: Reading) -> Row:
    how = reading.isolation
    return Row(
        cells={
            "what": what,
            "device": (how.device if how else "") or BLANK,
            "before": "yes" if how and how.proved_before else "no",
            "pairs": ", ".join(how.pairs) if how else BLANK,
            "after": "yes" if how and how.proved_after else "no",
            "dead": reading_words(reading, ""),
            "lock": ", ".join(filter(None, (how.lock, how.key_with))) if how else BLANK,
            "by": reading.said_by,
            "at": reading.when[:16].replace("T", " "),
        },
        bad=() if reading.correct else ("dead",),
    )
