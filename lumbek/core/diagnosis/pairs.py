"""Two faults at once: looked for only where no single one explains what was read.

Each of the likeliest single suspects is put together with every other one, and so are those that explain most of the
readings between them, however unlikely each is alone.
"""

from collections.abc import Iterable, Sequence
from itertools import product

import numpy as np

from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.suspects import NO_FAULT, Hypothesis, Suspect
from lumbek.core.diagnosis.verdict import is_explained
from lumbek.core.network.changed import Reals

# So many of the likeliest single suspects, few of a kind, are put together with all others, of so few sizes each; then
# so many of what stands in the best pairs.
_FIRST, _OF_A_KIND, _SIZES, _THEN = 6, 2, 3, 2
# First come so many pairs of these, of all and of what stands in the best, that leave least to explain between them.
_OF_FIRSTS, _OF_ALL, _OF_BEST = 250, 400, 150
# Pairs that are no less likely than this part of all are tried with so many sizes of both, so many in all.
_SIZED_FROM, _ALL_SIZES, _MOST_SIZED = 1e-5, 8, 1500
# How likely a second fault is where there is one: kept apart from the first by nothing, so not unlikely.
_SECOND = 0.1


def with_pairs(belief: Belief) -> Belief:
    """Return the belief with pairs of faults beside the single ones, where no single one explains what was read."""
    if is_explained(belief):
        return belief
    left = belief.left_over()
    ranked = _ranked(belief, left.sum(axis=1))
    pairing = _Pairing(belief, {suspect: [belief.hypotheses[at] for at in rows] for suspect, rows in ranked.items()})
    # With another fault beside it any of its sizes may be the one.
    least = {suspect: left[rows].min(axis=0) for suspect, rows in ranked.items()}
    firsts = _few_of_a_kind(belief, list(_ranked(belief, -belief.ln_likely)))
    found = pairing.of(belief, [*_between(least, firsts, _OF_FIRSTS), *_between(least, list(least), _OF_ALL)])
    found = pairing.of(found, _between(least, _best_parts(found, firsts), _OF_BEST))
    if not is_explained(found):
        # Two faults may do together what neither does alone.
        found = pairing.of(found, product(firsts, ranked))
        found = pairing.of(found, product(_best_parts(found, firsts), ranked))
    return pairing.sized(found)


def _best_parts(belief: Belief, firsts: list[str]) -> list[str]:
    """Return what stands in the best pairs: what goes with it may go as well with any other place."""
    parts = dict.fromkeys(part for pair in _pairs(belief) for part in belief.suspects[pair].parts if part not in firsts)
    return list(parts)[:_THEN]


def _between(least: dict[str, Reals], firsts: list[str], most: int) -> list[tuple[str, str]]:
    """Return the pairs of one of the first and any that leave least to explain if what either explains is explained.

    `least` is what each leaves of each reading at the least, shape (readings,).
    """
    faults, rows = list(least), np.array(list(least.values()))
    together = np.array([np.minimum(least[first], rows).sum(axis=1) for first in firsts])
    best = np.argsort(together, axis=None, kind="stable")[:most].tolist()
    return [(firsts[at // len(faults)], faults[at % len(faults)]) for at in best]


def _pairs(belief: Belief) -> list[str]:
    """Return the pairs that are not out of the question, the likeliest first."""
    shares = belief.by_suspect.items()
    return [each for each, share in shares if share >= _SIZED_FROM and belief.suspects[each].kind == "pair"]


class _Pairing:
    """Single suspects, each with its hypotheses, put together two by two."""

    def __init__(self, singles: Belief, ranked: dict[str, list[Hypothesis]]) -> None:
        self._singles, self._ranked = singles, ranked
        self._few = {suspect: _few(some) for suspect, some in ranked.items()}
        self._done: set[frozenset[str]] = set()

    def of(self, belief: Belief, pairs: Iterable[tuple[str, str]]) -> Belief:
        """Return the belief with these put together that are not yet."""
        suspects: dict[str, Suspect] = {}
        hypotheses: list[Hypothesis] = []
        for first, second in pairs:
            both = frozenset((first, second))
            if len(both) < 2 or both in self._done:
                continue
            self._done.add(both)
            pair = _pair(self._singles, first, second)
            # With another fault beside it the best size of either is another.
            (one, *others), (best, *_) = self._few[first], self._few[second]
            sizes = [*((one, other) for other in self._few[second]), *((other, best) for other in others)]
            found = _together(pair.id, sizes)
            if found:
                suspects[pair.id] = pair
                hypotheses += found
        return belief.and_also(suspects, hypotheses)

    def sized(self, belief: Belief) -> Belief:
        """Return the belief with the likeliest pairs of every size that both may have."""
        done, found = set(), list[Hypothesis]()
        for pair in _pairs(belief):
            one, other = (self._ranked[part][:_ALL_SIZES] for part in belief.suspects[pair].parts)
            found += _together(pair, list(product(one, other)))
            done.add(pair)
            if len(found) > _MOST_SIZED:
                break
        rows = [at for at, each in enumerate(belief.hypotheses) if each.suspect not in done]
        return belief.only(np.array(rows, dtype=np.intp)).and_also({}, found)


def _few_of_a_kind(belief: Belief, faults: list[str]) -> list[str]:
    """Return the first of these suspects, few of a kind: neighbours of one fault are no second one."""
    count: dict[str, int] = {}
    found = []
    for suspect in faults:
        kind = belief.suspects[suspect].kind
        count[kind] = count.get(kind, 0) + 1
        if count[kind] <= _OF_A_KIND:
            found.append(suspect)
    return found[:_FIRST]


def _ranked(belief: Belief, score: Reals) -> dict[str, list[int]]:
    """Return the rows of the hypotheses of each fault, the fault and of each the hypothesis with the least score first.

    What is no fault is no part of a pair.
    """
    found: dict[str, list[int]] = {}
    for at in np.argsort(score, kind="stable").tolist():
        suspect = belief.hypotheses[at].suspect
        if belief.suspects[suspect].kind not in NO_FAULT:
            found.setdefault(suspect, []).append(at)
    return found


def _few(some: list[Hypothesis]) -> list[Hypothesis]:
    """Return the best of a suspect's hypotheses, and some that lie apart."""
    step = max(1, len(some) // _SIZES)
    return [some[0], *some[step::step]][:_SIZES]


def _pair(belief: Belief, first: str, second: str) -> Suspect:
    one, other = belief.suspects[first], belief.suspects[second]
    prior = one.prior * other.prior * _SECOND / (1 - belief.patient.figures.sound) ** 2
    title = f"{one.title}; and {other.title[0].lower()}{other.title[1:]}"
    return Suspect(f"{first} + {second}", "pair", one.place_kind, one.place, one.cores, title, prior, (first, second))


def _together(pair: str, both: Sequence[tuple[Hypothesis, Hypothesis]]) -> list[Hypothesis]:
    """Return hypotheses of a pair, all as likely, for those of its two suspects that can be true together."""
    able = [(one, other) for one, other in both if _can_be_both(one, other)]
    return [
        Hypothesis(
            pair,
            1.0 / len(able),
            (*one.changes, *other.changes),
            max(one.cell_ln, other.cell_ln),
            one.exchanged or other.exchanged,
            (*one.tails, *other.tails),
        )
        for one, other in able
    ]


def _can_be_both(one: Hypothesis, other: Hypothesis) -> bool:
    """Whether neither changes what the other does."""
    if one.exchanged is not None and other.exchanged is not None:
        return False
    if one.tails and other.tails and not {at for at, _ in one.tails}.isdisjoint(at for at, _ in other.tails):
        return False
    return one.branches.isdisjoint(other.branches)
