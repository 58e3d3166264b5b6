"""A final circuit: points joined by legs of cable, the device ahead of it, and what it is for."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Device
from lumbek.core.model.extent import WholeState, Year
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.point import Point
from lumbek.core.model.remains import Remains
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.terminals import Join
from lumbek.core.model.text import GivenName, Name, Note
from lumbek.core.value import Frozen

MOST_POINTS = 200
MOST_LEGS = 400

CircuitKind = Literal[
    "sockets",
    "lighting",
    "cooker",
    "shower",
    "water-heater",
    "storage-heater",
    "floor-heating",
    "boiler",
    "fixed-appliance",
    "alarms",
    "outdoor",
    "vehicle-charging",
    "three-phase",
    "distribution",
]


class Surroundings(Frozen):
    """Facts about where a circuit runs that decide its additional protection; None where nobody has said."""

    concealed_shallow: bool | None = None
    bath_room: bool | None = None
    # A shower with no tray: its zone 1 reaches 1.2 m, and it has no zone 2.
    no_tray: bool | None = None
    # Whether the metal parts of the bath room are joined to each other and to the cpcs.
    supplementary_bonding: bool | None = None
    # Another circuit of the same bath room without 30 mA, as its house has it: made by hand it is a circuit by itself.
    bath_fellow: Name = ""
    # What it feeds outdoors cuts itself off when the supply loses its neutral.
    lost_neutral_guard: bool = False
    floor_area_m2: Annotated[float, Field(ge=0.1, le=2000)] | None = None


class Circuit(Frozen):
    """One circuit from its device to its last point. What it is (ring, radial, tree) is read off its legs."""

    number: Annotated[int, Field(ge=1, le=9999)] = 1
    name: GivenName = "New circuit"
    kind: CircuitKind = "sockets"
    # As a whole; its legs and points say it where they differ. Of one that is altered, whether its device is new.
    state: WholeState = "new"
    year: Year | None = None
    device_new: bool = False
    device: Device = Device()
    ahead: Annotated[tuple[Ahead, ...], Field(max_length=8)] = ()
    own_earth: OwnEarth | None = None
    cable: Cable = Cable()
    method: Annotated[str, Field(max_length=4)] = "C"
    # Voltage drop with conductors as warm as their load makes them (Ct), not at their insulation's limit.
    drop_with_ct: bool = False
    # What its ends are screwed to is made for conductors at 90 °C, by its maker.
    terminals_90: bool = False
    surroundings: Surroundings = Surroundings()
    points: Annotated[tuple[Point, ...], Field(max_length=MOST_POINTS)] = ()
    legs: Annotated[tuple[Leg, ...], Field(max_length=MOST_LEGS)] = ()
    # What was taken out of use and is still in the wall.
    remains: Annotated[tuple[Remains, ...], Field(max_length=20)] = ()
    # What is joined at the board otherwise than plainly.
    board_joins: Annotated[tuple[Join, ...], Field(max_length=60)] = ()
    # What switches what, and where cable may run for it.
    scheme: Scheme | None = None
    # Why device or cable differ from what is usual for the kind.
    reason: Note = ""
    notes: Note = ""

    @model_validator(mode="after")
    def _joined_up(self) -> Self:
        ids = [point.id for point in self.points]
        known = set(ids) | {BOARD}
        if BOARD in ids:
            raise ValueError("points: the board is there already; a point cannot be named 'board'")
        _no_twice("points", ids)
        _no_twice("legs", [leg.id for leg in self.legs])
        for leg in self.legs:
            for end, point_id in (("a", leg.a), ("b", leg.b)):
                if point_id not in known:
                    raise ValueError(f"legs: leg {leg.id} ends ({end}) at {point_id!r}, which is no point here")
            if leg.a == leg.b:
                raise ValueError(f"legs: leg {leg.id} starts and ends at {leg.a!r}")
        self._check_joins(BOARD, self.board_joins)
        for point in self.points:
            self._check_joins(point.id, point.joins)
            _no_twice("switches", [switch.id for switch in point.contacts])
        self._check_scheme(known)
        return self

    def _check_scheme(self, known: set[str]) -> None:
        """Refuse a scheme of places that are not here."""
        for place in self.scheme.places if self.scheme else ():
            if place not in known:
                raise ValueError(f"scheme: {place!r} is no point here")

    def _check_joins(self, point_id: str, joins: tuple[Join, ...]) -> None:
        """Refuse joins of what is not there, and of what is joined twice; other circuits' legs are theirs to check."""
        cores = {leg.id: (leg.cable or self.cable).core_names for leg in self.legs if point_id in (leg.a, leg.b)}
        for end in (end for join in joins for end in join.ends if end.circuit is None):
            if end.leg not in cores:
                raise ValueError(f"joins: leg {end.leg} does not end at {point_id!r}")
            if end.core not in cores[end.leg]:
                raise ValueError(f"joins: leg {end.leg} has no core {end.core}; it has {', '.join(cores[end.leg])}")
        _no_twice("joins", [f"{end.circuit or ''}{end.leg}:{end.core}" for join in joins for end in join.ends])
        _no_twice("joins", [terminal for join in joins for terminal in join.terminals])

    def cable_of(self, leg: Leg) -> Cable:
        """Return the cable of a leg: its own, or the circuit's."""
        return leg.cable or self.cable

    def point(self, point_id: str) -> Point:
        """Return the point with this id; KeyError if there is none."""
        for point in self.points:
            if point.id == point_id:
                return point
        raise KeyError(point_id)

    def leg(self, leg_id: str) -> Leg:
        """Return the leg with this id; KeyError if there is none."""
        for leg in self.legs:
            if leg.id == leg_id:
                return leg
        raise KeyError(leg_id)

    def point_title(self, point_id: str) -> str:
        """Return how a person would name this point, the board included."""
        return "the board" if point_id == BOARD else self.point(point_id).title

    def leg_title(self, leg: Leg) -> str:
        """Return how a person would name this leg: by the points it joins, without their rooms."""
        ends = ("the board" if end == BOARD else self.point(end).name or end for end in (leg.a, leg.b))
        return " to ".join(ends) + self._which(leg)

    def far_title(self, leg: Leg, place: str) -> str:
        """Return how a person in a box names a cable there: by where it goes, and by which it is of several."""
        return self.point_title(leg.other_end(place)) + self._which(leg)

    def _which(self, leg: Leg) -> str:
        """Return what tells a cable from the others between the same places: its mark, else A, B; nothing by itself."""
        beside = [each.id for each in self.legs if {each.a, each.b} == {leg.a, leg.b}]
        if len(beside) < 2:
            return f", {leg.mark}" if leg.mark else ""
        letter = chr(ord("A") + beside.index(leg.id) % 26)
        return f", cable {letter}" + (f" ({leg.mark})" if leg.mark else "")


def _no_twice(what: str, ids: list[str]) -> None:
    seen: set[str] = set()
    for each in ids:
        if each in seen:
            raise ValueError(f"{what}: the id {each!r} is used twice")
        seen.add(each)
