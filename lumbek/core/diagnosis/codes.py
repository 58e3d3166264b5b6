"""Finding out which of many belongs to which, in as few rounds as there are binary digits.

Each of n gets a number, and in round k everything whose number has digit k is joined (bell-out), or switched off
(tracing a board). What is seen round by round spells the number. Number 0 is nobody's: what is never seen is broken, or
belongs to none of these; where it is asked for the number with all digits is nobody's either.
"""

from collections.abc import Sequence

from lumbek.core.model.text import Name
from lumbek.core.value import Frozen


class CodePlan(Frozen):
    """Who is joined or switched off in each round."""

    names: tuple[Name, ...]
    rounds: tuple[tuple[Name, ...], ...]
    spare_last: bool = False


class Seen(Frozen):
    """One that is looked for, with what was seen of it in each round."""

    name: Name
    rounds: tuple[bool, ...]


class Found(Frozen):
    """One that was looked for, and to which it belongs; or why that cannot be."""

    name: Name
    belongs_to: Name | None
    why: str = ""


def plan_codes(names: Sequence[str], spare_last: bool = False) -> CodePlan:
    """Return the rounds for these: the least k with 2^k > n, or 2^k > n + 1 with the last number spare."""
    count = len(names) + (1 if spare_last else 0)
    rounds = count.bit_length() if names else 0
    return CodePlan(
        names=tuple(names),
        rounds=tuple(
            tuple(name for number, name in enumerate(names, start=1) if number >> digit & 1) for digit in range(rounds)
        ),
        spare_last=spare_last,
    )


def read_codes(plan: CodePlan, seen: Sequence[Seen], never: str, always: str, twice: str) -> tuple[Found, ...]:
    """Return to which each belongs. `never`, `always` and `twice` say what it means that it cannot be told.

    Of two that belong to the same where each has its own (`twice` said), neither is believed.
    """
    numbers = {each.name: sum(bool(bit) << digit for digit, bit in enumerate(each.rounds)) for each in seen}
    count = {number: list(numbers.values()).count(number) for number in numbers.values()}
    found = []
    for each in seen:
        number = numbers[each.name]
        if len(each.rounds) != len(plan.rounds):
            found.append(Found(name=each.name, belongs_to=None, why="not seen in every round yet"))
        elif number == 0:
            found.append(Found(name=each.name, belongs_to=None, why=never))
        elif number > len(plan.names):
            found.append(Found(name=each.name, belongs_to=None, why=always))
        elif twice and count[number] > 1:
            found.append(Found(name=each.name, belongs_to=None, why=twice))
        else:
            found.append(Found(name=each.name, belongs_to=plan.names[number - 1]))
    return tuple(found)
