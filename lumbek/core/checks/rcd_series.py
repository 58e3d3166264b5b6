"""RCDs one after another: does the one next to the fault go first, and is none blinded by another's d.c.?"""

from itertools import pairwise

from lumbek.core.checks.rcd import rcd_words
from lumbek.core.checks.rcd_type import ORDER
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Rcd
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question(
    "rcd-series", "RCDs in series", "Does the RCD next to a fault trip before the one ahead?", "rcd-series"
)


def _wrong(where: str, up: Rcd, down: Rcd, ratio: float) -> str:
    """Return what is wrong with an RCD that is ahead of another; nothing where it is right."""
    least = ratio * (down.rated_ma or 0.0)
    if not up.delayed or down.delayed or (up.rated_ma or 0.0) < least:
        return f"{where} does not wait: S-type of {plain(least)} mA at least wanted"
    if up.type is not None and down.type == "B" and ORDER.index(up.type) < ORDER.index("B"):
        return f"{where} is blinded by the d.c. that the type B behind it passes"
    return ""


def check_rcd_series(study: Study) -> Check:
    """The upstream RCD time-delayed and of at least three times IΔn, and no blinder than the downstream one (531.3.6).

    A type B downstream passes smooth d.c. that blinds every other type ahead of it.
    """
    if len(study.rcds) < 2:
        return QUESTION.not_applicable(study, "No two RCDs in one path")
    ratio = study.rulebook.data.residual.selective_ratio
    steps, missing, wrong = [], list[str](), ""
    for ahead, behind in pairwise(study.rcds):
        up, down = ahead.rcd, behind.rcd
        unsaid = [each.where for each in (ahead, behind) if each.rcd is None or each.rcd.rated_ma is None]
        if up is None or down is None or unsaid:
            missing.append(f"rated residual current of {unsaid[0]}")
            continue
        steps.append(Step(text=f"{ahead.where}, then {behind.where}", sum=f"{rcd_words(up)}; {rcd_words(down)}"))
        wrong = wrong or _wrong(ahead.where, up, down, ratio)
    if not wrong and missing:
        return QUESTION.cannot_tell(study, tuple(dict.fromkeys(missing)), steps=tuple(steps))
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        wrong[0].upper() + wrong[1:] if wrong else f"{len(study.rcds)} in series, the nearest trips first",
        place=study.whole,
        steps=tuple(steps),
    )
