"""The pipes of a slab or a screed: one from the board to each place, what is drawn in it, how large, how it runs."""

from collections.abc import Iterator, Mapping, Sequence
from math import ceil
from typing import Literal, NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.plan import Mark
from lumbek.core.plan.outline import step_of
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.lay_of_house import LegEnd
from lumbek.core.routes.pipe_size import draw_boxes, fill_of, most_fill, pipe_for
from lumbek.core.routes.pipes import lay_pipes, slots_at
from lumbek.core.rulebooks.cable_size import size_of
from lumbek.core.value import Frozen

MOST_PIPES = 16
# Over a pipe in a screed, in mm; down into the slab and up again at both ends is two bends more.
COVER_MM, ENDS_BENDS = 30, 2
# A load of its own pipe: what its device lets through at least.
HEAVY_A = 25
# What is drawn in where no circuit comes yet.
_USUAL_MM2 = {"light": 1.5, "downlight": 1.5, "wall-light": 1.5, "switch": 1.5}


class PipeSpot(Frozen):
    """A corner of a pipe in the frame of the house, in mm."""

    x: int
    y: int


class SlabPipe(Frozen):
    """A pipe: to which place, from which slot at the board, what is drawn in, its size, fill, bends and length."""

    mark: str
    slot: int
    circuits: tuple[int, ...]
    drawn_in: str
    size_mm: int | None
    fill_percent: int | None
    most_percent: int
    bends: int
    draw_boxes: int
    mm: int
    is_heavy: bool
    corners: tuple[PipeSpot, ...]


class PipePair(Frozen):
    """Two pipes that meet: by the marks that they lead to."""

    one: str
    other: str
    is_main: bool


PipeDepth = Literal["pass", "fail", "cannot-tell"]


class PipeLayout(Frozen):
    """All pipes of a slab, from left to right at the board; what meets, if none is better, and what is not said."""

    pipes: tuple[SlabPipe, ...]
    crossings: tuple[PipePair, ...]
    is_proved: bool
    # Whether the screed covers the thickest pipe, crossing what it crosses: wanted against what is there, in mm.
    depth: PipeDepth
    wanted_mm: int | None
    screed_mm: int | None
    # Empty pipes to the next storey that are worth laying beside: one for each four.
    spares: int
    missing: tuple[str, ...]


class _To(NamedTuple):
    mark: Mark
    end: LegEnd
    circuits: tuple[Circuit, ...]


def pipes_of(routed: RoutedHouse, designs: Sequence[tuple[str, Circuit]], marks: Sequence[str]) -> PipeLayout:
    """Return a pipe to each of these places from the first board, laid so that least of them cross."""
    board = routed.mark_of_first_board()
    ends = routed.house.ends
    if board is None or board not in ends:
        return _nothing("the board is at no mark")
    level = _level(routed, ends[board])
    found = [_to(routed, designs, mark) for mark in marks if mark in ends]
    here = [each for each in found if _level(routed, each.end) == level]
    missing = [f"{mark.replace('-', ' ')} is nowhere yet" for mark in marks if mark not in ends]
    upstairs = [each.mark.name or each.mark.id.replace("-", " ") for each in found if each not in here]
    if upstairs:
        missing.append(f"on another storey than the board: {', '.join(upstairs)}")
    start = ends[board]
    laid = lay_pipes(
        slots_at((start.x, start.y), _along(routed, start), len(here)), [(each.end.x, each.end.y) for each in here]
    )
    pipes = [_pipe(each, run.slot, run.corners, run.mm, run.bends) for each, run in zip(here, laid.runs, strict=True)]
    met = {*laid.crossings, *laid.on_top}
    screed = routed.house.screed_mm(level)
    wanted = wanted_mm(pipes, {place for pair in met for place in pair})
    return PipeLayout(
        pipes=tuple(sorted(pipes, key=lambda pipe: pipe.slot)),
        crossings=tuple(
            PipePair(one=pipes[a].mark, other=pipes[b].mark, is_main=pipes[a].is_heavy and pipes[b].is_heavy)
            for a, b in sorted(met)
        ),
        is_proved=laid.is_proved,
        depth="cannot-tell" if screed is None or wanted is None else ("pass" if wanted <= screed else "fail"),
        wanted_mm=wanted,
        screed_mm=screed,
        spares=-(-len(pipes) // 4),
        missing=tuple(missing),
    )


def _nothing(why: str) -> PipeLayout:
    return PipeLayout(
        pipes=(),
        crossings=(),
        is_proved=True,
        depth="cannot-tell",
        wanted_mm=None,
        screed_mm=None,
        spares=0,
        missing=(why,),
    )


def _level(routed: RoutedHouse, end: LegEnd) -> int:
    room = next(each for each in routed.house.measured if each.id == end.room)
    return routed.house.level_of(room)


def _along(routed: RoutedHouse, end: LegEnd) -> tuple[int, int]:
    """Return which way the wall of a board runs, a step of one; along x where it is on none."""
    face = routed.house.faces.get((end.room, end.wall))
    if face is None:
        return 1, 0
    step = step_of(face.wall)
    return (1, 0) if abs(step.x) >= abs(step.y) else (0, 1)


def _to(routed: RoutedHouse, designs: Sequence[tuple[str, Circuit]], mark_id: str) -> _To:
    mark = next(each for each in routed.places.marks if each.id == mark_id)
    own = mark.point.circuit if mark.point is not None else ""
    return _To(mark, routed.house.ends[mark_id], tuple(design for key, design in designs if key == own))


def _pipe(to: _To, slot: int, corners: Sequence[tuple[int, int]], mm: int, bends: int) -> SlabPipe:
    cores = list(_cores(to))
    diameters = [size.wide_mm for core in cores if (size := size_of(core)) is not None]
    whole = bends + ENDS_BENDS
    boxes = draw_boxes(mm, whole)
    # Between boxes there are no more bends than a pull takes.
    a_pull = -(-whole // (boxes + 1))
    pipe_mm = pipe_for(diameters, a_pull) if len(diameters) == len(cores) else None
    return SlabPipe(
        mark=to.mark.id,
        slot=slot,
        circuits=tuple(design.number for design in to.circuits),
        drawn_in=_drawn_in(cores),
        size_mm=pipe_mm,
        fill_percent=None if pipe_mm is None else ceil(100 * fill_of(diameters, pipe_mm) - 1e-9),
        most_percent=int(100 * most_fill(a_pull) + 1e-9),
        bends=whole,
        draw_boxes=boxes,
        mm=mm,
        is_heavy=any(
            design.device.rating_a is not None and design.device.rating_a >= HEAVY_A for design in to.circuits
        ),
        corners=tuple(PipeSpot(x=x, y=y) for x, y in corners),
    )


def _cores(to: _To) -> Iterator[Cable]:
    """Yield the single cores that are drawn in: line, neutral and cpc; three lines where the circuit has them."""
    for design in to.circuits:
        lines = 3 if design.kind == "three-phase" else 1
        yield from (Cable(type="single-core", csa_mm2=design.cable.csa_mm2) for _ in range(lines + 2))
    if not to.circuits:
        usual: Mapping[str, float] = _USUAL_MM2
        yield from (Cable(type="single-core", csa_mm2=usual.get(to.mark.kind, 2.5)) for _ in range(3))


def _drawn_in(cores: Sequence[Cable]) -> str:
    counts: dict[float, int] = {}
    for core in cores:
        counts[core.csa_mm2] = counts.get(core.csa_mm2, 0) + 1
    return ", ".join(f"{count} × {csa:g} mm²" for csa, count in sorted(counts.items()))


def wanted_mm(pipes: Sequence[SlabPipe], crossing: set[int]) -> int | None:
    """Return how deep a screed has to be: the thickest pipe and its cover, over another where they cross."""
    sizes = [pipe.size_mm for pipe in pipes]
    if not sizes or None in sizes:
        return None
    thick = max(size for size in sizes if size is not None)
    under = max((size for at, size in enumerate(sizes) if at in crossing and size is not None), default=0)
    return thick + (under if crossing else 0) + COVER_MM
