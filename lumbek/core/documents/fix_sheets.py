"""First fix and second fix as sheets to work by: room by room, box by box, with what has to be done before closing."""

from collections.abc import Callable
from itertools import groupby

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, Block, Column, Paper, Row, Section, Table, Words
from lumbek.core.work.step import CableAt, WorkStep

_STEPS = (
    Column(key="box", heading="Done", align="centre"),
    Column(key="room", heading="Room", only="csv"),
    Column(key="what", heading="What", strong=True),
    Column(key="cables", heading="Cables: circuit, to where, cut"),
    Column(key="told", heading="To mind"),
    Column(key="state", heading="Stands"),
)
_ISOLATE = "Only on what is isolated, locked and proved dead; local rules come first."
_NOT_SAID = "Nothing new is on the plan or drawn yet"


def first_fix_paper(gathered: Gathered) -> Paper:
    """Return what is done before walls and floors are closed, and what holds up closing them."""
    return _paper(
        gathered,
        "first-fix",
        "First fix",
        lambda step: step.phase != "second-fix",
        "Nothing is closed before it is photographed and its circuits are tested half-way.",
    )


def second_fix_paper(gathered: Gathered) -> Paper:
    """Return what is fitted when walls are closed."""
    return _paper(
        gathered,
        "second-fix",
        "Second fix",
        lambda step: step.phase == "second-fix",
        "Every terminal is pulled at; the tests follow, and a sheet never replaces one.",
    )


def _paper(gathered: Gathered, kind: str, title: str, wanted: Callable[[WorkStep], bool], minded: str) -> Paper:
    rooms = gathered.job.places.name_of
    # Room by room as the work first comes to each.
    order = {room: at for at, room in enumerate(dict.fromkeys(step.room for step in gathered.work.steps))}
    steps = sorted(filter(wanted, gathered.work.steps), key=lambda each: order[each.room])
    sections = [
        _section(rooms(room) if room else "All over the house", list(here))
        for room, here in groupby(steps, key=lambda each: each.room)
    ]
    fails = tuple(each.told for each in gathered.site.bears if each.verdict == "fail")
    if fails and kind == "first-fix":
        sections.insert(0, Section(title="Not to be cut so", blocks=(Words(lines=fails, kind="warning"),)))
    clear = tuple(each.told for each in gathered.site.keeps)
    if clear and kind == "first-fix":
        sections.insert(0, Section(title="To be kept clear", blocks=(Words(lines=clear, kind="warning"),)))
    return Paper(
        kind=kind,
        title=title,
        **gathered.head,
        sections=tuple(sections),
        statements=(_ISOLATE, minded),
        signatures=(),
        missing=() if sections else (_NOT_SAID,),
    )


def _section(room: str, steps: list[WorkStep]) -> Section:
    rows = tuple(_row(room, step) for step in steps)
    blocks: list[Block] = [Table(columns=_STEPS, rows=rows)]
    holds = tuple(step.what for step in steps if step.is_hold and step.stands.status != "done")
    if holds:
        blocks.insert(0, Words(lines=tuple(f"Before closing: {each}" for each in holds), kind="warning"))
    return Section(title=room, blocks=tuple(blocks))


def _row(room: str, step: WorkStep) -> Row:
    stands = step.stands
    state = {"to-do": "", "done": f"done, {stands.by}"}.get(stands.status, f"{stands.status}: {stands.note}")
    return Row(
        cells={
            "box": "x" if stands.status == "done" else "",
            "room": room,
            "what": step.what,
            "cables": "; ".join(map(_cable, step.cables)) or BLANK,
            "told": " ".join(step.told) or BLANK,
            "state": state,
        },
        bad=("state",) if stands.status in ("left", "missing") else (),
    )


def _cable(cable: CableAt) -> str:
    how = (
        "there already" if cable.is_found else ("length not known" if cable.mm is None else f"{cable.mm / 1000:.2f} m")
    )
    return f"{cable.circuit} to {cable.to}, {how}{', long tail' if cable.is_long else ''}"
