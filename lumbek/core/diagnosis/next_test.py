"""The next measurement: the one whose outcome tells most about which suspect it is, for the effort it takes.

What a test tells is the mutual information, in bits, between suspect and outcome, given all that has been read
(Shannon; Lindley 1956).
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import permutations, product

import numpy as np

from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.catalogue import PAIRS, Catalogue, Test
from lumbek.core.diagnosis.make_sure import to_make_sure
from lumbek.core.diagnosis.predict import Flags, InsulationPaths, alike, predict
from lumbek.core.diagnosis.scatter import Foretold, Scatter
from lumbek.core.diagnosis.suspects import BAR, NO_FAULT, Across, Between, Port
from lumbek.core.diagnosis.verdict import found
from lumbek.core.network.changed import OPEN_FROM_OHM, Places, Reals

# So many hypotheses are looked ahead from: the likeliest.
_MOST_HYPOTHESES = 360
# Figures a test may show are told apart in so many steps.
_STEPS = 80
# The same reading is asked for so often at the most.
_MOST_TIMES = 2
# What it costs to come back to a point that was closed up, as an effort beside that of its test.
_OPENED_ANEW = 0.5
# Cables are thought of by themselves where they stand among so many.
_FEW = 4
# Below this share, no insulation test is thought of.
_SOME = 0.004


@dataclass(frozen=True)
class Proposal:
    """A test and what it is expected to tell, in bits; `back` is what it costs to open a point anew for it."""

    test: Test
    bits: float
    back: float = 0.0

    @property
    def worth(self) -> float:
        """Bits for the effort."""
        return self.bits / (self.test.effort + self.back)


def propose_tests(belief: Belief) -> list[Proposal]:
    """Return tests that are worth taking, the most for its effort first.

    Where a suspect is found that others were told from, what makes sure of it is left: the core it is in, by itself.
    """
    if found(belief):
        return [Proposal(test, 0.0) for test in to_make_sure(belief)]
    again = [belief.low[at][0] for at in belief.doubtful]
    every = belief.by_way.ravel()
    best = np.argsort(-every)[:_MOST_HYPOTHESES]
    best = best[every[best] > 1e-7]
    weight = every[best] / every[best].sum()
    rows, ways = np.unravel_index(best, belief.by_way.shape)
    hypotheses = [belief.hypotheses[at] for at in rows]
    shares = _Shares([each.suspect for each in hypotheses], weight)
    low = _low_ohm(belief)
    proposals: list[Proposal] = []
    if low:
        outcomes = _outcomes(belief, rows, ways, low)
        proposals += [Proposal(test, shares.bits(outcomes[:, at])) for at, test in enumerate(low)]
    insulation = InsulationPaths(belief.patient, hypotheses)
    for test in _insulation(belief):
        seen = np.isfinite(insulation.seen_ohm(test))
        proposals.append(Proposal(test, shares.bits(np.stack((seen, ~seen), axis=1).astype(np.float64))))
    closed = _closed_up(belief)
    worth = [
        replace(each, back=_OPENED_ANEW if each.test.place in closed else 0.0)
        for each in proposals
        if each.bits >= belief.patient.figures.worth_bits
    ]
    # What may well be a slip is read again before anything rests on it.
    first = [next((each for each in proposals if each.test.id == test.id), Proposal(test, 0.0)) for test in again]
    others = [each for each in worth if all(each.test.id != one.test.id for one in first)]
    # Alike but for the noise of binary fractions: in the order that they were proposed, wherever it is worked out.
    return [*first, *sorted(others, key=lambda each: -round(each.worth, 9))]


def _closed_up(belief: Belief) -> set[str]:
    """Return the points that were read at and left since: each is closed up and put back."""
    places = [test.place for test, _ in belief.taken if test.place]
    return set(places) - set(places[-1:])


class _Shares:
    """How likely hypotheses are, each one of its suspect's."""

    def __init__(self, suspects: Sequence[str], weight: Reals) -> None:
        """Sort the hypotheses by their suspects; the weights have the shape (hypotheses,)."""
        numbers: dict[str, int] = {}
        suspect = np.array([numbers.setdefault(each, len(numbers)) for each in suspects], dtype=np.intp)
        self._order = np.argsort(suspect, kind="stable")
        self._weight = weight[self._order, None]
        self._first = np.unique(suspect[self._order], return_index=True)[1]

    def bits(self, outcome: Reals) -> float:
        """Return the mutual information of suspect and outcome, in bits.

        `outcome` holds how likely each outcome is under each hypothesis, shape (hypotheses, outcomes). It is what both
        tell less what they tell together: H(S) + H(O) - H(S, O).
        """
        joint = np.add.reduceat(self._weight * outcome[self._order], self._first, axis=0)
        return _entropy(joint.sum(axis=1)) + _entropy(joint.sum(axis=0)) - _entropy(joint)


def _entropy(shares: Reals) -> float:
    some = shares[shares > 0]
    return float(-(some * np.log2(some)).sum())


def _outcomes(belief: Belief, rows: Places, ways: Places, tests: Sequence[Test]) -> Reals:
    """Return how likely each step of each test's display is, shape (rows, tests, steps); the last is open.

    A row is a hypothesis with none of the readings a slip (way 0), or one of them, which then says nothing.
    """
    patient = belief.patient
    hypotheses = [belief.hypotheses[at] for at in rows]
    low = belief.low
    every = [*(test for test, _ in low), *tests]
    some, merged = alike(patient, hypotheses, every)
    each = list(zip(merged.tolist(), ways.tolist(), strict=True))
    pairs = list(dict.fromkeys(each))
    place = {pair: at for at, pair in enumerate(pairs)}
    which = np.array(list(map(place.__getitem__, each)), dtype=np.intp)
    kept = [hypotheses[some[at]] for at, _ in pairs]
    slipped = np.arange(1, len(low) + 1)[None, :] == np.array([way for _, way in pairs])[:, None]
    scatter = Scatter(Foretold(patient, kept, predict(patient, kept, every)))
    read = np.array([took.value for _, took in low])
    is_open = np.array([took.is_open for _, took in low], dtype=np.bool_)
    mean, spread = _given(scatter, read, is_open, slipped)
    shown_open = scatter.open[:, len(low) :]
    # A meter's noise goes with 1 + R: on that scale steps are even.
    at, width = np.log1p(np.maximum(mean, 0.0)), spread / (1 + np.maximum(mean, 0.0))
    finite = ~shown_open
    first = np.where(finite, at - 3 * width, np.inf).min(axis=0)
    last = np.where(finite, at + 3 * width, -np.inf).max(axis=0)
    first, last = np.where(np.isfinite(first), first, 0.0), np.where(np.isfinite(last), last, 1.0)
    edges = first[:, None] + (last - first)[:, None] * np.linspace(0, 1, _STEPS + 1)[None, 1:-1]
    below = _normal((edges[None] - at[:, :, None]) / width[:, :, None])
    shares = np.diff(below, axis=2, prepend=0.0, append=1.0)
    outcomes = np.concatenate((np.where(finite[:, :, None], shares, 0.0), shown_open[:, :, None]), axis=2)
    return np.asarray(outcomes[which])


def _given(scatter: Scatter, read: Reals, is_open: Flags, slipped: Flags) -> tuple[Reals, Reals]:
    """Return mean and standard deviation of the readings to come, given those taken, in Ω (Gaussian conditioning).

    What is `slipped`, shape (rows, readings), says nothing of those to come.
    """
    count = len(read)
    finite = ~scatter.open[:, :count] & ~is_open[None, :] & ~slipped
    taken = np.where(finite[:, :, None], scatter.shared[:, :count], 0.0)
    coming = scatter.shared[:, count:]
    if count == 0:
        return scatter.ohm, np.sqrt((coming**2).sum(axis=2) + scatter.alone)
    covariance = taken @ taken.transpose(0, 2, 1)
    places = np.arange(count)
    covariance[:, places, places] += np.where(finite, scatter.alone[:, :count], 1.0)
    off = np.where(finite, read[None, :] - scatter.ohm[:, :count], 0.0)
    # What has been learnt of all that is shared: columns are unknowns, not tests, so this stays small.
    gain = np.linalg.solve(covariance, taken)
    learnt = (gain.transpose(0, 2, 1) @ off[:, :, None])[:, :, 0]
    left = np.eye(taken.shape[2])[None] - taken.transpose(0, 2, 1) @ gain
    mean = scatter.ohm[:, count:] + (coming @ learnt[:, :, None])[:, :, 0]
    variance = np.maximum(((coming @ left) * coming).sum(axis=2), 0.0) + scatter.alone[:, count:]
    return np.where(scatter.open[:, count:], OPEN_FROM_OHM, mean), np.sqrt(variance)


def _normal(x: Reals) -> Reals:
    """Return the normal distribution's share below x, to 3e-4 (Page's approximation)."""
    return np.asarray(0.5 * (1 + np.tanh(0.7978845608 * x * (1 + 0.044715 * (x * x)))))


def _low_ohm(belief: Belief) -> list[Test]:
    patient = belief.patient
    if all(belief.suspects[each].kind in NO_FAULT for each, share in belief.by_suspect.items() if share > 1e-6):
        return []
    catalogue, points = Catalogue(patient), patient.open_points
    sides = ("a", "b") if patient.ring else ("-",)
    ids = [f"link/{pair}/{point}/{side}" for pair, point, side in product(PAIRS, points, sides)]
    ids += [f"lead/{core}/{point}/{side}" for core, point, side in product("LNE", points, sides)]
    ids += [f"flat/{pair}/{point}" for pair, point in product(PAIRS, points)]
    if patient.ring:
        ids += [f"ends/{one}-{other}" for one, other in permutations("LNE", 2)]
        ids += [f"far/NE/{point}" for point in points]
    # What was read live is not asked again of a circuit under suspicion: dead tests part it.
    # Any other reading may be taken again, once: twice alike is settled.
    times = Counter(test.id for test, _ in belief.low)
    ids += [test.id for test, _ in belief.low if not test.live]
    ids = [each for each in ids if times[each] < _MOST_TIMES]
    return catalogue.known(ids)


def _insulation(belief: Belief) -> list[Test]:
    """Return insulation tests with loads out, half of those under suspicion at a time, and with the run split."""
    patient, catalogue = belief.patient, Catalogue(belief.patient)
    share, by_load = _suspected_paths(belief)
    ids: list[str] = []
    taken = {took.test for _, took in belief.taken}
    for pair in (pair for pair in PAIRS if share.get(pair, 0.0) > _SOME):
        ids.append(f"ins/{pair}/unplug/all")
        if pair == "NE":
            ids.append(f"ins/{pair}/unplug/{BAR}")
        half = _likelier_half(by_load.get(pair, {}))
        if half and len(half) < len(patient.open_points):
            ids.append(f"ins/{pair}/unplug/{'+'.join(sorted(half, key=patient.points.index))}")
        ids += [f"ins/{pair}/split/{point}/{catalogue.side}" for point in patient.points]
        for point in patient.points:
            ids += [f"ins/{pair}/out/{point}/{leg}" for leg in patient.legs_at(point)]
    ids += _by_themselves(belief)
    return catalogue.known(each for each in ids if each not in taken)


def _by_themselves(belief: Belief) -> Iterator[str]:
    """Yield the insulation of each of the few cables that are left under suspicion, by itself."""
    likely = [belief.suspects[each] for each in list(belief.by_suspect)[:_FEW]]
    for part in dict.fromkeys(part for each in likely for part in each.parts or (each.id,)):
        suspect = belief.suspects[part]
        if suspect.kind == "insulation-leg":
            yield f"ins/{suspect.cores}/alone/{suspect.place}"


def _suspected_paths(belief: Belief) -> tuple[dict[str, float], dict[str, dict[str, float]]]:
    """Return how likely a path between each two conductors is, and of each two how likely through each load."""
    share: dict[str, float] = {}
    by_load: dict[str, dict[str, float]] = {}
    for each, weight in zip(belief.hypotheses, belief.weight.tolist(), strict=True):
        for path in each.paths:
            pair = _pair_of(belief, path.port)
            share[pair] = share.get(pair, 0.0) + weight
            if path.load and path.load != BAR:
                of_pair = by_load.setdefault(pair, {})
                of_pair[path.load] = of_pair.get(path.load, 0.0) + weight
    return share, by_load


def _likelier_half(by_load: dict[str, float]) -> list[str]:
    """Return the likeliest loads that hold half of the suspicion between them."""
    likely = sorted(((each, weight) for each, weight in by_load.items() if weight > _SOME / 10), key=lambda it: -it[1])
    half, reached = list[str](), 0.0
    for point, weight in likely:
        if reached < 0.5 * sum(each for _, each in likely):
            half.append(point)
            reached += weight
    return half


def _pair_of(belief: Belief, port: Port) -> str:
    """Return the conductors that a path joins, as tests name them; nothing for others."""
    if isinstance(port, Across):
        branches = belief.patient.wiring.branches
        cores = {branches[port.one][2], branches[port.other][2]}
    elif isinstance(port, Between):
        cores = {port.a.name if port.a.name in "NE" else "L", port.b.name if port.b.name in "NE" else "L"}
    else:
        return ""
    return next((pair for pair in PAIRS if set(pair) == cores), "")
