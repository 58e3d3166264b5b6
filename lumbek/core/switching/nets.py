"""The conductors of a chosen way: what each is, and which terminals it joins."""

from collections.abc import Iterable
from typing import Literal, NamedTuple

from lumbek.core.model.accessory import SENSING, Accessory, AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import Control, GangAt, Scheme
from lumbek.core.switching.choose import Chosen
from lumbek.core.switching.options import Option

Role = Literal["line", "neutral", "switched", "strapper", "common", "link"]


class NetEnd(NamedTuple):
    """Where a conductor must be: a place, and the terminal there that takes it, if any."""

    place: str
    terminal: str | None = None


class Net(NamedTuple):
    """One conductor of the scheme, and everything it joins."""

    name: str
    role: Role
    ends: tuple[NetEnd, ...]
    control: str = ""


class NetRow(NamedTuple):
    """The switches of a control in the order they are wired, and between which two the pair is tapped, if at all."""

    gangs: tuple[GangAt, ...]
    tapped: int | None = None


def row_of(chosen: Chosen, option: Option, control: Control) -> NetRow:
    """Return the switches in the order of the least walk."""
    tree = chosen.tree
    first, last = option.first, option.last
    if len(control.gangs) < 2 or first is None or last is None:
        return NetRow(control.gangs)

    def walked(gangs: Iterable[GangAt], start: GangAt, end: GangAt) -> list[GangAt]:
        order = tree.tour([(gang.point, gang) for gang in gangs], start, end)
        return [each for each in order if isinstance(each, GangAt)]

    if option.taps is None:
        return NetRow(tuple(walked(control.gangs, first, last)))
    inner, outer = option.taps
    near = walked([gang for gang in control.gangs if gang in option.near], first, inner)
    far = walked([gang for gang in control.gangs if gang not in option.near], outer, last)
    return NetRow((*near, *far), tapped=len(near) - 1)


def _rows(scheme: Scheme, chosen: Chosen) -> list[NetRow]:
    """Return the row of each control in a chosen way."""
    return [row_of(chosen, option, control) for control, option in zip(scheme.controls, chosen.options, strict=True)]


def kind_of(circuit: Circuit, gang: GangAt, row: NetRow) -> AccessoryKind:
    """Return what a gang must be in its row; a dimmer stays one."""
    found = circuit.point(gang.point).accessory(gang.gang)
    dims = found is not None and found.dims
    if len(row.gangs) < 2:
        if dims:
            return "dimmer"
        # A two-way switch does as a one-way.
        return "two-way" if found is not None and found.kind == "two-way" else "one-way"
    if gang in (row.gangs[0], row.gangs[-1]):
        return "dimmer-two-way" if dims else "two-way"
    return "intermediate"


def _terminal(gang: GangAt, name: str) -> NetEnd:
    return NetEnd(gang.point, f"{gang.gang}.{name}")


def _in(row: NetRow, at: int) -> tuple[NetEnd, NetEnd]:
    """Return the terminals of a switch towards the one before it in its row."""
    return _terminal(row.gangs[at], "L1"), _terminal(row.gangs[at], "L2")


def _out(row: NetRow, at: int) -> tuple[NetEnd, NetEnd]:
    """Return the terminals of a switch towards the one after it in its row."""
    names = ("L1", "L2") if at == 0 else ("L3", "L4")
    return _terminal(row.gangs[at], names[0]), _terminal(row.gangs[at], names[1])


def nets_of(scheme: Scheme, chosen: Chosen, neutral_at: Iterable[str], line_at: Iterable[str]) -> list[Net]:
    """Return every conductor of a chosen way: line and neutral first, then those of each control."""
    return nets_in(scheme, _rows(scheme, chosen), (chosen.tree.root, *line_at), neutral_at)


def nets_in(scheme: Scheme, rows: Iterable[NetRow], line_at: Iterable[str], neutral_at: Iterable[str]) -> list[Net]:
    """Return every conductor with the switches of each control in a row: line and neutral first.

    `line_at` is where the supply arrives and where it goes on to something else, `neutral_at` where the neutral is
    wanted beside the lights.
    """
    line = [NetEnd(place) for place in line_at]
    neutral = [NetEnd(place) for place in neutral_at]
    found: list[Net] = []
    for control, row in zip(scheme.controls, rows, strict=True):
        switched = [NetEnd(output.point, output.line) for output in control.outputs]
        neutral += [NetEnd(output.point, "N") for output in control.outputs]
        if not row.gangs and not control.sensors:
            # On for good.
            line += switched
            continue
        name = control.name or control.id
        to_sensors = [_terminal(sensor, "L") for sensor in control.sensors]
        neutral += [_terminal(sensor, "N") for sensor in control.sensors]
        switched += [_terminal(sensor, "S") for sensor in control.sensors]
        if control.sensors_behind:
            found += _row_nets(control, row, line, to_sensors)
            found.append(Net(f"line of the sensor of {name}", "switched", _once(to_sensors), control.id))
        else:
            line += to_sensors
            found += _row_nets(control, row, line, switched)
        found.append(Net(f"switched line of {name}", "switched", _once(switched), control.id))
    for link in scheme.links:
        ends = _once(NetEnd(end.point, end.line) for end in link.ends)
        found.append(Net(link.name or "interlink", "link", ends, link.id))
    return [Net("line", "line", _once(line)), Net("neutral", "neutral", _once(neutral)), *found]


def _row_nets(control: Control, row: NetRow, line: list[NetEnd], switched: list[NetEnd]) -> list[Net]:
    """Return the strappers of a row, and the wire between joined commons; line and switched line get their ends."""
    last = len(row.gangs) - 1
    if last < 1:
        for gang in row.gangs:
            line.append(_terminal(gang, "COM"))
            switched.append(_terminal(gang, "L1"))
        return []
    found = []
    for at in range(last):
        pairs = tuple(zip(_out(row, at), _in(row, at + 1), strict=True))
        if at == row.tapped:
            line += pairs[0]
            switched += pairs[1]
        else:
            found += [
                Net(f"strapper {at + 1}{letter}", "strapper", pair, control.id)
                for letter, pair in zip("ab", pairs, strict=True)
            ]
    one, other = _terminal(row.gangs[0], "COM"), _terminal(row.gangs[-1], "COM")
    if row.tapped is None:
        line.append(one)
        switched.append(other)
    else:
        found.append(Net("common to common", "common", (one, other), control.id))
    return found


def _once(ends: Iterable[NetEnd]) -> tuple[NetEnd, ...]:
    """Return the ends, each once; a place by itself only where none of its terminals is named."""
    every = list(dict.fromkeys(ends))
    named = {end.place for end in every if end.terminal is not None}
    return tuple(end for end in every if end.terminal is not None or end.place not in named)


def fitted(circuit: Circuit, scheme: Scheme, chosen: Chosen) -> dict[str, tuple[Accessory, ...]]:
    """Return what sits in the box of each place of the scheme once it is wired so."""
    return fitted_in(circuit, scheme, _rows(scheme, chosen))


def fitted_in(circuit: Circuit, scheme: Scheme, rows: Iterable[NetRow]) -> dict[str, tuple[Accessory, ...]]:
    """Return what sits in the box of each place with the switches of each control in a row."""
    found = {point.id: {each.gang: each for each in point.accessories} for point in circuit.points}
    for control, row in zip(scheme.controls, rows, strict=True):
        for gang in row.gangs:
            base = found[gang.point].get(gang.gang) or Accessory(gang=gang.gang)
            told = {"kind": kind_of(circuit, gang, row), "name": base.name or control.name}
            found[gang.point][gang.gang] = base.model_copy(update=told)
        for sensor in control.sensors:
            base = found[sensor.point].get(sensor.gang) or Accessory(gang=sensor.gang)
            sensing = base.kind if base.kind in SENSING else "sensor"
            told = {"kind": sensing, "name": base.name or control.name}
            found[sensor.point][sensor.gang] = base.model_copy(update=told)
    return {place: tuple(gangs[each] for each in sorted(gangs)) for place, gangs in found.items()}
