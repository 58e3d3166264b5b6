"""What stands at the points of a circuit: the rules follow from this, never from what the circuit is called."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import JOINT_KINDS, PASSIVE_KINDS, SWITCH_KINDS, Point
from lumbek.core.rulebooks.common import CircuitKindRules

PLAIN_SOCKETS = ("socket-single", "socket-twin")
SOCKETS = (*PLAIN_SOCKETS, "control-with-socket")
# Outlets that a ring is drawn for: what people plug in, or what has a plug's fuse.
RING_OUTLETS = (*PLAIN_SOCKETS, "fused-spur")
# What they feed may be of class I, whatever they are made of themselves.
_FOR_ANY_CLASS = (*SOCKETS, "fused-spur", "charger", "source", "board")


def is_light(point: Point) -> bool:
    """Whether a point is a light, or feeds nothing but what counts as one."""
    classes = {load.diversity for load in point.loads}
    return point.kind == "light" or (bool(classes) and classes == {"lighting"})


def is_plain_socket(point: Point) -> bool:
    """Whether a point is a socket-outlet on the mains, for whatever is plugged in."""
    return point.kind in PLAIN_SOCKETS and point.selv_v is None


def is_charger(point: Point) -> bool:
    """Whether a vehicle is charged at a point."""
    return point.kind == "charger" or any(load.diversity == "vehicle" for load in point.loads)


def is_touchable(point: Point) -> bool | None:
    """Whether metal in reach, there or plugged in there, is live after a fault where no cpc comes (411.3.1.1, 412.1).

    What is said of a plate says it of a switch and of a box; of a lamp or an appliance only its class does. None where
    nobody has looked; an appliance is touchable until somebody says that it is of class II, an outlet always.
    """
    if point.class_ii is False or point.plate.metal:
        return True
    if point.kind in (*SWITCH_KINDS, *JOINT_KINDS):
        return None if point.class_ii is None and point.plate.metal is None else False
    if point.kind in _FOR_ANY_CLASS:
        return True
    if point.class_ii is None:
        return None if is_light(point) else True
    return False


@dataclass(frozen=True)
class Standing:
    """The points of a circuit by what stands there. What the kind of circuit says may add to it, never take away."""

    circuit: Circuit
    kind: CircuitKindRules

    def _points(self, *kinds: str) -> tuple[Point, ...]:
        return tuple(point for point in self.circuit.points if point.kind in kinds)

    @cached_property
    def users(self) -> tuple[Point, ...]:
        """What draws a current, or may."""
        return tuple(point for point in self.circuit.points if point.kind not in PASSIVE_KINDS or point.loads)

    @cached_property
    def sockets(self) -> tuple[Point, ...]:
        """Socket-outlets on the mains, also those in a cooker's control unit."""
        return tuple(point for point in self._points(*SOCKETS) if point.selv_v is None)

    @cached_property
    def ring_outlets(self) -> tuple[Point, ...]:
        """Sockets and fused units: what a ring final circuit is for."""
        return self._points(*RING_OUTLETS)

    @cached_property
    def lights(self) -> tuple[Point, ...]:
        """Lights, and points whose loads all count as lighting; an alarm that counts so is no light."""
        alarms = self.circuit.kind == "alarms"
        return tuple(p for p in self.circuit.points if (p.kind == "light" if alarms else is_light(p)))

    @cached_property
    def light_ids(self) -> frozenset[str]:
        """The lights by their ids."""
        return frozenset(point.id for point in self.lights)

    @cached_property
    def only_lights(self) -> bool:
        """Whether the circuit feeds lights, and nothing else."""
        return len(self.lights) == len(self.users) > 0

    @cached_property
    def chargers(self) -> tuple[Point, ...]:
        """Where vehicles are charged; on a circuit for charging everything that draws is taken to."""
        found = tuple(point for point in self.circuit.points if is_charger(point))
        return found or (self.users if self.kind.wants_dc_detection else ())

    @cached_property
    def sources(self) -> tuple[Point, ...]:
        """Where power comes from: solar inverters, batteries."""
        return self._points("source")

    @cached_property
    def boards(self) -> tuple[Point, ...]:
        """Other boards that the circuit feeds."""
        return self._points("board")

    @cached_property
    def in_bath_room(self) -> tuple[Point, ...]:
        """Points that are placed in a room with a bath or shower."""
        return tuple(point for point in self.circuit.points if point.zone is not None)

    @property
    def bath_room(self) -> bool | None:
        """Whether the circuit serves or crosses a bath or shower room; None where it may: nobody has said.

        A point with a zone settles it. What heats water as it runs may well be a shower.
        """
        if self.in_bath_room or self.circuit.surroundings.bath_room:
            return True
        maybe = any(load.diversity == "instantaneous" for point in self.circuit.points for load in point.loads)
        return None if maybe and self.circuit.surroundings.bath_room is None else False

    @property
    def feeds_only_boards(self) -> bool | None:
        """Whether it is a distribution circuit: it ends at another board. None where that is not said.

        On a feed to an outbuilding fixed equipment may stand for the board there.
        """
        others = [point for point in self.users if point.kind != "board"]
        if not others:
            return bool(self.boards)
        if self.kind.final or self.boards or any(point.kind != "fixed" for point in others):
            return False
        return None


def titles(points: Iterable[Point]) -> str:
    """Return some points by name, the first few."""
    named = [point.title for point in points]
    return ", ".join(named[:3]) + (f" and {len(named) - 3} more" if len(named) > 3 else "")
