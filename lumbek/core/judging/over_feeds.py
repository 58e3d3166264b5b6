"""A circuit behind feeds that are only known to lie between two lengths: what holds at every length, and what not."""

from collections.abc import Sequence
from typing import Any

from lumbek.core.judging.check import Check, Verdict, overall
from lumbek.core.judging.verdict import CircuitResult, tightest
from lumbek.core.model.circuit import Circuit


def at_both_ends(circuit: Circuit) -> tuple[Circuit, ...]:
    """Return a circuit with all such feeds at their least, and at their greatest; nothing where there are none."""
    if all(each.least_length_m is None for each in circuit.ahead):
        return ()
    short: list[dict[str, Any]] = [
        {"length_m": each.least_length_m or each.length_m, "least_length_m": None} for each in circuit.ahead
    ]
    long: list[dict[str, Any]] = [{"least_length_m": None} for _ in circuit.ahead]
    return _with(circuit, short), _with(circuit, long)


def _with(circuit: Circuit, found: Sequence[dict[str, Any]]) -> Circuit:
    ahead = tuple(each.model_copy(update=said) for each, said in zip(circuit.ahead, found, strict=True))
    return circuit.model_copy(update={"ahead": ahead})


def over_feeds(circuit: Circuit, worst: CircuitResult, ends: Sequence[CircuitResult]) -> CircuitResult:
    """Return one result for all lengths of the feeds ahead; `worst` has each check at what is worst for it.

    A loop is worst behind the longest feed, a fault current behind the shortest: what fails there and passes at an end
    depends on lengths that nobody has told.
    """
    feeds = [each.name or "the feed" for each in circuit.ahead if each.least_length_m is not None]
    checks = tuple(_one(feeds, check, [end.checks[index] for end in ends]) for index, check in enumerate(worst.checks))
    return worst.model_copy(update={"checks": checks, "verdict": overall(checks), "tightest": tightest(checks)})


def _one(feeds: Sequence[str], worst: Check, ends: Sequence[Check]) -> Check:
    verdicts = {worst.verdict, *(each.verdict for each in ends)}
    if Verdict.FAIL not in verdicts or len(verdicts) == 1:
        return worst
    failing = next(each for each in (worst, *ends) if each.verdict is Verdict.FAIL)
    return failing.model_copy(
        update={
            "verdict": Verdict.CANNOT_TELL,
            "answer": f"Depends on the length of {' and '.join(dict.fromkeys(feeds))}: {failing.answer} at worst",
            "shown_margin": "",
            "missing": tuple(f"true length of {each}" for each in dict.fromkeys(feeds)),
            "missing_codes": ("length",) * len(dict.fromkeys(feeds)),
        }
    )
