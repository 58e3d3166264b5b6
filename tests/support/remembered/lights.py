"""What is said of lights: planned, wired, and with two cores taken for each other."""

import random
from collections.abc import Iterator

from lumbek.core.switching.answer import answer_switching
from tests.support.houses import BS
from tests.support.lighting import as_found, core_in, crossed, random_scheme, wired
from tests.support.said import in_words


def lighting(part: int) -> Iterator[str]:
    """Yield what is said of lights: planned, wired, and with two cores taken for each other."""
    for number in range(part, part + 4):
        chance = random.Random(number)
        asked = random_scheme(chance)
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
