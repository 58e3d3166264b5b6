"""What an ideal meter reads: the one door to every reading, predicted, simulated or searched for."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.network.solver import Solution
from lumbek.core.network.wiring import IN_SERVICE, Node, Setup, Wiring

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


def measure_all(wired: Wired, readings: Sequence[Measurement]) -> list[float]:
    """Return what each of these reads, as `measure` does; those of one setup without a link are read together."""
    function, probes, setup, _ = readings[0] if readings else ("resistance", None, IN_SERVICE, None)
    alike = all(each.setup is setup and each.function == function for each in readings)
    if not readings or not alike:
        return [measure(wired, each) for each in readings]
    if all(each.linked is None for each in readings):
        pairs, found = [each.probes for each in readings], None
        if setup.links:
            # Read off the network as it is without the links, where that can be done.
            found = wired.solved(setup._replace(links=())).ohms_across_two_links(setup.links, pairs)
        if found is None:
            found = wired.solved(setup).ohms_between(pairs)
    elif all(each.linked is not None and each.probes == probes for each in readings):
        a, b = readings[0].probes
        linked = [each.linked for each in readings if each.linked]
        found = wired.solved(setup).ohms_between_when_joined(a, b, linked)
    else:
        return [measure(wired, each) for each in readings]
    return [ohm + wired.outside_ohm for ohm in found] if function == "loop" else found
