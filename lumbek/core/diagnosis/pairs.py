"""Two faults at once: looked for only where no single one explains what was read.

Each of the likeliest single suspects is put together with every other one.
"""

from collections.abc import Iterator
from dataclasses import replace

from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.suspects import NO_FAULT, Hypothesis, Series, Suspect
from lumbek.core.diagnosis.verdict import is_explained

# So many of the likeliest single suspects are each put together with all others, of so few sizes each.
_FIRST, _OF_A_KIND, _SIZES = 10, 2, 3
# How likely a second fault is where there is one: kept apart from the first by nothing, so not unlikely.
_SECOND = 0.1


def with_pairs(belief: Belief) -> Belief:
    """Return the belief with pairs of faults beside the single ones, where no single one explains what was read."""
    if is_explained(belief):
        return belief
    best = _best_of_each(belief)
    ranked = sorted(best.items(), key=lambda item: -item[1][0])
    faults = [suspect for suspect, _ in ranked if belief.suspects[suspect].kind not in NO_FAULT]
    suspects, hypotheses = dict(belief.suspects), list(belief.hypotheses)
    done: set[frozenset[str]] = set()
    for first in _likeliest(belief, faults):
        for second in faults:
            both = frozenset((first, second))
            if len(both) == 2 and both not in done:
                done.add(both)
                pair, found = _pair(belief, best, first, second)
                if found:
                    suspects[pair.id] = pair
                    hypotheses += found
    return replace(belief, suspects=suspects, hypotheses=tuple(hypotheses))


def _likeliest(belief: Belief, faults: list[str]) -> list[str]:
    """Return the likeliest suspects, few of a kind: neighbours of one fault are no second one."""
    count: dict[str, int] = {}
    found = []
    for suspect in faults:
        kind = belief.suspects[suspect].kind
        count[kind] = count.get(kind, 0) + 1
        if count[kind] <= _OF_A_KIND:
            found.append(suspect)
    return found[:_FIRST]


def _best_of_each(belief: Belief) -> dict[str, tuple[float, list[Hypothesis]]]:
    """Return for each suspect how likely its best hypothesis is, and some of its hypotheses."""
    of: dict[str, list[tuple[float, Hypothesis]]] = {}
    for each, likely in zip(belief.hypotheses, belief.ln_likely.tolist(), strict=True):
        of.setdefault(each.suspect, []).append((likely, each))
    found = {}
    for suspect, some in of.items():
        some.sort(key=lambda item: -item[0])
        # The best, and some that lie apart: with another fault beside it the best size is another.
        step = max(1, len(some) // _SIZES)
        found[suspect] = (some[0][0], [each for _, each in [some[0], *some[step::step]]][:_SIZES])
    return found


def _pair(
    belief: Belief, best: dict[str, tuple[float, list[Hypothesis]]], first: str, second: str
) -> tuple[Suspect, list[Hypothesis]]:
    one, other = belief.suspects[first], belief.suspects[second]
    prior = one.prior * other.prior * _SECOND / (1 - belief.patient.figures.sound) ** 2
    title = f"{one.title}; and {other.title[0].lower()}{other.title[1:]}"
    pair = Suspect(f"{first} + {second}", "pair", one.place_kind, one.place, one.cores, title, prior, (first, second))
    found = list(_together(pair.id, best[first][1][:1], best[second][1]))
    return pair, [replace(each, prior=1 / len(found)) for each in found]


def _together(pair: str, ones: list[Hypothesis], others: list[Hypothesis]) -> Iterator[Hypothesis]:
    for one in ones:
        for other in others:
            apart = _branches(one).isdisjoint(_branches(other))
            apart &= one.exchanged is None or other.exchanged is None
            apart &= {terminal for terminal, _ in one.tails}.isdisjoint(terminal for terminal, _ in other.tails)
            if apart:
                yield Hypothesis(
                    pair,
                    1.0,
                    (*one.changes, *other.changes),
                    max(one.cell_ln, other.cell_ln),
                    one.exchanged or other.exchanged,
                    (*one.tails, *other.tails),
                )


def _branches(each: Hypothesis) -> set[int]:
    return {change.port.branch for change in each.changes if isinstance(change.port, Series)}
