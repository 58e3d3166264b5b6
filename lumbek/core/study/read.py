"""What was read of a circuit, as far as its design is judged by it."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import Key, Quantity, Reading, figure_of, standing

# Readings that say something of conductors; insulation and buttons say nothing of how long they are.
TELLING: tuple[Quantity, ...] = ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "r1+rn", "r2-lead", "zs")


@dataclass(frozen=True)
class Read:
    """The telling readings in force, and the temperature of the copper that they were taken on, °C."""

    readings: tuple[Reading, ...] = ()
    ambient_c: float = 20.0

    @classmethod
    def of(cls, readings: Iterable[Reading], ambient_c: float = 20.0) -> "Read":
        """Return what tells of all that was ever read."""
        found = standing(tuple(readings))
        return cls(tuple(each for each in found.values() if each.quantity in TELLING), ambient_c)

    def at(self, places: Iterable[str]) -> "Read":
        """Return what was read at these places and of the circuit whole: a point may be gone since."""
        known = {None, *places}
        return Read(tuple(each for each in self.readings if each.point in known), self.ambient_c)

    def without(self, quantities: Iterable[Quantity]) -> "Read":
        """Return the same without readings of some kinds."""
        gone = set(quantities)
        return Read(tuple(each for each in self.readings if each.quantity not in gone), self.ambient_c)

    def value(self, quantity: Quantity, point: str | None = None) -> float | None:
        """Return a figure read, Ω; None where there is none, or it lies beyond the display."""
        return figure_of(self.by_key, quantity, point)

    @cached_property
    def by_key(self) -> dict[Key, Reading]:
        """The readings by what they are of."""
        return {each.key: each for each in self.readings}

    @property
    def is_empty(self) -> bool:
        """Whether nothing telling was read."""
        return not self.readings


NOT_READ = Read()


def still_read(read: Read, before: Circuit, after: Circuit) -> Read:
    """Return what was read of a circuit, as far as it holds once the circuit is changed: nothing, where its conductors
    are others than those that were read.
    """
    return read if _conductors(before) == _conductors(after) else NOT_READ


def _conductors(circuit: Circuit) -> tuple[object, ...]:
    """Return what readings of conductors follow from; a length that is written down changes no copper."""
    legs = tuple((leg.id, leg.a, leg.b, circuit.cable_of(leg)) for leg in circuit.legs)
    return legs, circuit.board_joins, tuple((point.id, point.joins, point.contacts) for point in circuit.points)
