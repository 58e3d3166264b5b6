"""A circuit that changed while it was tested: sound by what was read first, with a fault by what was read since.

A reading speaks of the circuit as it was when it was taken. Only what looked sound is ever left out: a reading that
accuses stands until it is taken again.
"""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from lumbek.core.diagnosis.belief import Belief, Took, begin
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.diagnosis.verdict import is_explained


def since_it_changed(patient: Patient, readings: Sequence[Took]) -> Belief | None:
    """Return what the readings since a change leave under suspicion, with as few as can be left out as older.

    None where the readings, in the order they were read, cannot be parted so that those before look sound and one
    fault explains all the others.
    """
    cuts = [at for at, (one, other) in enumerate(pairwise(readings), start=1) if one.at < other.at]
    found: Belief | None = None
    # Whatever explains some readings explains fewer of them: the first such cut is looked for by halves.
    while cuts:
        middle = len(cuts) // 2
        after = begin(patient, readings[cuts[middle] :])
        if is_explained(after):
            found, cuts = after, cuts[:middle]
        else:
            cuts = cuts[middle + 1 :]
    if found is None or _looks_sound(found):
        return None
    before = begin(patient, readings[: len(readings) - len(found.taken) - len(found.signs)])
    if not (is_explained(before) and _looks_sound(before)):
        return None
    return replace(found.kept(), before=before.taken)


def _looks_sound(belief: Belief) -> bool:
    return belief.suspects[next(iter(belief.by_suspect))].kind in NO_FAULT
