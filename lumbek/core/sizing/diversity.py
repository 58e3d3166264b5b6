"""Diversity: how much of several loads is drawn at once in one dwelling."""

from lumbek.core.rulebooks.rules import DiversityRule


def diversified_a(rule: DiversityRule, loads_a: list[float]) -> float:
    """Return the current in A that these loads are taken to draw together.

    The first amperes of the sum and the largest loads count in full, the rest in part. Never more than the sum.
    """
    largest_first = sorted(loads_a, reverse=True)
    full = sum(largest_first[: rule.largest_count])
    rest = sum(largest_first[rule.largest_count :])
    first = min(rest, rule.first_a)
    return full + first + rule.rest * (rest - first)
