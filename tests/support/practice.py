"""Exercises of the practice house as short as they can be said.

`python -m tests.support.practice` writes down what they are now, once `MAKES` is raised for what they have become.
"""

import hashlib
import json
from itertools import product
from pathlib import Path
from typing import get_args

from lumbek.practice.exercise import MAKES, Act, Exercise, Kind, Reckoning, School, solved
from lumbek.practice.make import after, begin

MADE = Path(__file__).parents[1] / "reference" / "practice_made.json"

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


def ways() -> dict[str, str]:
    """What is right to do in some exercises of every kind and level, as a hash: other exercises have others."""
    found = {}
    for kind, level, seed in product(get_args(Kind), LEVELS, (0, 1)):
        acts = [act.model_dump(exclude_defaults=True) for act in solved(begin(kind, seed, level, SCHOOL))]
        for act in acts:
            if "figure" in act:
                act["figure"] = round(act["figure"], 6)
        said = json.dumps(acts, sort_keys=True).encode()
        found[f"{kind}/{level}/{seed}"] = hashlib.sha256(said).hexdigest()[:16]
    return found


if __name__ == "__main__":
    MADE.write_text(json.dumps({"makes": MAKES, "ways": ways()}, indent=1) + "\n", encoding="utf-8")
