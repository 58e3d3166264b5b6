"""Putting right what was found, with the cables that are there and the fewest core ends moved."""

from collections.abc import Iterator, Sequence
from itertools import combinations, permutations, product

import numpy as np

from lumbek.core.model.accessory import AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.result import Verdict
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.checks.marks import sleeved
from lumbek.core.switching.choose import Chooser, Chosen, Price
from lumbek.core.switching.colours import colour_of, live_cores
from lumbek.core.switching.layout import routes_of
from lumbek.core.switching.nets import Net, NetEnd, fitted, nets_of
from lumbek.core.switching.options import Needs
from lumbek.core.switching.prove import holds
from lumbek.core.switching.quick import End, Layout
from lumbek.core.value import Frozen

# Ends moved that are tried in every combination; beyond, wirings for these cables are compared with what is there.
_TRIED = 2
_MOST_TRIES = 40_000
_MOST_WAYS = 400
# Cores side by side on one run beyond which their order is not searched.
_MOST_SLOTS = 6


class Move(Frozen):
    """One core end to be moved."""

    place: str
    leg: str
    core: str
    words: str


class Mended(Frozen):
    """The least that puts a circuit right: core ends to move, accessories to change, and the circuit then.

    `exact` where every smaller change has been tried; else fewer moves could do that no usual way of wiring has.
    """

    moves: tuple[Move, ...]
    changes: tuple[str, ...]
    exact: bool
    design: Circuit
    # What was wrong, as one calls it.
    named: tuple[str, ...] = ()
    left: tuple[str, ...] = ()


def mend(book: Rulebook, circuit: Circuit) -> Mended | None:
    """Return the least re-connections after which a circuit does as meant; None where its cables cannot.

    First one end and then two are moved in every combination; where that is not enough, every usual way of wiring its
    controls over the cables there is compared with what is joined, and the nearest taken.
    """
    layout = Layout(circuit)
    if layout.works(layout.at):
        return None
    moved = _by_moving(layout)
    if moved is not None:
        return _mended(book, circuit, layout, moved, {}, exact=True)
    nearest = _nearest(book, circuit, layout)
    if nearest is None:
        return None
    at, kinds = nearest
    return _mended(book, circuit, layout, at, kinds, exact=False)


def _by_moving(layout: Layout) -> list[int] | None:
    """Return where the ends are after the fewest moves that do, of one or two of them."""
    each = [(end, join) for end in range(len(layout.ends)) for join in layout.options(end)]
    for count in range(1, _TRIED + 1):
        tried = 0
        for moves in combinations(each, count):
            if len({end for end, _ in moves}) < count:
                continue
            tried += 1
            if tried > _MOST_TRIES:
                return None
            at = list(layout.at)
            for end, join in moves:
                at[end] = join
            if layout.works(at):
                return at
    return None


def _nearest(
    book: Rulebook, circuit: Circuit, layout: Layout
) -> tuple[list[int], dict[tuple[str, int], AccessoryKind]] | None:
    """Return where the ends go in the wiring for these cables that is nearest to what is there."""
    best: tuple[int, list[int], dict[tuple[str, int], AccessoryKind]] | None = None
    for chosen, chooser in _ways(book, circuit):
        nets = nets_of(chooser.scheme, chosen, chooser.neutral_at(chosen.tree))
        kinds = {
            (place, each.gang): each.kind
            for place, accessories in fitted(circuit, chooser.scheme, chosen).items()
            for each in accessories
        }
        for variant in _turned(nets):
            placed = _placed(circuit, layout, chosen, variant, None if best is None else best[0])
            if placed is None:
                continue
            cost = sum(1 for now, then in zip(layout.at, placed, strict=True) if now != then)
            cost += sum(2 for _ in _changed(circuit, kinds))
            if (best is None or cost < best[0]) and (kinds != _kinds(circuit) or layout.works(placed)):
                best = cost, placed, kinds
    return None if best is None else (best[1], best[2])


def _kinds(circuit: Circuit) -> dict[tuple[str, int], AccessoryKind]:
    return {(point.id, each.gang): each.kind for point in circuit.points for each in point.accessories}


def _changed(circuit: Circuit, kinds: dict[tuple[str, int], AccessoryKind]) -> Iterator[tuple[str, int]]:
    """Yield the gangs that are another kind of switch then; a two-way does as a one-way."""
    for at, now in _kinds(circuit).items():
        then = kinds.get(at, now)
        if then != now and not (now == "two-way" and then == "one-way"):
            yield at


def _ways(book: Rulebook, circuit: Circuit) -> Iterator[tuple[Chosen, Chooser]]:
    """Yield the usual ways of wiring the controls over the cables that are there."""
    scheme = circuit.scheme or Scheme()
    scheme = scheme.model_copy(update={"routes": routes_of(_as_found(circuit), scheme)})
    chooser = Chooser(circuit, scheme, book.switching.prices, book.switching.usual_length_m)
    count = 0
    for tree in chooser.trees:
        found = [Needs(tree, control, chooser.only_ends).ways() for control in scheme.controls]
        each = [[ways.option(row) for row in range(len(ways.own))] for ways in found]
        for options in product(*each):
            count += 1
            if count > _MOST_WAYS:
                return
            chosen = Chosen(tree, options, np.zeros(0, np.int16), Price(0, 0, 0))
            nets = nets_of(scheme, chosen, chooser.neutral_at(tree))
            hulls = np.array([tree.hull([end.place for end in net.ends]) for net in nets])
            cores = np.asarray(hulls.sum(axis=0), dtype=np.int16)
            if all(chooser.cost_of(route).fill(int(need)) for route, need in zip(tree.routes, cores, strict=True)):
                yield chosen, chooser


def _as_found(circuit: Circuit) -> Circuit:
    """Return the circuit with all its cables as things found: nothing is to be added."""
    legs = tuple(leg.model_copy(update={"state": "as-found"}) for leg in circuit.legs)
    return circuit.model_copy(update={"legs": legs})


def _turned(nets: list[Net]) -> Iterator[list[Net]]:
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


class _Placing:
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
                for place in sorted({leg.a, leg.b} & inside)
            ]

    def place(self, most: int | None) -> bool:
        """Put every net into cores; False where that takes more moves than `most`, or more cores than there are."""
        hulls = [self._tree.hull([end.place for end in net.ends]) for net in self._nets]
        moved = 0
        homeless: dict[tuple[int, str], list[int]] = {}
        for key, end in self._outer:
            if key in self._home:
                self.at[end] = self._home[key]
            else:
                homeless.setdefault(key, []).append(end)
        for run, route in enumerate(self._tree.routes):
            crossing = [index for index, hull in enumerate(hulls) if hull[run]]
            legs = [leg for leg in self._circuit.legs if {leg.a, leg.b} == {route.a, route.b}]
            slots = [(leg.id, core) for leg in legs for core in live_cores(self._circuit.cable_of(leg))]
            if len(slots) < len(crossing) or len(slots) > _MOST_SLOTS:
                return False
            padded: list[int | None] = [*crossing, *([None] * (len(slots) - len(crossing)))]
            ends = [tuple(self._end[End(place, *slot)] for place in (route.a, route.b)) for slot in slots]
            worth, way = min(
                (sum(self._costs(net, end) for net, pair in zip(way, ends, strict=True) for end in pair), way)
                for way in _orders(padded)
            )
            moved += worth
            if most is not None and moved > most:
                return False
            for net, pair in zip(way, ends, strict=True):
                for end in pair:
                    key = (net, self._layout.ends[end].place)
                    if net < 0:
                        self.at[end] = self._layout.alone[end]
                    elif key in self._home:
                        self.at[end] = self._home[key]
                    else:
                        homeless.setdefault(key, []).append(end)
        for key, together in homeless.items():
            home = self._home[key] = self._joint(together)
            for end in together:
                self.at[end] = home
        return True

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


def _placed(circuit: Circuit, layout: Layout, chosen: Chosen, nets: list[Net], most: int | None) -> list[int] | None:
    """Return in which join each end is once the nets are in the cores there; None where that takes more than `most`."""
    placing = _Placing(circuit, layout, chosen, nets)
    return placing.at if placing.place(most) else None


# What came of it


def _mended(
    book: Rulebook,
    circuit: Circuit,
    layout: Layout,
    at: Sequence[int],
    kinds: dict[tuple[str, int], AccessoryKind],
    exact: bool,
) -> Mended:
    design = sleeved(book, _with(circuit, layout, at, kinds))
    moves = [
        _move(book, circuit, layout, end, then)
        for end, (now, then) in enumerate(zip(layout.at, at, strict=True))
        if now != then
    ]
    changes = [
        f"At {circuit.point_title(place)}, gang {gang}: {_now(circuit, place, gang)} out, {kinds[place, gang]} in"
        for place, gang in _changed(circuit, kinds)
    ]
    changes += [
        f"At {circuit.point_title(point.id)}: take out what belongs to circuit {end.circuit}"
        for point in circuit.points
        for join in point.joins
        for end in join.ends
        if end.circuit is not None
    ]
    verdict, hazards = holds(book, {circuit.number: design})
    left = tuple(hazard.words for hazard in hazards if hazard.grave) if verdict is Verdict.FAIL else ()
    return Mended(
        moves=tuple(moves),
        changes=tuple(changes),
        exact=exact,
        design=design,
        named=(*_borrowed(circuit), *_named(circuit, layout, at)),
        left=left,
    )


def _borrowed(circuit: Circuit) -> Iterator[str]:
    """Yield where conductors of other circuits have been joined to this one."""
    for point in circuit.points:
        for join in point.joins:
            for number in sorted({end.circuit for end in join.ends if end.circuit is not None}):
                what = "neutral" if "N" in join.terminals else "conductor"
                yield f"{circuit.point_title(point.id)} borrows a {what} of circuit {number}"


def _named(circuit: Circuit, layout: Layout, at: Sequence[int]) -> Iterator[str]:
    """Yield what was wrong as one calls it, read off the moves that put it right."""
    crossed: dict[tuple[str, str], set[str]] = {}
    for end, (now, then) in enumerate(zip(layout.at, at, strict=True)):
        place, _, core = layout.ends[end]
        if now == then:
            continue
        title = circuit.point_title(place)
        was, wanted = layout.joins[now][1], layout.joins[then][1]
        if core == "E" and "E" not in was:
            what = "used as a strapper" if was or layout.at.count(now) > 1 else "left off"
            yield f"The cpc is {what} at {title}"
        elif layout.at.count(now) == 1 and not was and not _is_spare(layout, end):
            yield f"A core is left off at {title}"
        for name in (*was, *wanted):
            if "." in name:
                gang, terminal = name.split(".")
                crossed.setdefault((place, gang), set()).add(terminal)
    for (place, gang), terminals in crossed.items():
        if "COM" in terminals and len(terminals) > 1:
            others = " and ".join(sorted(terminals - {"COM"}))
            many = len(circuit.point(place).accessories) > 1
            which = f", gang {gang}" if many else ""
            yield f"COM and {others} crossed at {circuit.point_title(place)}{which}"
        elif len(terminals) > 1:
            yield f"Strappers mixed up at {circuit.point_title(place)}"


def _is_spare(layout: Layout, end: int) -> bool:
    """Whether a core is left off at its other end too."""
    _, leg, core = layout.ends[end]
    other = next(at for at, each in enumerate(layout.ends) if at != end and (each.leg, each.core) == (leg, core))
    return layout.at.count(layout.at[other]) == 1 and not layout.joins[layout.at[other]][1]


def _now(circuit: Circuit, place: str, gang: int) -> str:
    return next(each.kind for each in circuit.point(place).accessories if each.gang == gang)


def _move(book: Rulebook, circuit: Circuit, layout: Layout, end: int, then: int) -> Move:
    """Return in words where a core end goes."""
    place, leg_id, core = layout.ends[end]
    leg = next(each for each in circuit.legs if each.id == leg_id)
    colour = colour_of(book, circuit.cable_of(leg), core)
    other = leg.other_end(place)
    names = layout.joins[then][1]
    was = layout.joins[layout.at[end]][1]
    if names:
        target = f"into {_terminal_words(circuit, place, names)}"
    elif then == layout.alone[end]:
        target = "out, into a connector by itself"
    else:
        target = "to the others in the connector"
    source = f" from {_terminal_words(circuit, place, was)}" if was else ""
    words = f"At {circuit.point_title(place)}: {colour} of the cable to {circuit.point_title(other)}{source} {target}"
    return Move(place=place, leg=leg_id, core=core, words=words)


def _terminal_words(circuit: Circuit, place: str, names: Sequence[str]) -> str:
    """Return terminals as one says them: the gang is left out where there is one."""
    gangs = len(circuit.point(place).accessories) if place != BOARD else 0
    return " and ".join(name.split(".")[-1] if gangs <= 1 else name for name in names)


def _with(circuit: Circuit, layout: Layout, at: Sequence[int], kinds: dict[tuple[str, int], AccessoryKind]) -> Circuit:
    """Return the circuit with its ends in these joins; every join is then said."""
    sleeves = {
        End(point.id, end.leg, end.core): end.marked
        for point in circuit.points
        for join in point.joins
        for end in join.ends
        if end.circuit is None
    }
    held: dict[int, list[CoreEnd]] = {}
    for end, join in zip(layout.ends, at, strict=True):
        held.setdefault(join, []).append(CoreEnd(leg=end.leg, core=end.core, marked=sleeves.get(end)))

    def joins(place: str) -> tuple[Join, ...]:
        return tuple(
            Join(ends=tuple(held.get(index, ())), terminals=names)
            for index, (where, names) in enumerate(layout.joins)
            if where == place and (index in held or names)
        )

    points = []
    for point in circuit.points:
        accessories = tuple(
            each.model_copy(update={"kind": kinds.get((point.id, each.gang), each.kind)}) for each in point.accessories
        )
        points.append(point.model_copy(update={"joins": joins(point.id), "accessories": accessories}))
    changed = circuit.model_copy(update={"points": tuple(points), "board_joins": joins(BOARD)})
    return Circuit.model_validate(changed.model_dump())
