"""Completion of remedials: each observation, what was done about it, the proof, when and by whom."""

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import where_of
from lumbek.core.documents.paper import BLANK, COMPETENT, Column, Paper, Row, Section, Table, Words
from lumbek.core.documents.photographs import photographs
from lumbek.core.documents.unread import FINDINGS, want_tests_again
from lumbek.core.inspection.standing import StandingFinding, StandingTask
from lumbek.core.inspection.whole import whole_inspection

_COLUMNS = (
    Column(key="code", heading="Code", align="centre", strong=True),
    Column(key="place", heading="Place"),
    Column(key="seen", heading="What was seen"),
    Column(key="done", heading="What was done", strong=True),
    Column(key="before", heading="Before"),
    Column(key="after", heading="After", strong=True),
    Column(key="parts", heading="Old part, new part"),
    Column(key="by", heading="By, on"),
)
_WANTS_ACTION = ("C1", "C2", "FI")


def remedials_paper(gathered: Gathered) -> Paper:
    """Return what was put right of the findings of a job; every one that wants action is done or refused."""
    whole, asking = whole_inspection(gathered), Asking()
    rows = []
    for finding in whole.findings:
        said = finding.said
        task = next((each for each in reversed(whole.tasks) if said.finding in each.said.findings), None)
        done = task is not None and task.said.status == "done"
        if said.code not in (*_WANTS_ACTION, "C3") or said.status == "outside":
            continue
        if said.code in _WANTS_ACTION and not done and said.status != "refused":
            asking.want(f"Not put right: {said.seen[:60]}", f"{FINDINGS}/{said.finding}")
        rows.append(_row(gathered, finding, task))
    if not rows:
        asking.want("There is no finding to put right", FINDINGS)
    want_tests_again(gathered, asking)
    signatures = asking.signatures(whole.signed, gathered.covers, "constructor", "inspector")
    return Paper(
        kind="remedials",
        title="Completion of remedials",
        **gathered.head,
        upright=False,
        sections=(
            Section(
                blocks=(
                    Table(columns=_COLUMNS, rows=tuple(rows)),
                    Words(lines=("What was refused stays as it was found, and so does what it says of danger.",)),
                )
            ),
            *photographs(gathered, whole.findings),
        ),
        claim="Every observation that wanted action was put right, but for what was refused.",
        statements=("The report that found them stands as it was: it says how things were on its day.", COMPETENT),
        signatures=signatures,
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def _row(gathered: Gathered, finding: StandingFinding, task: StandingTask | None) -> Row:
    said = finding.said
    done = task if task is not None and task.said.status == "done" else None
    proof = done.said.proof if done is not None else None
    parts = [each for each in ((proof.old_part, proof.new_part) if proof else ()) if each]
    return Row(
        cells={
            "code": said.code,
            "place": where_of(gathered, said.spot),
            "seen": said.seen,
            "done": done.said.what if done else ("refused" if said.status == "refused" else "NOT DONE"),
            "before": (proof.before if proof else "") or BLANK,
            "after": (proof.after if proof else "") or BLANK,
            "parts": " to ".join(parts) or BLANK,
            "by": f"{done.said.by or done.last.by}, {(done.said.day or done.last.at)[:10]}" if done else BLANK,
        },
        bad=("done",) if done is None and said.status != "refused" else (),
    )
