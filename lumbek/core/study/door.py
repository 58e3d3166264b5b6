"""The one way to a figure: a circuit in its job, its lengths settled first."""

from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.network.wiring import IN_SERVICE, Setup
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.box import Box
from lumbek.core.study.lengths import Lengths, settle
from lumbek.core.study.read import Read
from lumbek.core.study.study import Study


@dataclass(frozen=True)
class Studied:
    """A circuit as far as its lengths are known: one study, or several that cover a range of lengths."""

    rulebook: Rulebook
    supply: Supply
    lengths: Lengths
    as_found: Setup = IN_SERVICE
    read: Read | None = None

    @cached_property
    def variants(self) -> tuple[Study, ...]:
        """A study for each set of lengths that a check is held to, the greatest lengths last."""
        return tuple(self._study(circuit) for circuit in self.lengths.variants)

    @property
    def longest(self) -> Study:
        """The study of the greatest lengths: the worst there is for most questions."""
        return self.variants[-1]

    @cached_property
    def box(self) -> Box | None:
        """Everything between the shortest and the longest; None where there is nothing between."""
        return Box(self.variants[0], self.longest) if len(self.variants) > 1 else None

    @cached_property
    def middle(self) -> Study:
        """The study of the lengths in the middle of their ranges: what a reading is expected from."""
        return self._study(self.lengths.middle) if self.lengths.ranged else self.longest

    def _study(self, circuit: Circuit) -> Study:
        return Study(self.rulebook, self.supply, circuit, self.as_found, self.read)


def study_of(
    rulebook: Rulebook,
    supply: Supply,
    circuit: Circuit,
    as_found: Setup = IN_SERVICE,
    read: Read | None = None,
) -> Studied:
    """Return a circuit to ask figures of, by what was `read` of it too.

    `as_found` are breaks and links that the drawing does not show.
    """
    return Studied(rulebook, supply, settle(rulebook, circuit), as_found, read)
