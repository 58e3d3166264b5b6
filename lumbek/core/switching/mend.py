"""Putting right what was found, with the cables that are there and the fewest core ends moved."""

from collections.abc import Callable, Iterator
from itertools import product

import numpy as np

from lumbek.core.circuit.routes import routes_of
from lumbek.core.model.accessory import AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.terminals import CoreEnd
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.choose import Chooser, Chosen, Price
from lumbek.core.switching.conflicts import Conflicts, Move, Moves
from lumbek.core.switching.moves import Mended, changed_kinds, kinds_of, mended
from lumbek.core.switching.nets import Net, fitted, nets_of
from lumbek.core.switching.options import Needs
from lumbek.core.switching.placing import Placing, turned
from lumbek.core.switching.quick import Layout

# Ends moved that are looked for, and wirings tried for it; beyond, the usual wirings for these cables are compared with
# what is there. That at least changes of so many ends were tried is said.
_MOST_MOVES, _MOST_TRIES = 4, 25_000
_TRIED = 2
_MOST_WAYS = 400


# Whether there is time for more.
More = Callable[[], bool]


def always() -> bool:
    """There is time for more, however much was done."""
    return True


def mend(book: Rulebook, circuit: Circuit, search: More = always, compare: More = always) -> Mended | None:
    """Return the least re-connections after which a circuit does as meant; None where its cables cannot.

    First one end is moved, then two, three and four, of each thing that is wrong some end that has to be elsewhere;
    where that is not enough, every usual way of wiring its controls over the cables there is compared with what is
    joined, and the nearest taken. `search` and `compare` say whether there is time for more of either.
    """
    layout = Layout(circuit)
    if layout.works(layout.at):
        # With the ends of other circuits taken out nothing more is wrong.
        strangers = sum(1 for each in _strangers(circuit))
        return mended(book, circuit, layout, layout.at, {}, exact=strangers == 1) if strangers else None
    moved, tried = _Search(layout, search).least()
    if moved is not None:
        return mended(book, circuit, layout, moved, {}, exact=True)
    nearest = _nearest(book, circuit, layout, compare)
    if nearest is None:
        return None
    at, kinds = nearest
    count = sum(1 for now, then in zip(layout.at, at, strict=True) if now != then)
    # One more than what has been tried is the least there is.
    exact = count == tried + 1 and not any(changed_kinds(circuit, kinds))
    return mended(book, circuit, layout, at, kinds, exact, tried >= _TRIED)


def _strangers(circuit: Circuit) -> Iterator[CoreEnd]:
    """Yield the core ends of other circuits that are joined here."""
    joins = (join for all_of in (circuit.board_joins, *(point.joins for point in circuit.points)) for join in all_of)
    return (end for join in joins for end in join.ends if end.circuit is not None)


class _Search:
    """The fewest moves that do, one deeper at a time; of each thing that is wrong one move has to be made."""

    def __init__(self, layout: Layout, more: More) -> None:
        self._layout, self._conflicts, self._more = layout, Conflicts(layout), more
        self.tries = 0

    @property
    def _over(self) -> bool:
        return self.tries > _MOST_TRIES or not self._more()

    def least(self) -> tuple[list[int] | None, int]:
        """Return where the ends are after the fewest moves that do, and up to how many were tried in every way."""
        for depth in range(1, _MOST_MOVES + 1):
            found = self._deeper(list(self._layout.at), depth, frozenset(), frozenset())
            if found is not None:
                return found, depth - 1
            if self._over:
                return None, depth - 1
        return None, _MOST_MOVES

    def _deeper(self, at: list[int], depth: int, moved: frozenset[int], barred: Moves) -> list[int] | None:
        # Where nothing is found wrong that has a set, any move may be it.
        needed = self._conflicts.least(at)
        every = needed or frozenset(move for moves in self._conflicts.every(at) for move in moves)
        moves = every - barred
        tried: set[Move] = set()
        for end, join in sorted(moves):
            if end in moved:
                continue
            if self._over:
                return None
            then = [*at]
            then[end] = join
            self.tries += 1
            if self._layout.works(then):
                return then
            if depth > 1:
                found = self._deeper(then, depth - 1, moved | {end}, barred | tried)
                if found is not None:
                    return found
            # Moves tried here are tried with all others: beside them they need not be again.
            tried.add((end, join))
        return None


def _nearest(
    book: Rulebook, circuit: Circuit, layout: Layout, more: More
) -> tuple[list[int], dict[tuple[str, int], AccessoryKind]] | None:
    """Return where the ends go in the wiring for these cables that is nearest to what is there."""
    best: tuple[int, list[int], dict[tuple[str, int], AccessoryKind]] | None = None
    for chosen, chooser in _ways(book, circuit):
        if best is not None and not more():
            break
        nets = nets_of(chooser.scheme, chosen, chooser.neutral_at(chosen.tree), chooser.through)
        kinds = {
            (place, each.gang): each.kind
            for place, accessories in fitted(circuit, chooser.scheme, chosen).items()
            for each in accessories
        }
        for variant in turned(nets):
            placed = _placed(circuit, layout, chosen, variant, None if best is None else best[0])
            if placed is None:
                continue
            cost = sum(1 for now, then in zip(layout.at, placed, strict=True) if now != then)
            cost += sum(2 for _ in changed_kinds(circuit, kinds))
            if (best is None or cost < best[0]) and (kinds != kinds_of(circuit) or layout.works(placed)):
                best = cost, placed, kinds
    return None if best is None else (best[1], best[2])


def _ways(book: Rulebook, circuit: Circuit) -> Iterator[tuple[Chosen, Chooser]]:
    """Yield the usual ways of wiring the controls over the cables that are there."""
    scheme = circuit.scheme or Scheme()
    if not all(control.is_plain for control in scheme.controls):
        return
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
            nets = nets_of(scheme, chosen, chooser.neutral_at(tree), chooser.through)
            hulls = np.array([tree.hull([end.place for end in net.ends]) for net in nets])
            cores = np.asarray(hulls.sum(axis=0), dtype=np.int16)
            if all(chooser.cost_of(route).fill(int(need)) for route, need in zip(tree.routes, cores, strict=True)):
                yield chosen, chooser


def _as_found(circuit: Circuit) -> Circuit:
    """Return the circuit with all its cables as things found: nothing is to be added."""
    legs = tuple(leg.model_copy(update={"state": "as-found"}) for leg in circuit.legs)
    return circuit.model_copy(update={"legs": legs})


def _placed(circuit: Circuit, layout: Layout, chosen: Chosen, nets: list[Net], most: int | None) -> list[int] | None:
    """Return in which join each end is once the nets are in the cores there; None where that takes more than `most`."""
    placing = Placing(circuit, layout, chosen, nets)
    return placing.at if placing.place(most) else None
