"""A circuit that changed while it was tested: a cable cut after it was read, or a fault put right and read again.

A reading speaks of the circuit as it was when it was taken. What accuses stands until what was read since would have
shown it: that nothing else was seen of a fault clears nobody.
"""

from bisect import bisect_left
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import cache
from itertools import pairwise

from lumbek.core.diagnosis.belief import Belief, Took, begin
from lumbek.core.diagnosis.noticed import is_sign
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.diagnosis.verdict import accusation, is_explained

# What was accused before is refuted where it is so much less likely than before anything was read: by one reading alone
# it is not, for that may be a slip.
_REFUTED = 1e-6


def since_it_changed(
    patient: Patient, readings: Sequence[Took], inquire: Callable[[Patient, Sequence[Took]], Belief]
) -> Belief | None:
    """Return what the readings since a change leave under suspicion, with as few as can be left out as older.

    None where they cannot be parted, in the order they were read, so that those before looked sound and one fault
    explains all since; or those before accuse of a fault that those since, which look sound, would have shown. What
    was noticed stays: nobody reads it again. `inquire` looks into those before.
    """
    signs = [took for took in readings if is_sign(took.test)]
    read = [took for took in readings if not is_sign(took.test)]
    cuts = [at for at, (one, other) in enumerate(pairwise(read), start=1) if one.at < other.at]

    @cache
    def since(cut: int) -> Belief:
        return begin(patient, [*read[cut:], *signs])

    @cache
    def before(cut: int) -> Belief:
        return inquire(patient, read[:cut])

    def first(is_so: Callable[[Belief], bool]) -> int:
        # By halves: what explains some readings explains fewer of them.
        return bisect_left(cuts, True, key=lambda cut: is_so(since(cut)))

    # A fault put right first: of what led to it, some always seems to speak for another one.
    for at in map(first, (_reads_sound, is_explained)):
        if at == len(cuts):
            continue
        older, newer = before(cuts[at]), since(cuts[at])
        if is_explained(older) and _is_change(older, newer):
            return replace(newer.kept(), before=(*older.before, *older.taken))
    return None


def _reads_sound(belief: Belief) -> bool:
    return is_explained(belief) and _looks_sound(belief)


def _is_change(before: Belief, since: Belief) -> bool:
    """Whether a sound circuit got a fault, or a fault was put right that would have shown."""
    if _looks_sound(before):
        return not _looks_sound(since)
    accused = accusation(before)
    return accused is not None and _looks_sound(since) and all(_is_refuted(each, before, since) for each in accused)


def _looks_sound(belief: Belief) -> bool:
    return belief.likeliest.kind in NO_FAULT


def _is_refuted(accused: str, before: Belief, since: Belief) -> bool:
    """Whether a fault of the size that was read before would have shown; of two together, one may have been left."""
    if before.suspects[accused].parts:
        return False
    rows = [at for at, each in enumerate(before.hypotheses) if each.suspect == accused]
    likeliest = before.hypotheses[max(rows, key=lambda at: float(before.ln_likely[at]))]
    left = float(since.weight[since.hypotheses.index(likeliest)])
    return left <= _REFUTED * since.suspects[accused].prior * likeliest.prior
