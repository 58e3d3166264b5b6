"""Every position of every switch, solved: which lamps burn, and what each core is then.

Copper that hangs together is one part. Parts joined only through the supply do not act on each other, so switches fall
into clusters, and every state of a cluster is tried: nothing is left to chance.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import PASSIVE_KINDS, Point
from lumbek.core.network.feeding import ContactEdge, Copper, SwitchId
from lumbek.core.network.wiring import ALONE, CoreAt, Wiring, expand_together, node

# Switches that act on each other beyond which their states are not all tried.
MOST_SWITCHES = 14

Bits = NDArray[np.bool_]


class Lamp(NamedTuple):
    """Something that draws a current at a point, by its line terminal."""

    circuit: int
    point: str
    line: str = "L"


class SupplyName(NamedTuple):
    """What a part of the copper is for good: the line or neutral of a circuit, or the earth."""

    kind: str
    circuit: int = ALONE


@dataclass(frozen=True)
class Cluster:
    """Switches that act on each other, and what depends on them.

    `stands` has shape (states, switches): how each stands in each state. `line`, `neutral` and `earth` have shape
    (states, parts): whether a part is joined to any line, neutral or earth by copper and closed contacts alone.
    `own` tells each circuit's line and neutral apart.
    """

    switches: tuple[SwitchId, ...]
    parts: tuple[int, ...]
    stands: NDArray[np.int8]
    own: Mapping[SupplyName, Bits]

    @cached_property
    def at(self) -> dict[int, int]:
        """Each part by its column."""
        return {part: column for column, part in enumerate(self.parts)}

    def kind(self, kind: str) -> Bits:
        """Return where a part is joined to a line, a neutral or the earth, whichever circuit's; (states, parts)."""
        found = np.zeros((len(self.stands), len(self.parts)), dtype=np.bool_)
        for supply, bits in self.own.items():
            if supply.kind == kind:
                found |= bits
        return found


class States:
    """The states of one circuit, or of several that are wired into each other."""

    def __init__(self, circuits: Mapping[int, Circuit]) -> None:
        """Expand the circuits and try every position of every switch, cluster by cluster."""
        self.circuits = circuits
        self.wiring: Wiring = expand_together(circuits)
        self.copper = Copper(self.wiring, self._board_joins, self._not_there)

    @property
    def _board_joins(self) -> frozenset[tuple[int, int]]:
        """Neutrals of circuits meet at the board; here each is told from the others."""
        index = self.wiring.index
        return frozenset((index[node("N", BOARD)], index[node("N", BOARD, number)]) for number in self.circuits)

    @property
    def _not_there(self) -> frozenset[tuple[int, str, str]]:
        """The cpcs of cables that have none."""
        return frozenset(
            (number, leg.id, "E")
            for number, circuit in self.circuits.items()
            for leg in circuit.legs
            if (cable := circuit.cable_of(leg)).earth_by == "none" or cable.lacks_core
        )

    @cached_property
    def supplies(self) -> Mapping[int, tuple[SupplyName, ...]]:
        """The parts that are a supply; one that is several is a fault that no switch cures."""
        found: dict[int, tuple[SupplyName, ...]] = {}
        for number in self.circuits:
            for kind in ("L", "N", "E"):
                part = self.copper.of(node(kind, BOARD, number))
                if part is not None:
                    supply = SupplyName(kind, ALONE if kind == "E" else number)
                    found[part] = tuple(dict.fromkeys((*found.get(part, ()), supply)))
        return found

    @cached_property
    def lamps(self) -> tuple[Lamp, ...]:
        """Everything that draws a current, in the order of the points."""
        return tuple(
            Lamp(number, point.id, line)
            for number, circuit in self.circuits.items()
            for point in circuit.points
            for line in lines_of(point)
        )

    def ends(self, lamp: Lamp) -> tuple[int | None, int | None]:
        """Return the parts that a lamp lies between; None where its terminal is in nothing."""
        return (
            self.copper.of(node(lamp.line, lamp.point, lamp.circuit)),
            self.copper.of(node("N", lamp.point, lamp.circuit)),
        )

    def part_of(self, end: CoreAt) -> int | None:
        """Return the part that a core end is in; None for a spare core that leads nowhere."""
        place = self.wiring.place_of.get(end)
        return None if place is None else self.copper.part[self.wiring.ends[place[0]][place[1]]]

    @cached_property
    def clusters(self) -> tuple[Cluster, ...]:
        """The clusters of switches, those that are too many left out; see `untried`."""
        return tuple(
            _solved(
                switches,
                [len(self.wiring.contacts[each]) for each in switches],
                parts,
                self._edges(switches),
                self._supply_columns(parts),
            )
            for switches, parts in self._grouped
            if len(switches) <= MOST_SWITCHES
        )

    @cached_property
    def untried(self) -> tuple[SwitchId, ...]:
        """Switches that act on more others than are tried."""
        return tuple(each for switches, _ in self._grouped if len(switches) > MOST_SWITCHES for each in switches)

    def _edges(self, switches: Sequence[SwitchId]) -> list[ContactEdge]:
        wanted = set(switches)
        return [edge for edge in self.copper.edges if edge.switch in wanted]

    def _supply_columns(self, parts: Sequence[int]) -> list[tuple[int, SupplyName]]:
        return [(column, supply) for column, part in enumerate(parts) for supply in self.supplies.get(part, ())]

    @cached_property
    def _grouped(self) -> list[tuple[tuple[SwitchId, ...], tuple[int, ...]]]:
        """Return switches with the parts they touch, together where they share one that is no supply, or a lamp."""
        root = self._joined_by_contacts()
        groups: dict[object, list[SwitchId]] = {}
        for switch in self.wiring.contacts:
            groups.setdefault(root(switch), []).append(switch)
        found = []
        for key, switches in groups.items():
            free = [part for part in set(self.copper.part) if part not in self.supplies and root(part) == key]
            touched = {part for edge in self._edges(switches) for part in (edge.a, edge.b)}
            found.append((tuple(switches), tuple(sorted({*free, *touched, *self.supplies}))))
        return found

    def _joined_by_contacts(self) -> Callable[[object], object]:
        """Return what finds the group of a switch or a part: those that share one that is no supply, or a lamp."""
        parent: dict[object, object] = {}

        def root(each: object) -> object:
            while parent.setdefault(each, each) != each:
                parent[each] = each = parent[parent[each]]
            return each

        for edge in self.copper.edges:
            for part in {edge.a, edge.b} - self.supplies.keys():
                parent[root(edge.switch)] = root(part)
        for lamp in self.lamps:
            free = [part for part in self.ends(lamp) if part is not None and part not in self.supplies]
            for part in free:
                parent[root(free[0])] = root(part)
        return root

    # What follows

    def cluster_of(self, part: int) -> Cluster | None:
        """Return the cluster that a part depends on; None for one that no switch acts on."""
        if part in self.supplies:
            return None
        return next((cluster for cluster in self.clusters if part in cluster.at), None)

    def lit(self, lamp: Lamp) -> tuple[Cluster | None, Bits]:
        """Return whether a lamp lies between line and neutral, for each state of the cluster it depends on.

        Without a cluster there is one state. What glows through other lamps is not lit.
        """
        cluster, line, neutral = self._sides(lamp)
        if line is None or neutral is None:
            return cluster, np.zeros(1 if cluster is None else len(cluster.stands), dtype=np.bool_)
        across = (self.joined(cluster, line, "L") & self.joined(cluster, neutral, "N")) | (
            self.joined(cluster, line, "N") & self.joined(cluster, neutral, "L")
        )
        return cluster, across

    def _sides(self, lamp: Lamp) -> tuple[Cluster | None, int | None, int | None]:
        line, neutral = self.ends(lamp)
        clusters = [self.cluster_of(part) for part in (line, neutral) if part is not None]
        return next((each for each in clusters if each is not None), None), line, neutral

    def joined(self, cluster: Cluster | None, part: int, kind: str, circuit: int | None = None) -> Bits:
        """Return whether a part is joined to a supply of a kind, for each state of a cluster."""
        if cluster is not None and part in cluster.at:
            found = np.zeros(len(cluster.stands), dtype=np.bool_)
            for supply, bits in cluster.own.items():
                if supply.kind == kind and circuit in (None, supply.circuit):
                    found |= bits[:, cluster.at[part]]
            return found
        mine = any(each.kind == kind and circuit in (None, each.circuit) for each in self.supplies.get(part, ()))
        return np.full(1 if cluster is None else len(cluster.stands), mine)

    def stand(self, cluster: Cluster, state: int) -> dict[SwitchId, int]:
        """Return how the switches of a cluster stand in one of its states."""
        return {switch: int(at) for switch, at in zip(cluster.switches, cluster.stands[state], strict=True)}


def lines_of(point: Point) -> tuple[str, ...]:
    """Return the terminals of a point that take the line of something that draws a current there."""
    if point.loads:
        return tuple(dict.fromkeys(load.line for load in point.loads))
    return () if point.kind in PASSIVE_KINDS or point.accessories else ("L",)


def _spread(labels: NDArray[np.int16], active: Bits, a: int, b: int) -> bool:
    """Give two columns the lesser label of both where a contact joins them; whether that changed any."""
    low = np.minimum(labels[active, a], labels[active, b])
    changed = (labels[active, a] != low).any() or (labels[active, b] != low).any()
    labels[active, a] = labels[active, b] = low
    return bool(changed)


def _solved(
    switches: tuple[SwitchId, ...],
    counts: Sequence[int],
    parts: tuple[int, ...],
    edges: Sequence[ContactEdge],
    supplies: Sequence[tuple[int, SupplyName]],
) -> Cluster:
    """Return a cluster with what each of its parts is joined to in every state.

    In each state the parts that closed contacts join get one label, the least of their columns, spread until nothing
    changes; all states at once.
    """
    grids = np.meshgrid(*(np.arange(count, dtype=np.int8) for count in counts), indexing="ij")
    stands = np.stack([grid.reshape(-1) for grid in grids], axis=1)
    at = {part: column for column, part in enumerate(parts)}
    closed = [
        (stands[:, switches.index(edge.switch)] == edge.position, at[edge.a], at[edge.b])
        for edge in edges
        if edge.a != edge.b
    ]
    labels = np.tile(np.arange(len(parts), dtype=np.int16), (len(stands), 1))
    while sum(_spread(labels, *each) for each in closed):
        pass
    own: dict[SupplyName, Bits] = {}
    for column, supply in supplies:
        bits = labels == labels[:, [column]]
        own[supply] = own[supply] | bits if supply in own else bits
    return Cluster(switches, parts, stands, own)
