"""Readings at every point of a ring with the line of each end linked to neutral or cpc of the other."""

from dataclasses import dataclass
from statistics import median
from typing import ClassVar

from lumbek.core.judging.check import Check, Step
from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import crossed
from lumbek.core.numbers import show
from lumbek.core.study.study import Study
from lumbek.core.testing.kind import Asked, Kind, judge_continuity, unlikely
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class Crossed(Kind):
    """Line against another conductor, cross-joined: alike at every point of a sound ring."""

    other: str = "N"
    clause: ClassVar[str] = "test-ring"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        ring = study.wires.ring_ends
        return None if ring is None or point is None else crossed(ring, self.other, point, study.wires.as_found)

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means: beside what is expected, and beside its fellows round the ring."""
        fellows = self._fellows(taken, reading.point)
        value, rules = reading.value or 0.0, taken.study.rulebook.data.testing
        if len(fellows) > 1 and not reading.beyond and reading.point in taken.study.shape.ring_points:
            usual = median(fellows)
            room = usual * rules.length_tolerance + rules.contact_ohm
            lower = room + usual * self._lower_at_ends(taken)
            # Readings have two decimals; a hair of binary rounding parts nothing.
            if round(value - usual, 6) > round(room, 6) or round(usual - value, 6) > round(lower, 6):
                why = f"Its fellows read about {show(usual)} Ω: a spur, a loose joint, or not crossed as it should be."
                return unlikely(
                    taken, reading, asks, why, (Step(text="Fellows round the ring", sum=f"{show(usual)} Ω"),)
                )
        return judge_continuity(taken, reading, asks, self.expected(taken, reading.point))

    def _lower_at_ends(self, taken: Taken) -> float:
        """Return by what part a point near the ends of a ring reads lower than half way: 4 a e / (a + e)² of it."""
        study = taken.study
        parts = []
        for leg in study.shape.ring_legs:
            cable = study.circuit.cable_of(study.legs[leg])
            one, other = (study.rulebook.milliohm_per_m(cable, core) for core in ("L", self.other))
            if one and other:
                parts.append(1 - 4 * one * other / (one + other) ** 2)
        return max(parts, default=0.0)

    def _fellows(self, taken: Taken, point: str | None) -> list[float]:
        """Return what the other points of the ring read, Ω."""
        others = (taken.value(self.quantity, each) for each in taken.study.shape.ring_points if each != point)
        return [value for value in others if value is not None]
