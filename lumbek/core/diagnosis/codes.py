"""Finding out which of many belongs to which, in as few rounds as there are binary digits.

Each of n gets a number, and in round k everything whose number has digit k is joined (bell-out), or switched off
(tracing a board). What is seen round by round spells the number. Number 0 and the number with all digits are nobody's:
what is never seen is broken, or belongs to none of these; what is always seen is joined to something on the way. Any
other number that was not given out belongs to one that is not here.
"""

from collections import Counter
from collections.abc import Sequence

from lumbek.core.model.text import Name
from lumbek.core.value import Frozen


class CodePlan(Frozen):
    """Who is joined or switched off in each round."""

    names: tuple[Name, ...]
    rounds: tuple[tuple[Name, ...], ...]


class Seen(Frozen):
    """One that is looked for, with what was seen of it in each round; None where nobody has looked yet."""

    name: Name
    rounds: tuple[bool | None, ...]


class CodeWords(Frozen):
    """What it means where it cannot be told: never seen, always, by a number of nobody here, or two alike.

    Of two that belong to the same where each has its own (`twice` said), neither is believed.
    """

    never: str
    always: str
    elsewhere: str
    twice: str = ""


class Found(Frozen):
    """One that was looked for, and to which it belongs; or why that cannot be."""

    name: Name
    belongs_to: Name | None
    why: str = ""


def plan_codes(names: Sequence[str]) -> CodePlan:
    """Return the rounds for these: the least k with 2^k > n + 1, so that no number has all digits.

    Numbers with few digits are given out first: the fewer joints, and no round goes by without one.
    """
    rounds = (len(names) + 1).bit_length() if names else 0
    numbers = sorted(range(1, (1 << rounds) - 1), key=lambda number: (number.bit_count(), number))
    given = list(zip(numbers, names, strict=False))
    return CodePlan(
        names=tuple(names),
        rounds=tuple(tuple(name for number, name in given if number >> digit & 1) for digit in range(rounds)),
    )


def read_codes(plan: CodePlan, seen: Sequence[Seen], words: CodeWords) -> tuple[Found, ...]:
    """Return to which each belongs, a name only where it is certain."""
    numbers = {each.name: sum(bool(bit) << digit for digit, bit in enumerate(each.rounds)) for each in seen}
    count = Counter(numbers.values())
    given = {sum((name in some) << digit for digit, some in enumerate(plan.rounds)): name for name in plan.names}
    every = (1 << len(plan.rounds)) - 1

    def why(each: Seen) -> str:
        number = numbers[each.name]
        if len(each.rounds) != len(plan.rounds) or None in each.rounds:
            return "not seen in every round yet"
        if number == 0:
            return words.never
        if number == every:
            return words.always
        if number not in given:
            return words.elsewhere
        return words.twice if count[number] > 1 else ""

    return tuple(
        Found(name=each.name, belongs_to=None if (said := why(each)) else given[numbers[each.name]], why=said)
        for each in seen
    )
