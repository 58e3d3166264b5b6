"""What goes wrong in houses: one thing done to an installed circuit, drawn from a seeded source of chance.

Like `house` it shares nothing with what looks for faults: it says in its own words what it did, and where.
"""

import math
import random
from collections.abc import Callable
from typing import Any, NamedTuple

from lumbek.simulated.house import Installed


class Mishap(NamedTuple):
    """What was done: the kind, the cable, the point or points, the cores, and a size where there is one."""

    kind: str
    leg: str = ""
    points: tuple[str, ...] = ()
    cores: str = ""
    mm2: float = 0.0


_PAIRS = ("LN", "LE", "NE")
# What a smaller or larger drum holds, by the size that was meant.
_OTHER_DRUM = {2.5: (1.0, 1.5), 1.5: (1.0, 2.5), 1.0: (1.5, 2.5)}
_CPC = {2.5: 1.5, 1.5: 1.0, 1.0: 1.0}


def size(chance: random.Random, least: float, most: float) -> float:
    """Return a size in Ω, all decades as likely."""
    return math.exp(chance.uniform(math.log(least), math.log(most)))


class _At(NamedTuple):
    """Where something may be done: a leg with its ends, a point, two cores, one core; all drawn anew each time."""

    inst: Installed
    leg: dict[str, Any]
    pair: str
    core: str
    point: str

    @property
    def chance(self) -> random.Random:
        return self.inst.chance

    @property
    def name(self) -> str:
        return str(self.leg["id"])

    @property
    def ends(self) -> tuple[str, str]:
        return self.leg["a"], self.leg["b"]


def _cut_core(at: _At) -> Mishap:
    at.inst.breaks(at.name, at.core)
    return Mishap("cut core", at.name, cores=at.core)


def _loose_screw(at: _At) -> Mishap:
    at.inst.loosens((at.name, at.core, at.chance.choice(at.ends)), size(at.chance, 0.3, 50))
    return Mishap("loose screw", at.name, cores=at.core)


def _core_left_out(at: _At) -> Mishap:
    at.inst.leaves_out((at.name, at.core, at.chance.choice(at.ends)))
    return Mishap("core left out", at.name, cores=at.core)


def _cut_cable(at: _At) -> Mishap:
    cores = at.chance.choice(("LNE", *_PAIRS))
    at.inst.breaks(at.name, cores)
    return Mishap("cut cable", at.name, cores=cores)


def _accessory_reversed(at: _At) -> Mishap:
    at.inst.changes_places(at.point, at.pair[0], at.pair[1])
    return Mishap("accessory reversed", points=(at.point,), cores=at.pair)


def _cores_crossed(at: _At) -> Mishap:
    point = at.chance.choice([end for end in at.ends if end != "board"])
    at.inst.changes_places(point, at.pair[0], at.pair[1], legs=(at.name,))
    return Mishap("cores crossed", at.name, cores=at.pair)


def _nail(at: _At) -> Mishap:
    at.inst.nails(at.name, at.pair[0], at.pair[1], size(at.chance, 0.1, 5e5))
    return Mishap("nail", at.name, cores=at.pair)


def _wet_box(at: _At) -> Mishap:
    at.inst.bridges((at.point, at.pair[0]), (at.point, at.pair[1]), size(at.chance, 0.1, 5e5))
    return Mishap("wet box", points=(at.point,), cores=at.pair)


def _worn_contact(at: _At) -> Mishap:
    at.inst.wears_out(at.point, at.core, size(at.chance, 0.3, 1e4))
    return Mishap("worn contact", points=(at.point,), cores=at.core)


def _left_plugged_in(at: _At) -> Mishap:
    at.inst.leaves_in(at.point, "L", "N", size(at.chance, 30, 1500))
    return Mishap("left plugged in", points=(at.point,), cores="LN")


def _leaking_load(at: _At) -> Mishap:
    live = at.chance.choice("LN")
    at.inst.leaves_in(at.point, live, "E", size(at.chance, 1, 5e5))
    return Mishap("leaking load", points=(at.point,), cores=f"{live}E")


def _neutrals_mixed(at: _At) -> Mishap:
    # By the other circuit's neutral to the bar, and from there to earth where the two are one.
    at.inst.mixes(at.point, size(at.chance, 0.05, 2))
    return Mishap("neutrals mixed", points=(at.point,), cores="NE")


def _wrong_drum(at: _At) -> Mishap:
    mm2 = at.chance.choice(_OTHER_DRUM[at.leg["line_mm2"]])
    at.inst.uses(at.name, mm2, _CPC[mm2])
    return Mishap("wrong drum", at.name, mm2=mm2)


def _metal_touching(at: _At) -> Mishap:
    points = at.inst.circuit["points"]
    if at.inst.circuit["ring"]:
        first = at.chance.randrange(len(points) - 3)
        pair = (points[first], points[min(len(points) - 1, first + at.chance.randint(2, 4))])
    else:
        pair = ("board", at.chance.choice(points))
    at.inst.bridges((pair[0], "E"), (pair[1], "E"), size(at.chance, 0.005, 0.3))
    return Mishap("metal touching", points=pair)


def _rings_mixed_up(at: _At) -> Mishap:
    at.inst.takes_away(at.chance.choice(at.inst.circuit["ring"]))
    return Mishap("rings mixed up")


def _cross_cable(at: _At) -> Mishap:
    points, legs = at.inst.circuit["points"], at.inst.circuit["legs"]
    one = at.chance.randrange(len(points) - 2)
    other = at.chance.randrange(one + 2, len(points))
    at.inst.lays(points[one], points[other], at.chance.uniform(2, 9), legs[0]["id"])
    return Mishap("cross cable", points=(points[one], points[other]))


def _left_off_the_ring(at: _At) -> Mishap:
    points, legs = at.inst.circuit["points"], at.inst.circuit["legs"]
    where = at.chance.randrange(1, len(points) - 1)
    at.inst.moves_end(legs[where + 1]["id"], points[where], points[where - 1])
    return Mishap("left off the ring", points=(points[where - 1], points[where]))


_ANYWHERE: dict[str, Callable[[_At], Mishap]] = {
    "cut core": _cut_core,
    "loose screw": _loose_screw,
    "core left out": _core_left_out,
    "cut cable": _cut_cable,
    "accessory reversed": _accessory_reversed,
    "cores crossed": _cores_crossed,
    "nail": _nail,
    "wet box": _wet_box,
    "worn contact": _worn_contact,
    "left plugged in": _left_plugged_in,
    "leaking load": _leaking_load,
    "neutrals mixed": _neutrals_mixed,
    "wrong drum": _wrong_drum,
    "metal touching": _metal_touching,
}
_ON_A_RING: dict[str, Callable[[_At], Mishap]] = {
    "rings mixed up": _rings_mixed_up,
    "cross cable": _cross_cable,
    "left off the ring": _left_off_the_ring,
}
EVERYWHERE, IN_RINGS = tuple(_ANYWHERE), tuple(_ON_A_RING)


def something_goes_wrong(inst: Installed, kind: str) -> Mishap:
    """Do one thing of this kind to a circuit somewhere; return what."""
    chance, circuit = inst.chance, inst.circuit
    leg, pair = chance.choice(circuit["legs"]), chance.choice(_PAIRS)
    core, point = chance.choice("LNE"), chance.choice(circuit["points"])
    return {**_ANYWHERE, **_ON_A_RING}[kind](_At(inst, leg, pair, core, point))
