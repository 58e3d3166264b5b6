"""Sharing single-phase circuits out over three lines, exactly: no sharing has a lesser greatest line."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, sqrt

# Currents are told apart to this, in A; more fineness than any load is known to.
UNIT_A = 0.1
MOST = 24
_PLACES = 3


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
        each, before = units[index], rows[-1]
        now: dict[int, int] = {}
        for a, bits in before.items():
            now[a] = now.get(a, 0) | bits | ((bits << each) & within)
            if a + each + base[0] <= most:
                now[a + each] = now.get(a + each, 0) | bits
        rows.append(now)
    best: tuple[int, int, int] | None = None
    second: tuple[int, int, int] | None = None
    for a, bits in rows[-1].items():
        for b in _near(bits, base, total, a):
            worst = max(a + base[0], b + base[1], total - a - b + base[2])
            found = (worst, a, b)
            if best is None or worst < best[0]:
                second, best = best, found
            elif worst > best[0] and (second is None or worst < second[0]):
                second = found
    assert best is not None
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


def _near(bits: int, base: list[int], total: int, a: int) -> list[int]:
    """Return the sums of the second line that may give the least and the next greatest, of those that can be had.

    The greatest of the two other lines grows with the distance from their even share: the nearest few on either side.
    """
    even = (total - a + base[2] - base[1]) // 2
    found = []
    below = bits & ((1 << (even + 1)) - 1) if even >= 0 else 0
    above = bits >> (even + 1) if even >= 0 else bits
    for _ in range(_PLACES):
        if below:
            top = below.bit_length() - 1
            found.append(top)
            below ^= 1 << top
        if above:
            low = (above & -above).bit_length() - 1
            found.append(low + max(even + 1, 0))
            above &= above - 1
    # Where the first line decides, any of them gives the same greatest; a far one gives the next.
    return found


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
