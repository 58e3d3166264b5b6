"""The set-out sheet: room by room and wall by wall, every mark from one end and from the floor."""

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, Block, Column, Paper, Row, Section, Table, Words
from lumbek.core.plan.answer import RoomPlan, answer_plan
from lumbek.core.plan.set_out import SetOut, SetOutMark

_COLUMNS = (
    Column(key="number", heading="No.", align="centre"),
    Column(key="room", heading="Room", only="csv"),
    Column(key="face", heading="Wall", only="csv"),
    Column(key="what", heading="What comes there", strong=True),
    Column(key="across", heading="From the end, mm", align="right", strong=True),
    Column(key="up", heading="Up, mm", align="right", strong=True),
    Column(key="edges", heading="Edges, mm", align="right"),
    Column(key="box", heading="Plate, depth, mm", align="right"),
    Column(key="state", heading="State"),
)


def set_out_paper(gathered: Gathered) -> Paper:
    """Return the marks of a house as one sets them out; what is in conflict is said before anything is drilled."""
    places = gathered.job.places
    answer = answer_plan(places, gathered.rulebook)
    sections = [section for room in answer.rooms for section in _room(places.name_of(room.room), room)]
    missing = () if sections else ("Nothing is marked on the plan yet",)
    return Paper(
        kind="set-out",
        title="Set-out sheet",
        **gathered.head,
        sections=tuple(sections),
        statements=(
            "All figures are from the same end of a wall as one faces it, and from the finished floor, in mm.",
            "Before a hole: safe isolation, and what is in the wall. A trial hole comes before a cut-out.",
        ),
        signatures=(),
        missing=missing,
    )


def _room(name: str, room: RoomPlan) -> list[Section]:
    wrong = {each.mark: each.why for each in room.conflicts}
    found = []
    for face in room.set_out:
        title = f"{name}: " + ("ceiling, from west and south" if face.face == "ceiling" else f"wall {face.called}")
        blocks: list[Block] = [Table(columns=_COLUMNS, rows=_rows(name, face))]
        told = [f"No. {at}: {wrong[mark.mark]}" for at, mark in enumerate(face.marks, start=1) if mark.mark in wrong]
        if told:
            blocks.insert(0, Words(lines=tuple(told), kind="warning"))
        found.append(Section(title=f"{title}, {face.width_mm} × {face.height_mm} mm", blocks=tuple(blocks)))
    return found


def _rows(room: str, face: SetOut) -> tuple[Row, ...]:
    return tuple(
        Row(
            cells={
                "number": str(count),
                "room": room,
                "face": face.called,
                "what": mark.name or mark.kind.replace("-", " "),
                "across": str(mark.across_mm),
                "up": BLANK if mark.up_mm is None else str(mark.up_mm),
                "edges": f"{mark.left_edge_mm} to {mark.right_edge_mm}",
                "box": _box(mark),
                "state": _state(mark),
            },
            struck=mark.goes,
        )
        for count, mark in enumerate(face.marks, start=1)
    )


def _box(mark: SetOutMark) -> str:
    entry = f", in at {mark.entry}" if mark.entry else ""
    return f"{mark.width_mm} × {mark.height_mm}, {mark.depth_mm}{entry}"


def _state(mark: SetOutMark) -> str:
    if mark.moved:
        return f"moved {mark.moved}"
    if mark.goes:
        return "goes"
    return "there already" if mark.is_existing else ("marked" if mark.is_made else "to mark")
