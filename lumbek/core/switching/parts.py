"""What to take along for a lighting circuit: accessories, boxes, cable, connectors, sleeving."""

from collections import Counter
from collections.abc import Iterator

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.terminals import CoreEnd, Join, Mark
from lumbek.core.numbers import counted, plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.checks.boxes import box_depth_mm, too_many
from lumbek.core.switching.colours import colour_of, is_bare, scheme_of, sleeve_colour
from lumbek.core.switching.terms import KINDS
from lumbek.core.value import Frozen


class PartLine(Frozen):
    """Something to take along, and how much of it."""

    what: str
    count: str


def cable_words(cable: Cable) -> str:
    """Return what a cable is called by the reel."""
    size = f"{plain(cable.csa_mm2)} mm²"
    if cable.type == "flat-single-and-earth":
        return f"single and earth, {size}"
    if cable.type == "single-core":
        return f"singles, {counted(len(cable.live_cores), 'live', 'live')}, {size}"
    return f"{len(cable.live_cores)}-core and earth, {size}"


def parts(book: Rulebook, circuit: Circuit) -> tuple[PartLine, ...]:
    """Return what is to be bought; what was found is there already."""
    pieces = Counter([*_fitted(circuit), *_boxes(book, circuit)])
    connectors = Counter(_connectors(book, circuit))
    sleeves = Counter(_sleeves(book, circuit))
    return (
        *(PartLine(what=what, count=str(count)) for what, count in pieces.items()),
        *_cable(book, circuit),
        *(PartLine(what=_connector(ways), count=str(count)) for ways, count in sorted(connectors.items())),
        *(PartLine(what=what, count=f"{count} ends") for what, count in sleeves.items()),
    )


def _fitted(circuit: Circuit) -> Iterator[str]:
    """Yield each plate by what is on it."""
    for point in circuit.points:
        kinds = " + ".join(KINDS[each.kind] for each in point.accessories)
        if kinds:
            yield f"{len(point.accessories)}-gang plate: {kinds}" if len(point.accessories) > 1 else kinds


def _boxes(book: Rulebook, circuit: Circuit) -> Iterator[str]:
    """Yield each new box by the depth that its accessory asks for."""
    for point in circuit.points:
        depth = box_depth_mm(book, point)
        if depth is not None and point.plate.box_mm is None and point.state == "new":
            yield f"box, {plain(depth)} mm or deeper"


def _connectors(book: Rulebook, circuit: Circuit) -> Iterator[int]:
    """Yield each connector by how many conductors meet in it, the tail to a crowded terminal counted."""
    for point in circuit.points:
        for join in point.joins:
            if not join.terminals and join.ends:
                yield len(join.ends)
            elif too_many(book, circuit, join):
                yield len(join.ends) + len(join.terminals)


def _connector(ways: int) -> str:
    return f"{ways}-way connector" if ways > 1 else "end connector for a spare core"


def _marked(circuit: Circuit) -> Iterator[tuple[CoreEnd, Mark]]:
    for joins in (circuit.board_joins, *(point.joins for point in circuit.points)):
        for join in joins:
            yield from ((end, end.marked) for end in _own(join) if end.marked is not None)


def _sleeves(book: Rulebook, circuit: Circuit) -> Iterator[str]:
    """Yield the sleeve of each core end that is marked, and of each bare cpc of new cable."""
    marked = list(_marked(circuit))
    for end, use in marked:
        yield f"{sleeve_colour(scheme_of(book, circuit.cable_of(circuit.leg(end.leg))), use)} sleeve or tape"
    for leg in circuit.legs:
        cable = circuit.cable_of(leg)
        if leg.state == "new" and is_bare(book, cable):
            ends = 2 - [(end.leg, end.core) for end, _ in marked].count((leg.id, "E"))
            yield from [f"{sleeve_colour(scheme_of(book, cable), 'earth')} sleeving for bare cpcs"] * ends


def _own(join: Join) -> list[CoreEnd]:
    return [end for end in join.ends if end.circuit is None]


def _cable(book: Rulebook, circuit: Circuit) -> Iterator[PartLine]:
    """Yield the metres of each cable, and how many runs of it nobody has measured."""
    metres: dict[str, float] = {}
    unknown: Counter[str] = Counter()
    for leg in circuit.legs:
        for what in _reels(book, circuit, leg):
            metres[what] = metres.get(what, 0.0) + (leg.length_m or 0.0)
            unknown[what] += leg.length_m is None
    for what, length in metres.items():
        words = f"{plain(round(length, 2))} m"
        if unknown[what]:
            runs = f"{counted(unknown[what], 'run', 'runs')} of unknown length"
            words = f"{words} and {runs}" if length else runs
        yield PartLine(what=what, count=words)


def _reels(book: Rulebook, circuit: Circuit, leg: Leg) -> list[str]:
    """Return the reels that a new leg comes off: one of a cable, one for each conductor of singles."""
    cable = circuit.cable_of(leg)
    if leg.state == "as-found":
        return []
    if cable.type != "single-core":
        return [cable_words(cable)]
    reels = [f"single, {plain(cable.csa_mm2)} mm², {colour_of(book, cable, core)}" for core in cable.live_cores]
    cpc = book.cpc_mm2(cable)
    if cable.earth_by == "core" and cpc is not None:
        reels.append(f"single, {plain(cpc)} mm², {scheme_of(book, cable).earth}")
    return reels
