"""When looking on is over: who is found, who stands tied, and whether a circuit is accused at all."""

import numpy as np

from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.suspects import NO_FAULT

# Suspects that are less likely than this part of the likeliest are no longer shown as tied with it.
_TIED_PART = 0.005
# A best explanation whose readings lie this many standard deviations further off than they should is none.
_FAR = 4.0
# Suspects that no test parts stand as one, down to this part of the likeliest of them.
_ONE_PART = 0.03


def tied(belief: Belief) -> list[str]:
    """Return the suspects that what has been read leaves beside each other, the likeliest first."""
    ranked = belief.by_suspect
    most = max(ranked.values())
    return [suspect for suspect, share in ranked.items() if share >= _TIED_PART * most]


def found(belief: Belief) -> bool:
    """Whether one suspect is likely enough by itself to look no further."""
    return not belief.doubtful and max(belief.by_suspect.values()) >= belief.patient.figures.enough


def standing(belief: Belief) -> list[str]:
    """Return who stands when no further test is worth taking: one, or several that no test parts."""
    ranked = belief.by_suspect
    most = max(ranked.values())
    return [suspect for suspect, share in ranked.items() if share >= (1.0 if found(belief) else _ONE_PART) * most]


def is_explained(belief: Belief) -> bool:
    """Whether the likeliest hypothesis reads as was read."""
    return _how_far(belief) <= _FAR


def is_no_worse(after: Belief, before: Belief) -> bool:
    """Whether the likeliest hypothesis reads as was read, or lies no further off than before the last reading."""
    return _how_far(after) <= max(_FAR, _how_far(before))


def _how_far(belief: Belief) -> float:
    return float(belief.only(np.array([belief.ln_likely.argmax()])).surprise()[0])


def accusation(belief: Belief) -> list[str] | None:
    """Return the suspects that are accused; None where the circuit may be sound.

    It is accused where some fault is far likelier than all that leaves the circuit itself in order, and explains what
    was read.
    """
    ranked = belief.by_suspect
    innocent = sum(share for suspect, share in ranked.items() if belief.suspects[suspect].kind in NO_FAULT)
    if belief.doubtful or innocent > 1 - belief.patient.figures.accused or not is_explained(belief):
        return None
    return [suspect for suspect in standing(belief) if belief.suspects[suspect].kind not in NO_FAULT]
