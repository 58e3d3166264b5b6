"""Which conductor goes into which core of which cable: currents cancel in each cable, and least is sleeved."""

from collections.abc import Iterator, Sequence
from itertools import combinations, islice, permutations, product

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.accessory import CONTACTS
from lumbek.core.model.cable import Cable
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.terminals import CoreEnd
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.common import ColourScheme
from lumbek.core.switching.choose import Chosen
from lumbek.core.switching.colours import Use, colour_of, needs_sleeve, scheme_of
from lumbek.core.switching.nets import Net, NetEnd, NetRow, Role, row_of
from lumbek.core.switching.tree import Tree

Flows = NDArray[np.int16]
# Ways of sharing a run's conductors among its cables beyond which no better one is looked for.
_MOST_WAYS = 1500
# Switches turned at once, of those in a row, when currents are looked at.
_MOST_TURNED = 3
_ORDER: tuple[Role, ...] = ("line", "switched", "strapper", "common", "link", "neutral")


def use_of(role: Role) -> Use:
    """Return what a conductor is to whoever opens the box: everything but the neutral may be live."""
    return "neutral" if role == "neutral" else "line"


def sleeved_end(book: Rulebook, leg: str, cable: Cable, core: str, net: Net) -> CoreEnd:
    """Return the end of a core that holds a conductor, sleeved where its colour says something else."""
    use = use_of(net.role)
    sleeved = needs_sleeve(scheme_of(book, cable), colour_of(book, cable, core), use)
    return CoreEnd(leg=leg, core=core, marked=use if sleeved else None)


def flows_of(scheme: Scheme, chosen: Chosen, nets: Sequence[Net]) -> Flows:
    """Return the current in every net and run with each control on, in all states of its switches that tell more.

    Shape (states, nets, runs), in lamps, positive away from the feed. A tree leaves a current one way only, so this
    is Kirchhoff's law and no resistance matters.
    """
    tree = chosen.tree
    of_terminal = {end: index for index, net in enumerate(nets) for end in net.ends if end.terminal}
    found: dict[bytes, Flows] = {}
    for control, option in zip(scheme.controls, chosen.options, strict=True):
        row = row_of(chosen, option, control)
        lamps = [NetEnd(output.point, output.line) for output in control.outputs]
        sensed = [
            [(of_terminal[NetEnd(sensor.point, f"{sensor.gang}.{name}")], sensor.point) for name in ("L", "S")]
            for sensor in control.sensors
        ]
        behind = control.sensors_behind
        target = sensed[0][0][0] if behind else of_terminal[lamps[0]]
        ways = list(_ways(row, of_terminal, target)) if option.method != "sensor" else []
        if option.method == "permanent":
            ways.append([])
        ways = [[*way, *sensor] for way in ways for sensor in sensed] if behind else [*ways, *sensed]
        for way in ways:
            flow = np.zeros((len(nets), len(tree.routes)), dtype=np.int16)
            _pass_along(flow, tree, way, lamps)
            found.setdefault(flow.tobytes(), flow)
    if not found:
        return np.zeros((0, len(nets), len(tree.routes)), dtype=np.int16)
    return np.array(list(found.values()), dtype=np.int16)


def _pass_along(flow: Flows, tree: Tree, way: Sequence[tuple[int, str]], lamps: Sequence[NetEnd]) -> None:
    """Add what flows to the lamps along contacts and back by the neutral; nets 0 and 1 are line and neutral."""
    here, net = tree.root, 0
    for onward, place in way:
        if onward != net:
            flow[net] += len(lamps) * _signed(tree, here, place)
            here, net = place, onward
    for lamp in lamps:
        flow[net] += _signed(tree, here, lamp.place)
        flow[1] -= _signed(tree, tree.root, lamp.place)


def _signed(tree: Tree, a: str, b: str) -> NDArray[np.int16]:
    """Return +1 for the runs that a way from a to b passes away from the root, -1 for those towards it."""
    away, back = tree.below[:, tree.at[b]], tree.below[:, tree.at[a]]
    return away.astype(np.int16) - back.astype(np.int16)


def _ways(row: NetRow, of_terminal: dict[NetEnd, int], target: int) -> Iterator[list[tuple[int, str]]]:
    """Yield for each state that lights the lamp the nets from line to lamp, each with the place it is entered at."""
    if not row.gangs:
        return
    kinds = [
        "one-way" if len(row.gangs) == 1 else "two-way" if at in (0, len(row.gangs) - 1) else "intermediate"
        for at in range(len(row.gangs))
    ]
    # Turning two neighbours moves the current in one pair and nowhere else: states with more turned only add those up.
    for state in product((0, 1), repeat=len(row.gangs)):
        if sum(state) > _MOST_TURNED:
            continue
        beside: dict[int, list[tuple[int, str]]] = {}
        for gang, kind, at in zip(row.gangs, kinds, state, strict=True):
            for a, b in CONTACTS[kind][at]:  # type: ignore[index]
                one, other = (of_terminal[NetEnd(gang.point, f"{gang.gang}.{name}")] for name in (a, b))
                beside.setdefault(one, []).append((other, gang.point))
                beside.setdefault(other, []).append((one, gang.point))
        queue: list[list[tuple[int, str]]] = [[(0, "")]]
        seen = {0}
        for path in queue:
            if path[-1][0] == target:
                yield path[1:]
                break
            for onward, place in beside.get(path[-1][0], ()):
                if onward not in seen:
                    seen.add(onward)
                    queue.append([*path, (onward, place)])


def shared_out(flows: Flows, sizes: Sequence[int], nets: Sequence[Net]) -> tuple[tuple[int, ...], ...]:
    """Return which of some nets of a run go into which of its cables, of so many cores each.

    `flows` has shape (states, nets) of these nets. Cables whose currents do not cancel are avoided first, then
    conductors of one control in several cables.
    """
    if len(sizes) == 1:
        return (tuple(range(len(nets))),)
    # A net's currents in all states as one number: those of several add up to nothing in every state, or to something.
    base = 4 * (1 + int(np.abs(flows).sum(axis=1).max(initial=0)))
    marks = [sum(int(flow) * base**state for state, flow in enumerate(column)) for column in flows.T]
    controls = [net.control for net in nets]
    fewest = len(set(controls))
    best: tuple[tuple[int, int], tuple[tuple[int, ...], ...]] | None = None
    for way in islice(_shares(tuple(range(len(nets))), tuple(sizes)), _MOST_WAYS):
        unlike = sum(1 for cable in way if sum(marks[index] for index in cable))
        spread = sum(len({controls[index] for index in cable}) for cable in way)
        if best is None or (unlike, spread) < best[0]:
            best = (unlike, spread), way
            if best[0] == (0, fewest):
                break
    if best is None:
        raise ValueError("these cables do not hold so many conductors")
    return best[1]


def _shares(left: tuple[int, ...], sizes: tuple[int, ...]) -> Iterator[tuple[tuple[int, ...], ...]]:
    if not sizes:
        if not left:
            yield ()
        return
    room = sum(sizes[1:])
    for count in range(max(0, len(left) - room), min(sizes[0], len(left)) + 1):
        for cable in combinations(left, count):
            rest = tuple(each for each in left if each not in cable)
            yield from ((cable, *more) for more in _shares(rest, sizes[1:]))


def into_cores(nets: Sequence[Net], colours: Sequence[str], scheme: ColourScheme) -> tuple[int | None, ...]:
    """Return for each core which of these nets it is, so that fewest sleeves are needed; None for a spare core.

    Of ways with as few, line has the first colour, and what is switched the next.
    """
    spare = len(colours) - len(nets)
    slots: list[int | None] = [*range(len(nets)), *([None] * spare)]

    def worth(way: tuple[int | None, ...]) -> tuple[int, list[int]]:
        sleeves = sum(
            1
            for net, colour in zip(way, colours, strict=True)
            if net is not None and needs_sleeve(scheme, colour, use_of(nets[net].role))
        )
        return sleeves, [len(_ORDER) if net is None else _ORDER.index(nets[net].role) for net in way]

    return min(permutations(slots), key=worth)
