"""The drawing and the readings as two ways of knowing: which of them answers, and what is asked for otherwise."""

from collections.abc import Callable

from lumbek.core.judging.check import Check, Verdict
from lumbek.core.study.study import Study

_SURE = (Verdict.PASS, Verdict.FAIL)


def by_either(study: Study, read: Check | None, drawn: Callable[[], Check]) -> Check:
    """Return the answer by what was read where lengths are not known, else by the drawing.

    Where all lengths are drawn, the drawing is one of the things that agree with what is known: what was read answers
    only if it is sure of the opposite, or the drawing is off.
    """
    evidence = study.evidence
    if read is None:
        return drawn()
    if not evidence.is_known or evidence.drawn_off or not evidence.is_explained:
        return read
    by_drawing = drawn()
    opposed = read.verdict in _SURE and read.verdict is not by_drawing.verdict and by_drawing.verdict in _SURE
    return read if opposed else by_drawing


def wanted(study: Study) -> tuple[str, ...]:
    """Return what a circuit of unknown lengths waits for: the reading that settles most first, then the lengths."""
    unknown = study.wires.unknown_lengths
    if not unknown or not study.evidence.can_tell:
        return unknown
    return (study.evidence.next_reading(), *unknown)
