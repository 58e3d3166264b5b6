"""Which legs are laid now: cable that was found is not laid, cut for or bought again."""

from collections.abc import Iterator, Sequence

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg


def new_legs(designs: Sequence[tuple[str, Circuit]]) -> Iterator[tuple[str, Circuit, Leg]]:
    """Yield every leg that is laid now, with its circuit."""
    for key, design in designs:
        for leg in design.legs:
            if leg.state != "as-found":
                yield key, design, leg
