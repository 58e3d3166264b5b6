"""The finder's own run of an exercise, and what its suspicion was after each of a person's readings."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from lumbek.core.diagnosis.belief import Belief, Took
from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.verdict import accusation, standing

# So many measurements it takes at most beside the first readings.
_MOST_TESTS = 14


@dataclass(frozen=True)
class OwnRun:
    """What the finder measured beside the first readings, and what it named."""

    tests: tuple[Test, ...]
    accused: tuple[str, ...]


@dataclass(frozen=True)
class Moved:
    """A reading that somebody took: how likely what is wrong was before and after it, and what would have told most."""

    test: Test
    before: float
    after: float
    best: Test | None


def own_run(patient: Patient, first: Sequence[Test], read: Callable[[Test], Took]) -> OwnRun:
    """Take the first readings, and what is proposed after them, to the end."""
    belief = open_inquiry(patient, [read(test) for test in first])
    taken: list[Test] = []
    while len(taken) < _MOST_TESTS:
        proposals = propose_tests(belief)
        if not proposals:
            break
        taken.append(proposals[0].test)
        belief = go_on(belief, taken[-1], read(taken[-1]))
    # Something is wrong for certain: where nothing stands accused for good, the likeliest is named.
    accused = set(accusation(belief) or standing(belief)[:1])
    accused |= {part for each in accused for part in belief.suspects[each].parts}
    return OwnRun(tuple(taken), tuple(sorted(accused)))


def moved_by(
    patient: Patient, first: Sequence[Took], taken: Sequence[tuple[Test, Took]], truth: Sequence[str]
) -> Iterator[Moved]:
    """Yield what each reading did to the suspicion of what is really wrong, after the first ones."""
    belief = open_inquiry(patient, list(first))
    for test, took in taken:
        proposals = propose_tests(belief)
        before = share_of(belief, truth)
        belief = go_on(belief, test, took)
        yield Moved(test, before, share_of(belief, truth), proposals[0].test if proposals else None)


def share_of(belief: Belief, truth: Sequence[str]) -> float:
    """Return how likely it is thought that one of these is at fault."""
    names = set(truth)
    return sum(
        share
        for suspect, share in belief.by_suspect.items()
        if suspect in names or names & set(belief.suspects[suspect].parts)
    )
