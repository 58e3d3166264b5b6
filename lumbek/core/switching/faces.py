"""The boxes as one stands before them: cables as they come in, terminals, connectors, and what is left off."""

from collections.abc import Iterator, Mapping, Sequence
from itertools import chain

from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.joining import said_joins
from lumbek.core.model.accessory import AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.point import PointKind, State
from lumbek.core.model.terminals import CoreEnd, Join, Mark
from lumbek.core.model.text import Id
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.colours import colour_of, scheme_of, sleeve_colour
from lumbek.core.switching.states import lines_of
from lumbek.core.switching.terms import KINDS, said_as, terms_of
from lumbek.core.value import Frozen


class FaceCore(Frozen):
    """A core end: its colour, the sleeve on it, the place its cable goes to."""

    leg: str
    core: str
    colour: str
    sleeve: str
    mark: Mark | None
    to: str


class FaceTerminal(Frozen):
    """A terminal, empty or not; without a name it is a connector."""

    name: str
    shown: str
    gang: int | None
    cores: tuple[FaceCore, ...]


class FaceGang(Frozen):
    """One gang of the plate, with its terminals."""

    gang: int
    kind: AccessoryKind
    words: str
    name: str
    cord: bool
    terminals: tuple[str, ...]


class FaceCable(Frozen):
    """A cable that comes into the box; `beyond` is where it goes, nothing where that is unknown."""

    leg: str
    to: str
    beyond: Id | None
    live: int
    state: State
    cores: tuple[str, ...]


class Face(Frozen):
    """One box, opened."""

    circuit: int
    place: Id
    title: str
    kind: PointKind
    room: str
    state: State
    depth: int
    gangs: tuple[FaceGang, ...]
    lamps: tuple[str, ...]
    cables: tuple[FaceCable, ...]
    terminals: tuple[FaceTerminal, ...]
    off: tuple[FaceCore, ...]


def faces_of(book: Rulebook, circuit: Circuit, circuits: Mapping[int, Circuit] | None = None) -> tuple[Face, ...]:
    """Return every box of a circuit, in the order one comes to them from the board.

    `circuits` are those that are wired into it, by their numbers: their cores show in its boxes too.
    """
    distance = graph_of(circuit).distance
    points = [point for point in circuit.points if point.kind != "unknown-end"]
    points.sort(key=lambda point: distance.get(point.id, len(circuit.points)))
    return tuple(_face(book, circuit, point.id, distance.get(point.id, -1), circuits or {}) for point in points)


def _face(book: Rulebook, circuit: Circuit, place: str, depth: int, circuits: Mapping[int, Circuit]) -> Face:
    point = circuit.point(place)
    box = _Box(book, circuit, place, circuits)
    joins = said_joins(circuit, place)
    lamps = lines_of(point)
    own = [*(name for gang in point.accessories for name in gang.terminals), *lamps, *(("N",) if lamps else ()), "E"]
    return Face(
        circuit=circuit.number,
        place=place,
        title=point.name or point.id,
        kind=point.kind,
        room=point.room_name,
        state=point.state,
        depth=depth,
        gangs=tuple(
            FaceGang(
                gang=each.gang,
                kind=each.kind,
                words=said_as(terms_of(book, circuit), KINDS[each.kind]).removesuffix(" switch"),
                name=each.name,
                cord=each.cord,
                terminals=each.terminals,
            )
            for each in point.accessories
        ),
        lamps=lamps,
        cables=(*map(box.cable, box.legs), *_cables_of_others(joins)),
        terminals=tuple(box.terminals(joins, own)),
        off=tuple(box.core(join.ends[0]) for join in joins if _is_off(join)),
    )


class _Box:
    """One box of a circuit, with the cables that end in it; `circuits` are others whose cores may."""

    def __init__(self, book: Rulebook, circuit: Circuit, place: str, circuits: Mapping[int, Circuit]) -> None:
        self.book, self.circuit, self.place, self.circuits = book, circuit, place, circuits
        self.legs = [leg for leg in circuit.legs if place in (leg.a, leg.b)]
        self._unknown = {each.id for each in circuit.points if each.kind == "unknown-end"}

    def core(self, end: CoreEnd) -> FaceCore:
        """Return a core end as it is shown."""
        leg = next((each for each in self.legs if each.id == end.leg and end.circuit is None), None)
        if leg is None:
            return self._core_of_another(end)
        cable = self.circuit.cable_of(leg)
        sleeve = "" if end.marked is None else sleeve_colour(scheme_of(self.book, cable), end.marked)
        colour = colour_of(self.book, cable, end.core)
        return FaceCore(leg=leg.id, core=end.core, colour=colour, sleeve=sleeve, mark=end.marked, to=self._far(leg))

    def _core_of_another(self, end: CoreEnd) -> FaceCore:
        other = self.circuits.get(end.circuit or 0)
        leg = next((each for each in other.legs if each.id == end.leg), None) if other else None
        colour = "" if other is None or leg is None else colour_of(self.book, other.cable_of(leg), end.core)
        to = f"circuit {end.circuit}"
        return FaceCore(leg=_theirs(end), core=end.core, colour=colour, sleeve="", mark=end.marked, to=to)

    def _far(self, leg: Leg) -> str:
        """Return what is at the far end of a leg."""
        return "not known" if self._beyond(leg) is None else self.circuit.far_title(leg, self.place)

    def _beyond(self, leg: Leg) -> str | None:
        far = leg.other_end(self.place)
        return None if far in self._unknown else far

    def cable(self, leg: Leg) -> FaceCable:
        """Return a cable as it is shown."""
        cable = self.circuit.cable_of(leg)
        return FaceCable(
            leg=leg.id,
            to=self._far(leg),
            beyond=self._beyond(leg),
            live=len(cable.live_cores),
            state=leg.state,
            cores=cable.core_names,
        )

    def _met(self, join: Join) -> FaceTerminal:
        first = join.terminals[0] if join.terminals else ""
        cores = tuple(self.core(end) for end in join.ends)
        return FaceTerminal(name=first, shown=_shown(join.terminals), gang=_gang(first), cores=cores)

    def terminals(self, joins: Sequence[Join], own: Sequence[str]) -> list[FaceTerminal]:
        """Return what meets in the box, each by its first terminal, and its `own` terminals with nothing in them."""
        found = [self._met(join) for join in joins if not _is_off(join)]
        held = {name for join in joins for name in join.terminals}
        empty = (name for name in dict.fromkeys(own) if name not in held)
        found += [FaceTerminal(name=name, shown=_short(name), gang=_gang(name), cores=()) for name in empty]
        order = {name: index for index, name in enumerate(own)}
        return sorted(found, key=lambda each: order.get(each.name, len(order) if each.name else -1))


def _is_off(join: Join) -> bool:
    """Whether it is one core end by itself, in nothing."""
    return not join.terminals and len(join.ends) == 1


def _cables_of_others(joins: Sequence[Join]) -> Iterator[FaceCable]:
    """Yield the cables of other circuits of which a core ends here."""
    strangers: dict[str, list[CoreEnd]] = {}
    for end in (end for join in joins for end in join.ends if end.circuit is not None):
        strangers.setdefault(_theirs(end), []).append(end)
    for leg, ends in strangers.items():
        yield FaceCable(
            leg=leg,
            to=f"circuit {ends[0].circuit}",
            beyond=f"circuit-{ends[0].circuit}",
            live=len(ends),
            state="as-found",
            cores=tuple(end.core for end in ends),
        )


def _theirs(end: CoreEnd) -> str:
    """Return what a cable of another circuit is called here."""
    return f"{end.circuit}:{end.leg}"


def _short(name: str) -> str:
    return name.rpartition(".")[2]


def _shown(names: tuple[str, ...]) -> str:
    """Return terminals as they are written over them, those of several gangs with their numbers."""
    gangs = {_gang(name) for name in names}
    return "+".join(name.replace(".", " ") if len(gangs) > 1 else _short(name) for name in names)


def _gang(name: str) -> int | None:
    number = name.rpartition(".")[0]
    return int(number) if number else None


def _others_in(design: Circuit) -> set[int]:
    """Return the circuits of which some core is in a join of this one, by their numbers."""
    joins = chain(design.board_joins, *(point.joins for point in design.points))
    return {end.circuit for join in joins for end in join.ends if end.circuit is not None}


def joined_circuits(designs: dict[int, Circuit], number: int) -> dict[int, Circuit]:
    """Return a circuit with all that are wired into it by any join, by their numbers, itself first."""
    beside: dict[int, set[int]] = {each: set() for each in designs}
    for own, design in designs.items():
        for other in _others_in(design) & designs.keys():
            beside[own].add(other)
            beside[other].add(own)
    found, queue = {number: designs[number]}, [number]
    for here in queue:
        for other in sorted(beside[here]):
            if other not in found:
                found[other] = designs[other]
                queue.append(other)
    return found


def is_lit(circuit: Circuit) -> bool:
    """Whether a circuit has anything that the switching bench is for."""
    if circuit.scheme is not None or circuit.kind in ("lighting", "alarms"):
        return True
    return any(point.kind == "light" or point.accessories for point in circuit.points)
