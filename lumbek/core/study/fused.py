"""What lies behind fused spurs: their fuse takes over from the circuit's device there."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point


@dataclass(frozen=True)
class FusedSpurs:
    """The fused spurs of a circuit."""

    circuit: Circuit
    graph: CircuitGraph

    @cached_property
    def legs(self) -> Mapping[str, Point]:
        """Legs that lie behind a fused spur, each with the last fused spur before it."""
        behind: dict[str, Point] = {}
        spurs = [point for point in self.circuit.points if point.kind == "fused-spur"]
        # Nearest to the board first, so that a later fuse takes over what lies behind it.
        for point in sorted(spurs, key=lambda each: self.graph.distance.get(each.id, 0)):
            if point.id in self.graph.distance:
                behind.update(dict.fromkeys(self.graph.beyond(point.id), point))
        return behind

    def before(self, point_id: str) -> Point | None:
        """Return the fused spur that a point lies behind, if any."""
        for leg in self.graph.at[point_id] if self.legs else ():
            fuse = self.legs.get(leg.id)
            if fuse is not None and fuse.id != point_id:
                return fuse
        return None
