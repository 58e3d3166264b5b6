"""A house circuit as it was really installed: its true lengths, its joints, what is wrong with it; and ideal readings.

It knows nothing of the application and shares no code, no figure and no list of faults with it. A circuit is a plain
document:

    {"ring": ["L1", "L21"] or null,
     "points": ["p1", ...],
     "legs": [{"id": "L1", "a": "board", "b": "p1", "length_m": 4.2, "line_mm2": 2.5, "cpc_mm2": 1.5}, ...]}

Every core of every leg is a wire with a joint at each end; what is wrong is done to the wires as it is done in a house:
a screw left loose, a core put into the next terminal, a nail through a cable. A reading says where the probes are, what
is linked, taken out, unplugged:

    {"function": "ohms" or "insulation", "probes": [place, place], "links": [[place, place], ...],
     "out": [["L1", "L", "board"], ...], "unplugged": ["p3"]}

and a place is ["p3", "L"], a terminal, or ["L1", "L", "board"], the end of a core.
"""

import math
import random
from itertools import combinations
from typing import Any

# Ω per metre of annealed copper at 20 °C by its size in mm²: 17.241 nΩ m, and what strand and lay add.
_OHM_PER_M = {
    **{0.5: 0.0360, 0.75: 0.0245, 1.0: 0.0181, 1.5: 0.0121, 2.5: 0.00741, 4.0: 0.00461},
    **{6.0: 0.00308, 10.0: 0.00183, 16.0: 0.00115, 25.0: 0.000727, 35.0: 0.000524},
}
# Above this no low-ohm meter sees a path.
_NO_PATH_OHM = 1e7
Place = tuple[str, ...]
Wire = tuple[Place, Place, float]


def ohm_per_m(mm2: float) -> float:
    """Return the resistance of a metre of copper; of a size that is not listed by its area."""
    return _OHM_PER_M.get(mm2, 0.0181 / mm2)


class Installed:
    """One circuit with everything that is true of it, drawn from a seeded source of chance."""

    def __init__(
        self,
        circuit: dict[str, Any],
        chance: random.Random,
        length_off: float = 0.10,
        joints: tuple[float, float] = (0.001, 0.005),
    ) -> None:
        """Install a circuit: lengths off by up to `length_off`, joints between `joints` Ω."""
        self.circuit, self.chance = circuit, chance
        self.ends: dict[Place, Place] = {}
        self.wires: dict[tuple[str, str], float] = {}
        self.joint: dict[Place, float] = {}
        self.extra: list[Wire] = []
        # What is bridged through a load, by point.
        self.loads: list[tuple[str, Place, Place, float]] = []
        for leg in circuit["legs"]:
            metres = leg["length_m"] * (1 + chance.uniform(-length_off, length_off))
            for core in "LNE":
                size = leg["cpc_mm2"] if core == "E" else leg["line_mm2"]
                self.wires[leg["id"], core] = metres * ohm_per_m(size)
                for point in (leg["a"], leg["b"]):
                    end = (leg["id"], core, point)
                    self.ends[end], self.joint[end] = (point, core), chance.uniform(*joints)
        # Sound insulation: of each pair of conductors in each metre some gigohms.
        self.sound_mohm = {pair: 10 ** chance.uniform(2.3, 3.6) for pair in ("LN", "LE", "NE")}

    # What a reading is

    def read(self, how: dict[str, Any]) -> float:
        """Return what an ideal meter reads: Ω, or MΩ for insulation; infinite where there is no way."""
        out = {tuple(end) for end in how.get("out", ())}
        unplugged = set(how.get("unplugged", ()))
        wires: list[Wire] = []
        for (leg, core), ohm in self.wires.items():
            ends = [end for end in self.ends if end[0] == leg and end[1] == core]
            wires.append((("in", *ends[0]), ("in", *ends[1]), max(ohm, 1e-6)))
            for end in ends:
                if end not in out:
                    wires.append((("in", *end), self.ends[end], self.joint[end]))
        wires += self.extra
        wires += [(a, b, ohm) for point, a, b, ohm in self.loads if point not in unplugged]
        wires += [(self._place(a), self._place(b), 1e-6) for a, b in how.get("links", ())]
        one, other = (self._place(each) for each in how["probes"])
        ohm = resistance(wires, one, other)
        if how["function"] == "insulation":
            sound = self.sound_mohm["LN" if "E" not in (how["probes"][0][1], how["probes"][1][1]) else "LE"]
            mohm = ohm / 1e6
            return 1 / (1 / mohm + 1 / sound) if mohm > 0 else 0.0
        return math.inf if ohm > _NO_PATH_OHM else ohm

    def _place(self, place: list[str] | Place) -> Place:
        """Return the node of a place: a terminal of a point, or the bare end of a core."""
        return (place[0], place[1]) if len(place) == 2 else ("in", *place)

    def terminal(self, point: str, core: str) -> Place:
        """Return a terminal."""
        return (point, core)

    # What may be wrong

    def breaks(self, leg: str, cores: str) -> None:
        """Cut cores of a cable through, somewhere along it."""
        for core in cores:
            self.wires[leg, core] = 1e9

    def loosens(self, end: tuple[str, str, str], ohm: float) -> None:
        """Leave a screw loose on one core end."""
        self.joint[end] = ohm

    def leaves_out(self, end: tuple[str, str, str]) -> None:
        """Leave a core out of its terminal, cut short or forgotten."""
        self.joint[end] = 1e9

    def wears_out(self, point: str, core: str, ohm: float) -> None:
        """Let the contact of an accessory wear out: its conductors are joined behind it, and hardly touch it."""
        behind: Place = ("behind", point, core)
        for end, place in self.ends.items():
            if place == (point, core):
                self.ends[end] = behind
        self.extra.append((behind, (point, core), ohm))

    def changes_places(self, point: str, one: str, other: str, legs: tuple[str, ...] = ()) -> None:
        """Put cores into each other's terminals at a point: of all its cables, or of some."""
        swap = {one: other, other: one}
        for end in self.ends:
            if end[2] == point and end[1] in swap and (not legs or end[0] in legs):
                self.ends[end] = (point, swap[end[1]])

    def bridges(self, a: Place, b: Place, ohm: float) -> None:
        """Join two places by something that should not be there."""
        self.extra.append((a, b, ohm))

    def nails(self, leg: str, one: str, other: str, ohm: float) -> None:
        """Drive a nail through two cores of a cable, somewhere between its ends."""
        part = self.chance.uniform(0.05, 0.95)
        hit = []
        for core in (one, other):
            ends = [end for end in self.ends if end[0] == leg and end[1] == core]
            node: Place = ("nail", leg, core)
            # The wire becomes two: its own entry is out of the way, the halves are extra.
            ohms = self.wires[leg, core]
            self.wires[leg, core] = 1e12
            self.extra += [
                (("in", *ends[0]), node, max(1e-6, ohms * part)),
                (node, ("in", *ends[1]), ohms * (1 - part)),
            ]
            hit.append(node)
        self.extra.append((hit[0], hit[1], ohm))

    def leaves_in(self, point: str, one: str, other: str, ohm: float) -> None:
        """Leave something plugged in at a point, or let it leak."""
        self.loads.append((point, (point, one), (point, other), ohm))

    def mixes(self, point: str, ohm: float) -> None:
        """Join the neutral of a point with another circuit's, in the bar unless `.bar` is among what is out."""
        self.loads.append((".bar", (point, "N"), ("board", "E"), ohm))

    def lays(self, a: str, b: str, metres: float, like: str) -> None:
        """Lay another cable from one point to another, like that of a leg."""
        leg = next(each for each in self.circuit["legs"] if each["id"] == like)
        for core in "LNE":
            size = leg["cpc_mm2"] if core == "E" else leg["line_mm2"]
            self.extra.append(((a, core), (b, core), metres * ohm_per_m(size) + 0.006))

    def moves_end(self, leg: str, old: str, new: str) -> None:
        """Bring a cable to another point than was drawn."""
        for end in self.ends:
            if end[0] == leg and end[2] == old:
                self.ends[end] = (new, end[1])

    def uses(self, leg: str, line_mm2: float, cpc_mm2: float) -> None:
        """Lay a leg in another size."""
        drawn = next(each for each in self.circuit["legs"] if each["id"] == leg)
        for core in "LNE":
            was = drawn["cpc_mm2"] if core == "E" else drawn["line_mm2"]
            now = cpc_mm2 if core == "E" else line_mm2
            self.wires[leg, core] *= ohm_per_m(now) / ohm_per_m(was)

    def takes_away(self, leg: str) -> None:
        """Mix a cable's end at the board up with another circuit's: what is there belongs to that one."""
        for end in self.ends:
            if end[0] == leg and end[2] == "board":
                self.wires[leg, end[1]] = 1e9


Net = dict[Place, dict[Place, float]]


def _net(net: Net, wires: list[Wire]) -> Net:
    """Add wires to a net, side by side those between the same places, in S."""
    for a, b, ohm in wires:
        if a == b:
            continue
        siemens = 1 / ohm
        net.setdefault(a, {})[b] = net.setdefault(a, {}).get(b, 0.0) + siemens
        net.setdefault(b, {})[a] = net.setdefault(b, {}).get(a, 0.0) + siemens
    return net


def _take_out(net: Net, gone: Place) -> None:
    """Take a node out of a net: what it joined stays joined as it was through it, star to mesh."""
    around = net.pop(gone)
    total = sum(around.values())
    for name in around:
        del net[name][gone]
    for a, b in combinations(around, 2):
        siemens = around[a] * around[b] / total
        net[a][b] = net[a].get(b, 0.0) + siemens
        net[b][a] = net[b].get(a, 0.0) + siemens


def resistance(wires: list[Wire], one: Place, other: Place) -> float:
    """Return the resistance in Ω between two places of a net of wires; infinite where nothing joins them.

    Nodes are taken out one after the other, star to mesh; the ends of dead branches first, then those with fewest
    neighbours.
    """
    if one == other:
        return 0.0
    net = _net({one: {}, other: {}}, wires)
    left = [node for node in net if node not in (one, other)]
    while left:
        left.sort(key=lambda node: -len(net[node]))
        # A few at a time: the order is right again soon enough.
        for _ in range(max(1, len(left) // 8)):
            _take_out(net, left.pop())
    siemens = net[one].get(other, 0.0)
    return 1 / siemens if siemens > 1e-13 else math.inf
