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

    def label(part: int) -> object:
        for kind in ("L", "N", "E"):
            if bool(states.joined(cluster, part, kind)[state if cluster is not None else 0]):
                return kind if kind != "E" else "N"
        return part if cluster is None else ("part", _together(states, cluster, state, part))

    network: Network[object] = Network()
    across: dict[Lamp, tuple[object, object]] = {}
    for lamp in states.lamps:
        a, b = states.ends(lamp)
        if a is None or b is None:
            continue
        one, other = label(a), label(b)
        if one != other:
            across[lamp] = one, other
            network.join(one, other, 1.0)
    if not across:
        return {}
    network.node("L")
    network.node("N")
    solved = network.solve()
    if not solved.joined("L", "N"):
        return {}
    volts = solved.potentials_v({"L": 1.0, "N": -1.0})
    whole = abs(solved.potential_of(volts, "L") - solved.potential_of(volts, "N"))
    found = {}
    for lamp, (one, other) in across.items():
        if solved.joined(one, "L"):
            part = abs(solved.potential_of(volts, one) - solved.potential_of(volts, other)) / whole
            if _DARK <= part <= _FULL:
                found[lamp] = part
    return found


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
