"""Cables pulled into a wall besides those that lie there: which can be, what each takes, which are still lacking."""

from collections.abc import Iterator
from dataclasses import dataclass, field

from lumbek.core.circuit.edit import next_id
from lumbek.core.model.cable import CableKind, Colours
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.scheme import Route
from lumbek.core.numbers import plain
from lumbek.practice.boxes import LegOf
from lumbek.practice.exercise import DUST_OF_A_WALL, Choice
from lumbek.practice.wall import WallToWire

# Getting at the way of a cable, and drawing it in.
_MINUTES, _MINUTES_A_METRE = 15, 2
_SORTS: dict[int, tuple[str, CableKind]] = {
    2: ("two-core", "flat-twin-and-earth"),
    3: ("three-core", "flat-three-core-and-earth"),
}


@dataclass
class Pulling:
    """What may be pulled into a wall, and what has been, each leg with its circuit."""

    wall: WallToWire
    colours: Colours
    pulled: list[tuple[int, Leg]] = field(default_factory=list)

    @property
    def names(self) -> tuple[LegOf, ...]:
        """The legs that were pulled."""
        return tuple(LegOf(number, leg.id) for number, leg in self.pulled)

    def lacking(self) -> list[tuple[int, Leg]]:
        """Return the legs of the plan that are not in the wall."""
        every = [(number, self.wall.circuits[number].leg(leg)) for number, leg in sorted(self.wall.lacks)]
        return [each for each in every if each not in self.pulled]

    def laid(self) -> dict[int, Circuit]:
        """Return the circuits with the legs that lie in the wall by now."""
        found = {}
        for number, circuit in self.wall.circuits.items():
            there = [leg for leg in circuit.legs if (number, leg.id) not in self.wall.lacks]
            pulled = [leg for of, leg in self.pulled if of == number]
            found[number] = circuit.model_copy(update={"legs": (*there, *pulled)})
        return found

    def choices(self) -> Iterator[Choice]:
        """Yield what may be pulled: along every way between two boxes a cable of each sort, once."""
        for number, circuit in self.wall.circuits.items():
            several = f", circuit {number}" if len(self.wall.circuits) > 1 else ""
            for route in _routes(circuit):
                way = f"{route.a} to {route.b}{several}, {plain(route.length_m or 0)} m"
                for live, (name, _) in _SORTS.items():
                    if not any(of == number and self._is_such(of, leg, route, live) for of, leg in self.pulled):
                        yield Choice(
                            id=_id_of(number, route, live),
                            words=f"{name.capitalize()} and earth, {way}",
                            group="Pull another cable",
                            minutes=minutes_of(route.length_m),
                            dust=DUST_OF_A_WALL,
                        )

    def choice_of(self, number: int, leg: Leg) -> str:
        """Return which choice pulls a leg of the plan."""
        circuit = self.wall.circuits[number]
        route = next(each for each in _routes(circuit) if {each.a, each.b} == {leg.a, leg.b})
        return _id_of(number, route, len(circuit.cable_of(leg).live_cores))

    def pull(self, choice: str) -> None:
        """Pull what was chosen: a leg of the plan where it is that, else another beside."""
        # As `_id_of` says it.
        number, a, b, live = choice.split(" ")[1:]
        circuit = self.wall.circuits[int(number)]
        route = next(each for each in _routes(circuit) if (each.a, each.b) == (a, b))
        found = (leg for of, leg in self.lacking() if of == int(number) and self._is_such(of, leg, route, int(live)))
        self.pulled.append((int(number), next(found, None) or self._beside(circuit, route, int(live))))

    def _is_such(self, number: int, leg: Leg, route: Route, live: int) -> bool:
        cores = len(self.wall.circuits[number].cable_of(leg).live_cores)
        return {leg.a, leg.b} == {route.a, route.b} and cores == live

    def _beside(self, circuit: Circuit, route: Route, live: int) -> Leg:
        """Return a leg that the plan does not have."""
        update = {"type": _SORTS[live][1], "colours": self.colours}
        cable = circuit.cable.model_copy(update=update)
        used = [leg.id for leg in circuit.legs] + [leg.id for _, leg in self.pulled]
        segment = Segment(length_m=route.length_m)
        return Leg(id=next_id("L", used), a=route.a, b=route.b, cable=cable, segments=(segment,))


def minutes_of(length_m: float | None) -> int:
    """Return the minutes that pulling a cable takes."""
    return round(_MINUTES + _MINUTES_A_METRE * (length_m or 0))


def _id_of(number: int, route: Route, live: int) -> str:
    """Return the id of the choice to pull a cable of so many live cores along a way."""
    return f"pull {number} {route.a} {route.b} {live}"


def _routes(circuit: Circuit) -> list[Route]:
    """Return the ways between two boxes."""
    return [each for each in circuit.scheme.routes if BOARD not in (each.a, each.b)] if circuit.scheme else []
