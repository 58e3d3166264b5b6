"""The graph of a circuit: legs at each point, what the board reaches, and which legs close loops."""

from collections.abc import Mapping
from functools import cached_property, lru_cache
from typing import NamedTuple

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD


def by_name(name: str) -> tuple[int, str]:
    """Return a key that sorts names as one counts: L2 before L10."""
    return len(name), name


class Span(NamedTuple):
    """A leg as the graph has it: its name, its two ends, and whether it ends on another circuit's way.

    `lone` says that it carries line or neutral alone.
    """

    id: str
    a: str
    b: str
    elsewhere: bool = False
    lone: bool = False

    def other_end(self, point_id: str) -> str:
        """Return the point at the other end of this leg."""
        return self.b if point_id == self.a else self.a


class CircuitGraph:
    """Adjacency of a circuit's points and legs, with the questions that every check asks of it.

    It knows names only: circuits that are joined alike, whatever their cables and lengths, share one graph and all
    that follows from it. Legs are taken by their names, L2 before L10, so that no answer depends on the order they
    were drawn in.
    """

    def __init__(self, points: tuple[str, ...], spans: tuple[Span, ...], joined: frozenset[str]) -> None:
        """Gather these legs; at points that are `joined` something is joined otherwise than plainly."""
        self.points, self._joined = points, joined
        legs = sorted(spans, key=lambda leg: by_name(leg.id))
        self.legs: Mapping[str, Span] = {leg.id: leg for leg in legs}
        at: dict[str, list[Span]] = {BOARD: [], **{point: [] for point in points}}
        for leg in legs:
            at[leg.a].append(leg)
            at[leg.b].append(leg)
        self.at: Mapping[str, list[Span]] = at

    @cached_property
    def distance(self) -> Mapping[str, int]:
        """How many legs each point is from the board; points that the board does not reach are absent."""
        found = {BOARD: 0}
        queue = [BOARD]
        for here in queue:
            for leg in self.at[here]:
                there = leg.other_end(here)
                if there not in found:
                    found[there] = found[here] + 1
                    queue.append(there)
        return found

    @cached_property
    def detached(self) -> tuple[str, ...]:
        """Points that no leg joins, by any way, to the board."""
        return tuple(point for point in self.points if point not in self.distance)

    @cached_property
    def loop_legs(self) -> frozenset[str]:
        """Legs that lie on some closed loop: all but the bridges of the graph (Tarjan's low-link).

        Cables side by side on the way to a switch carry different conductors, and are no loop; nor are singles that
        take the line one way and the neutral another.
        """
        beside = self._beside | {leg.id for leg in self.legs.values() if leg.lone}
        entered: dict[str, int] = {}
        low: dict[str, int] = {}
        bridges: set[str] = set()
        for start in self.at:
            if start in entered:
                continue
            entered[start] = low[start] = len(entered)
            stack = [(start, "", iter(self.at[start]))]
            while stack:
                here, came_by, legs = stack[-1]
                for leg in legs:
                    there = leg.other_end(here)
                    if leg.id == came_by or leg.id in beside:
                        continue
                    if there in entered:
                        low[here] = min(low[here], entered[there])
                    else:
                        entered[there] = low[there] = len(entered)
                        stack.append((there, leg.id, iter(self.at[there])))
                        break
                else:
                    stack.pop()
                    if stack:
                        above = stack[-1][0]
                        low[above] = min(low[above], low[here])
                        if low[here] > entered[above]:
                            bridges.add(came_by)
        return frozenset(self.legs) - bridges - beside

    @cached_property
    def _beside(self) -> frozenset[str]:
        """Of legs between the same two points, where something is joined otherwise than plainly, all but the first."""
        joined = self._joined
        seen: set[frozenset[str]] = set()
        found = set()
        for leg in self.legs.values() if joined else ():
            pair = frozenset((leg.a, leg.b))
            if pair in seen and pair & joined:
                found.add(leg.id)
            seen.add(pair)
        return frozenset(found)

    def loops(self) -> list[frozenset[str]]:
        """Return the groups of loop legs that hang together: each a set of leg ids."""
        left = {leg_id: self.legs[leg_id] for leg_id in self.legs if leg_id in self.loop_legs}
        groups: list[frozenset[str]] = []
        while left:
            first = next(iter(left.values()))
            group, points = {first.id}, [first.a, first.b]
            for here in points:
                for leg in self.at[here]:
                    if leg.id in left and leg.id not in group:
                        group.add(leg.id)
                        points.append(leg.other_end(here))
            groups.append(frozenset(group))
            for leg_id in group:
                del left[leg_id]
        return groups

    def path_to(self, point_id: str) -> list[str]:
        """Return the legs of a shortest way from the board to a reached point, in that order."""
        path, here = list[str](), point_id
        while here != BOARD:
            leg = self._back[here]
            path.append(leg.id)
            here = leg.other_end(here)
        return path[::-1]

    @cached_property
    def _back(self) -> Mapping[str, Span]:
        """The leg by which a shortest way leads from each reached point to the board."""
        far = self.distance
        return {here: min(self.at[here], key=lambda leg: far[leg.other_end(here)]) for here in far if here != BOARD}

    def beyond(self, point_id: str) -> frozenset[str]:
        """Return the legs that are fed only through this point: those that lead on from it and not back to the board.

        What the board reaches by another way, as the neutral of singles may go, is not fed through it.
        """
        otherwise, queue = {BOARD, point_id}, [BOARD]
        for here in queue if point_id in self.distance else ():
            for leg in self.at[here]:
                there = leg.other_end(here)
                if there not in otherwise:
                    otherwise.add(there)
                    queue.append(there)
        return frozenset(
            leg.id for leg in self.legs.values() if leg.a in self.distance and not {leg.a, leg.b} <= otherwise
        )


def graph_of(circuit: Circuit) -> CircuitGraph:
    """Return the graph of a circuit, the one that it shares with all that are joined alike."""
    return _shared(
        tuple(point.id for point in circuit.points),
        tuple(
            Span(
                leg.id,
                leg.a,
                leg.b,
                leg.other_way not in (None, circuit.number),
                circuit.cable_of(leg).lone is not None,
            )
            for leg in circuit.legs
        ),
        frozenset(point.id for point in circuit.points if point.joins),
    )


# As many as one person, or a few, may be at work on: a graph is small beside the figures of its circuit.
_shared = lru_cache(maxsize=256)(CircuitGraph)
