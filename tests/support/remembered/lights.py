"""What is said of lights: planned, wired, and with two cores taken for each other."""

import random
from collections.abc import Iterator
from typing import get_args

from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.cable import Colours
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import LightingSchool, Wishes
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.make_off import make_off
from tests.support.houses import BS
from tests.support.lighting import as_found, core_in, crossed, random_scheme, stair, wired
from tests.support.lit_rooms import YARDS, alarms, bath, cores_moved, kiln_room, porch, yard
from tests.support.said import field_lines, in_words


def lighting(part: int) -> Iterator[str]:
    """Yield what is said of lights: planned, wired, and with two cores taken for each other."""
    for number in range(part, part + 4):
        chance = random.Random(number)
        asked = _varied(random_scheme(chance), chance)
        made = wired(asked)
        place = chance.choice([point for point in made.points if point.joins])
        terminals = [join.terminals[0] for join in place.joins if join.terminals]
        one, other = (core_in(made, place.id, each) for each in chance.sample([*terminals, terminals[0]], 2))
        wrong = as_found(crossed(made, place.id, one, other))
        for what, circuit in (("planned", asked), ("wired", made), (f"crossed at {place.id}", wrong)):
            yield f"lights {number}, {what}"
            yield from field_lines("  ", answer_switching(BS, {circuit.number: circuit}, circuit.number))
            yield from field_lines("  ", make_off(BS, circuit), apart=True)


def rooms() -> Iterator[str]:
    """Yield what is said of lit rooms: as they are meant, with other things in them, with cores in other terminals."""
    built = {"bath": bath(), "porch": porch(), "alarms": alarms(), "kiln room": kiln_room(), "stair": wired(stair())}
    built |= {name: wired(yard(which)) for name, which in YARDS.items()}
    for name, room in built.items():
        for number in range(7):
            chance = random.Random(number)
            other = as_found(room) if number else room
            if number > 3:
                other = _furnished(other, chance)
            if number:
                other = cores_moved(other, chance, 1 + number % 2)[0]
            answer = answer_switching(BS, {other.number: other}, other.number)
            yield f"{name}, {number}: {answer.proof.verdict}"
            for each in (*answer.proof.checks, *answer.proof.hazards, answer.mended, answer.next_test):
                yield f"  {in_words(each)}"


def _furnished(circuit: Circuit, chance: random.Random) -> Circuit:
    """Put dimmers in and plates of metal, and say of loads what their makers do."""

    def accessory(each: Accessory) -> Accessory:
        kind = {"one-way": "dimmer", "two-way": "dimmer-two-way"}.get(each.kind)
        if kind is None or chance.random() < 0.5:
            return each
        dims = {"least_w": chance.choice([None, 5, 40]), "most_w": chance.choice([None, 8, 100]), "dims_by": "trailing"}
        return Accessory.model_validate({**each.model_dump(), "kind": kind, **dims})

    def point(each: Point) -> Point:
        dimmed = chance.choice([None, "none", "leading", "either"])
        loads = tuple(load.model_copy(update={"dimmed_by": dimmed, "inrush_a": 60.0}) for load in each.loads)
        plate = Plate(metal=chance.choice([None, True, False]), grid=chance.random() < 0.2)
        said = {"loads": loads, "plate": plate, "class_ii": chance.choice([None, True, False])}
        return each.model_copy(update={**said, "accessories": tuple(map(accessory, each.accessories))})

    changed = circuit.model_copy(update={"points": tuple(map(point, circuit.points))})
    return Circuit.model_validate(changed.model_dump())


def _varied(circuit: Circuit, chance: random.Random) -> Circuit:
    """Ask for it in another school, in other colours, now and then without a name."""
    scheme = circuit.scheme
    assert scheme is not None, "it is a scheme"
    first, *others = scheme.controls
    wishes = Wishes(
        school=chance.choice(get_args(LightingSchool)[:3]),
        colours=chance.choice(get_args(Colours)),
        neutral_at_switches=chance.random() < 0.3,
        spare_core=chance.random() < 0.2,
    )
    first = first.model_copy(update={"name": chance.choice([first.name, ""])})
    return circuit.model_copy(
        update={"scheme": scheme.model_copy(update={"wishes": wishes, "controls": (first, *others)})}
    )
