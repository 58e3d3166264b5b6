"""The circuit that is looked into: its network as drawn, with the names of its branches and places."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from lumbek.core.diagnosis.guess import guessed_m
from lumbek.core.diagnosis.usual_figures import DiagnosisFigures, diagnosis_figures
from lumbek.core.model.leg import BOARD, Segment
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.network.changed import Places, Reals
from lumbek.core.network.solver import parts_of
from lumbek.core.network.wiring import ALONE, IN_SERVICE, CoreAt, Laid, Node, Setup, Wiring, loose, node
from lumbek.core.study.door import Studied, study_of
from lumbek.core.study.study import Study

# What a branch is taken to have at least, in Ω: a leg of no length is no short of the meter.
_LEAST_OHM = 1e-3
NAMES = {"L": "line", "N": "neutral", "E": "cpc"}


class CannotDiagnoseError(Exception):
    """Why nothing can be looked for in a circuit: nothing is drawn, or its network is not known."""


@dataclass(frozen=True)
class Patient:
    """One circuit with settled lengths; `ambient_c` is the temperature of its copper."""

    study: Study
    ambient_c: float = 20.0
    # The legs whose length nobody has drawn: one that is usual was put in, and may be far off.
    vague: frozenset[str] = frozenset()

    @cached_property
    def figures(self) -> DiagnosisFigures:
        """What suspicion rests on."""
        return diagnosis_figures()

    @cached_property
    def wiring(self) -> Wiring:
        """The conductors, as drawn. Raises CannotDiagnoseError."""
        missing = self.study.wires.unknown_lengths
        if missing:
            raise CannotDiagnoseError(f"Not known: {', '.join(missing[:3])}")
        if self.study.shape.kind == "empty":
            raise CannotDiagnoseError("Nothing is drawn yet.")
        return self.study.wires.wiring

    @cached_property
    def ohms(self) -> Reals:
        """The resistance of each branch at the copper's temperature, with its two joints, in Ω."""
        factor = self.study.rulebook.temperature_factor(self.ambient_c)
        copper = self.wiring.ohms(self.study.wires.cores_ohm) * factor
        return np.maximum(copper, _LEAST_OHM) + 2 * self.figures.joint_ohm

    @cached_property
    def legs(self) -> tuple[str, ...]:
        """The legs in the order one walks them."""
        return tuple(dict.fromkeys(step.leg for chain in self.study.shape.walk for step in chain.steps))

    @cached_property
    def points(self) -> tuple[str, ...]:
        """The points in the order one walks them, without the board."""
        steps = (step.point for chain in self.study.shape.walk for step in chain.steps)
        return tuple(point for point in dict.fromkeys(steps) if point != BOARD)

    @cached_property
    def open_points(self) -> tuple[str, ...]:
        """The points that can be read at: joints are closed."""
        return tuple(point for point in self.points if self.study.circuit.point(point).kind != "joint")

    @cached_property
    def leg_rows(self) -> Reals:
        """Which leg each branch belongs to, shape (branches, legs), times its resistance without its joints."""
        found = np.zeros((len(self.wiring.branches), len(self.legs)))
        place = {leg: at for at, leg in enumerate(self.legs)}
        for at, (_, leg, _) in enumerate(self.wiring.branches):
            found[at, place[leg]] = self.ohms[at] - 2 * self.figures.joint_ohm
        return found

    @property
    def ring(self) -> tuple[str, str] | None:
        """The first and last leg of the ring, where it is one."""
        return self.study.wires.ring_ends

    @cached_property
    def _laid(self) -> dict[Setup, Laid]:
        return {}

    def laid(self, setup: Setup) -> Laid:
        """Return the network as it is set up."""
        if setup not in self._laid:
            self._laid[setup] = self.wiring.laid_out(setup)
        return self._laid[setup]

    @cached_property
    def _parts(self) -> dict[Setup, Places]:
        return {}

    def parts(self, setup: Setup) -> Places:
        """Return which part of the network each of its nodes is in, as it is set up: what copper joins is one."""
        if setup not in self._parts:
            laid = self.laid(setup)
            self._parts[setup] = np.array(parts_of(laid.size, laid.ends[laid.whole].tolist()), dtype=np.intp)
        return self._parts[setup]

    def line_at(self, point: str) -> tuple[Setup, Node]:
        """Return how switches stand for a point to be read, and where its line is then."""
        setup, line = self.study.wires.switched_on(point)
        return setup, line or node("L", point)

    def terminal(self, core: str, point: str) -> Node | None:
        """Return the terminal of a point that holds a conductor; None where it has none."""
        found = self.line_at(point)[1] if core == "L" else node(core, point)
        return found if found in self.laid(IN_SERVICE).at else None

    def end_at_board(self, leg: str, core: str) -> Node:
        """Return the end of a core that has been taken out at the board."""
        return loose(CoreAt(leg, core, BOARD))

    def legs_at(self, point: str) -> list[str]:
        """Return the legs with an end that is joined at a point, as they are drawn: what is proposed goes by it."""
        here = {end.leg for end in self.ends_at(point)}
        return [leg.id for leg in self.study.graph.at[point] if leg.id in here]

    def ends_at(self, point: str) -> frozenset[CoreAt]:
        """Return every core end that is joined at a point."""
        return frozenset(
            CoreAt(leg.id, core, point)
            for leg in self.study.graph.at[point]
            for core in (*CONDUCTORS, *self.study.circuit.cable_of(self.study.legs[leg.id]).core_names)
            if CoreAt(leg.id, core, point, ALONE) in self.wiring.place_of
        )


def patient_of(studied: Studied, ambient_c: float = 20.0) -> Patient:
    """Return a circuit to be looked into, its legs of unknown length taken as long as what was read has them."""
    circuit = studied.middle.circuit
    vague = frozenset(leg.id for leg in circuit.legs if leg.length_m is None)
    if not vague:
        return Patient(studied.middle, ambient_c)
    metres = guessed_m(studied.middle, vague)
    legs = tuple(
        leg.model_copy(update={"segments": (Segment(length_m=round(metres[leg.id], 3)),)}) if leg.id in vague else leg
        for leg in circuit.legs
    )
    filled = circuit.model_copy(update={"legs": legs})
    return Patient(study_of(studied.rulebook, studied.supply, filled).middle, ambient_c, vague)
