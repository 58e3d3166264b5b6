"""Two-plate looping in singles: the line from switch to switch, the neutral from light to light.

Each conductor takes its own way, so that the cables are no tree and nothing is searched: the order is that of the
controls and their switches as they are said. Singles that go the same way lie in one conduit where conduit is used;
flat singles with a cpc are a cable each.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from lumbek.core.circuit.edit import next_id
from lumbek.core.circuit.presets import laid_by
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.choose import feeding_on
from lumbek.core.switching.nets import Net, NetRow, fitted_in, nets_in
from lumbek.core.switching.packing import sleeved_end

# Live conductors of one run of singles in a conduit that are drawn as one leg.
_MOST_TOGETHER = 4
# What of a net is joined at the board.
_AT_BOARD = {"line": ["L"], "neutral": ["N"]}


def two_plate_problems(circuit: Circuit, scheme: Scheme) -> list[str]:
    """Return why a scheme cannot be looped in two plates."""
    found = []
    if scheme.links:
        found.append("Alarms that sound together take a cable with a core for it: loop them at the light.")
    if any(control.sensors for control in scheme.controls):
        found.append("A sensor takes line and neutral at one place: loop at the switch or at the light.")
    if any(leg.state == "as-found" and {leg.a, leg.b} <= set(scheme.places) for leg in circuit.legs):
        found.append("Two plates are for new wiring: what is in the wall is wired and proved on the bench.")
    arriving = [leg for leg in circuit.legs if scheme.feed != BOARD and {leg.a, leg.b} == {BOARD, scheme.feed}]
    if arriving and all("N" not in circuit.cable_of(leg).core_names for leg in arriving):
        found.append(f"No neutral comes to {circuit.point_title(scheme.feed)}: feed it with line and neutral together.")
    return found


def wire_two_plate(book: Rulebook, circuit: Circuit, scheme: Scheme) -> Circuit:
    """Return the circuit of a scheme wired in two plates; what it holds beside the scheme stays."""
    return _TwoPlate(book, circuit, scheme).circuit_wired()


@dataclass
class _TwoPlate:
    """A circuit while it is wired in singles: each conductor laid from place to place."""

    book: Rulebook
    circuit: Circuit
    scheme: Scheme
    legs: list[Leg] = field(default_factory=list)
    # For each net the ends of its cores at each place.
    ends: dict[tuple[str, int], list[CoreEnd]] = field(default_factory=dict)
    earths: dict[str, list[CoreEnd]] = field(default_factory=dict)

    def _lay_all(self, places: set[str], nets: Sequence[Net]) -> None:
        for leg in self.legs:
            self._arrive(leg, places, nets)
        for (a, b), together in self._runs(nets).items():
            self._lay(a, b, together, nets)

    def circuit_wired(self) -> Circuit:
        circuit, scheme = self.circuit, self.scheme
        rows = [NetRow(control.gangs) for control in scheme.controls]
        through = (scheme.feed, *feeding_on(circuit, scheme))
        nets = nets_in(scheme, rows, through, through)
        places = set(scheme.places)
        kept = [leg for leg in circuit.legs if not {leg.a, leg.b} <= places]
        fed = scheme.feed == BOARD or any(scheme.feed in (leg.a, leg.b) for leg in kept)
        self.legs = kept if fed else [*kept, self._feed()]
        self._lay_all(places, nets)
        accessories = fitted_in(circuit, scheme, rows)

        def wired(point: Point) -> Point:
            update = {"accessories": accessories[point.id], "joins": self._joins(point.id, nets)}
            return point.model_copy(update=update)

        points = tuple(wired(point) if point.id in places else point for point in circuit.points)
        changed: dict[str, object] = {"points": points, "legs": tuple(self.legs), "scheme": scheme}
        if BOARD in places:
            changed["board_joins"] = self._joins(BOARD, nets)
        return Circuit.model_validate(circuit.model_copy(update=changed).model_dump())

    def _feed(self) -> Leg:
        """Return the cable that brings the supply to where it is to arrive."""
        cable = Cable(csa_mm2=self.circuit.cable.csa_mm2, cpc_by="core", colours=self.scheme.wishes.colours)
        return Leg(id=self._next(), a=BOARD, b=self.scheme.feed, cable=cable, segments=(Segment(),))

    def _next(self) -> str:
        return next_id("L", [leg.id for leg in (*self.circuit.legs, *self.legs)])

    def _arrive(self, leg: Leg, places: set[str], nets: Sequence[Net]) -> None:
        """Put the cores of a cable from elsewhere to line, neutral and cpc of the place it comes to."""
        for place in {leg.a, leg.b} & places:
            for net, core in enumerate(("L", "N")):
                if core in self.circuit.cable_of(leg).core_names:
                    self.ends.setdefault((place, net), []).append(self._end(leg, core, nets[net]))
            self.earths.setdefault(place, []).append(CoreEnd(leg=leg.id, core="E"))

    def _runs(self, nets: Sequence[Net]) -> dict[tuple[str, str], list[int]]:
        """Return what goes between each two places: every conductor from place to place in the order of its ends."""
        runs: dict[tuple[str, str], list[int]] = {}
        for index, net in enumerate(nets):
            for a, b in pairwise(dict.fromkeys(end.place for end in net.ends)):
                way = (b, a) if (b, a) in runs else (a, b)
                runs.setdefault(way, []).append(index)
        return runs

    def _lay(self, a: str, b: str, together: Sequence[int], nets: Sequence[Net]) -> None:
        """Lay singles between two places: those in conduit together, flat ones each by itself."""
        at_once = _MOST_TOGETHER if self.circuit.cable.type == "single-core" else 1
        for start in range(0, len(together), at_once):
            mine = together[start : start + at_once]
            cable = self._cable([nets[index] for index in mine])
            leg = Leg(id=self._next(), a=a, b=b, cable=cable, segments=(self._segment(a, b, cable),))
            self.legs.append(leg)
            for core, index in zip(cable.live_cores, mine, strict=True):
                for place in (a, b):
                    end = self._end(leg, core, nets[index])
                    self.ends.setdefault((place, index), []).append(end)
            for place in (a, b):
                self.earths.setdefault(place, []).append(CoreEnd(leg=leg.id, core="E"))

    def _cable(self, nets: Sequence[Net]) -> Cable:
        """Return singles for some conductors: one alone is named for what it is."""
        own = self.circuit.cable
        singles = own.type == "single-core"
        more = {"type": "single-core" if singles else "flat-single-and-earth", "colours": self.scheme.wishes.colours}
        if len(nets) == 1:
            return own.model_copy(update={**more, "alone": "N" if nets[0].role == "neutral" else "L"})
        cores = len(nets) + (1 if own.earth_by == "core" else 0)
        return own.model_copy(update={**more, "alone": None, "cores": cores})

    def _segment(self, a: str, b: str, cable: Cable) -> Segment:
        length = next((route.length_m for route in self.scheme.routes if {route.a, route.b} == {a, b}), None)
        method = laid_by(self.book, cable, self.circuit.method)
        return Segment(length_m=length, method=None if method == self.circuit.method else method)

    def _end(self, leg: Leg, core: str, net: Net) -> CoreEnd:
        return sleeved_end(self.book, leg.id, self.circuit.cable_of(leg), core, net)

    def _joins(self, place: str, nets: Sequence[Net]) -> tuple[Join, ...]:
        earths = self.earths.get(place)
        joins = [Join(ends=tuple(earths), terminals=("E",))] if earths else []
        for index, net in enumerate(nets):
            terminals = [end.terminal for end in net.ends if end.place == place and end.terminal]
            if place == BOARD:
                terminals += _AT_BOARD.get(net.role, [])
            ends = self.ends.get((place, index), ())
            if ends or terminals:
                joins.append(Join(ends=tuple(ends), terminals=tuple(terminals)))
        return tuple(joins)


def metres(circuit: Circuit, places: Iterable[str], usual_m: float) -> float:
    """Return the metres of singles between the places of a scheme; a length nobody knows is the usual one."""
    inside = set(places)
    legs = [leg for leg in circuit.legs if {leg.a, leg.b} <= inside and leg.state == "new"]
    return sum(
        (usual_m if leg.length_m is None else leg.length_m) * len(circuit.cable_of(leg).live_cores) for leg in legs
    )
