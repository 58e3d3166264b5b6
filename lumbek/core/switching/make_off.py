"""The make-off sheet: box by box, which core with which sleeve goes into which terminal, and what is written where."""

from collections.abc import Iterable, Sequence

from lumbek.core.circuit.graph import graph_of
from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import Control, GangAt
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.common import ColourScheme
from lumbek.core.switching.checks.boxes import box_depth_mm, too_many
from lumbek.core.switching.colours import colour_of, is_bare, scheme_of, sleeve_colour
from lumbek.core.switching.parts import PartLine, cable_words, parts
from lumbek.core.switching.terms import KINDS, said_as, terms_of
from lumbek.core.value import Frozen


class CoreLine(Frozen):
    """One core as it is made off: its colour, the sleeve it gets, the cable it belongs to."""

    leg: str
    core: str
    colour: str
    sleeve: str
    to: str


class TerminalLine(Frozen):
    """A terminal, or a connector, and the cores that go into it, in order."""

    terminal: str
    gang: int | None
    cores: tuple[CoreLine, ...]
    note: str = ""


class BoxCable(Frozen):
    """A cable as it comes into a box."""

    leg: str
    words: str
    cores: int
    found: bool


class BoxSheet(Frozen):
    """One box: what sits in it, its cables, and its terminals in the order they are made."""

    place: str
    title: str
    what: str
    box: str
    labels: tuple[str, ...]
    cables: tuple[BoxCable, ...]
    terminals: tuple[TerminalLine, ...]


class CableLine(Frozen):
    """One cable of the schedule: from, to, cores and which of them are used, length."""

    leg: str
    words: str
    cable: str
    length: str
    used: tuple[str, ...]
    spare: tuple[str, ...]
    found: bool


class MakeOff(Frozen):
    """The whole sheet of a circuit."""

    title: str
    safety: str
    boxes: tuple[BoxSheet, ...]
    cables: tuple[CableLine, ...]
    parts: tuple[PartLine, ...]
    chart: str
    notices: tuple[str, ...]
    words: dict[str, str]


SAFETY = (
    "Isolate, lock off and prove dead before a box is opened. For competent persons; local rules come first, and "
    "what is written here never replaces a test."
)


_MIXED = "CAUTION: this installation has wiring colours to two versions. Great care before undertaking work."


def make_off(book: Rulebook, circuit: Circuit) -> MakeOff:
    """Return the make-off sheet of a circuit, boxes in the order one comes to them from the board."""
    distance = graph_of(circuit).distance
    places = [point for point in circuit.points if point.kind != "unknown-end"]
    places.sort(key=lambda point: distance.get(point.id, len(circuit.points)))
    cables = [circuit.cable_of(leg) for leg in circuit.legs]
    mixed = len({cable.colours for cable in cables}) > 1
    words = next(filter(None, (scheme_of(book, cable).words for cable in cables)), {})
    return MakeOff(
        title=f"Circuit {circuit.number}, {circuit.name}",
        safety=SAFETY,
        boxes=tuple(_box(book, circuit, point) for point in places if _is_made(circuit, point)),
        cables=tuple(_cable(book, circuit, leg) for leg in circuit.legs),
        parts=parts(book, circuit),
        chart=_chart(circuit),
        notices=(_MIXED,) if mixed else (),
        words=words,
    )


def _is_made(circuit: Circuit, point: Point) -> bool:
    return bool(point.joins or point.accessories) and any(point.id in (leg.a, leg.b) for leg in circuit.legs)


def _box(book: Rulebook, circuit: Circuit, point: Point) -> BoxSheet:
    here = [leg for leg in circuit.legs if point.id in (leg.a, leg.b)]
    scheme = terms_of(book, circuit)
    depth = box_depth_mm(book, point)
    kinds = [said_as(scheme, KINDS[each.kind]) + (", pull cord" if each.cord else "") for each in point.accessories]
    return BoxSheet(
        place=point.id,
        title=point.title,
        what=", ".join(kinds) or {"light": "light", "joint": "joint box"}.get(point.kind, point.kind.replace("-", " ")),
        box="" if depth is None else f"box {plain(depth)} mm or deeper",
        labels=tuple(_labels(point.accessories)),
        cables=tuple(
            BoxCable(
                leg=leg.id,
                words=f"to {circuit.far_title(leg, point.id)}",
                cores=len(circuit.cable_of(leg).live_cores),
                found=leg.state == "as-found",
            )
            for leg in here
        ),
        terminals=tuple(_terminal(book, circuit, point, join, scheme) for join in _in_order(point)),
    )


def _labels(accessories: Sequence[Accessory]) -> list[str]:
    if len(accessories) < 2:
        return [each.name for each in accessories if each.name]
    return [f"gang {each.gang}: {each.name or 'not named'}" for each in accessories]


def _in_order(point: Point) -> list[Join]:
    """Return the joins of a box in the order they are made: earth first, connectors, then gang by gang; spares last."""

    def key(join: Join) -> tuple[int, str]:
        if "E" in join.terminals:
            return 0, ""
        if not join.terminals:
            return (1 if len(join.ends) > 1 else 3), ""
        return 2, join.terminals[0]

    return sorted((join for join in point.joins if join.ends), key=key)


def _title(point: Point, join: Join, scheme: ColourScheme) -> str:
    """Return what meets in a join as one says it: a connector, earth, or terminals by gang where there are several."""
    if not join.terminals:
        return "connector" if len(join.ends) > 1 else "spare: end it in a connector"
    if join.terminals == ("E",):
        return "earth"
    several = len({each.gang for each in point.accessories}) > 1
    names = []
    for name in join.terminals:
        number, _, terminal = name.rpartition(".")
        named = said_as(scheme, terminal)
        names.append(f"gang {number} {named}" if number and several else named)
    return " and ".join(names)


def _terminal(book: Rulebook, circuit: Circuit, point: Point, join: Join, scheme: ColourScheme) -> TerminalLine:
    gang = next((int(number) for name in reversed(join.terminals) if (number := name.rpartition(".")[0])), None)
    over = too_many(book, circuit, join)
    note = f"{over} more than the terminal takes: connector, with one tail to it" if over else ""
    if point.plate.metal and join.terminals == ("E",):
        note = "with a tail to the metal plate and one to the box"
    return TerminalLine(
        terminal=_title(point, join, scheme),
        gang=gang,
        cores=tuple(_core(book, circuit, point.id, end) for end in join.ends if end.circuit is None),
        note=note,
    )


def _core(book: Rulebook, circuit: Circuit, place: str, end: CoreEnd) -> CoreLine:
    leg = circuit.leg(end.leg)
    cable = circuit.cable_of(leg)
    scheme = scheme_of(book, cable)
    colour = colour_of(book, cable, end.core)
    sleeve = "" if end.marked is None else sleeve_colour(scheme, end.marked)
    if end.core == "E" and (is_bare(book, cable) or colour == "bare"):
        sleeve = sleeve_colour(scheme, "earth") if scheme.earth != "bare" else ""
        colour = "bare"
    return CoreLine(leg=leg.id, core=end.core, colour=colour, sleeve=sleeve, to=circuit.far_title(leg, place))


def _used(circuit: Circuit, leg: Leg) -> set[str]:
    """Return the cores of a cable that are in a join with something at both ends."""

    def alone(place: str, core: str) -> bool:
        joins = circuit.board_joins if place == BOARD else circuit.point(place).joins
        for join in joins:
            if any(end.leg == leg.id and end.core == core and end.circuit is None for end in join.ends):
                return len(join.ends) == 1 and not join.terminals
        return core not in ("L", "N", "E")

    cores = circuit.cable_of(leg).live_cores
    return {core for core in cores if not alone(leg.a, core) and not alone(leg.b, core)}


def _cable(book: Rulebook, circuit: Circuit, leg: Leg) -> CableLine:
    cable = circuit.cable_of(leg)
    cores, used = cable.live_cores, _used(circuit, leg)
    length = leg.length_m
    return CableLine(
        leg=leg.id,
        words=f"{circuit.point_title(leg.a)} to {circuit.far_title(leg, leg.a)}",
        cable=cable_words(cable),
        length="length not known" if length is None else f"{plain(round(length, 2))} m",
        used=tuple(colour_of(book, cable, core) for core in cores if core in used),
        spare=tuple(colour_of(book, cable, core) for core in cores if core not in used),
        found=leg.state == "as-found",
    )


def _chart(circuit: Circuit) -> str:
    """Return what is written on the circuit chart: the circuit, and what switches what where that is said."""
    found = []
    for control in circuit.scheme.controls if circuit.scheme else ():
        lights = ", ".join(circuit.point_title(output.point) for output in control.outputs)
        by = _switched_by(circuit, control)
        found.append(f"{control.name}: {lights}{by}" if control.name else f"{lights}:{by}")
    said = "; ".join(found)
    return f"{circuit.number} {circuit.name}" + (f". {said}" if said else "")


def _switched_by(circuit: Circuit, control: Control) -> str:
    """Return what switches a control: " from Hall, Landing", " by the sensor at Porch or Hall"."""

    def at(gangs: Iterable[GangAt]) -> str:
        return ", ".join(dict.fromkeys(circuit.point_title(gang.point) for gang in gangs))

    places, sensors = at(control.gangs), at(control.sensors)
    by = f" from {places}" if places else " on for good"
    if sensors:
        beside = f" behind {places}" if control.sensors_behind else f" or {places}" if places else ""
        by = f" by the sensor at {sensors}{beside}"
    if control.holds:
        by += f", held on at {at(control.holds)}"
    return by if control.master is None else f"{by}, master at {at([control.master])}"
