"""Switching: a wall with its cables, what is to switch what: wire it, and have every position proved."""

from collections.abc import Iterator
from functools import cached_property
from itertools import count
from typing import ClassVar

from lumbek.core.judging.check import Verdict, overall
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import Control
from lumbek.core.model.terminals import CoreEnd
from lumbek.core.numbers import counted
from lumbek.core.switching.colours import colour_of
from lumbek.core.switching.mend import mend
from lumbek.core.switching.prove import answers_of
from lumbek.practice.boxes import Boxes, LegOf
from lumbek.practice.exercise import (
    DUST_OF_A_WALL,
    Act,
    Ask,
    BadActError,
    CameOf,
    Choice,
    Exercise,
    Kind,
    Reckoning,
    School,
    need_choice,
)
from lumbek.practice.pictures import Picture, wall_of
from lumbek.practice.pulling import Pulling, minutes_of
from lumbek.practice.wall import wall

_MINUTES_A_BOX, _MINUTES_A_PROOF, _MINUTES_AN_END, _MINUTES_A_CABLE = 6, 5, 2, 3
_MOST_PROOFS = 4
_PULLS_FROM = 2
# Steps of the search for the fewest moves.
_MOST_STEPS = 4000


class Switching(Exercise):
    """A wall to be wired."""

    kind: ClassVar[Kind] = "switching"
    title = "Wire it"

    def __init__(self, seed: int, level: int, school: School) -> None:
        """Draw the wall."""
        super().__init__(seed, level, school)
        self.wall = wall(self.book, self.chance, level, school)
        self.tries: list[Verdict] = []
        self.pulling = Pulling(self.wall, school.colours)
        self.known: frozenset[str] = frozenset()
        # As it was wired last, and the first wall that failed.
        self.last: Act | None = None
        self.first_wrong: dict[int, Circuit] = {}
        self.mixed: dict[str, list[LegOf]] = {}
        for place in sorted(self.wall.unmarked):
            hang = self.boxes.legs_at(place)
            self.chance.shuffle(hang)
            self.mixed[place] = hang
        self.story = "\n".join(self._told())

    def _told(self) -> Iterator[str]:
        several = len(self.wall.circuits) > 1
        for number, circuit in self.wall.circuits.items():
            assert circuit.scheme is not None, "lighting is made with a scheme"
            for control in circuit.scheme.controls:
                yield self._meant(circuit, control, f" (circuit {number})" if several else "")
        for place, points in self.boxes.places.items():
            if len(points) > 1:
                yield f"Both circuits come into the box of the {self.boxes.title(place)}."
        for place in self.mixed:
            yield f"At the {self.boxes.title(place)} nobody knows which cable goes where."
        if self.level >= _PULLS_FROM:
            yield "All of it is proved dead. Another cable can be pulled, and takes its time."

    def _meant(self, circuit: Circuit, control: Control, of: str) -> str:
        name = f"{control.name.capitalize()}{of}"
        if not control.gangs:
            linked = " They sound together." if circuit.scheme and circuit.scheme.links else ""
            return f"{name}: on for good.{linked}"
        by = " and ".join(self._gang(each.point, each.gang) for each in control.gangs)
        sensed = " A sensor turns it on as well." if control.sensors else ""
        return f"{name} by {by}.{sensed}"

    def _gang(self, place: str, gang: int) -> str:
        gangs = sum(len(point.accessories) for point in self.boxes.places[place].values())
        return f"the {self.boxes.title(place)}" + (f", gang {gang}" if gangs > 1 else "")

    @property
    def boxes(self) -> Boxes:
        """The boxes as far as the cables are laid by now."""
        return Boxes(self.book, self.pulling.laid(), self.pulling.names, self.mixed, self.known)

    @property
    def is_proved(self) -> bool:
        """Whether the last proof found nothing grave."""
        return bool(self.tries) and self.tries[-1] is Verdict.PASS

    @property
    def is_over(self) -> bool:
        """Whether it is right, or was proved as often as it may be."""
        return self.is_proved or len(self.tries) >= _MOST_PROOFS

    def picture(self) -> Picture:
        """Return boxes and the cables between them."""
        boxes = self.boxes
        named = [boxes.leg(leg).model_copy(update={"id": name}) for leg, name in boxes.names.items()]
        called = "; ".join(f"{place}: {boxes.title(place)}" for place in boxes.places)
        cables = "; ".join(f"{leg.id}: {leg.a} to {leg.b}" for leg in named)
        told = f"{called}. Cables {cables}."
        return wall_of(named, told)

    # What may be done

    def ask(self) -> Ask | None:
        """Return the boxes, and what may be done before they are wired."""
        if self.is_over:
            return None
        boxes = self.boxes
        return Ask(
            words="Which end into which terminal? Then it is proved.",
            boxes=tuple(boxes.box(place) for place in boxes.places),
            choices=(*self._bells(), *(self.pulling.choices() if self.level >= _PULLS_FROM else ())),
        )

    def _bells(self) -> Iterator[Choice]:
        for place, legs in self.mixed.items():
            if place not in self.known:
                words = f"Bell out the {counted(len(legs), 'cable', 'cables')} at the {self.boxes.title(place)}"
                yield Choice(id=f"bell {place}", words=words, minutes=_MINUTES_A_CABLE * len(legs))

    def more_hints(self) -> tuple[str, ...]:
        """Return how the least way of wiring goes."""
        joins = {
            (point.name, join)
            for circuit in self.wall.circuits.values()
            for point in circuit.points
            for join in point.joins
            if not join.terminals and len(join.ends) > 1
        }
        at = sorted({name for name, _ in joins})
        wanted = f"{counted(len(joins), 'connector is', 'connectors are')} wanted"
        short = [f"Count the cores between {leg.a} and {leg.b}: one is wanting." for _, leg in self.pulling.lacking()]
        two = ["What a light takes from one circuit it gives back to that one."] if len(self.wall.circuits) > 1 else []
        return (
            *short,
            *two,
            f"{wanted}{', at the ' + ' and the '.join(at) if at else ''}.",
            "Neutrals stay together from box to box; only the switched line goes into a light's L.",
        )

    def take(self, act: Act) -> None:
        """Bell cables out, pull another, or wire the boxes so and prove every position."""
        if act.choice:
            chosen = need_choice(self.ask(), act)
            self.minutes += chosen.minutes
            self.dust += chosen.dust
            self.seen.append(self._belled(chosen) if chosen.id.startswith("bell") else self._pulled(chosen))
            return
        if not act.wired:
            raise BadActError("wired: say where each end goes.")
        self._prove(self.boxes.wired(act), act)

    def _belled(self, chosen: Choice) -> CameOf:
        place = chosen.id.split(" ")[1]
        self.known = self.known | {place}
        boxes = self.boxes
        came = "; ".join(f"{boxes.name_at(place, leg)} to {boxes.far(place, leg)}" for leg in self.mixed[place])
        return CameOf(did=f"Belled out the cables at the {boxes.title(place)}", came=f"{came}.")

    def _pulled(self, chosen: Choice) -> CameOf:
        self.pulling.pull(chosen.id)
        return CameOf(did="Pulled another cable", came=f"{chosen.words}. It is P{len(self.pulling.pulled)}.")

    def _prove(self, circuits: dict[int, Circuit], act: Act) -> None:
        answers = answers_of(self.book, circuits)
        hazards = [each for answer in answers for each in answer.hazards]
        grave = [each for each in hazards if each.grave]
        verdict = overall(answer.check for answer in answers)
        broken = [answer.check.clause.ref for answer in answers if answer.check.verdict is Verdict.FAIL]
        handled = (
            _MINUTES_A_BOX * len(self.boxes.places) if self.last is None else _MINUTES_AN_END * moved(self.last, act)
        )
        self.minutes += handled + _MINUTES_A_PROOF
        self.last = act
        failed = verdict is not Verdict.PASS
        if failed and not self.tries:
            self.first_wrong = circuits
        self.tries.append(verdict)
        self.seen.append(
            CameOf(
                did="Wired and proved",
                came=" ".join(f"{each.words[:1].upper()}{each.words[1:]}. {each.symptom}".strip() for each in grave)
                or ("It cannot be told." if failed else "Every position is as it should be."),
                good=not failed,
                why="" if failed else " ".join(each.words for each in hazards),
                clause="; ".join(dict.fromkeys(broken)) or self.book.clause("switching-function").ref,
            )
        )

    # How it went

    def reckon(self) -> Reckoning:
        """Return marks: by the hazards there were, how often it was proved, and what was pulled, moved and belled."""
        failed = sum(verdict is not Verdict.PASS for verdict in self.tries)
        if self.is_proved:
            share, more = 1 - 0.2 * failed, self._more_than_least()
            return self.reckoned(True, 1, 1, self._least_minutes, share, more, self._mending, self._least_dust)
        said = ("It was not put right: nobody switches this on.",)
        debrief = [*self._mending, *self._as_planned()]
        return self.reckoned(False, 0, 1, self._least_minutes, 0.0, said, debrief, self._least_dust)

    @cached_property
    def _least_minutes(self) -> int:
        """The minutes of the planner's own way."""
        bells = sum(_MINUTES_A_CABLE * len(legs) for legs in self.mixed.values())
        pulls = sum(minutes_of(self.wall.circuits[number].leg(leg).length_m) for number, leg in self.wall.lacks)
        return bells + pulls + _MINUTES_A_BOX * len(self.boxes.places) + _MINUTES_A_PROOF

    @property
    def _least_dust(self) -> int:
        return DUST_OF_A_WALL * len(self.wall.lacks)

    def _more_than_least(self) -> tuple[str, ...]:
        many, least = len(self.pulling.pulled), len(self.wall.lacks)
        if many <= least:
            return ()
        cables = counted(many, "cable was", "cables were")
        return (f"{cables} pulled; {'none is' if not least else f'{least} would have been'} needed.",)

    @cached_property
    def _mending(self) -> list[CameOf]:
        """How few ends would have put the first wrong wall right, where its cables can and it is one circuit."""
        if len(self.first_wrong) != 1:
            return []
        steps = count()
        wrong = next(iter(self.first_wrong.values()))
        best = mend(self.book, wrong, search=lambda: next(steps) < _MOST_STEPS)
        if best is None or not best.moves:
            return []
        many = counted(len(best.moves), "end", "ends")
        least = "" if best.exact else "at most "
        return [
            CameOf(
                did="What would have put the first wiring right",
                came=f"{least}{many} moved. ".capitalize() + " ".join(f"{move.words}." for move in best.moves),
            )
        ]

    def _as_planned(self) -> list[CameOf]:
        """Return box by box how the least way of wiring goes."""
        boxes = self.boxes
        found = []
        for place, points in boxes.places.items():
            lines = []
            for number in points:
                circuit = self.wall.circuits[number]
                for join in circuit.point(place).joins:
                    ends = ", ".join(self._colour(circuit, place, end) for end in join.ends)
                    lines.append(f"{' '.join(join.terminals) or 'connector'}: {ends}")
            found.append(CameOf(did=boxes.title(place), came="; ".join(lines)))
        return found

    def _colour(self, circuit: Circuit, place: str, end: CoreEnd) -> str:
        leg = circuit.leg(end.leg)
        return f"{colour_of(self.book, circuit.cable_of(leg), end.core)} to {circuit.far_title(leg, place)}"

    def way(self) -> Act:
        """Bell out, pull what is lacking, and wire it as the planner does."""
        bell = next(self._bells(), None)
        if bell is not None:
            return Act(choice=bell.id)
        lacking = self.pulling.lacking()
        if lacking:
            return Act(choice=self.pulling.choice_of(*lacking[0]))
        wired, links = self.boxes.as_wired(self.wall.circuits)
        return Act(wired=wired, links=links)


def moved(before: Act, now: Act) -> int:
    """Return how many ends are elsewhere, or sleeved otherwise, than they were."""
    was = {(each.place, each.leg, each.core): (each.into, each.marked) for each in before.wired}
    return sum(was.get((each.place, each.leg, each.core)) != (each.into, each.marked) for each in now.wired)
