"""Exercises by their kinds: begun from a seed, and carried on by what was done."""

from collections.abc import Sequence

from lumbek.core.diagnosis.patient import CannotDiagnoseError
from lumbek.core.model.circuit import Circuit
from lumbek.practice.accessories import Accessories
from lumbek.practice.design import Design
from lumbek.practice.exercise import Act, BadActError, Exercise, Kind, School
from lumbek.practice.faults import Faults
from lumbek.practice.inspection import Coding
from lumbek.practice.isolation import ProvingDead
from lumbek.practice.switching import Switching
from lumbek.practice.testing import Testing

# In the order in which they are learnt.
KINDS: dict[Kind, type[Exercise]] = {
    each.kind: each for each in (Accessories, ProvingDead, Switching, Testing, Faults, Design, Coding)
}


def begin(kind: Kind, seed: int, level: int, school: School, given: Circuit | None = None) -> Exercise:
    """Return an exercise as it begins; of faults on a circuit that is given, where one is."""
    if kind == "faults" and given is not None:
        try:
            return Faults(seed, level, school, given)
        except (ValueError, CannotDiagnoseError) as error:
            raise BadActError(f"No fault can be put into this circuit: {error}") from error
    return KINDS[kind](seed, level, school)


def after(exercise: Exercise, acts: Sequence[Act]) -> Exercise:
    """Return an exercise after these acts: the same ones lead to the same. Raises BadActError."""
    for act in acts:
        exercise.act(act)
    return exercise
