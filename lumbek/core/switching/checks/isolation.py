"""Does every isolator and fused unit break every conductor of what is behind it, each in its own pole?"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from lumbek.core.judging.question import Question
from lumbek.core.model.accessory import ISOLATING, Accessory
from lumbek.core.model.point import Point
from lumbek.core.network.feeding import SwitchId
from lumbek.core.network.wiring import node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, answered
from lumbek.core.switching.states import Bits, Cluster

QUESTION = Question(
    "isolation",
    "Isolators and fused units",
    "Does each break every conductor of what is behind it, with nothing past it joined to what is before it?",
    "isolators",
)
_CALLED = {"L": "line", "S": "switched line", "N": "neutral"}
_WHAT = {"double-pole": "isolator", "isolator-3": "three-pole isolator", "fused-unit": "fused unit"}


def check_isolation(proving: Proving) -> ProvedAnswer:
    """Hold every pole to its conductor, on and off (BS 7671 537.2, 462.2, 533.1; IEC 60364-5-53 537.2, 533.1)."""
    hazards: list[Hazard] = []
    count = 0
    for number, point in proving.points():
        for accessory in point.accessories:
            if accessory.kind in ISOLATING and proving.is_reached(number, point.id):
                count += 1
                hazards += _Isolator(proving, number, point, accessory).hazards()
    return answered(QUESTION, proving, hazards, "Each breaks what is behind it", "" if count else "None is there")


def is_wired(point: Point, terminal: str) -> bool:
    """Whether anything is in a terminal: a core end, or a wire to another terminal."""
    return any(terminal in join.terminals and (join.ends or len(join.terminals) > 1) for join in point.joins)


@dataclass(frozen=True)
class _Isolator:
    proving: Proving
    number: int
    point: Point
    accessory: Accessory

    @property
    def _switch(self) -> SwitchId:
        return self.number, self.point.id, str(self.accessory.gang)

    @property
    def _name(self) -> str:
        return f"the {_WHAT[self.accessory.kind]} at {self.proving.title(self.number, self.point.id)}"

    def _hazard(self, words: str, symptom: str, cluster: Cluster | None = None, bits: Bits | None = None) -> Hazard:
        stands = () if cluster is None or bits is None else self.proving.first(cluster, bits)
        place = self.proving.place(self.number, self.point.id)
        return Hazard(id="not-isolated", check=QUESTION.id, words=words, symptom=symptom, place=place, stands=stands)

    def hazards(self) -> Iterator[Hazard]:
        """Yield what is wrong with it: poles left out, poles in the wrong conductor, what stays live with it off."""
        left_out = [pole for pole in self.accessory.poles if self._is_left_out(pole)]
        for pole in left_out:
            words = f"The {_CALLED[pole]} does not go through {self._name}"
            yield self._hazard(words, "It opens nothing: what is behind it stays live with it off")
        cluster = next((each for each in self.proving.states.clusters if self._switch in each.switches), None)
        if left_out or cluster is None:
            return
        on = cluster.stands[:, cluster.switches.index(self._switch)] == 0
        others = self.proving.in_use(cluster, but=self._switch)
        yield from self._wrong_poles(cluster, on & others)
        yield from self._past(cluster, ~on & others)
        yield from self._beside(cluster, on & others, ~on & others)

    def _is_left_out(self, pole: str) -> bool:
        """Whether a conductor passes it by; a third pole may be to spare."""
        ends = [is_wired(self.point, self.accessory.terminal(pole + side)) for side in "IO"]
        return not all(ends) and (pole != "S" or any(ends))

    def _joined(self, cluster: Cluster, terminal: str, kind: str) -> Bits:
        part = self.proving.states.copper.of(node(self.accessory.terminal(terminal), self.point.id, self.number))
        if part is None:
            return np.zeros(len(cluster.stands), dtype=np.bool_)
        return np.broadcast_to(self.proving.states.joined(cluster, part, kind), (len(cluster.stands),))

    def _wrong_poles(self, cluster: Cluster, use: Bits) -> Iterator[Hazard]:
        """Yield poles that hold another conductor than their own."""
        for pole in self.accessory.poles:
            if pole == "S" and not is_wired(self.point, self.accessory.terminal("SI")):
                continue
            own, other = ("N", "L") if pole == "N" else ("L", "N")
            crossed = self._joined(cluster, f"{pole}I", other) & use
            if crossed.any():
                fuse = self.accessory.kind == "fused-unit" and pole == "L"
                words = f"The {_CALLED[pole]} pole of {self._name} is in the {'neutral' if other == 'N' else 'line'}"
                symptom = "A fault blows the fuse and leaves the line on" if fuse else "Off, the line may stay on"
                yield self._hazard(words, symptom, cluster, crossed)
            elif not (self._joined(cluster, f"{pole}I", own) & use).any():
                words = f"No {_CALLED[pole]} reaches {self._name}"
                yield self._hazard(words, "What is behind it never works", cluster, use)

    def _past(self, cluster: Cluster, off: Bits) -> Iterator[Hazard]:
        """Yield poles past which a supply is there with it off."""
        for pole in self.accessory.poles:
            for kind in ("L", "N"):
                live = self._joined(cluster, f"{pole}O", kind) & off
                if live.any():
                    joined = "line" if kind == "L" else "neutral"
                    words = f"Past {self._name} the {_CALLED[pole]} is joined to the {joined} with it off"
                    yield self._hazard(words, "What is behind it stays live with it off", cluster, live)

    def _beside(self, cluster: Cluster, on: Bits, off: Bits) -> Iterator[Hazard]:
        """Yield conductors of a load behind it that pass it by: a fan whose switched line is not broken too."""
        states = self.proving.states
        by_point: dict[tuple[int, str], list[int]] = {}
        for lamp in states.lamps:
            line, _ = states.ends(lamp)
            if line is not None:
                by_point.setdefault((lamp.circuit, lamp.point), []).append(line)
        for (number, point), lines in by_point.items():
            alive = [self._live(cluster, part, "L") for part in lines]
            behind = any((each & on).any() and not (each & off).any() for each in alive)
            if not behind:
                continue
            title = self.proving.title(number, point)
            for each in alive:
                if (each & off).any():
                    words = f"{title} keeps a live line with {self._name} off"
                    yield self._hazard(words, "Whoever works on it meets a live terminal", cluster, each & off)
                    break
            neutral = states.copper.of(node("N", point, number))
            back = None if neutral is None else self._live(cluster, neutral, "N") & off
            if back is not None and back.any():
                words = f"{title} keeps its neutral with {self._name} off"
                yield self._hazard(words, "A borrowed or lost neutral makes it live", cluster, back)

    def _live(self, cluster: Cluster, part: int, kind: str) -> Bits:
        """Return whether a part is joined to a supply, in the states of this cluster; another's counts if ever."""
        states = self.proving.states
        own = states.cluster_of(part)
        if own is cluster or own is None:
            return np.broadcast_to(states.joined(cluster, part, kind), (len(cluster.stands),))
        return np.full(len(cluster.stands), bool(states.joined(own, part, kind).any()))
