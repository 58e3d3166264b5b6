"""Questions with two answers: which to ask next, and what an answer leaves (Bayes' rule, Shannon's information)."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log2

# How often an answer is misread, or a thing behaves otherwise than it should.
_MISTAKEN = 0.02


@dataclass(frozen=True)
class YesNo:
    """A thing to do and to look at; `likely` is how likely each suspect makes the answer yes."""

    id: str
    title: str
    yes: str
    no: str
    likely: Mapping[str, float]
    effort: float = 1.0

    def yes_if(self, suspect: str) -> float:
        """Return how likely the answer is yes where this suspect is at fault, mistakes allowed for."""
        return _MISTAKEN + (1 - 2 * _MISTAKEN) * self.likely.get(suspect, 0.0)


def after(share: Mapping[str, float], question: YesNo, answer: bool) -> dict[str, float]:
    """Return how likely each suspect is after an answer."""
    found = {
        suspect: part * (question.yes_if(suspect) if answer else 1 - question.yes_if(suspect))
        for suspect, part in share.items()
    }
    total = sum(found.values())
    return {suspect: part / total for suspect, part in found.items()}


def bits(share: Mapping[str, float], question: YesNo) -> float:
    """Return what a question is expected to tell, in bits."""
    yes = sum(part * question.yes_if(suspect) for suspect, part in share.items())
    return _entropy(yes) - sum(part * _entropy(question.yes_if(suspect)) for suspect, part in share.items())


def next_question(share: Mapping[str, float], questions: Sequence[YesNo], least_bits: float = 0.05) -> YesNo | None:
    """Return the question that tells most for its effort; None where none tells anything."""
    worth = [(bits(share, each), each) for each in questions]
    worth = [(told, each) for told, each in worth if told >= least_bits]
    return max(worth, key=lambda pair: pair[0] / pair[1].effort)[1] if worth else None


def _entropy(yes: float) -> float:
    return -sum(part * log2(part) for part in (yes, 1 - yes) if part > 0)
