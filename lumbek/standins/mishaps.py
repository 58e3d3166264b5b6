"""What goes wrong in houses: one thing done to an installed circuit, drawn from a seeded source of chance.

Like `installed` it shares nothing with what looks for faults: it says in its own words what it did, and where.
"""

import math
import random
from typing import Any, NamedTuple

from lumbek.standins.installed import Installed


class Mishap(NamedTuple):
    """What was done: the kind, the cable, the point or points, the cores, and a size where there is one."""

    kind: str
    leg: str = ""
    points: tuple[str, ...] = ()
    cores: str = ""
    mm2: float = 0.0


EVERYWHERE = (
    "cut core", "loose screw", "core left out", "cut cable", "accessory reversed", "cores crossed", "nail",
    "wet box", "worn contact", "left plugged in", "leaking load", "neutrals mixed", "wrong drum", "metal touching",
)  # fmt: skip
IN_RINGS = ("rings mixed up", "cross cable", "left off the ring")
_PAIRS = ("LN", "LE", "NE")
# What a smaller or larger drum holds, by the size that was meant.
_OTHER_DRUM = {2.5: (1.0, 1.5), 1.5: (1.0, 2.5), 1.0: (1.5, 2.5)}
_CPC = {2.5: 1.5, 1.5: 1.0, 1.0: 1.0}


def size(chance: random.Random, least: float, most: float) -> float:
    """Return a size in Ω, all decades as likely."""
    return math.exp(chance.uniform(math.log(least), math.log(most)))


def something_goes_wrong(inst: Installed, kind: str) -> Mishap:
    """Do one thing of this kind to a circuit somewhere; return what."""
    chance, circuit = inst.chance, inst.circuit
    legs, points = circuit["legs"], circuit["points"]
    leg, pair, core, point = chance.choice(legs), chance.choice(_PAIRS), chance.choice("LNE"), chance.choice(points)
    name, ends = leg["id"], (leg["a"], leg["b"])
    if kind == "cut core":
        inst.breaks(name, core)
        return Mishap(kind, name, cores=core)
    if kind == "loose screw":
        inst.loosens((name, core, chance.choice(ends)), size(chance, 0.3, 50))
        return Mishap(kind, name, cores=core)
    if kind == "core left out":
        inst.leaves_out((name, core, chance.choice(ends)))
        return Mishap(kind, name, cores=core)
    if kind == "cut cable":
        cores = chance.choice(("LNE", *_PAIRS))
        inst.breaks(name, cores)
        return Mishap(kind, name, cores=cores)
    if kind == "accessory reversed":
        inst.changes_places(point, pair[0], pair[1])
        return Mishap(kind, points=(point,), cores=pair)
    if kind == "cores crossed":
        inst.changes_places(chance.choice([end for end in ends if end != "board"]), pair[0], pair[1], legs=(name,))
        return Mishap(kind, name, cores=pair)
    if kind == "nail":
        inst.nails(name, pair[0], pair[1], size(chance, 0.1, 5e5))
        return Mishap(kind, name, cores=pair)
    if kind == "wet box":
        inst.bridges((point, pair[0]), (point, pair[1]), size(chance, 0.1, 5e5))
        return Mishap(kind, points=(point,), cores=pair)
    if kind == "worn contact":
        inst.wears_out(point, core, size(chance, 0.3, 1e4))
        return Mishap(kind, points=(point,), cores=core)
    if kind == "left plugged in":
        inst.leaves_in(point, "L", "N", size(chance, 30, 1500))
        return Mishap(kind, points=(point,), cores="LN")
    if kind == "leaking load":
        live = chance.choice("LN")
        inst.leaves_in(point, live, "E", size(chance, 1, 5e5))
        return Mishap(kind, points=(point,), cores=f"{live}E")
    if kind == "neutrals mixed":
        # By the other circuit's neutral to the bar, and from there to earth where the two are one.
        inst.mixes(point, size(chance, 0.05, 2))
        return Mishap(kind, points=(point,), cores="NE")
    if kind == "wrong drum":
        mm2 = chance.choice(_OTHER_DRUM[leg["line_mm2"]])
        inst.uses(name, mm2, _CPC[mm2])
        return Mishap(kind, name, mm2=mm2)
    return _between_points(inst, kind, circuit, chance)


def _between_points(inst: Installed, kind: str, circuit: dict[str, Any], chance: random.Random) -> Mishap:
    points, legs, ring = circuit["points"], circuit["legs"], circuit["ring"]
    if kind == "metal touching" and not ring:
        point = chance.choice(points)
        inst.bridges(("board", "E"), (point, "E"), size(chance, 0.005, 0.3))
        return Mishap(kind, points=("board", point))
    if kind == "metal touching":
        at = chance.randrange(len(points) - 3)
        pair = (points[at], points[min(len(points) - 1, at + chance.randint(2, 4))])
        inst.bridges((pair[0], "E"), (pair[1], "E"), size(chance, 0.005, 0.3))
        return Mishap(kind, points=pair)
    if kind == "rings mixed up":
        inst.takes_away(chance.choice(ring))
        return Mishap(kind)
    if kind == "cross cable":
        one = chance.randrange(len(points) - 2)
        other = chance.randrange(one + 2, len(points))
        inst.lays(points[one], points[other], chance.uniform(2, 9), legs[0]["id"])
        return Mishap(kind, points=(points[one], points[other]))
    assert kind == "left off the ring"
    at = chance.randrange(1, len(points) - 1)
    inst.moves_end(legs[at + 1]["id"], points[at], points[at - 1])
    return Mishap(kind, points=(points[at - 1], points[at]))
