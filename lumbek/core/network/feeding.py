"""How switches must stand for a place to be fed: tests and design figures are of the light switched on."""

from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import NamedTuple

from lumbek.core.network.solver import parts_of
from lumbek.core.network.wiring import IN_SERVICE, Node, Setup, Wiring

# Steps of looking for a way beyond which the best that has been found is taken.
_MOST_STEPS = 20_000
# A switch by circuit, point and its own name; and how some of them stand.
SwitchId = tuple[int, str, str]
Positions = Mapping[SwitchId, int]


class Fed(NamedTuple):
    """Where a point has its line while it is on, and how the network stands then."""

    line: Node
    setup: Setup


def switched_on(fed: Mapping[str, Fed], point: str, service: Setup) -> tuple[Setup, Node | None]:
    """Return how the network stands with a point on, and where its line is: behind no switch plainly."""
    mine = fed.get(point)
    return (service, None) if mine is None else (mine.setup, mine.line)


class ContactEdge(NamedTuple):
    """Two parts of the copper that a switch joins in one of its positions."""

    switch: SwitchId
    position: int
    a: int
    b: int


class Copper:
    """A wiring as parts that hang together by themselves, and the contacts between them."""

    def __init__(
        self,
        wiring: Wiring,
        without: frozenset[tuple[int, int]] = frozenset(),
        broken: frozenset[tuple[int, str, str]] = frozenset(),
    ) -> None:
        """Gather the parts; `without` are merged nodes that are to stay apart, `broken` cores that lead nowhere."""
        self._wiring = wiring
        merged = [pair for pair in wiring.merged if pair not in without]
        whole = [pair for pair, core in zip(wiring.ends, wiring.branches, strict=True) if core not in broken]
        self.part = parts_of(len(wiring.index), [*merged, *whole])

    def of(self, node: Node) -> int | None:
        """Return the part that a node is in; None where there is no such node."""
        at = self._wiring.index.get(node)
        return None if at is None else self.part[at]

    @cached_property
    def edges(self) -> tuple[ContactEdge, ...]:
        """Every contact of every position, between parts."""
        index = self._wiring.index
        return tuple(
            ContactEdge(switch, position, self.part[index[a]], self.part[index[b]])
            for switch, positions in self._wiring.contacts.items()
            for position, pairs in enumerate(positions)
            for a, b in pairs
        )

    @cached_property
    def _at(self) -> Mapping[int, list[ContactEdge]]:
        found: dict[int, list[ContactEdge]] = {}
        for edge in self.edges:
            found.setdefault(edge.a, []).append(edge)
            found.setdefault(edge.b, []).append(edge)
        return found

    def way(self, source: int, target: int, rest: Positions, held: Positions) -> dict[SwitchId, int] | None:
        """Return how switches stand on a way from one part to another, moving as few as can be; None without one.

        `rest` is how they stand by themselves, `held` those that may not be moved.
        """
        best: dict[SwitchId, int] | None = None
        least = len(rest) + 1
        stack: list[tuple[int, frozenset[int], dict[SwitchId, int], int]] = [(source, frozenset({source}), {}, 0)]
        steps = 0
        while stack and steps < _MOST_STEPS:
            steps += 1
            here, seen, stands, moved = stack.pop()
            if moved >= least:
                continue
            if here == target:
                best, least = stands, moved
                continue
            for edge in self._at.get(here, ()):
                there = edge.b if edge.a == here else edge.a
                fixed = stands.get(edge.switch, held.get(edge.switch, edge.position))
                if there in seen or fixed != edge.position:
                    continue
                more = edge.switch not in stands and rest.get(edge.switch) != edge.position
                stack.append((there, seen | {there}, {**stands, edge.switch: edge.position}, moved + more))
        return best


def feeding(
    wiring: Wiring, source: Node, wanted: Mapping[str, Sequence[Node]], service: Setup = IN_SERVICE
) -> dict[str, Fed]:
    """Return for each point where its line is and how the network stands with it on; none for what no line reaches.

    `wanted` are the terminals that may hold a point's line, the likeliest first. Switches stand alike for as many
    points as can be, so that one state feeds most.
    """
    copper = Copper(wiring, broken=service.broken)
    start = copper.of(source)
    rest = dict(wiring.positions)
    taken: dict[SwitchId, int] = {}
    ways: dict[str, tuple[Node, dict[SwitchId, int]]] = {}
    for point, nodes in wanted.items():
        reached = ((each, copper.of(each)) for each in nodes)
        for line, part in reached:
            if start is None or part is None:
                continue
            way = copper.way(start, part, rest, taken)
            if way is not None:
                taken.update(way)
            else:
                way = copper.way(start, part, rest, {})
            if way is not None:
                ways[point] = (line, way)
                break
    setups: dict[frozenset[tuple[SwitchId, int]], Setup] = {}
    found = {}
    for point, (line, way) in ways.items():
        stands = frozenset({**taken, **way}.items())
        found[point] = Fed(line, setups.setdefault(stands, service._replace(positions=stands)))
    return found
