"""Putting the conductors of a wiring into the cores that are there, moving as few ends as can be."""

from collections.abc import Iterator
from itertools import permutations, product

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.scheme import Route
from lumbek.core.switching.choose import Chosen
from lumbek.core.switching.nets import Net, NetEnd
from lumbek.core.switching.quick import End, Layout

# Cores side by side on one run beyond which their order is not searched.
_MOST_SLOTS = 6


def turned(nets: list[Net]) -> Iterator[list[Net]]:
    """Yield the nets with the pairs of terminals of each switch either way round; what it does stays the same."""
    held = {(end.place, end.terminal) for net in nets for end in net.ends if end.terminal}
    gangs = sorted({(place, terminal.split(".")[0]) for place, terminal in held if "." in terminal})
    turns = []
    for place, gang in gangs:
        swaps: list[dict[str, str]] = [{}]
        if (place, f"{gang}.L2") in held:
            swaps.append({"L1": "L2", "L2": "L1"})
        if (place, f"{gang}.L4") in held:
            flips = [{}, {"L3": "L4", "L4": "L3"}]
            both = [{**a, **b} for a in swaps for b in flips]
            over = {"L1": "L3", "L2": "L4", "L3": "L1", "L4": "L2"}
            swaps = both + [{name: way.get(other, other) for name, other in over.items()} for way in both]
        turns.append([(place, gang, swap) for swap in swaps])
    for way in product(*turns):
        swap_at = {(place, gang): swap for place, gang, swap in way}
        yield [net._replace(ends=tuple(_turned_end(end, swap_at) for end in net.ends)) for net in nets]


def _turned_end(end: NetEnd, swap_at: dict[tuple[str, str], dict[str, str]]) -> NetEnd:
    if end.terminal is None or "." not in end.terminal:
        return end
    gang, name = end.terminal.split(".")
    return end._replace(terminal=f"{gang}.{swap_at.get((end.place, gang), {}).get(name, name)}")


class Placing:
    """The nets of a wiring put into the cores that are there, moving as few ends as can be, run by run.

    A net without a terminal at a place keeps a join there that has none, where one of its cores is in such a join.
    """

    def __init__(self, circuit: Circuit, layout: Layout, chosen: Chosen, nets: list[Net]) -> None:
        self._circuit, self._layout, self._tree, self._nets = circuit, layout, chosen.tree, nets
        self._end = {end: index for index, end in enumerate(layout.ends)}
        terminal = {(place, name): index for index, (place, names) in enumerate(layout.joins) for name in names}
        self._home: dict[tuple[int, str], int] = {}
        for net, each in enumerate(nets):
            for place, name in each.ends:
                named = name or (("L", "N")[net] if place == BOARD and net < 2 else "")
                if (place, named) in terminal:
                    self._home.setdefault((net, place), terminal[place, named])
        # Ends of line and neutral of cables that come from elsewhere.
        self._outer: list[tuple[tuple[int, str], int]] = []
        self.at = list(layout.at)
        inside = set(chosen.tree.places)
        for leg in circuit.legs:
            for place in (leg.a, leg.b):
                if (place, "E") in terminal:
                    self.at[self._end[End(place, leg.id, "E")]] = terminal[place, "E"]
            if {leg.a, leg.b} <= inside:
                continue
            self._outer += [
                ((net, place), self._end[End(place, leg.id, core)])
                for net, core in enumerate(("L", "N"))
                if core in circuit.cable_of(leg).core_names
                for place in sorted({leg.a, leg.b} & inside)
            ]

    def place(self, most: int | None) -> bool:
        """Put every net into cores; False where that takes more moves than `most`, or more cores than there are."""
        hulls = [self._tree.hull([end.place for end in net.ends]) for net in self._nets]
        moved = 0
        homeless: dict[tuple[int, str], list[int]] = {}
        for key, end in self._outer:
            self._put(end, key, homeless)
        for run, route in enumerate(self._tree.routes):
            crossing = [index for index, hull in enumerate(hulls) if hull[run]]
            found = self._best_way(route, crossing)
            if found is None:
                return False
            worth, way, ends = found
            moved += worth
            if most is not None and moved > most:
                return False
            for net, end in ((net, end) for net, pair in zip(way, ends, strict=True) for end in pair):
                if net < 0:
                    self.at[end] = self._layout.alone[end]
                else:
                    self._put(end, (net, self._layout.ends[end].place), homeless)
        for key, together in homeless.items():
            home = self._home[key] = self._joint(together)
            for end in together:
                self.at[end] = home
        return True

    def _put(self, end: int, key: tuple[int, str], homeless: dict[tuple[int, str], list[int]]) -> None:
        """Put an end where its net is at home in its box; without a home it waits for the others of it."""
        if key in self._home:
            self.at[end] = self._home[key]
        else:
            homeless.setdefault(key, []).append(end)

    def _best_way(self, route: Route, crossing: list[int]) -> tuple[int, tuple[int, ...], list[tuple[int, ...]]] | None:
        """Return how nets take the cores along a route with fewest moves; None for too few cores, or too many."""
        legs = [leg for leg in self._circuit.legs if {leg.a, leg.b} == {route.a, route.b}]
        slots = [(leg.id, core) for leg in legs for core in self._circuit.cable_of(leg).live_cores]
        if not len(crossing) <= len(slots) <= _MOST_SLOTS:
            return None
        padded: list[int | None] = [*crossing, *([None] * (len(slots) - len(crossing)))]
        ends = [(self._end[End(route.a, *slot)], self._end[End(route.b, *slot)]) for slot in slots]

        def worth(way: tuple[int, ...]) -> int:
            each = zip(way, ends, strict=True)
            return sum(self._costs(net, a) + self._costs(net, b) for net, (a, b) in each)

        return min((worth(way), way, list[tuple[int, ...]](ends)) for way in _orders(padded))

    def _costs(self, net: int, end: int) -> int:
        """Return whether an end must be moved to be this net; one that is to spare is left off."""
        now, layout = self._layout.at[end], self._layout
        if net < 0:
            return 0 if layout.at.count(now) == 1 and not layout.joins[now][1] else 1
        home = self._home.get((net, layout.ends[end].place))
        if home is None:
            return 1 if layout.joins[now][1] else 0
        return 0 if now == home else 1

    def _joint(self, ends: list[int]) -> int:
        """Return the join without a terminal that most of these ends are in, and no other net; else a new one."""
        taken = set(self._home.values())
        now = [self._layout.at[end] for end in ends]
        free = [join for join in now if not self._layout.joins[join][1] and join not in taken]
        return max(free, key=now.count) if free else self._layout.alone[ends[0]]


def _orders(padded: list[int | None]) -> Iterator[tuple[int, ...]]:
    """Yield every order of nets in cores, each once; -1 stands for a core to spare."""
    yield from dict.fromkeys(permutations(-1 if each is None else each for each in padded))
