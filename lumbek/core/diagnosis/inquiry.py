"""Going on with an inquiry: after each reading, and from the beginning again where nothing explains what was read."""

from collections.abc import Sequence

from lumbek.core.diagnosis.belief import Belief, Took, begin
from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.pairs import with_pairs
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.since import since_it_changed
from lumbek.core.diagnosis.verdict import is_explained, is_no_worse


def open_inquiry(patient: Patient, readings: Sequence[Took]) -> Belief:
    """Return what readings leave under suspicion: single faults, and pairs where no single one explains them.

    Where no two do either, but the circuit changed while it was read, what is older is no evidence any more. Raises
    UnknownTestError and CannotDiagnoseError.
    """
    belief = with_pairs(begin(patient, readings)).kept()
    if is_explained(belief):
        return belief
    return since_it_changed(patient, readings, open_inquiry) or belief


def go_on(belief: Belief, test: Test, took: Took) -> Belief:
    """Return the belief after one more reading; what had been dropped comes back where nothing left explains it.

    What nothing explained before is not looked for again by a reading that makes it no worse.
    """
    after = belief.with_reading(test, took)
    return (
        after
        if is_no_worse(after, belief)
        else open_inquiry(after.patient, [each for _, each in (*after.before, *after.taken, *after.signs)])
    )
