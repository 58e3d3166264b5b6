"""What putting a circuit right comes to: the ends to move in words, what was wrong by its name, the circuit then."""

from collections.abc import Iterator, Sequence

from lumbek.core.judging.check import Verdict
from lumbek.core.model.accessory import AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.checks.marks import sleeved
from lumbek.core.switching.colours import colour_of
from lumbek.core.switching.prove import holds
from lumbek.core.switching.quick import End, Layout
from lumbek.core.value import Frozen


class Move(Frozen):
    """One core end to be moved."""

    place: str
    leg: str
    core: str
    words: str


class Mended(Frozen):
    """The least that puts a circuit right: core ends to move, accessories to change, and the circuit then.

    `exact` where every smaller change has been tried; else it is the nearest usual way of wiring, and fewer moves could
    do. `tried` says whether at least every change of one and two ends was.
    """

    moves: tuple[Move, ...]
    changes: tuple[str, ...]
    exact: bool
    tried: bool
    design: Circuit
    # What was wrong, as one calls it.
    named: tuple[str, ...] = ()
    left: tuple[str, ...] = ()


def kinds_of(circuit: Circuit) -> dict[tuple[str, int], AccessoryKind]:
    """Return what every gang is."""
    return {(point.id, each.gang): each.kind for point in circuit.points for each in point.accessories}


def changed_kinds(circuit: Circuit, kinds: dict[tuple[str, int], AccessoryKind]) -> Iterator[tuple[str, int]]:
    """Yield the gangs that are another kind of switch then; a two-way does as a one-way."""
    for at, now in kinds_of(circuit).items():
        then = kinds.get(at, now)
        if then != now and not (now == "two-way" and then == "one-way"):
            yield at


def mended(
    book: Rulebook,
    circuit: Circuit,
    layout: Layout,
    at: Sequence[int],
    kinds: dict[tuple[str, int], AccessoryKind],
    exact: bool,
    tried: bool = True,
) -> Mended:
    """Return what it comes to with every end in these joins, and these kinds of switches, and prove that in full."""
    design = sleeved(book, with_ends(circuit, layout, at, kinds))
    moves = [
        _move(book, circuit, layout, end, then)
        for end, (now, then) in enumerate(zip(layout.at, at, strict=True))
        if now != then
    ]
    now_kinds = kinds_of(circuit)
    changes = [
        f"At {circuit.point_title(place)}, gang {gang}: {now_kinds[place, gang]} out, {kinds[place, gang]} in"
        for place, gang in changed_kinds(circuit, kinds)
    ]
    changes += [
        f"At {circuit.point_title(place)}: take out what belongs to circuit {end.circuit}"
        for place, end in _ends(circuit)
        if end.circuit is not None
    ]
    verdict, hazards = holds(book, {circuit.number: design})
    left = tuple(hazard.words for hazard in hazards if hazard.grave) if verdict is Verdict.FAIL else ()
    return Mended(
        moves=tuple(moves),
        changes=tuple(changes),
        exact=exact,
        tried=tried,
        design=design,
        named=(*_borrowed(circuit), *_named(circuit, layout, at)),
        left=left,
    )


def _ends(circuit: Circuit) -> Iterator[tuple[str, CoreEnd]]:
    """Yield every core end that is said at a point, other circuits' among them."""
    for point in circuit.points:
        yield from ((point.id, end) for join in point.joins for end in join.ends)


def _borrowed(circuit: Circuit) -> Iterator[str]:
    """Yield where conductors of other circuits have been joined to this one."""
    for point in circuit.points:
        for join in point.joins:
            for number in sorted({end.circuit for end in join.ends if end.circuit is not None}):
                what = "neutral" if "N" in join.terminals else "conductor"
                yield f"{circuit.point_title(point.id)} borrows a {what} of circuit {number}"


def _named(circuit: Circuit, layout: Layout, at: Sequence[int]) -> Iterator[str]:
    """Yield what was wrong as one calls it, read off the moves that put it right."""
    crossed: dict[tuple[str, str], set[str]] = {}
    for end, (now, then) in enumerate(zip(layout.at, at, strict=True)):
        place, _, core = layout.ends[end]
        if now == then:
            continue
        title = circuit.point_title(place)
        was, wanted = layout.joins[now][1], layout.joins[then][1]
        if core == "E" and "E" not in was:
            what = "used as a strapper" if was or layout.at.count(now) > 1 else "left off"
            yield f"The cpc is {what} at {title}"
        elif layout.at.count(now) == 1 and not was and not _is_spare(layout, end):
            yield f"A core is left off at {title}"
        for name in (*was, *wanted):
            if "." in name:
                gang, terminal = name.split(".")
                crossed.setdefault((place, gang), set()).add(terminal)
    for (place, gang), terminals in crossed.items():
        if "COM" in terminals and len(terminals) > 1:
            others = " and ".join(sorted(terminals - {"COM"}))
            many = len(circuit.point(place).accessories) > 1
            which = f", gang {gang}" if many else ""
            yield f"COM and {others} crossed at {circuit.point_title(place)}{which}"
        elif len(terminals) > 1:
            yield f"Strappers mixed up at {circuit.point_title(place)}"


def _is_spare(layout: Layout, end: int) -> bool:
    """Whether a core is left off at its other end too."""
    _, leg, core = layout.ends[end]
    other = next(at for at, each in enumerate(layout.ends) if at != end and (each.leg, each.core) == (leg, core))
    return layout.at.count(layout.at[other]) == 1 and not layout.joins[layout.at[other]][1]


def _move(book: Rulebook, circuit: Circuit, layout: Layout, end: int, then: int) -> Move:
    """Return in words where a core end goes."""
    place, leg_id, core = layout.ends[end]
    leg = circuit.leg(leg_id)
    colour = colour_of(book, circuit.cable_of(leg), core)
    names = layout.joins[then][1]
    was = layout.joins[layout.at[end]][1]
    if names:
        target = f"into {_terminal_words(circuit, place, names)}"
    elif then == layout.alone[end]:
        target = "out, into a connector by itself"
    else:
        target = "to the others in the connector"
    source = f" from {_terminal_words(circuit, place, was)}" if was else ""
    words = (
        f"At {circuit.point_title(place)}: {colour} of the cable to {circuit.far_title(leg, place)}{source} {target}"
    )
    return Move(place=place, leg=leg_id, core=core, words=words)


def _terminal_words(circuit: Circuit, place: str, names: Sequence[str]) -> str:
    """Return terminals as one says them: the gang is left out where there is one."""
    gangs = len(circuit.point(place).accessories) if place != BOARD else 0
    return " and ".join(name.split(".")[-1] if gangs <= 1 else name for name in names)


def with_ends(
    circuit: Circuit, layout: Layout, at: Sequence[int], kinds: dict[tuple[str, int], AccessoryKind]
) -> Circuit:
    """Return the circuit with its ends in these joins; every join is then said."""
    sleeves = {End(place, end.leg, end.core): end.marked for place, end in _ends(circuit) if end.circuit is None}
    held: dict[int, list[CoreEnd]] = {}
    for end, join in zip(layout.ends, at, strict=True):
        held.setdefault(join, []).append(CoreEnd(leg=end.leg, core=end.core, marked=sleeves.get(end)))

    def joins(place: str) -> tuple[Join, ...]:
        return tuple(
            Join(ends=tuple(held.get(index, ())), terminals=names)
            for index, (where, names) in enumerate(layout.joins)
            if where == place and (index in held or names)
        )

    points = []
    for point in circuit.points:
        accessories = tuple(
            each.model_copy(update={"kind": kinds.get((point.id, each.gang), each.kind)}) for each in point.accessories
        )
        points.append(point.model_copy(update={"joins": joins(point.id), "accessories": accessories}))
    changed = circuit.model_copy(update={"points": tuple(points), "board_joins": joins(BOARD)})
    return Circuit.model_validate(changed.model_dump())
