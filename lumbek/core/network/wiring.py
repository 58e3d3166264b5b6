"""Expanding circuits to their conductor network: a node where cores meet, a branch for each core of each leg.

One expansion serves design currents, fault loops and every test reading. It follows the joins that are said, the
plain ones where nothing is said, and the contacts of the switches; several circuits are expanded together where they
share a board or are joined by mistake.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.terminals import CONDUCTORS, Join
from lumbek.core.network.solver import Grid, Solution, parts_of

# Ohms of each core of each leg: (circuit, leg) to core to Ω.
CoresOhm = Mapping[str, Mapping[str, float]]
# A circuit expanded by itself goes by this number.
ALONE = 0
# In service, with a ring's ends out, and some more: whoever unplugs point after point asks for each way once.
_MOST_GRIDS = 8


class Node(NamedTuple):
    """Where conductors meet: a terminal of a point, or of the board; or the end of a core that meets nothing."""

    name: str
    point: str
    circuit: int = ALONE


class CoreAt(NamedTuple):
    """One core of one leg, at the point where it ends."""

    leg: str
    core: str
    point: str
    circuit: int = ALONE


@lru_cache(maxsize=8192)
def node(name: str, point: str, circuit: int = ALONE) -> Node:
    """Return a node; the same few are asked for in every network of a circuit, and making one takes time."""
    return Node(name, point, circuit)


@lru_cache(maxsize=8192)
def loose(end: CoreAt) -> Node:
    """Return the node of a core end that has been taken out of its terminal."""
    return Node(f"{end.leg}:{end.core}", end.point, end.circuit)


class Setup(NamedTuple):
    """How a network stands while it is measured: what is taken out, linked, switched, broken or bridged."""

    taken_out: frozenset[CoreAt] = frozenset()
    links: tuple[tuple[Node, Node], ...] = ()
    # Switches that stand otherwise than they do by themselves: (circuit, point, switch) and the position.
    positions: frozenset[tuple[tuple[int, str, str], int]] = frozenset()
    # Devices at the board that are off, by circuit.
    off: frozenset[int] = frozenset()
    # Cores with a break in them: (circuit, leg, core).
    broken: frozenset[tuple[int, str, str]] = frozenset()
    # Paths that no cable makes, in Ω: insulation, a fault, a load left in.
    bridges: tuple[tuple[Node, Node, float], ...] = ()


IN_SERVICE = Setup()


@dataclass(frozen=True)
class Laid:
    """A network as it is set up: nodes that are one counted once, branches as the wiring has them.

    `ends` has shape (branches, 2); `whole` says of each branch whether it is unbroken.
    """

    at: Mapping[Node, int]
    size: int
    ends: NDArray[np.intp]
    whole: NDArray[np.bool_]


@dataclass(frozen=True)
class Wiring:
    """The conductors of one circuit, or of several together, by what is joined to what.

    `ends` are pairs of indices of `index`; `branches` names the core of each.
    """

    index: Mapping[Node, int]
    branches: tuple[tuple[int, str, str], ...]
    ends: tuple[tuple[int, int], ...]
    merged: tuple[tuple[int, int], ...]
    contacts: Mapping[tuple[int, str, str], tuple[tuple[tuple[Node, Node], ...], ...]]
    positions: Mapping[tuple[int, str, str], int]
    devices: Mapping[int, tuple[Node, Node]] = field(default_factory=dict)
    place_of: Mapping[CoreAt, tuple[int, int]] = field(default_factory=dict)
    _grids: dict[Setup, Grid[Node]] = field(default_factory=dict, compare=False, repr=False)

    def ohms(self, cores: CoresOhm, circuit: int = ALONE) -> NDArray[np.float64]:
        """Return the resistance in Ω of each branch, shape (branches,), from the cores of one circuit's legs."""
        return np.array([cores[leg][core] for number, leg, core in self.branches if number == circuit])

    def solve(self, ohms: NDArray[np.float64], setup: Setup = IN_SERVICE) -> Solution[Node]:
        """Return the network solved as it is set up, for branches of `ohms` Ω; 0 Ω joins its two ends."""
        if not setup.broken and not setup.bridges and ohms.all():
            return Solution(self._grid(setup), ohms)
        index, ends, merged = self._stands(setup)
        if setup.broken:
            kept = [at for at, branch in enumerate(self.branches) if branch not in setup.broken]
            ends, ohms = [ends[at] for at in kept], ohms[kept]
        if setup.bridges:
            ends += [(index.setdefault(a, len(index)), index.setdefault(b, len(index))) for a, b, _ in setup.bridges]
            ohms = np.concatenate((ohms, [ohm for _, _, ohm in setup.bridges]))
        if not ohms.all():
            merged += [pair for pair, ohm in zip(ends, ohms, strict=True) if ohm == 0]
            ends, ohms = [pair for pair, ohm in zip(ends, ohms, strict=True) if ohm != 0], ohms[ohms != 0]
        return Solution(Grid(index, ends, merged), ohms)

    def _grid(self, setup: Setup) -> Grid[Node]:
        """Return the grid of all branches as they are set up; the first few are kept, for they are asked for again."""
        found = self._grids.get(setup)
        if found is None:
            found = Grid(*self._stands(setup))
            if len(self._grids) < _MOST_GRIDS:
                self._grids[setup] = found
        return found

    def laid_out(self, setup: Setup = IN_SERVICE) -> "Laid":
        """Return the network as it is set up, every branch in its place: ready for changes that are not drawn."""
        index, ends, merged = self._stands(setup)
        part = parts_of(len(index), merged)
        nodes = {old: new for new, old in enumerate(dict.fromkeys(part))}
        return Laid(
            at={name: nodes[part[old]] for name, old in index.items()},
            size=len(nodes),
            ends=np.array([(nodes[part[a]], nodes[part[b]]) for a, b in ends], dtype=np.intp).reshape(-1, 2),
            whole=np.array([branch not in setup.broken for branch in self.branches], dtype=np.bool_),
        )

    def _stands(self, setup: Setup) -> tuple[dict[Node, int], list[tuple[int, int]], list[tuple[int, int]]]:
        """Return nodes, ends of branches and merged nodes: ends out, links and contacts as they are."""
        index, ends, merged = dict(self.index), list(self.ends), list(self.merged)
        for end in setup.taken_out:
            at, side = self.place_of[end]
            out = index.setdefault(loose(end), len(index))
            ends[at] = (out, ends[at][1]) if side == 0 else (ends[at][0], out)
        merged += [(index.setdefault(a, len(index)), index.setdefault(b, len(index))) for a, b in setup.links]
        merged += [(index[a], index[b]) for a, b in self._closed(setup)]
        return index, ends, merged

    def _closed(self, setup: Setup) -> Iterable[tuple[Node, Node]]:
        """Yield the pairs of terminals that contacts join."""
        moved = dict(setup.positions)
        for switch, positions in self.contacts.items():
            yield from positions[moved.get(switch, self.positions[switch])]
        for circuit, pair in self.devices.items():
            if circuit not in setup.off:
                yield pair


class _Run(NamedTuple):
    """A leg as the wiring has it: its name, its two ends, and the cores that its cable has."""

    leg: str
    a: str
    b: str
    cores: tuple[str, ...] = CONDUCTORS


def expand(circuit: Circuit, legs: Iterable[Leg]) -> Wiring:
    """Return the wiring of one circuit by itself: these of its legs, probed behind its device."""
    if not circuit.board_joins and not any(point.joins or point.contacts for point in circuit.points):
        return _plain(tuple(_Run(leg.id, leg.a, leg.b, _plain_cores(circuit.cable_of(leg))) for leg in legs))
    return _expand({ALONE: (circuit, _runs(circuit, legs))}, {})


def _runs(circuit: Circuit, legs: Iterable[Leg]) -> list[_Run]:
    return [_Run(leg.id, leg.a, leg.b, circuit.cable_of(leg).core_names) for leg in legs]


def _plain_cores(cable: Cable) -> tuple[str, ...]:
    """Return the cores that meet plainly: those to spare lead nowhere where nothing is said of them."""
    return CONDUCTORS if cable.lone is None else cable.core_names


@lru_cache(maxsize=256)
def _plain(runs: tuple[_Run, ...]) -> Wiring:
    """Return the wiring of runs that are joined plainly: whatever their cables and lengths, it is the same."""
    return _expand({ALONE: (None, runs)}, {})


def expand_together(circuits: Mapping[int, Circuit]) -> Wiring:
    """Return the wiring of several circuits of one board, by their numbers.

    They share the board's neutral and earth; each has its line through its own device, a contact. Node circuits are
    these numbers; the board's own terminals have the number `ALONE`.
    """
    parts = {number: (circuit, _runs(circuit, circuit.legs)) for number, circuit in circuits.items()}
    return _expand(parts, {number: (node("L", BOARD), node("L", BOARD, number)) for number in circuits})


# What is expanded, by number: its runs, and the circuit where something of it may be joined otherwise than plainly.
_Parts = Mapping[int, tuple[Circuit | None, Sequence[_Run]]]


def _expand(parts: _Parts, devices: Mapping[int, tuple[Node, Node]]) -> Wiring:
    index: dict[Node, int] = {}
    merged: list[tuple[int, int]] = []

    def at(name: str, point: str, number: int) -> int:
        return index.setdefault(node(name, point, number), len(index))

    for number in dict.fromkeys((*(ALONE,) * bool(devices), *parts)):
        # The board's nodes come first, so that potentials are counted from it.
        for conductor in CONDUCTORS:
            here = at(conductor, BOARD, number)
            if number != ALONE and conductor != "L":
                merged.append((index[node(conductor, BOARD)], here))
    said, contacts, positions = _said(parts, index, merged)

    def meets(end: CoreAt, plain: bool) -> int:
        """Return the node where a core ends: as a join says, else plainly, else by itself."""
        if end in said:
            return said[end]
        where = node(end.core, end.point, end.circuit) if plain else loose(end)
        return index.setdefault(where, len(index))

    branches: list[tuple[int, str, str]] = []
    ends: list[tuple[int, int]] = []
    place_of: dict[CoreAt, tuple[int, int]] = {}
    for one, other in _cores_of(parts):
        plain = one.core in CONDUCTORS
        # Cores to spare lead nowhere unless a join says so.
        if not plain and one not in said and other not in said:
            continue
        place_of[one], place_of[other] = (len(ends), 0), (len(ends), 1)
        branches.append((one.circuit, one.leg, one.core))
        ends.append((meets(one, plain), meets(other, plain)))
    return Wiring(
        index=index,
        branches=tuple(branches),
        ends=tuple(ends),
        merged=tuple(merged),
        contacts=contacts,
        positions=positions,
        devices=devices,
        place_of=place_of,
    )


def _cores_of(parts: _Parts) -> Iterator[tuple[CoreAt, CoreAt]]:
    """Yield the two ends of every core."""
    for number, (_, runs) in parts.items():
        for leg, a, b, cores in runs:
            yield from ((CoreAt(leg, core, a, number), CoreAt(leg, core, b, number)) for core in cores)


_Contacts = dict[tuple[int, str, str], tuple[tuple[tuple[Node, Node], ...], ...]]


def _said(
    parts: _Parts, index: dict[Node, int], merged: list[tuple[int, int]]
) -> tuple[dict[CoreAt, int], _Contacts, dict[tuple[int, str, str], int]]:
    """Return where the joins that are said put core ends, and the contacts of the switches with their positions."""
    said: dict[CoreAt, int] = {}
    contacts: _Contacts = {}
    positions: dict[tuple[int, str, str], int] = {}

    def terminal(name: str, point: str, number: int) -> int:
        return index.setdefault(node(name, point, number), len(index))

    for number, point_id, count, join in _joins_of(parts):
        places = [terminal(name, point_id, number) for name in join.terminals]
        here = places[0] if places else terminal(f"join {count}", point_id, number)
        merged += [(here, other) for other in places[1:]]
        # What belongs to a circuit that is not looked at leads nowhere.
        said.update((core_at, here) for core_at in _ends_of(join, point_id, number) if core_at.circuit in parts)
    for number, (circuit, _) in parts.items():
        switches = [(point.id, switch) for point in circuit.points for switch in point.contacts] if circuit else []
        for point_id, switch in switches:
            key = (number, point_id, switch.id)
            for pair in (pair for pairs in switch.positions for pair in pairs):
                terminal(pair.a, point_id, number)
                terminal(pair.b, point_id, number)
            contacts[key] = tuple(
                tuple((node(pair.a, point_id, number), node(pair.b, point_id, number)) for pair in pairs)
                for pairs in switch.positions
            )
            positions[key] = switch.at
    return said, contacts, positions


def _joins_of(parts: _Parts) -> Iterator[tuple[int, str, int, Join]]:
    """Yield every join that is said, with its circuit's number, its point, and which it is there, from 1 on."""
    for number, (circuit, _) in parts.items():
        if circuit is None:
            continue
        for point_id, joins in ((BOARD, circuit.board_joins), *((point.id, point.joins) for point in circuit.points)):
            yield from ((number, point_id, count, join) for count, join in enumerate(joins, start=1))


def _ends_of(join: Join, point_id: str, number: int) -> Iterable[CoreAt]:
    for end in join.ends:
        own = end.circuit is None or end.at is None
        yield (
            CoreAt(end.leg, end.core, point_id, number)
            if own
            else CoreAt(end.leg, end.core, str(end.at), int(end.circuit or 0))
        )
