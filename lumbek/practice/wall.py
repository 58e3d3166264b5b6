"""A wall to be wired: the cables in it, those that it lacks, and the boxes where nobody knows which cable is which."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from random import Random

from lumbek.core.model.cable import Cable, Colours
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.checks.marks import sleeved
from lumbek.practice.exercise import School
from lumbek.practice.lights import alarms, lights, planned, two_circuits

_ALARMS_FROM, _ALARMS_SHARE = 3, 0.2
_TWO_FROM, _TWO_SHARE = 4, 0.3
_SHORT_FROM, _SHORT_SHARE = 2, 0.4
_UNMARKED_FROM, _UNMARKED_SHARE = 3, 0.4


@dataclass(frozen=True)
class WallToWire:
    """Circuits by number as the planner wires them, and of their legs those that are not in the wall yet.

    At the places that are `unmarked` nobody knows which cable goes where.
    """

    circuits: Mapping[int, Circuit]
    lacks: frozenset[tuple[int, str]] = frozenset()
    unmarked: frozenset[str] = frozenset()


def wall(book: Rulebook, chance: Random, level: int, school: School) -> WallToWire:
    """Return a wall of a level: lights, alarms, or lights of two circuits that meet in a box."""
    chosen: tuple[Circuit, ...]
    if level >= _ALARMS_FROM and chance.random() < _ALARMS_SHARE:
        chosen = (alarms(chance, level, school),)
    elif level >= _TWO_FROM and chance.random() < _TWO_SHARE:
        chosen = two_circuits(chance, school)
    else:
        chosen = (lights(chance, level, school),)
    circuits = {each.number: planned(book, each) for each in chosen}
    lacks: frozenset[tuple[int, str]] = frozenset()
    if level >= _SHORT_FROM and chance.random() < _SHORT_SHARE:
        last = chosen[-1].number
        circuits[last], lacking = _short(book, chance, chosen[-1], circuits[last], school)
        lacks = frozenset((last, leg) for leg in lacking)
    hides = level >= _UNMARKED_FROM and chance.random() < _UNMARKED_SHARE
    return WallToWire(circuits, lacks, _unmarked(chance, circuits) if hides else frozenset())


def _short(
    book: Rulebook, chance: Random, bare: Circuit, wired: Circuit, school: School
) -> tuple[Circuit, tuple[str, ...]]:
    """Return a circuit planned again where one of its cables of three cores has two, and the legs that it lacks so."""
    able = [leg for leg in wired.legs if BOARD not in (leg.a, leg.b) and len(wired.cable_of(leg).live_cores) > 2]
    # What is missing is pulled as one cable that holds all, so that line and neutral part in none: then no way may
    # be so full that no cable does.
    beside = len({frozenset((leg.a, leg.b)) for leg in wired.legs}) < len(wired.legs)
    if not able or beside or bare.scheme is None:
        return wired, ()
    thin = chance.choice(able)
    old: Colours = "uk-before-2004" if book.id == "bs7671" and chance.random() < 0.5 else school.colours
    two = wired.cable.model_copy(update={"colours": old})
    # What lies there was laid in one go: all of it in the old colours, or none.
    legs = tuple(
        leg.model_copy(update={"state": "as-found", "cable": two if leg == thin else _in(wired, leg, old)})
        for leg in wired.legs
    )
    scheme = bare.scheme.model_copy(update={"wishes": bare.scheme.wishes.model_copy(update={"one_cable": True})})
    again = planned(book, bare.model_copy(update={"legs": legs, "scheme": scheme}))
    lacking = tuple(leg.id for leg in again.legs if leg.state == "new")
    # Whoever wires it sleeves every end, of the old cables too.
    ours = tuple(leg.model_copy(update={"state": "new"}) for leg in again.legs)
    return sleeved(book, again.model_copy(update={"legs": ours})), lacking


def _in(circuit: Circuit, leg: Leg, colours: Colours) -> Cable:
    return circuit.cable_of(leg).model_copy(update={"colours": colours})


def _unmarked(chance: Random, circuits: Mapping[int, Circuit]) -> frozenset[str]:
    """Return a box that two cables or more come into."""
    ends = Counter(
        end for circuit in circuits.values() for leg in circuit.legs for end in (leg.a, leg.b) if end != BOARD
    )
    several = sorted(place for place, many in ends.items() if many > 1)
    return frozenset(chance.sample(several, 1)) if several else frozenset()
