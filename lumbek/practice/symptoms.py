"""What a customer says of a circuit with something wrong in it, read off the simulated house in service.

A person says what dies, trips, flickers or gets warm, and nothing of conductors; what nobody notices, the last test
report noticed.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from lumbek.simulated.house import Installed

# Below this between live conductors a breaker opens at once; below this to earth an RCD does (230 V over 15 mA).
_TRIPS_OHM, _LEAKS_MOHM = 5.0, 230 / 0.015 / 1e6
# So much in series with a load is seen as a flicker, and felt as warmth.
_WARM_OHM = 0.6


def heard(inst: Installed, clean: Installed, points: Mapping[str, str]) -> str:
    """Return what the customer says; `points` are what the places are called."""
    dead = _dead(inst, points)
    said = (
        [_sentence(f"{_names([points[each] for each in dead])} give{'s' if len(dead) == 1 else ''} nothing.")]
        if dead
        else []
    )
    ends = _between(inst, "L", "N", "ohms")
    if ends < _TRIPS_OHM < _between(clean, "L", "N", "ohms"):
        said.append("The breaker goes with a bang as soon as it is switched on.")
    elif min(_between(inst, "L", "E", "insulation"), _between(inst, "N", "E", "insulation")) < _LEAKS_MOHM:
        said.append("The RCD trips, with everything we could find unplugged.")
    warm = [point for point in points if point not in dead and _is_warm(inst, clean, point)]
    if warm:
        said.append(f"The lamp at {_names([points[each] for each in warm[:3]])} flickers when the heater is on.")
    return " ".join(said) or "Nothing that we noticed. The last report says the readings did not add up."


def _loop(inst: Installed, point: str) -> float:
    """Return line to the point and neutral back, in Ω, by every way there is."""
    both = [inst.read({"function": "ohms", "probes": [["board", core], [point, core]]}) for core in "LN"]
    return sum(both)


def _dead(inst: Installed, points: Iterable[str]) -> list[str]:
    return [point for point in points if math.isinf(_loop(inst, point))]


def _is_warm(inst: Installed, clean: Installed, point: str) -> bool:
    return _loop(inst, point) > _loop(clean, point) + _WARM_OHM


def _between(inst: Installed, one: str, other: str, function: str) -> float:
    how: dict[str, Any] = {"function": function, "probes": [["board", one], ["board", other]]}
    return inst.read(how)


def _names(names: Sequence[str]) -> str:
    if len(names) > 4:
        return f"{names[0]} to {names[-1]}"
    return " and ".join((", ".join(names[:-1]), names[-1])) if len(names) > 1 else names[0]


def _sentence(words: str) -> str:
    return words[:1].upper() + words[1:]
