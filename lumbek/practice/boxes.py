"""The boxes of a wall: the ends that come into each by what is known of them, and circuits as somebody wires them."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from string import ascii_lowercase
from typing import NamedTuple

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.point import Point
from lumbek.core.model.terminals import CoreEnd
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.colours import colour_of
from lumbek.practice.exercise import Act, BadActError, LinkWire, WireBox, WiredEnd, WireEnd
from lumbek.practice.meeting import EndOf, Meeting

_CONNECTORS = "ABCDEFGH"


class LegOf(NamedTuple):
    """A leg of one of the circuits of a wall."""

    circuit: int
    leg: str


@dataclass(frozen=True)
class Boxes:
    """The boxes of circuits in one wall, as far as their cables are laid: points of one id are one box.

    `pulled` are the legs put in since. `mixed` has the boxes whose cables are not told apart, in the order in which
    they hang there; those that are `known` were belled out.
    """

    book: Rulebook
    circuits: Mapping[int, Circuit]
    pulled: Sequence[LegOf]
    mixed: Mapping[str, Sequence[LegOf]]
    known: frozenset[str]

    @cached_property
    def places(self) -> Mapping[str, Mapping[int, Point]]:
        """Every box: its point in each of its circuits."""
        found: dict[str, dict[int, Point]] = defaultdict(dict)
        for number, circuit in self.circuits.items():
            for point in circuit.points:
                found[point.id][number] = point
        return found

    @cached_property
    def names(self) -> Mapping[LegOf, str]:
        """What each cable is called: by its order, so that no gap tells of one that is missing."""
        every = [LegOf(number, leg.id) for number, circuit in self.circuits.items() for leg in circuit.legs]
        found = {leg: f"L{at}" for at, leg in enumerate((each for each in every if each not in self.pulled), start=1)}
        return found | {leg: f"P{at}" for at, leg in enumerate(self.pulled, start=1)}

    def title(self, place: str) -> str:
        """Return what a box is called."""
        return next(iter(self.places[place].values())).name

    def leg(self, leg: LegOf) -> Leg:
        """Return a leg."""
        return self.circuits[leg.circuit].leg(leg.leg)

    def legs_at(self, place: str) -> list[LegOf]:
        """Return the cables that come into a box, as they hang there."""
        here = [leg for leg in self.names if place in (self.leg(leg).a, self.leg(leg).b)]
        first = self.mixed.get(place, ())
        return [*first, *(leg for leg in here if leg not in first)]

    def name_at(self, place: str, leg: LegOf) -> str:
        """Return what a cable is called in a box: by a letter where they are not told apart."""
        mixed = self.mixed.get(place, ())
        return ascii_lowercase[mixed.index(leg)] if leg in mixed else self.names[leg]

    def far(self, place: str, leg: LegOf) -> str:
        """Return where a cable goes from a box."""
        far = self.circuits[leg.circuit].far_title(self.leg(leg), place)
        return f"{far}, circuit {leg.circuit}" if len(self.circuits) > 1 else far

    def box(self, place: str) -> WireBox:
        """Return a box as it is shown to whoever wires it."""
        ends = []
        for leg in self.legs_at(place):
            cable = self.circuits[leg.circuit].cable_of(self.leg(leg))
            is_told = leg not in self.mixed.get(place, ()) or place in self.known
            ends += [
                WireEnd(
                    leg=self.name_at(place, leg),
                    core=core,
                    colour=colour_of(self.book, cable, core),
                    to=self.far(place, leg) if is_told else "",
                )
                for core in cable.core_names
            ]
        return WireBox(
            place=place,
            title=self.title(place),
            terminals=tuple(self._terminals(place)),
            connectors=min(len(ends) // 2, len(_CONNECTORS)),
            ends=tuple(ends),
        )

    def _terminals(self, place: str) -> Mapping[str, int]:
        """Return the terminals of a box, each with the circuit of its accessory."""
        return {name: number for number, point in self.places[place].items() for name in terminals_of_box(point)}

    def wired(self, act: Act) -> dict[int, Circuit]:
        """Return the circuits as somebody wires them. Raises BadActError."""
        meeting = Meeting()
        for place, into in self._into(act).items():
            owners = self._terminals(place)
            for names in _groups([*owners, *into], [each for each in act.links if each.place == place], owners):
                ends = [end for name in names for end in into.get(name, ())]
                meeting.meet(place, {name: owners[name] for name in names if name in owners}, ends)
        return {number: meeting.into(number, circuit) for number, circuit in self.circuits.items()}

    def _into(self, act: Act) -> dict[str, dict[str, list[EndOf]]]:
        """Return for every box what is in each terminal and connector; what nobody speaks of is left off."""
        shown = {place: self.box(place) for place in self.places}
        found: dict[str, dict[str, list[EndOf]]] = {place: defaultdict(list) for place in shown}
        said: dict[tuple[str, str, str], WiredEnd] = {}
        for each in act.wired:
            box = shown.get(each.place)
            if box is None or (each.leg, each.core) not in {(one.leg, one.core) for one in box.ends}:
                raise BadActError(f"wired: {each.leg} {each.core} does not end at {each.place}.")
            if (each.place, each.leg, each.core) in said:
                raise BadActError(f"wired: {each.leg} {each.core} is said twice at {each.place}.")
            if each.into not in ("", *box.terminals, *_CONNECTORS[: box.connectors]):
                raise BadActError(f"wired: there is no {each.into} at {each.place}.")
            said[each.place, each.leg, each.core] = each
        for place, box in shown.items():
            legs = {self.name_at(place, leg): leg for leg in self.legs_at(place)}
            for one in box.ends:
                what = said.get((place, one.leg, one.core))
                leg = legs[one.leg]
                end = CoreEnd(leg=leg.leg, core=one.core, marked=what.marked if what else None)
                name = what.into if what and what.into else f"off {one.leg} {one.core}"
                found[place][name].append(EndOf(leg.circuit, end))
        return found

    def as_wired(self, circuits: Mapping[int, Circuit]) -> tuple[tuple[WiredEnd, ...], tuple[LinkWire, ...]]:
        """Return what somebody says who wires the boxes as these circuits are."""
        wired: list[WiredEnd] = []
        links: list[LinkWire] = []
        for place, points in self.places.items():
            letters = iter(_CONNECTORS)
            for number in points:
                for join in circuits[number].point(place).joins:
                    links += [LinkWire(place=place, a=a, b=b) for a, b in pairwise(join.terminals)]
                    name = join.terminals[0] if join.terminals else next(letters) if len(join.ends) > 1 else ""
                    wired += [
                        WiredEnd(
                            place=place,
                            leg=self.name_at(place, LegOf(number, end.leg)),
                            core=end.core,
                            into=name,
                            marked=end.marked,
                        )
                        for end in join.ends
                    ]
        return tuple(wired), tuple(links)


def _groups(names: Sequence[str], links: Sequence[LinkWire], terminals: Mapping[str, int]) -> list[list[str]]:
    """Return the names of a box that are one: those with a wire between them. Raises BadActError."""
    group = {name: name for name in names}
    for link in links:
        if link.a not in terminals or link.b not in terminals or link.a == link.b:
            raise BadActError(f"links: there is no wire from {link.a} to {link.b} at {link.place}.")
        kept, gone = group[link.a], group[link.b]
        group = {name: kept if each == gone else each for name, each in group.items()}
    return [[name for name, each in group.items() if each == one] for one in dict.fromkeys(group.values())]


def terminals_of_box(point: Point) -> list[str]:
    """Return the terminals of a box: those of its accessories, of its lamp, and its earth."""
    named = [terminal for accessory in point.accessories for terminal in accessory.terminals]
    lamp = ["L", "N", "LOOP"] if point.kind == "light" else []
    # What has a terminal of its own besides: the interlink of an alarm, the switched line of a fan.
    others = sorted({name for join in point.joins for name in join.terminals} - {*named, *lamp, "E"})
    return [*named, *lamp, *others, "E"]
