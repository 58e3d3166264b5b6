"""How long planning lighting takes beside one bare pass over all states of its switches: python -m bench.switching.

The bare pass joins every core, join and closed contact of the finished wiring in every state, one after another, and
reads every lamp. Nothing is checked by it.
"""

import random
from itertools import product

from bench.run import best, side_by_side
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.scheme import Control, GangAt, Output, Route
from lumbek.core.network.solver import parts_of
from lumbek.core.network.wiring import node
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.switching.mend import mend
from lumbek.core.switching.prove import holds, prove
from lumbek.core.switching.states import States
from lumbek.core.switching.wire import wire
from tests.support.lighting import as_found, chooser, core_in, crossed, light, lit, stair, switch, wired

BOOK = load_rulebook("bs7671")


def house(switches: int, lights: int, places: int, groups: int, seed: int = 7) -> Circuit:
    """Places on a tree, switches and lights scattered over them."""
    chance = random.Random(seed)
    ids = [f"P{index}" for index in range(places)]
    routes = tuple(
        Route(a=ids[chance.randrange(max(0, index - 4), index)], b=ids[index], length_m=chance.randint(1, 9))
        for index in range(1, places)
    )
    boxes, lamps = chance.sample(ids, switches), chance.sample(ids, lights)
    controls = [
        Control(
            id=f"S{group}",
            outputs=tuple(Output(point=each) for each in lamps[group::groups]),
            gangs=tuple(GangAt(point=each) for each in boxes[group::groups]),
        )
        for group in range(groups)
    ]
    points = [light(each) if each in lamps else switch(each) for each in ids]
    return lit("P0", points, controls, routes)


def bare_pass(states: States) -> int:
    """Read every lamp in every state: cores, joins and closed contacts put together anew each time."""
    wiring, index = states.wiring, states.wiring.index
    fixed = [*wiring.merged, *wiring.ends]
    contacts = [
        [[(index[a], index[b]) for a, b in pairs] for pairs in positions] for positions in wiring.contacts.values()
    ]
    lamps = [index[node(lamp.line, lamp.point, lamp.circuit)] for lamp in states.lamps]
    line = index[node("L", BOARD, 3)]
    burning = 0
    for state in product(*(range(len(positions)) for positions in contacts)):
        closed = [pair for positions, at in zip(contacts, state, strict=True) for pair in positions[at]]
        part = parts_of(len(index), [*fixed, *closed])
        burning += sum(part[lamp] == part[line] for lamp in lamps)
    return burning


def planned(circuit: Circuit) -> Circuit:
    found = chooser(circuit)
    chosen = found.best()
    assert chosen is not None
    return wire(BOOK, found, chosen)


def row(switches: int, lights: int, places: int, groups: int) -> None:
    circuit = house(switches, lights, places, groups)
    done = planned(circuit)
    states = States({3: done})
    bare, plan = side_by_side(lambda: bare_pass(states), lambda: planned(circuit), 4)
    proof = best(lambda: holds(BOOK, {3: done}))
    print(
        f"{switches} switches in {groups} controls, {lights} lights, {places} places: bare pass {bare * 1e3:.0f} ms, "
        f"plan {plan * 1e3:.0f} ms, ratio {plan / bare:.1f}; proof {proof / bare:.1f}"
    )


def main() -> None:
    for shape in ((8, 12, 24, 1), (8, 12, 24, 2), (8, 12, 24, 4), (10, 12, 24, 1), (12, 12, 24, 4), (12, 20, 40, 4)):
        row(*shape)
    circuit = as_found(wired(stair("H", "H M T")))
    bad = crossed(circuit, "T", core_in(circuit, "T", "1.COM"), core_in(circuit, "T", "1.L2"))
    mending, proof = best(lambda: mend(BOOK, bad)), best(lambda: prove(BOOK, {3: bad}))
    print(f"two ends put right on a stair of three: {mending * 1e3:.0f} ms, ratio {mending / proof:.0f} to its proof")


if __name__ == "__main__":
    main()
