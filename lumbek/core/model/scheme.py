"""What switches what, the ways that cable can take between the places, and what is wanted of it."""

from typing import Annotated, Literal, Self, TypeVar

from pydantic import Field, model_validator

from lumbek.core.model.accessory import GangNumber
from lumbek.core.model.cable import Colours
from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import TerminalName
from lumbek.core.model.text import Id, LengthM, Name
from lumbek.core.value import Frozen

MOST_GANGS = 10
# Two plates: the line goes from switch to switch, the neutral from light to light, in singles.
LightingSchool = Literal["at-light", "at-switch", "at-joint", "two-plate"]


class Output(Frozen):
    """What is switched: a point, and which of its terminals takes the switched line."""

    point: Id
    line: TerminalName = "L"


class GangAt(Frozen):
    """One gang of the plate at a point."""

    point: Id
    gang: GangNumber = 1


_At = TypeVar("_At", Output, GangAt)


class Control(Frozen):
    """Lights, or a fan, switched together. With no switch and no sensor they are on for good.

    Sensors, and receivers of a radio or bus, stand beside the switches: any of them turns the light on; or behind
    them, then both have to be on. A master stands before all, also of other controls: nothing burns while it is off.
    What holds on does so whatever the switches do.
    """

    id: Id
    name: Name = ""
    outputs: Annotated[tuple[Output, ...], Field(min_length=1, max_length=30)]
    gangs: Annotated[tuple[GangAt, ...], Field(max_length=MOST_GANGS)] = ()
    sensors: Annotated[tuple[GangAt, ...], Field(max_length=6)] = ()
    sensors_behind: bool = False
    master: GangAt | None = None
    holds: Annotated[tuple[GangAt, ...], Field(max_length=4)] = ()

    @model_validator(mode="before")
    @classmethod
    def _one_sensor(cls, given: object) -> object:
        """Read a control that was written when there was one sensor at most."""
        if isinstance(given, dict) and "sensor" in given:
            sensor = given["sensor"]
            rest = {key: value for key, value in given.items() if key != "sensor"}
            return rest if sensor is None else {"sensors": (sensor,), **rest}
        return given

    @property
    def switches(self) -> tuple[GangAt, ...]:
        """Every gang that acts on its lights, the master last."""
        return (*self.gangs, *self.sensors, *self.holds, *(() if self.master is None else (self.master,)))

    @property
    def is_plain(self) -> bool:
        """Whether a plan can be made for it: rows of switches and sensors, no master and nothing that holds it on."""
        return self.master is None and not self.holds

    def only(self, known: frozenset[str]) -> "Control":
        """Return the control without what it names at places that are gone."""

        def kept(some: tuple[_At, ...]) -> tuple[_At, ...]:
            return tuple(each for each in some if each.point in known)

        gangs, sensors = kept(self.gangs), kept(self.sensors)
        left = {
            "outputs": kept(self.outputs),
            "gangs": gangs,
            "sensors": sensors,
            "sensors_behind": self.sensors_behind and bool(gangs and sensors),
            "master": self.master if self.master and self.master.point in known else None,
            "holds": kept(self.holds) if gangs or sensors else (),
        }
        return self.model_copy(update=left)

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        for what, all_of in (("outputs", self.outputs), ("switches", self.switches)):
            if len(set(all_of)) < len(all_of):
                raise ValueError(f"{what}: {self.name or self.id} names one twice")
        if self.sensors_behind and not (self.sensors and self.gangs):
            raise ValueError("sensors_behind: that takes a switch, and a sensor behind it")
        if self.holds and not (self.gangs or self.sensors):
            raise ValueError("holds: what is on for good needs nothing that holds it on")
        return self


class Link(Frozen):
    """Terminals that are joined with each other and with nothing else, as alarms that sound together are."""

    id: Id
    name: Name = ""
    ends: Annotated[tuple[Output, ...], Field(min_length=2, max_length=30)]

    @property
    def places(self) -> frozenset[str]:
        """The points whose terminals they are."""
        return frozenset(end.point for end in self.ends)


class RouteCable(Frozen):
    """A cable that is in a route already, by its live cores."""

    live: Annotated[int, Field(ge=1, le=4)] = 2
    colours: Colours = "harmonised"


class Route(Frozen):
    """A way that cable can take between two places. `closed` where nothing can be added to what is in it."""

    a: Id
    b: Id
    length_m: LengthM | None = None
    cables: Annotated[tuple[RouteCable, ...], Field(max_length=6)] = ()
    closed: bool = False


class BarredWay(Frozen):
    """A way between two places."""

    a: Id
    b: Id


class Wishes(Frozen):
    """How it is to be made: where the feed is looped, and what is wanted beyond the least."""

    school: LightingSchool = "at-switch"
    colours: Colours = "harmonised"
    neutral_at_switches: bool = False
    spare_core: bool = False
    # All that goes one way in one cable, whatever it takes.
    one_cable: bool = False


class Apart(Frozen):
    """Two cable ends, by their legs, that are of different cables."""

    one: Id
    other: Id


class Scheme(Frozen):
    """What a lighting circuit is to do, and where cable may run. `feed` is the point that the supply arrives at."""

    feed: Id = BOARD
    controls: Annotated[tuple[Control, ...], Field(max_length=40)] = ()
    links: Annotated[tuple[Link, ...], Field(max_length=10)] = ()
    routes: Annotated[tuple[Route, ...], Field(max_length=80)] = ()
    # Ways that are not to be taken, whatever is drawn there or a school would have.
    barred: Annotated[tuple[BarredWay, ...], Field(max_length=80)] = ()
    wishes: Wishes = Wishes()
    # Cable ends that a test has shown to be of different cables.
    apart: Annotated[tuple[Apart, ...], Field(max_length=400)] = ()

    @model_validator(mode="after")
    def _no_twice(self) -> Self:
        ids = [control.id for control in self.controls]
        if len(set(ids)) < len(ids):
            raise ValueError("controls: an id is used twice")
        gangs = [
            gang for control in self.controls for gang in (*control.gangs, *control.sensors, *control.holds)
        ] + list({control.master for control in self.controls if control.master is not None})
        if len(set(gangs)) < len(gangs):
            raise ValueError("controls: one gang switches in two of them")
        outputs = [output for control in self.controls for output in control.outputs]
        if len(set(outputs)) < len(outputs):
            raise ValueError("controls: one light is in two of them")
        pairs = [frozenset((route.a, route.b)) for route in self.routes]
        if len(set(pairs)) < len(pairs) or any(len(pair) < 2 for pair in pairs):
            raise ValueError("routes: each joins two places, once")
        return self

    def only(self, known: frozenset[str]) -> "Scheme":
        """Return the scheme without what names places that are gone."""
        here = known | {BOARD}
        return self.model_copy(
            update={
                "feed": self.feed if self.feed in known else BOARD,
                "controls": tuple(each for control in self.controls if (each := control.only(known)).outputs),
                "links": tuple(link for link in self.links if link.places <= known),
                "routes": tuple(route for route in self.routes if {route.a, route.b} <= here),
                "barred": tuple(way for way in self.barred if {way.a, way.b} <= here),
            }
        )

    def bars(self, a: str, b: str) -> bool:
        """Whether cable is not to be run between two places."""
        return any({way.a, way.b} == {a, b} for way in self.barred)

    @property
    def places(self) -> tuple[str, ...]:
        """Every place that it names, each once: the feed first."""
        named = [self.feed]
        for control in self.controls:
            named += [output.point for output in control.outputs]
            named += [gang.point for gang in control.switches]
        named += [output.point for link in self.links for output in link.ends]
        named += [end for route in self.routes for end in (route.a, route.b)]
        return tuple(dict.fromkeys(named))
