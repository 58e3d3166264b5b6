"""Switching: a wall with its cables, what is to switch what: wire it, and have every position proved."""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import ClassVar

from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import Control
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.switching.colours import colour_of
from lumbek.core.switching.prove import holds
from lumbek.practice.exercise import (
    Act,
    Ask,
    BadActError,
    CameOf,
    Exercise,
    Kind,
    LinkWire,
    Reckoning,
    School,
    WireBox,
    WiredEnd,
    WireEnd,
)
from lumbek.practice.pictures import Picture, run_of
from lumbek.practice.wall import wall

_MINUTES_A_BOX, _MINUTES_A_PROOF, _MOST_PROOFS = 6, 5, 4
_CONNECTORS = "ABCDEFGH"


class Switching(Exercise):
    """A wall to be wired."""

    kind: ClassVar[Kind] = "switching"
    title = "Wire it"

    def __init__(self, seed: int, level: int, school: School) -> None:
        """Draw the wall."""
        super().__init__(seed, level, school)
        self.design = wall(self.book, self.chance, level, school)
        self.tries: list[Verdict] = []
        scheme = self.design.scheme
        assert scheme is not None, "lighting is made with a scheme"
        self.story = " ".join(map(self._meant, scheme.controls))

    def _meant(self, control: Control) -> str:
        if not control.gangs:
            linked = " They sound together." if self.design.scheme and self.design.scheme.links else ""
            return f"{control.name.capitalize()}: on for good.{linked}"
        by = " and ".join(self._gang(each.point, each.gang) for each in control.gangs)
        sensed = " A sensor turns it on as well." if control.sensors else ""
        return f"{control.name.capitalize()} by {by}.{sensed}"

    def _gang(self, point: str, gang: int) -> str:
        name = self.design.point(point).name
        return f"the {name}" + (f", gang {gang}" if len(self.design.point(point).accessories) > 1 else "")

    @property
    def is_proved(self) -> bool:
        """Whether the last proof found nothing grave."""
        return bool(self.tries) and self.tries[-1] is not Verdict.FAIL

    @property
    def is_over(self) -> bool:
        """Whether it is right, or was proved as often as it may be."""
        return self.is_proved or len(self.tries) >= _MOST_PROOFS

    def picture(self) -> Picture:
        """Return boxes and the cables between them."""
        told = "; ".join(self.design.leg_title(leg) for leg in self.design.legs)
        return run_of([point.id for point in self.design.points], self.design.legs, False, told)

    def ask(self) -> Ask | None:
        """Return the boxes."""
        if self.is_over:
            return None
        return Ask(
            words="Which end into which terminal? Then it is proved.", boxes=tuple(map(self._box, self.design.points))
        )

    def _box(self, point: Point) -> WireBox:
        ends = []
        for leg in self.design.legs:
            if point.id in (leg.a, leg.b):
                cable = self.design.cable_of(leg)
                to = self.design.far_title(leg, point.id)
                ends += [
                    WireEnd(leg=leg.id, core=core, colour=colour_of(self.book, cable, core), to=to)
                    for core in cable.core_names
                ]
        loose = sum(not join.terminals for join in point.joins)
        return WireBox(
            place=point.id,
            title=point.name,
            terminals=tuple(terminals_of_box(point)),
            connectors=min(loose + 1, len(_CONNECTORS)),
            ends=tuple(ends),
        )

    def more_hints(self) -> tuple[str, ...]:
        """Return how the least way of wiring goes."""
        joined = sum(not join.terminals for point in self.design.points for join in point.joins)
        at = [point.name for point in self.design.points if any(not join.terminals for join in point.joins)]
        return (
            f"{joined} connectors are wanted{', at the ' + ' and the '.join(at) if at else ''}.",
            "Neutrals stay together from box to box; only the switched line goes into a light's L.",
        )

    def take(self, act: Act) -> None:
        """Wire the boxes so, and prove every position."""
        if not act.wired:
            raise BadActError("wired: say where each end goes.")
        circuit = self.wired(act)
        verdict, hazards = holds(self.book, {circuit.number: circuit})
        grave = [each for each in hazards if each.grave]
        self.minutes += _MINUTES_A_BOX * len(self.design.points) * (not self.tries) + _MINUTES_A_PROOF
        failed = verdict is Verdict.FAIL
        self.tries.append(verdict)
        self.seen.append(
            CameOf(
                did="Wired and proved",
                came=" ".join(f"{each.words[:1].upper()}{each.words[1:]}. {each.symptom}".strip() for each in grave)
                or "Every position is as it should be.",
                good=not failed,
                why="" if failed else " ".join(each.words for each in hazards),
            )
        )

    def wired(self, act: Act) -> Circuit:
        """Return the circuit as somebody wires it. Raises BadActError."""
        boxes = {point.id: self._box(point) for point in self.design.points}
        ends: dict[str, dict[str, list[CoreEnd]]] = {place: defaultdict(list) for place in boxes}
        seen = set()
        for each in act.wired:
            end = (each.place, each.leg, each.core)
            box = boxes.get(each.place)
            if box is None or end[1:] not in {(one.leg, one.core) for one in box.ends}:
                raise BadActError(f"wired: {each.leg} {each.core} does not end at {each.place}.")
            if end in seen:
                raise BadActError(f"wired: {each.leg} {each.core} is said twice at {each.place}.")
            if each.into not in ("", *box.terminals, *_CONNECTORS[: box.connectors]):
                raise BadActError(f"wired: there is no {each.into} at {each.place}.")
            seen.add(end)
            left_off = f"off {each.leg} {each.core}"
            ends[each.place][each.into or left_off].append(CoreEnd(leg=each.leg, core=each.core, marked=each.marked))
        for place, box in boxes.items():
            # What nobody speaks of is left off.
            for one in box.ends:
                if (place, one.leg, one.core) not in seen:
                    ends[place][f"off {one.leg} {one.core}"].append(CoreEnd(leg=one.leg, core=one.core))
        points = [
            point.model_copy(update={"joins": tuple(_joins(boxes[point.id], ends[point.id], act.links))})
            for point in self.design.points
        ]
        return Circuit.model_validate(self.design.model_copy(update={"points": tuple(points)}).model_dump())

    def reckon(self) -> Reckoning:
        """Return marks: by the hazards there were, and by how often it was proved."""
        failed = sum(verdict is Verdict.FAIL for verdict in self.tries)
        least = _MINUTES_A_BOX * len(self.design.points) + _MINUTES_A_PROOF
        if self.is_proved:
            return self.reckoned(True, 1, 1, least, 1 - 0.2 * failed)
        said = ("It was not put right: nobody switches this on.",)
        return self.reckoned(False, 0, 1, least, 0.0, said, self._as_planned())

    def _as_planned(self) -> list[CameOf]:
        """Return box by box how the least way of wiring goes."""
        found = []
        for point in self.design.points:
            lines = []
            for join in point.joins:
                ends = ", ".join(f"{self._colour(end)} of {end.leg}" for end in join.ends)
                lines.append(f"{' '.join(join.terminals) or 'connector'}: {ends}")
            found.append(CameOf(did=point.name, came="; ".join(lines)))
        return found

    def _colour(self, end: CoreEnd) -> str:
        return colour_of(self.book, self.design.cable_of(self.design.leg(end.leg)), end.core)

    def way(self) -> Act:
        """Wire it as the planner does."""
        wired: list[WiredEnd] = []
        links: list[LinkWire] = []
        for point in self.design.points:
            letters = iter(_CONNECTORS)
            for join in point.joins:
                links += [LinkWire(place=point.id, a=a, b=b) for a, b in pairwise(join.terminals)]
                name = join.terminals[0] if join.terminals else next(letters) if len(join.ends) > 1 else ""
                wired += [
                    WiredEnd(place=point.id, leg=end.leg, core=end.core, into=name, marked=end.marked)
                    for end in join.ends
                ]
        return Act(wired=tuple(wired), links=tuple(links))


def _joins(box: WireBox, ends: dict[str, list[CoreEnd]], links: Sequence[LinkWire]) -> Iterator[Join]:
    """Yield what meets in a box: ends in one terminal, and terminals with a wire between them. Raises BadActError."""
    group = {name: name for name in (*box.terminals, *ends)}
    for link in (each for each in links if each.place == box.place):
        if link.a not in box.terminals or link.b not in box.terminals or link.a == link.b:
            raise BadActError(f"links: there is no wire from {link.a} to {link.b} at {box.place}.")
        kept, gone = group[link.a], group[link.b]
        group = {name: kept if each == gone else each for name, each in group.items()}
    for one in dict.fromkeys(group.values()):
        names = [name for name, each in group.items() if each == one]
        here = tuple(end for name in names for end in ends.get(name, ()))
        terminals = tuple(name for name in names if name in box.terminals)
        if here or len(terminals) > 1:
            yield Join(ends=here, terminals=terminals)


def terminals_of_box(point: Point) -> list[str]:
    """Return the terminals of a box: those of its accessories, of its lamp, and its earth."""
    named = [terminal for accessory in point.accessories for terminal in accessory.terminals]
    lamp = ["L", "N", "LOOP"] if point.kind == "light" else []
    # What has a terminal of its own besides: the interlink of an alarm, the switched line of a fan.
    others = sorted({name for join in point.joins for name in join.terminals} - {*named, *lamp, "E"})
    return [*named, *lamp, *others, "E"]
