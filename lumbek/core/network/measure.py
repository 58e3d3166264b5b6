"""What an ideal meter reads: the one door to every reading, predicted, simulated or searched for."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.network.solver import Solution
from lumbek.core.network.wiring import IN_SERVICE, Node, Setup, Wiring, node

Function = Literal["resistance", "loop", "insulation"]


class Measurement(NamedTuple):
    """A reading as it is taken: the meter's function, its two probes, how the network is set up meanwhile.

    `linked` are two terminals joined at the place itself for this one reading, as line and cpc are for R1+R2.
    """

    function: Function
    probes: tuple[Node, Node]
    setup: Setup = IN_SERVICE
    linked: tuple[Node, Node] | None = None


@dataclass(frozen=True)
class Wired:
    """A wiring with its branches in Ω, shape (branches,); each way of setting it up is solved once.

    `outside_ohm` is what lies beyond the board between line and earth: it is part of a loop, not of a resistance.
    """

    wiring: Wiring
    ohms: NDArray[np.float64]
    outside_ohm: float = 0.0
    _solved: dict[Setup, Solution[Node]] = field(default_factory=dict, compare=False, repr=False)

    def solved(self, setup: Setup = IN_SERVICE) -> Solution[Node]:
        """Return the network solved as it is set up."""
        found = self._solved.get(setup)
        if found is None:
            linked = None
            if setup.links:
                # Links are put on what has been solved without them: several readings share that.
                linked = self.solved(setup._replace(links=())).with_joined(setup.links)
            found = self._solved[setup] = linked or self.wiring.solve(self.ohms, setup)
        return found


def measure(wired: Wired, reading: Measurement) -> float:
    """Return what an ideal meter reads, in Ω; infinite where there is no way (Ohm's and Kirchhoff's laws).

    A loop is read live: the resistance of the way out and back, with what lies beyond the board.
    """
    solved = wired.solved(reading.setup)
    a, b = reading.probes
    ohm = solved.ohm_between(a, b) if reading.linked is None else solved.ohm_between_when_joined(a, b, *reading.linked)
    return ohm + wired.outside_ohm if reading.function == "loop" else ohm


def measure_at(wired: Wired, reading: Measurement, here: str, places: Sequence[str]) -> list[float]:
    """Return what a reading that is taken at one place reads at each of these, in Ω: `measure`, many at once.

    Probes and links that are at `here` go along from place to place, those at the board stay.
    """
    if not places:
        return []
    pairs = _moved(reading.linked or reading.probes, here, places)
    if reading.linked is None:
        found = None
        if reading.setup.links:
            # Read off the network as it is without the links, where that can be done.
            bare = wired.solved(reading.setup._replace(links=()))
            found = bare.ohms_across_two_links(reading.setup.links, pairs)
        if found is None:
            found = wired.solved(reading.setup).ohms_between(pairs)
    else:
        found = wired.solved(reading.setup).ohms_between_when_joined(*reading.probes, pairs)
    return [ohm + wired.outside_ohm for ohm in found] if reading.function == "loop" else found


def _moved(pair: tuple[Node, Node], here: str, places: Sequence[str]) -> list[tuple[Node, Node]]:
    a, b = ([node(end.name, place) for place in places] if end.point == here else [end] * len(places) for end in pair)
    return list(zip(a, b, strict=True))
