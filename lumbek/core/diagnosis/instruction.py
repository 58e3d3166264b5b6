"""A test as plain data: where the probes go, what is linked, taken out, unplugged. Any meter can follow it."""

from typing import Any

from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.network.wiring import Node


def instruction(test: Test) -> dict[str, Any]:
    """Return how a test is taken, as JSON: a place is [point, terminal], or [leg, core, point] for a core's end."""
    how = test.how
    links = [[_place(a), _place(b)] for a, b in how.setup.links]
    if how.linked is not None:
        links.append([_place(how.linked[0]), _place(how.linked[1])])
    return {
        "function": "insulation" if test.insulation else "ohms",
        "probes": [_place(each) for each in how.probes],
        "links": links,
        "out": sorted([end.leg, end.core, end.point] for end in how.setup.taken_out),
        "unplugged": sorted(test.unplugged),
    }


def _place(at: Node) -> list[str]:
    leg, _, core = at.name.partition(":")
    return [leg, core, at.point] if core else [at.point, at.name]
