"""How long legs that nobody has drawn are taken to be before faults are looked for: by what was read, else as usual.

The least that any reading allows is taken: a bad joint in one conductor then stays visible beside the others.
"""

from collections.abc import Mapping

from lumbek.core.model.leg import BOARD
from lumbek.core.study.study import Study

# How long a leg is taken to be where nothing says more, and the least that one is.
_USUAL_M = 6.0
_LEAST_M = 0.5


def guessed_m(study: Study, vague: frozenset[str]) -> Mapping[str, float]:
    """Return a length in m for each of these legs."""
    known = [leg.length_m for leg in study.circuit.legs if leg.length_m is not None]
    usual = sum(known) / len(known) if known else _USUAL_M
    found = {**dict.fromkeys(vague, usual), **_round(study, vague)}
    for chain in study.shape.walk:
        if chain.steps[0].leg not in study.shape.ring_legs:
            found |= _along(study, chain.start, [(step.leg, step.point) for step in chain.steps], vague)
    return found


def _ohm_per_m(study: Study, leg: str, *cores: str) -> float:
    cable = study.circuit.cable_of(study.legs[leg])
    return sum(study.rulebook.milliohm_per_m(cable, core) or 0.0 for core in cores) / 1000


def _factor(study: Study) -> float:
    return study.rulebook.temperature_factor(study.evidence.read.ambient_c)


def _round(study: Study, vague: frozenset[str]) -> dict[str, float]:
    """Return the lengths round a ring: what the known legs leave of the whole, shared evenly."""
    ring = [leg for leg in study.shape.ring_legs if leg in vague]
    whole = _whole_m(study) if ring else None
    if whole is None:
        return {}
    drawn = sum(study.legs[leg].length_m or 0.0 for leg in study.shape.ring_legs)
    return dict.fromkeys(ring, max(_LEAST_M, (whole - drawn) / len(ring)))


def _whole_m(study: Study) -> float | None:
    """Return the length of a ring in m, by the conductor that says least."""
    leg, read = study.shape.ring_legs[0], study.evidence.read
    each = [
        (ohm / per_m)
        for ohm, per_m in (
            (read.value("r1"), _ohm_per_m(study, leg, "L")),
            (read.value("rn"), _ohm_per_m(study, leg, "N")),
            (read.value("r2"), _ohm_per_m(study, leg, "E")),
        )
        if ohm is not None and per_m
    ]
    return min(each) / _factor(study) if each else None


def _along(study: Study, start: str, steps: list[tuple[str, str]], vague: frozenset[str]) -> dict[str, float]:
    """Return the lengths along a run, by how far its points are: shared by the legs between two that were read."""
    found: dict[str, float] = {}
    before, between = (0.0 if start == BOARD else _far_m(study, start, steps[0][0])), list[str]()
    for leg, point in steps:
        between.append(leg)
        here = _far_m(study, point, leg)
        if here is None:
            continue
        silent = [each for each in between if each in vague]
        if before is not None and silent:
            drawn = sum(study.legs[each].length_m or 0.0 for each in between)
            found |= dict.fromkeys(silent, max(_LEAST_M, (here - before - drawn) / len(silent)))
        before, between = here, []
    return found


def _far_m(study: Study, point: str, leg: str) -> float | None:
    """Return how far a point is from the board by the conductors, m; None where nothing was read there."""
    read, factor = study.evidence.read, _factor(study)
    loop, live = _ohm_per_m(study, leg, "L", "E"), _ohm_per_m(study, leg, "L", "N")
    each = [
        ohm / factor / per_m
        for ohm, per_m in (
            (read.value("r1+r2", point), loop),
            (read.value("cross-le", point), loop),
            (read.value("r1+rn", point), live),
            (read.value("cross-ln", point), live),
        )
        if ohm is not None and per_m
    ]
    zs, ze = read.value("zs", point), study.ahead.cold_ze_ohm
    if zs is not None and ze is not None and loop and zs > ze:
        each.append((zs - ze) / factor / loop)
    return min(each, default=None)
