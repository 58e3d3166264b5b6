"""Sharing single-phase circuits out over three lines, exactly: no sharing has a lesser greatest line."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, sqrt

# Currents are told apart to this, in A; more fineness than any load is known to.
UNIT_A = 0.1
MOST = 24


@dataclass(frozen=True)
class Shared:
    """On which line (0, 1, 2) each circuit is, what each line then carries in A, and the neutral."""

    lines: tuple[int, ...]
    line_a: tuple[float, float, float]

    @property
    def greatest_a(self) -> float:
        """The current of the fullest line in A."""
        return max(self.line_a)

    @property
    def neutral_a(self) -> float:
        """The neutral's current in A for loads of one power factor: the three line currents lie at 120 degrees."""
        a, b, c = self.line_a
        return sqrt(max(0.0, a * a + b * b + c * c - a * b - b * c - c * a))


@dataclass(frozen=True)
class Balance:
    """The best sharing, and the next that has another greatest line; None where there is no other."""

    best: Shared
    runner_up: Shared | None


def neutral_a(line_a: Sequence[float]) -> float:
    """Return the neutral's current in A of three line currents of one power factor."""
    a, b, c = line_a
    return Shared((), (a, b, c)).neutral_a


def balance(currents_a: Sequence[float], fixed_a: Sequence[float] = (0.0, 0.0, 0.0)) -> Balance:
    """Return the sharing of currents over three lines whose fullest line is least, and the runner-up.

    `fixed_a` is what the lines carry already. Every pair of sums that two lines can have is followed, circuit by
    circuit, as bits of whole numbers in tenths of an ampere (rounded up): what is not among them cannot be reached,
    which is the proof that nothing is better. ValueError for more circuits than `MOST`.
    """
    if len(currents_a) > MOST:
        raise ValueError(f"no more than {MOST} circuits are shared out at once")
    units = [ceil(round(each / UNIT_A, 6)) for each in currents_a]
    base = [ceil(round(each / UNIT_A, 6)) for each in fixed_a]
    total = sum(units)
    order = sorted(range(len(units)), key=lambda index: -units[index])
    # rows[k][a] has bit b set where the first k circuits can put a on the first line and b on the second.
    rows: list[dict[int, int]] = [{0: 1}]
    most = _good_enough(units, order, base) + max(units, default=0)
    within = (1 << (max(most - base[1], 0) + 1)) - 1
    for index in order:
        ampere, before = units[index], rows[-1]
        now: dict[int, int] = {}
        for a, bits in before.items():
            now[a] = now.get(a, 0) | bits | ((bits << ampere) & within)
            if a + ampere + base[0] <= most:
                now[a + ampere] = now.get(a + ampere, 0) | bits
        rows.append(now)
    evenest = [(a, b) for a, bits in rows[-1].items() for b in _evenest(bits, base, total, a)]
    best = min(_worst(base, total, a, b) for a, b in evenest)
    beyond = [(a, b) for a, bits in rows[-1].items() for b in _just_beyond(bits, base, total, a, best[0])]
    worse = [found for found in (_worst(base, total, a, b) for a, b in beyond) if found[0] > best[0]]
    second = min(worse, default=None)
    return Balance(
        _shared(rows, order, units, currents_a, fixed_a, best),
        None if second is None else _shared(rows, order, units, currents_a, fixed_a, second),
    )


def _good_enough(units: list[int], order: list[int], base: list[int]) -> int:
    """Return the greatest line where each goes to the emptiest, the largest first: nothing worse need be followed."""
    lines = list(base)
    for index in order:
        least = lines.index(min(lines))
        lines[least] += units[index]
    return max(lines)


def _worst(base: list[int], total: int, a: int, b: int) -> tuple[int, int, int]:
    """Return the fullest line where the first two have these sums, and the sums."""
    return max(a + base[0], b + base[1], total - a - b + base[2]), a, b


def _evenest(bits: int, base: list[int], total: int, a: int) -> list[int]:
    """Return the sums of the second line next to its even share with the third, on either side: one of them is best."""
    even = max((total - a + base[2] - base[1]) // 2, -1)
    return [*_highest(bits & ((1 << (even + 1)) - 1)), *_lowest(bits, even + 1)]


def _just_beyond(bits: int, base: list[int], total: int, a: int, best: int) -> list[int]:
    """Return the sums of the second line that bring it, or the third, just beyond the best; and the most even ones."""
    second = max(best - base[1] + 1, 0)
    third = max(total - a + base[2] - best, 0)
    return [*_evenest(bits, base, total, a), *_lowest(bits, second), *_highest(bits & ((1 << third) - 1))]


def _highest(bits: int) -> list[int]:
    return [bits.bit_length() - 1] if bits else []


def _lowest(bits: int, start: int) -> list[int]:
    above = bits >> start
    return [start + (above & -above).bit_length() - 1] if above else []


def _shared(
    rows: list[dict[int, int]],
    order: list[int],
    units: list[int],
    currents_a: Sequence[float],
    fixed_a: Sequence[float],
    found: tuple[int, int, int],
) -> Shared:
    """Walk back through the rows from the sums that were found to who is where."""
    _, a, b = found
    lines = [0] * len(units)
    for step in range(len(order), 0, -1):
        index, before = order[step - 1], rows[step - 1]
        each = units[index]
        if before.get(a, 0) >> b & 1:
            lines[index] = 2
        elif b >= each and before.get(a, 0) >> (b - each) & 1:
            lines[index], b = 1, b - each
        else:
            lines[index], a = 0, a - each
    sums = list(fixed_a)
    for index, line in enumerate(lines):
        sums[line] += currents_a[index]
    return Shared(tuple(lines), (sums[0], sums[1], sums[2]))
