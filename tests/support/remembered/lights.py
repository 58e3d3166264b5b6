"""What is said of lights: planned, wired, and with two cores taken for each other."""

import random
from collections.abc import Iterator
from typing import get_args

from lumbek.core.model.cable import Colours
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import LightingSchool, Wishes
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.make_off import make_off
from tests.support.houses import BS
from tests.support.lighting import as_found, core_in, crossed, random_scheme, wired
from tests.support.said import in_words


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
            answer = answer_switching(BS, {circuit.number: circuit}, circuit.number)
            yield f"lights {number}, {what}"
            for name in type(answer).model_fields:
                yield f"  {name}: {in_words(getattr(answer, name))}"
            sheet = make_off(BS, circuit)
            for name in type(sheet).model_fields:
                found = getattr(sheet, name)
                for each in found if isinstance(found, tuple) else (found,):
                    yield f"  {name}: {in_words(each)}"


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
