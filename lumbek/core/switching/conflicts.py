"""Why a wiring does not do: for each thing that is wrong a set of moves, one of which every good wiring has made.

A move is a core end and the join of its box that it goes into. Of a joint that must not be, every good wiring has
broken the way that it takes here: some end on that way is elsewhere. Of a joint that must be, some end has carried the
way across the edge of what hangs together here: out of it, or into it from beyond. What hangs together is taken with
every contact closed that may count, so that nothing that could do is left out.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import product

from lumbek.core.switching.meaning import Meaning
from lumbek.core.switching.quick import Layout

Move = tuple[int, int]
Moves = frozenset[Move]
Pairs = Iterable[tuple[int, int]]
# Contacts that act on each other beyond which their states are not walked.
_MOST_TOGETHER = 9
# So many things that are wrong are looked at before the least of their sets is taken.
_LOOKED_AT = 5


class Conflicts:
    """The conflict sets of one layout."""

    def __init__(self, layout: Layout) -> None:
        """Gather the moves of every end."""
        self.layout = layout
        self._fixed = [tuple((end, join) for join in layout.options(end)) for end in range(len(layout.ends))]
        self.moves = list(self._fixed)

    def every(self, at: Sequence[int]) -> list[tuple[Move, ...]]:
        """Return the moves of each end: those of its box, and beside ends that are off by themselves in a connector.

        Two that are to meet in a new connector: whichever goes off first, the other is put to it.
        """
        layout = self.layout
        off: dict[str, list[int]] = {}
        for end, join in enumerate(at):
            if join == layout.alone[end] and layout.ends[end].core != "E":
                off.setdefault(layout.ends[end].place, []).append(end)
        if not off:
            return self._fixed
        found = []
        for end, moves in enumerate(self._fixed):
            beside = () if layout.ends[end].core == "E" else off.get(layout.ends[end].place, ())
            found.append((*moves, *((end, layout.alone[each]) for each in beside if each != end)))
        return found

    def least(self, at: Sequence[int]) -> Moves | None:
        """Return the smallest of the first sets that are found; None where nothing that is known of is wrong."""
        best: Moves | None = None
        self.moves = self.every(at)
        for count, found in enumerate(self._all(at), start=1):
            if best is None or len(found) < len(best):
                best = found
            if count >= _LOOKED_AT or len(best) <= 1:
                break
        return best

    # What is wrong

    def _all(self, at: Sequence[int]) -> Iterator[Moves]:
        layout = self.layout
        line, neutral, earth = layout.supply
        for a, b in ((line, neutral), (line, earth), (neutral, earth)):
            yield from self._apart(at, a, b)
        for each in layout.earths:
            yield from self._together(at, each, earth)
        for end, (_, _, core) in enumerate(layout.ends):
            if core == "E":
                yield from self._together(at, at[end], earth)
        yield from self._of_terminals(at)
        on = [pair for contact in self._isolators for pair in layout.contacts[contact][1][0]]
        for _, lamp_neutral in layout.lamps.values():
            yield from self._together(at, lamp_neutral, neutral, on)
        for members in self._groups(at):
            yield from self._of_group(at, members)
        yield from self._of_lamps(at)

    @property
    def _isolators(self) -> list[int]:
        return [at for at, (key, _) in enumerate(self.layout.contacts) if key in self.layout.isolating]

    def _of_terminals(self, at: Sequence[int]) -> Iterator[Moves]:
        """Yield what is wrong with isolators, sensors and links by the copper alone."""
        for poles in self.layout.poles.values():
            for pole, before, after in poles:
                yield from self._of_pole(at, pole, before, after)
        neutral = self.layout.supply[1]
        for sensor_line, sensor_neutral in self.layout.sensors:
            yield from self._together(at, sensor_neutral, neutral)
            yield from self._apart(at, sensor_line, neutral)
        for ends in self.layout.between:
            yield from self._of_link(at, ends)

    def _of_pole(self, at: Sequence[int], pole: str, before: int, after: int) -> Iterator[Moves]:
        line, neutral, _ = self.layout.supply
        held = set(at)
        wired = [self.layout.is_wired(each, held) for each in (before, after)]
        if pole == "S" and not any(wired):
            return
        for each, full in zip((before, after), wired, strict=True):
            if not full:
                yield self._into(each)
        yield from self._apart(at, before, after)
        for supply in (line, neutral):
            yield from self._apart(at, after, supply)
        yield from self._apart(at, before, line if pole == "N" else neutral)

    def _of_link(self, at: Sequence[int], ends: list[int]) -> Iterator[Moves]:
        for each in ends[1:]:
            yield from self._together(at, each, ends[0])
        terminals = (
            end for _, positions in self.layout.contacts for pairs in positions for pair in pairs for end in pair
        )
        for other in (*self.layout.supply, *terminals):
            yield from self._apart(at, ends[0], other)

    def _into(self, join: int) -> Moves:
        """Return every move of an end into a join."""
        return frozenset(move for moves in self.moves for move in moves if move[1] == join)

    def _of_group(self, at: Sequence[int], members: list[int]) -> Iterator[Moves]:
        """Yield shorts, live ends left off and live neutrals of lamps, in the states of contacts that act together."""
        crowd = Counter(at)
        alone = [end for end, join in enumerate(at) if crowd[join] == 1 and not self.layout.joins[join][1]]
        for state in self._states(members):
            yield from self._live_in(at, self._closed(state), alone)
        for opened in (each for each in members if self.layout.contacts[each][0] in self.layout.poles):
            yield from self._past(at, opened, [each for each in members if each != opened])

    def _live_in(self, at: Sequence[int], closed: list[tuple[int, int]], alone: list[int]) -> Iterator[Moves]:
        """Yield what is live in a state and may not be."""
        line, neutral, earth = self.layout.supply
        live = self._reach(at, line, closed)
        for other in (neutral, earth, *(on for _, on in self.layout.lamps.values())):
            if other in live:
                yield self._way(at, line, other, closed)
        for end in alone:
            if at[end] in live:
                # It goes elsewhere, or something is put to it.
                yield self._way(at, line, at[end], closed) | frozenset(self.moves[end]) | self._into(at[end])
        yield from self._apart(at, neutral, earth, closed)

    def _past(self, at: Sequence[int], opened: int, others: list[int]) -> Iterator[Moves]:
        """Yield the ways past an isolator that is off."""
        after = [pair[1] for pair in self.layout.contacts[opened][1][0]]
        for state in self._states(others):
            closed = self._closed({**state, opened: 1})
            for each, supply in product(after, self.layout.supply[:2]):
                yield from self._apart(at, each, supply, closed)

    def _of_lamps(self, at: Sequence[int]) -> Iterator[Moves]:
        """Yield what a lamp does that is not meant: by pairs of states that one switch parts."""
        layout = self.layout
        line = layout.supply[0]
        for lamp, meant in layout.meant:
            start = layout.lamps.get(lamp)
            if start is None:
                continue
            members = sorted({*self._group_of(at, start[0]), *meant.switches})
            if len(members) > _MOST_TOGETHER:
                continue
            seen: dict[tuple[int, ...], bool] = {}

            def lit(state: dict[int, int], start: int = start[0], seen: dict[tuple[int, ...], bool] = seen) -> bool:
                key = tuple(state.values())
                if key not in seen:
                    seen[key] = line in self._reach(at, start, self._closed(state))
                return seen[key]

            for state in self._states(members):
                yield from self._of_state(at, start[0], state, meant, lit)

    def _of_state(
        self,
        at: Sequence[int],
        start: int,
        state: dict[int, int],
        meant: Meaning[int],
        lit: Callable[[dict[int, int]], bool],
    ) -> Iterator[Moves]:
        """Yield what is wrong with a lamp in a state, or between it and one beside it.

        Which position of a switch is on is not known: wrong is what fits no reading of it. In one of the states that
        show it the lamp has to be another: what is lit goes dark, what is dark is lit.
        """
        if self._misfits([state], meant, lit):
            yield self._other(at, start, state, lit)
            return
        for contact, stands in state.items():
            if stands == 1 or self.layout.contacts[contact][0] in self.layout.isolating:
                continue
            beside = {**state, contact: 1 - stands}
            if self._misfits([state, beside], meant, lit):
                yield frozenset().union(*(self._other(at, start, each, lit) for each in (state, beside)))

    @staticmethod
    def _misfits(states: Sequence[dict[int, int]], meant: Meaning[int], lit: Callable[[dict[int, int]], bool]) -> bool:
        """Whether a lamp in some states is as it should be under no reading of which positions are on."""
        moved = [{each: state[each] == 1 for each in meant.switches} for state in states]
        found = [lit(state) for state in states]
        return all([meant.wanted(each, signs, True) for each in moved] != found for signs in meant.signs())

    def _other(
        self, at: Sequence[int], start: int, state: dict[int, int], lit: Callable[[dict[int, int]], bool]
    ) -> Moves:
        """Return the moves of which one is made wherever a lamp is otherwise in a state than it is here."""
        closed = self._closed(state)
        return self._way(at, start, self.layout.supply[0], closed) if lit(state) else self._edge(at, start, closed)

    # Ways and edges

    def _apart(self, at: Sequence[int], a: int, b: int, closed: Pairs = ()) -> Iterator[Moves]:
        """Yield the moves that break the way between two joins that must be apart, where there is one."""
        closed = list(closed)
        if b in self._reach(at, a, closed):
            yield self._way(at, a, b, closed)

    def _together(self, at: Sequence[int], a: int, b: int, closed: Pairs = ()) -> Iterator[Moves]:
        """Yield the moves across the edge of what hangs on a join that must reach another, and does not; both edges."""
        closed = list(closed)
        if b not in self._reach(at, a, closed):
            yield self._edge(at, a, closed)
            yield self._edge(at, b, closed)

    def _reach(self, at: Sequence[int], start: int, closed: Pairs) -> dict[int, tuple[int, tuple[int, ...]]]:
        """Return every join that hangs on one, each with the join before it and the ends of the core between."""
        beside: dict[int, list[tuple[int, tuple[int, ...]]]] = {}
        for a, b in self.layout.links:
            beside.setdefault(at[a], []).append((at[b], (a, b)))
            beside.setdefault(at[b], []).append((at[a], (a, b)))
        for a, b in closed:
            beside.setdefault(a, []).append((b, ()))
            beside.setdefault(b, []).append((a, ()))
        found: dict[int, tuple[int, tuple[int, ...]]] = {start: (start, ())}
        queue = [start]
        for here in queue:
            for there, ends in beside.get(here, ()):
                if there not in found:
                    found[there] = here, ends
                    queue.append(there)
        return found

    def _way(self, at: Sequence[int], a: int, b: int, closed: Pairs) -> Moves:
        """Return every move of an end that lies on the shortest way from one join to another."""
        found, here = self._reach(at, a, closed), b
        moves: set[Move] = set()
        while here != a:
            here, ends = found[here]
            moves.update(move for end in ends for move in self.moves[end])
        return frozenset(moves)

    def _edge(self, at: Sequence[int], start: int, closed: Pairs) -> Moves:
        """Return every move of an end out of what hangs on a join, or into it."""
        inside = self._reach(at, start, closed)
        return frozenset(
            (end, join)
            for end, moves in enumerate(self.moves)
            for _, join in moves
            if (at[end] in inside) != (join in inside)
        )

    # States

    def _states(self, members: list[int]) -> Iterator[dict[int, int]]:
        """Yield every position of some contacts, what isolates on."""
        layout = self.layout
        free = [
            [0] if layout.contacts[each][0] in layout.isolating else range(len(layout.contacts[each][1]))
            for each in members
        ]
        for positions in product(*free):
            yield dict(zip(members, positions, strict=True))

    def _closed(self, state: dict[int, int]) -> list[tuple[int, int]]:
        """Return the contacts closed in a state, those not in it at rest."""
        return [pair for at, (_, positions) in enumerate(self.layout.contacts) for pair in positions[state.get(at, 0)]]

    def _groups(self, at: Sequence[int]) -> Iterator[list[int]]:
        done: set[int] = set()
        for contact, (_, positions) in enumerate(self.layout.contacts):
            if contact in done:
                continue
            terminal = next((pair[0] for pairs in positions for pair in pairs), None)
            members = {contact} if terminal is None else {contact, *self._group_of(at, terminal)}
            done |= members
            if len(members) <= _MOST_TOGETHER:
                yield sorted(members)

    def _group_of(self, at: Sequence[int], start: int) -> set[int]:
        """Return the contacts that hang together with a join by any of their positions, but for the supply."""
        layout = self.layout
        supply = {join for each in layout.supply for join in self._reach(at, each, ())}
        members: set[int] = set()
        seen = {start} - supply
        queue = list(seen)
        for here in queue:
            for there in self._reach(at, here, ()):
                if there not in seen and there not in supply:
                    seen.add(there)
                    queue.append(there)
            for contact, (_, positions) in enumerate(layout.contacts):
                for pairs in positions:
                    for a, b in pairs:
                        if here in (a, b):
                            members.add(contact)
                            beyond = b if here == a else a
                            if beyond not in seen and beyond not in supply:
                                seen.add(beyond)
                                queue.append(beyond)
        return members
