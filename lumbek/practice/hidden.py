"""A circuit with something wrong: as it is drawn, as the simulator has it, and what the finder calls what is wrong.

The simulated house shares nothing with the core; here the two meet, for exercises and for the trials of the finder.
"""

import copy
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations
from random import Random
from typing import Any, NamedTuple

from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.instruction import instruction
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Point
from lumbek.core.rulebooks import Rulebook
from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import Mishap, something_goes_wrong

CPC = {2.5: 1.5, 1.5: 1.0, 1.0: 1.0}
# A circuit of one's own has no more places than this.
_MOST_OF_ONES_OWN = 40
# So often something is done anew until it shows.
_MOST_DRAWN = 200


def draw(
    chance: Random, points: tuple[int, int] = (8, 30), shapes: tuple[str, ...] = ("ring", "radial")
) -> tuple[Circuit, dict[str, Any], str]:
    """Return a circuit as drawn, and as the simulator knows it."""
    shape, count = chance.choice(shapes), chance.randint(*points)
    mm2 = 2.5 if shape == "ring" else chance.choice((1.0, 1.5, 2.5))
    names = [f"p{at}" for at in range(1, count + 1)]
    stops = ["board", *names, *(["board"] if shape == "ring" else [])]
    metres = [round(chance.uniform(2, 9), 1) for _ in stops[1:]]
    legs = [
        {"id": f"L{at}", "a": a, "b": b, "length_m": m, "line_mm2": mm2, "cpc_mm2": CPC[mm2]}
        for at, (a, b, m) in enumerate(zip(stops, stops[1:], metres, strict=False), start=1)
    ]
    circuit = Circuit(
        cable=Cable(csa_mm2=mm2),
        points=tuple(Point(id=each, kind="socket-twin") for each in names),
        legs=tuple(Leg(id=x["id"], a=x["a"], b=x["b"], segments=(Segment(length_m=x["length_m"]),)) for x in legs),
    )
    ring = [legs[0]["id"], legs[-1]["id"]] if shape == "ring" else None
    return circuit, {"ring": ring, "points": names, "legs": legs}, shape


def with_names(drawn: Circuit) -> Circuit:
    """Return a circuit that was drawn, its points called as people call them."""
    points = tuple(point.model_copy(update={"name": f"socket {point.id[1:]}"}) for point in drawn.points)
    return drawn.model_copy(update={"points": points})


def document_of(book: Rulebook, circuit: Circuit) -> dict[str, Any]:
    """Return a circuit as the simulator has it. Raises ValueError for one that it cannot have."""
    if not 1 <= len(circuit.points) <= _MOST_OF_ONES_OWN:
        raise ValueError(f"it has {len(circuit.points)} places, and 1 to {_MOST_OF_ONES_OWN} can be practised on")
    wired = [point for point in circuit.points if point.joins or point.contacts]
    if wired:
        raise ValueError(f"{circuit.point_title(wired[0].id)} is wired otherwise than plainly")
    legs = []
    for leg in circuit.legs:
        cable, metres = circuit.cable_of(leg), leg.length_m
        cpc = book.cpc_mm2(cable)
        if metres is None or cpc is None:
            raise ValueError(f"{circuit.leg_title(leg)}: its length and its cpc have to be known")
        legs.append(
            {"id": leg.id, "a": leg.a, "b": leg.b, "length_m": metres, "line_mm2": cable.csa_mm2, "cpc_mm2": cpc}
        )
    at_board = [leg["id"] for leg in legs if "board" in (leg["a"], leg["b"])]
    ring = at_board if len(at_board) == 2 and len(legs) > len(circuit.points) else None
    return {"ring": ring, "points": [point.id for point in circuit.points], "legs": legs}


def suspects_of(mishap: Mishap) -> set[str]:
    """Return what the diagnosis calls a mishap."""
    leg, points, cores = mishap.leg, mishap.points, mishap.cores
    return {
        "cut core": {f"open/{cores}/{leg}"},
        "core left out": {f"open/{cores}/{leg}"},
        "loose screw": {f"loose/{cores}/{leg}"},
        "cut cable": {f"cut/{cores}/{leg}"},
        "accessory reversed": {f"crossed-accessory/{cores}/{points[0]}" if points else ""},
        "cores crossed": {f"crossed-leg/{cores}/{leg}"},
        "nail": {f"insulation-leg/{cores}/{leg}"},
        "wet box": {f"insulation-point/{cores}/{points[0]}" if points else ""},
        "worn contact": {
            f"{kind}/{cores}/{points[0]}" if points else "" for kind in ("loose-accessory", "open-accessory")
        },
        "left plugged in": {f"load-left-in/{cores}/{points[0]}" if points else ""},
        "leaking load": {f"load-fault/{cores}/{points[0]}" if points else ""},
        "neutrals mixed": {f"mixed-neutral/{cores}/{points[0]}" if points else ""},
        "wrong drum": {f"wrong-size/{mishap.mm2:g}/{leg}"},
        "metal touching": {f"parallel-earth/{'/'.join(points)}"},
        "rings mixed up": {"rings-crossed"},
        "cross cable": {f"bridged/{'/'.join(points)}"},
        "left off the ring": {f"not-as-drawn/{'/'.join(points)}/1"},
    }[mishap.kind]


# What is found by looking at one place, whichever of these it was called.
_ALIKE = (frozenset({"open", "loose", "cut"}), frozenset({"open-accessory", "loose-accessory"}))


def is_named_by(suspect: str, mishap: Mishap) -> bool:
    """Whether a name of the diagnosis leads to a mishap: by what it is, or as another at the same end of a core."""
    truth = suspects_of(mishap)
    if suspect in truth:
        return True
    return any(_is_alike(suspect.split("/"), each.split("/")) for each in truth)


def _is_alike(one: Sequence[str], other: Sequence[str]) -> bool:
    if len(one) != 3 or len(other) != 3 or one[2] != other[2] or not set(one[1]) & set(other[1]):
        return False
    return any({one[0], other[0]} <= alike for alike in _ALIKE)


def one_cut(mishaps: Sequence[Mishap]) -> set[str]:
    """Return what the diagnosis calls several cores out of one leg: one cut."""
    out: dict[str, set[str]] = {}
    for each in mishaps:
        if each.kind in ("cut core", "core left out", "cut cable"):
            out.setdefault(each.leg, set()).update(each.cores)
    return {f"cut/{''.join(sorted(cores, key='LNE'.index))}/{leg}" for leg, cores in out.items() if len(cores) > 1}


@dataclass
class Meter:
    """A meter: leads nulled nearly, noise, a display in steps."""

    chance: Random
    offset_ohm: float
    gain: float = 0.0

    def read(self, inst: Installed, test: Test) -> Took:
        """Take a test."""
        value = inst.read(instruction(test))
        if test.insulation:
            shown = value * (1 + self.chance.uniform(-0.03, 0.03))
            return Took(test.id, 999.0, True) if shown > 999 else Took(test.id, round(shown, 2))
        if value > 2000:
            return Took(test.id, 1999.0, True)
        shown = value * (1 + self.gain) + self.offset_ohm + self.chance.gauss(0, 1) * (0.02 * value + 0.02)
        return Took(test.id, max(0.0, round(shown, 2)))


def is_seen(was: Sequence[float], now: Sequence[float]) -> bool:
    """Whether any of the first readings is further off than lengths and meter may be."""
    for a, b in zip(was, now, strict=True):
        if math.isinf(a) != math.isinf(b) or (not math.isinf(a) and abs(a - b) > 0.10 * a + 0.06):
            return True
    return False


def ideal(inst: Installed, tests: Sequence[Test]) -> list[float]:
    """Return what an ideal meter reads; insulation beyond 5 MΩ is as good as any."""
    return [min(each, 5.0) if test.insulation else each for test in tests for each in (inst.read(instruction(test)),)]


def touches(document: dict[str, Any], mishaps: Sequence[Mishap]) -> bool:
    """Whether two mishaps are at one place: a point, a cable, or a cable and an end of it."""
    ends = {leg["id"]: {leg["id"], leg["a"], leg["b"]} - {"board"} for leg in document["legs"]}
    places = [ends.get(each.leg, set()) | set(each.points) for each in mishaps]
    return any(one & other for one, other in combinations(places, 2))


class Faulty(NamedTuple):
    """A circuit with things wrong, the same with each of them by itself and with none, and what they are called.

    `redrawn` is what did not show in the first readings and was done anew.
    """

    inst: Installed
    clean: Installed
    alone: list[Installed]
    mishaps: list[Mishap]
    truth: list[set[str]]
    redrawn: list[str]


def go_wrong(
    chance: Random,
    document: dict[str, Any],
    kinds: Callable[[], Sequence[str]],
    first: Sequence[Test],
    length_off: float = 0.10,
    for_practice: bool = False,
) -> Faulty:
    """Install a circuit and let things go wrong in it so that the first readings show it; `kinds` draws which.

    What does not show is done anew; for practice in the same house, which is read once then, and so is what touches
    each other: two cables crossed at one point are an accessory reversed, and nobody could say which.
    """
    redrawn: list[str] = []
    house: Installed | None = None
    was: list[float] = []
    while True:
        state = chance.getstate()
        if house is None or not for_practice:
            house = Installed(document, chance, length_off)
            was = ideal(house, first)
        inst = copy.deepcopy(house)
        inst.chance = chance
        some, clean, mishaps, alone = kinds(), copy.deepcopy(inst), [], []
        for each in some:
            # What this one would be without the others.
            by_itself = copy.deepcopy(clean)
            by_itself.chance.setstate(chance.getstate())
            something_goes_wrong(by_itself, each)
            alone.append(by_itself)
            mishaps.append(something_goes_wrong(inst, each))
        if not (for_practice and touches(document, mishaps)) and is_seen(was, ideal(inst, first)):
            return Faulty(inst, clean, alone, mishaps, [suspects_of(each) for each in mishaps], redrawn)
        redrawn.append(" + ".join(some))
        if len(redrawn) > _MOST_DRAWN:
            raise ValueError(f"no {redrawn[-1]} shows in a circuit of that size")
        if not for_practice:
            chance.setstate(state)
            chance.random()
