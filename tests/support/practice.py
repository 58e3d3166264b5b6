"""Exercises of the practice house as short as they can be said."""

from lumbek.practice.exercise import Act, Exercise, Reckoning, School
from lumbek.practice.make import after

LEVELS = range(1, 6)
SCHOOL = School()


def chosen(exercise: Exercise, *choices: str) -> Exercise:
    """An exercise after choices."""
    return after(exercise, [Act(choice=each) for each in choices])


def ended(exercise: Exercise) -> Reckoning:
    """How an exercise that has ended went, as it is shown."""
    found = exercise.view().reckoning
    assert found is not None, "it has not ended"
    return found
