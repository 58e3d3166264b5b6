"""What meets in the boxes of several circuits, and with which of them it is said: what of others is there too."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Point
from lumbek.core.model.terminals import CoreEnd, Join


class EndOf(NamedTuple):
    """The end of a core in a box, with its circuit."""

    circuit: int
    end: CoreEnd

    def beside(self, circuit: int, place: str) -> CoreEnd:
        """Return it as a join of one of the circuits names it."""
        other = {"circuit": self.circuit, "at": place} if self.circuit != circuit else {}
        return self.end.model_copy(update=other)


class WireAcross(NamedTuple):
    """A wire in a box from a terminal of one circuit to one of another: a single whose far end is the other's."""

    circuit: int
    place: str
    at: int

    @property
    def id(self) -> str:
        """What the wire, and its far end, go by."""
        return f"wire{self.at}"

    @property
    def leg(self) -> Leg:
        """The wire as a leg of its circuit."""
        cable = Cable(type="flat-single-and-earth", csa_mm2=1.5, cpc_by="core")
        return Leg(id=self.id, a=self.place, b=self.id, cable=cable, segments=(Segment(length_m=0.1),))

    @property
    def near(self) -> CoreEnd:
        """Its end in its own circuit."""
        return CoreEnd(leg=self.id, core="L")

    @property
    def far(self) -> CoreEnd:
        """Its end as the other circuit has it."""
        return CoreEnd(leg=self.id, core="L", circuit=self.circuit, at=self.id)

    @property
    def off(self) -> Join:
        """What it has no cpc for: left off."""
        return Join(ends=(CoreEnd(leg=self.id, core="E"),))


@dataclass
class Meeting:
    """Joins by circuit and box, and the wires from terminals of one circuit to those of another."""

    joins: dict[tuple[int, str], list[Join]] = field(default_factory=lambda: defaultdict(list))
    across: list[WireAcross] = field(default_factory=list)

    def meet(self, place: str, owners: Mapping[str, int], ends: Sequence[EndOf]) -> None:
        """Put what meets in a box with the circuit whose terminal it is, else with that of its first end.

        `owners` are the terminals, each with its circuit.
        """
        if list(owners) == ["E"]:
            # The earth terminal of a box is that of all its circuits.
            for number in dict.fromkeys(end.circuit for end in ends):
                own = tuple(end.end for end in ends if end.circuit == number)
                self.joins[number, place].append(Join(ends=own, terminals=("E",)))
            return
        if not ends and len(owners) < 2:
            return
        whose = [number for name, number in owners.items() if name != "E"] or [ends[0].circuit]
        first, *others = dict.fromkeys(whose)
        held = [end.beside(first, place) for end in ends]
        held += [self._wire(first, other, place, owners) for other in others]
        terminals = tuple(name for name, number in owners.items() if name == "E" or number == first)
        self.joins[first, place].append(Join(ends=tuple(held), terminals=terminals))

    def _wire(self, first: int, other: int, place: str, owners: Mapping[str, int]) -> CoreEnd:
        """Lead a wire from a terminal of one circuit to those of another; return its near end."""
        wire = WireAcross(first, place, len(self.across) + 1)
        self.across.append(wire)
        theirs = tuple(name for name, number in owners.items() if number == other and name != "E")
        self.joins[other, place].append(Join(ends=(wire.far,), terminals=theirs))
        self.joins[first, place].append(wire.off)
        return wire.near

    def into(self, number: int, circuit: Circuit) -> Circuit:
        """Return one of the circuits with what meets in its boxes."""
        points = [
            point.model_copy(update={"joins": tuple(self.joins.get((number, point.id), ()))})
            for point in circuit.points
        ]
        ours = [each for each in self.across if each.circuit == number]
        points += [Point(id=each.id, kind="unknown-end", joins=(each.off,)) for each in ours]
        legs = (*circuit.legs, *(each.leg for each in ours))
        return Circuit.model_validate(circuit.model_copy(update={"points": tuple(points), "legs": legs}).model_dump())
