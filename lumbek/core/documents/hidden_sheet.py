"""What lies in walls and floors, drawn wall by wall, for whoever drills there later."""

from collections import defaultdict

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, Block, Column, Paper, Row, Section, Table, WallDrawing, Words
from lumbek.core.routes.hidden import HiddenLine, HiddenRun, HiddenWall, hidden_runs, hidden_walls

_LINES = (
    Column(key="room", heading="Room", only="csv"),
    Column(key="wall", heading="Wall", only="csv"),
    Column(key="circuit", heading="Circuit", strong=True),
    Column(key="line", heading="From the left end, up: mm"),
)
_RUNS = (
    Column(key="room", heading="Room", strong=True),
    Column(key="where", heading="Where"),
    Column(key="circuits", heading="Circuits"),
    Column(key="m", heading="m", align="right"),
)


def hidden_paper(gathered: Gathered) -> Paper:
    """Return every wall with cable in it, and what lies over and under rooms."""
    site, rooms = gathered.site, gathered.job.places.name_of
    sections = [_section(rooms(wall.room), wall) for wall in hidden_walls(site.routed, site.designs, site.ways)]
    runs = hidden_runs(site.designs, site.ways)
    if runs:
        rows = tuple(_run(rooms(run.room), run) for run in runs)
        sections.append(Section(title="Over and under rooms", blocks=(Table(columns=_RUNS, rows=rows),)))
    return Paper(
        kind="hidden",
        title="What lies in walls and floors",
        **gathered.head,
        sections=tuple(sections),
        statements=(
            "As it was found to be laid; photographs of the open walls come first, and a detector before every hole.",
            "What was in a wall before is not drawn: it may be anywhere.",
        ),
        signatures=(),
        missing=() if sections else ("No way of a new cable is known yet",),
    )


def _section(room: str, wall: HiddenWall) -> Section:
    by_circuit: dict[int, list[HiddenLine]] = defaultdict(list)
    for line in wall.lines:
        by_circuit[line.circuit].append(line)
    rows = tuple(
        Row(
            cells={
                "room": room,
                "wall": wall.called,
                "circuit": str(circuit),
                "line": "; ".join(
                    " to ".join(f"{spot.along_mm}, {spot.up_mm}" for spot in line.spots) for line in by_circuit[circuit]
                ),
            }
        )
        for circuit in sorted(by_circuit)
    )
    blocks: list[Block] = [
        WallDrawing(wall=wall),
        Words(lines=("As one faces it from the room; figures are circuits.",)),
        Table(columns=_LINES, rows=rows),
    ]
    title = f"{room}: wall {wall.called}, {wall.width_mm} × {wall.height_mm} mm"
    return Section(title=title, blocks=tuple(blocks), framed=True)


def _run(room: str, run: HiddenRun) -> Row:
    return Row(
        cells={
            "room": room or BLANK,
            "where": "under its floor" if run.under else "over its ceiling",
            "circuits": ", ".join(map(str, run.circuits)),
            "m": f"{run.mm / 1000:.1f}",
        }
    )
