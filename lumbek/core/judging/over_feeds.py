"""A circuit behind feeds that are only known to lie between two lengths: what holds at every length, and what not."""

from collections.abc import Callable, Sequence

from lumbek.core.judging.check import Check, Verdict, overall
from lumbek.core.judging.verdict import CircuitResult, depends_on, tightest
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.circuit import Circuit


def at_both_ends(circuit: Circuit) -> tuple[Circuit, ...]:
    """Return a circuit with all such feeds at their least, and at their greatest; nothing where there are none."""
    if all(each.least_length_m is None for each in circuit.ahead):
        return ()
    return _at(circuit, lambda each: each.least_m), _at(circuit, lambda each: each.length_m)


def _at(circuit: Circuit, length_m: Callable[[Ahead], float | None]) -> Circuit:
    ahead = tuple(
        each.model_copy(update={"length_m": length_m(each), "least_length_m": None}) for each in circuit.ahead
    )
    return circuit.model_copy(update={"ahead": ahead})


def over_feeds(circuit: Circuit, worst: CircuitResult, ends: Sequence[CircuitResult]) -> CircuitResult:
    """Return one result for all lengths of the feeds ahead; `worst` has each check at what is worst for it.

    A loop is worst behind the longest feed, a fault current behind the shortest: what fails there and passes at an end
    depends on lengths that nobody has told.
    """
    named = (each.name or "the feed" for each in circuit.ahead if each.least_length_m is not None)
    feeds = tuple(dict.fromkeys(named))
    checks = tuple(_one(feeds, check, [end.checks[index] for end in ends]) for index, check in enumerate(worst.checks))
    return worst.model_copy(update={"checks": checks, "verdict": overall(checks), "tightest": tightest(checks)})


def _one(feeds: Sequence[str], worst: Check, ends: Sequence[Check]) -> Check:
    verdicts = {worst.verdict, *(each.verdict for each in ends)}
    if Verdict.FAIL not in verdicts or len(verdicts) == 1:
        return worst
    failing = next(each for each in (worst, *ends) if each.verdict is Verdict.FAIL)
    return depends_on(
        failing, f"the length of {' and '.join(feeds)}", tuple(f"true length of {each}" for each in feeds)
    )
