"""Lamps that burn dimly: in series through each other, because something between them is open."""

import numpy as np

from lumbek.core.network.solver import Network
from lumbek.core.switching.states import Bits, Cluster, Lamp, States

# A lamp with less than this part of the voltage across it is dark.
_DARK = 0.1
_FULL = 0.95


def glows(states: States, lamp: Lamp) -> Bits:
    """Return in which states of its cluster a lamp burns dimly, in series with others."""
    cluster, lit = states.lit(lamp)
    if cluster is None:
        return np.array([lamp in glowing(states, None, 0)])
    return np.array([not on and lamp in glowing(states, cluster, state) for state, on in enumerate(lit)])


def glowing(states: States, cluster: Cluster | None, state: int) -> dict[Lamp, float]:
    """Return the lamps that have part of the voltage across them in a state, each with that part.

    Every lamp is taken for a resistance of the same Ω: which of them glow does not depend on that (Ohm's law).
    """
    across = _across(states, cluster, state)
    if not across:
        return {}
    network: Network[object] = Network()
    for one, other in across.values():
        network.join(one, other, 1.0)
    network.node("L")
    network.node("N")
    solved = network.solve()
    if not solved.joined("L", "N"):
        return {}
    volts = solved.potentials_v({"L": 1.0, "N": -1.0})

    def between(one: object, other: object) -> float:
        return abs(solved.potential_of(volts, one) - solved.potential_of(volts, other))

    whole = between("L", "N")
    parts = {lamp: between(*ends) / whole for lamp, ends in across.items() if solved.joined(ends[0], "L")}
    return {lamp: part for lamp, part in parts.items() if _DARK <= part <= _FULL}


def _across(states: States, cluster: Cluster | None, state: int) -> dict[Lamp, tuple[object, object]]:
    """Return the lamps that lie between two conductors in a state, each with what these hang together with."""

    def label(part: int) -> object:
        for kind in ("L", "N", "E"):
            if bool(states.joined(cluster, part, kind)[state if cluster is not None else 0]):
                return kind if kind != "E" else "N"
        return part if cluster is None else ("part", _together(states, cluster, state, part))

    ends = {lamp: states.ends(lamp) for lamp in states.lamps}
    labels = {lamp: (label(a), label(b)) for lamp, (a, b) in ends.items() if a is not None and b is not None}
    return {lamp: (one, other) for lamp, (one, other) in labels.items() if one != other}


def _together(states: States, cluster: Cluster, state: int, part: int) -> int:
    """Return the least part that closed contacts join with this one in a state."""
    stands = states.stand(cluster, state)
    seen, queue = {part}, [part]
    for here in queue:
        for edge in states.copper.edges:
            if here in (edge.a, edge.b) and stands.get(edge.switch) == edge.position:
                there = edge.b if edge.a == here else edge.a
                if there not in seen:
                    seen.add(there)
                    queue.append(there)
    return min(seen)
