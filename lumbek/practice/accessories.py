"""Accessories: named from behind by what bells out, what each terminal takes, which box, what two changed over do."""

from collections.abc import Callable
from itertools import combinations
from typing import ClassVar

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.plan import FromCorner, Mark, MarkBox, MarkKind
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import LightingSchool
from lumbek.core.numbers import counted
from lumbek.core.switching.prove import Proof, prove
from lumbek.core.work.box_fit import box_rules, least_depth_mm
from lumbek.core.work.box_room import BoxEnd, fill_percent, least_box_mm
from lumbek.practice.behind import Behind, accessories
from lumbek.practice.exercise import Choice, Kind
from lumbek.practice.fronts import front_shapes
from lumbek.practice.lights import lighting
from lumbek.practice.pictures import back_of, both_sides, front_of
from lumbek.practice.quiz import Quiz, QuizQuestion, choices_of

_BOXES_MM = (16, 25, 35, 47)
_LETTERS = "ABCDEF"
# By level: which accessories may come.
_LEVELS: dict[int, tuple[str, ...]] = {
    1: ("one-way", "two-way", "socket", "rose", "fused-unit"),
    2: ("one-way", "two-way", "two-one-way", "intermediate", "double-pole", "rose", "batten", "fused-unit"),
    3: ("two-way", "two-two-way", "intermediate", "sensor", "fan", "isolator-3", "rcbo", "dimmer"),
    4: (
        "intermediate",
        "sensor",
        "dimmer-two-way",
        "push-dimmer",
        "fan",
        "isolator-3",
        "rcbo",
        "rccb",
        "surge",
        "double-pole",
    ),
    5: (
        "intermediate",
        "sensor",
        "dimmer-two-way",
        "push-dimmer",
        "fan",
        "isolator-3",
        "rcbo",
        "rccb",
        "surge",
        "fused-unit",
        "two-way",
    ),
}
# Several terminals of these take the same.
_ALIKE = ("intermediate", "two-one-way", "two-two-way")
# What is seen in front, of what bells out like something else.
_FRONTS = {
    "fused-unit": " In its front is a fuse carrier.",
    "dimmer": " In its front is a knob.",
    "dimmer-two-way": " In its front is a knob.",
}
SAME, NEVER, ALWAYS, PARTLY, TRIPS = "same", "never", "always", "partly", "trips"
OUTCOMES = {
    SAME: "It works as before",
    NEVER: "The light never comes on",
    ALWAYS: "The light burns for good",
    PARTLY: "It works from one place only while another switch stands right",
    TRIPS: "The device opens in some position",
}


class Accessories(Quiz):
    """Five questions on accessories."""

    kind: ClassVar[Kind] = "accessories"
    title = "Know it from behind"

    def make(self) -> list[QuizQuestion]:
        """Return a question of each sort, and one more."""
        self.story = "Plates off, dead and proved. What is what?"
        some = self.chance.sample(_LEVELS[self.level], 4)
        every = accessories()
        makers: list[Callable[[], QuizQuestion]] = [
            lambda: self._name(every[some[0]]),
            lambda: self._takes(every[some[1] if some[1] not in _ALIKE else "two-way"]),
            self.chance.choice((self._box, self._feed)),
            self._changed_over,
            lambda: (
                self._name(every[some[2]])
                if self.level < 3
                else self._takes(every[some[3] if some[3] not in _ALIKE else "fan"])
            ),
        ]
        return [make() for make in makers]

    def _letters(self, each: Behind) -> dict[str, str]:
        letters = list(_LETTERS[: len(each.terminals)])
        self.chance.shuffle(letters)
        return dict(zip(each.terminals, letters, strict=True))

    def _name(self, each: Behind) -> QuizQuestion:
        letters = self._letters(each)
        told = f"Front, and behind it {len(each.terminals)} terminals. Bells out: {each.bells(letters)}"
        # What bells out alike is not asked apart: a fused unit is a double-pole switch with a fuse in its front.
        others = [other for other in accessories().values() if _looks(other) != _looks(each)]
        wrong = self.chance.sample(others, 3)
        choices = sorted([each, *wrong], key=lambda one: one.name)
        front = _FRONTS.get(each.id, "")
        return QuizQuestion(
            words=f"What is it?{front}",
            choices=choices_of({one.id: one.name for one in choices}),
            right=frozenset((each.id,)),
            why=each.about or f"{each.name}: {', '.join(f'{name} takes {what}' for name, what in each.takes.items())}.",
            clause=self.book.clause(each.clause).ref,
            hint="Count the terminals, then ask what moves when the rocker does.",
            picture=both_sides(front_shapes(each.id), back_of(sorted(letters.values()), told)),
        )

    def _takes(self, each: Behind) -> QuizQuestion:
        if each.id in ("two-way", "dimmer-two-way"):
            return self._common(each)
        name, what = self.chance.choice(list(each.takes.items()))
        choices = dict(zip(each.terminals, each.terminals, strict=True))
        wrong = {f"{other} and {name}": f"either {other} or {name}" for other in each.terminals if other != name}
        one = self.chance.choice(sorted(wrong))
        return QuizQuestion(
            words=f"{each.name}: which terminal takes {what.split(',')[0]}?",
            choices=choices_of(choices | {one: wrong[one]}),
            right=frozenset((name,)),
            why=f"{name} takes {what}. {each.about}".strip(),
            clause=self.book.clause(each.clause).ref,
            hint="Follow the line: in by one terminal, out by another.",
        )

    def _common(self, each: Behind) -> QuizQuestion:
        """Return the question for the common of a two-way, by belling it out: markings differ from maker to maker."""
        letters = self._letters(each)
        told = f"Bells out: {each.bells(letters)}"
        return QuizQuestion(
            words=f"{each.name}, its markings worn off: which terminal takes the permanent line?",
            choices=choices_of({letter: letter for letter in sorted(letters.values())}),
            right=frozenset((letters["COM"],)),
            why="The common is joined in both positions; the other two take the strappers.",
            clause=self.book.clause("switching-function").ref,
            hint="One terminal is joined to something in both positions.",
            picture=back_of(sorted(letters.values()), told, choices=True),
        )

    def _box(self) -> QuizQuestion:
        kinds: tuple[MarkKind, ...] = ("socket", "switch", "fused-spur", "isolator", "shaver-socket")
        kind = self.chance.choice(kinds)
        csa = [self.chance.choice((1.5, 2.5, 4.0)) for _ in range(self.chance.randint(1, 1 + min(self.level, 3)))]
        mark = Mark(id="m", room="r", kind=kind, rule=FromCorner(wall="w1", mm=100), box=MarkBox())
        ends = [BoxEnd(3, each) for each in csa]
        right = least_box_mm(mark, ends, _BOXES_MM)
        choices = {str(each): f"{each} mm" for each in _BOXES_MM} | {"none": "none of these"}
        rules, least = box_rules(), least_depth_mm(mark, csa)
        told = kind.replace("-", " ")
        cables = " and ".join(f"{each:g} mm²" for each in csa)
        tried = right or _BOXES_MM[-1]
        full = fill_percent(mark, ends, tried)
        return QuizQuestion(
            words=f"{told.capitalize()}, cables of {cables}, each with its cpc: which is the shallowest box that does?",
            choices=choices_of(choices),
            right=frozenset((str(right) if right else "none",)),
            why=(
                f"Depth {least} mm: {rules.least_mm[kind]} for what sits in it"
                f"{f', {rules.more_for_cables_mm} more for {len(csa)} cables' if len(csa) >= rules.from_cables else ''}"
                f"{f', {rules.more_for_csa_mm} more for thick ones' if max(csa) >= rules.from_csa_mm2 else ''}. "
                f"In {tried} mm the cables fill {full} % of the room behind it, {rules.most_fill_percent} % at most."
                " Both are a firm's rule: no standard has a figure; the maker's depth comes first."
            ),
            clause=self.book.clause("terminals").ref,
            hint="What sits in it first, then how many cables and how thick, then what room they leave.",
            picture=front_of(int(kind == "switch"), kind in ("socket", "shaver-socket"), f"From the front: {told}"),
        )

    def _feed(self) -> QuizQuestion:
        """Return the question where the feed is looped, by what is in a rose: the loop terminal tells."""
        loop: LightingSchool = self.chance.choice(("at-light", "at-switch"))
        circuit = lighting(self.book, self.chance, 1, self.school.model_copy(update={"loop": loop}))
        lamp = next(point for point in circuit.points if point.kind == "light")
        held = {name: len(join.ends) for join in lamp.joins for name in join.terminals}
        told = ", ".join(f"{name} holds {counted(held.get(name, 0), 'core', 'cores')}" for name in ("L", "N", "LOOP"))
        cables = sum(lamp.id in (leg.a, leg.b) for leg in circuit.legs)
        return QuizQuestion(
            words=f"A rose that {counted(cables, 'cable', 'cables')} come to: {told}. Where is the feed looped?",
            choices=choices_of({"at-light": "Here, at the light", "at-switch": "Elsewhere: at the switch"}),
            right=frozenset(("at-light" if "LOOP" in held else "at-switch",)),
            why=accessories()["rose"].about,
            clause=self.book.clause(accessories()["rose"].clause).ref,
            hint="A permanent line that goes on from here wants a terminal of its own.",
        )

    def _changed_over(self) -> QuizQuestion:
        circuit = lighting(self.book, self.chance, 2 if self.level < 4 else 4, self.school)
        before = prove(self.book, {circuit.number: circuit})
        point, one, other = self.chance.choice(swaps(circuit))
        after = swapped(circuit, point, one, other)
        outcome = outcome_of(before, prove(self.book, {after.number: after}))
        box = after.point(point)
        names = [_called(box, at) for at in (one, other)]
        return QuizQuestion(
            words=(
                f"{self._meant(circuit)} At the {box.name} what is in {names[0]} and what is in {names[1]} "
                "are changed over. What happens?"
            ),
            choices=tuple(Choice(id=each, words=words) for each, words in OUTCOMES.items()),
            right=frozenset((outcome,)),
            why="Proved over every position of every switch, by the copper.",
            clause=self.book.clause("switching-function").ref,
            hint="Ask first whether the two are alike: strappers are.",
        )

    def _meant(self, circuit: Circuit) -> str:
        scheme = circuit.scheme
        assert scheme is not None, "lighting is made with a scheme"
        many = [len(control.gangs) for control in scheme.controls]
        return f"A light by {many[0]} switches, wired rightly." if len(many) == 1 else "Two lights, wired rightly."


def _looks(each: Behind) -> tuple[object, ...]:
    """Return what belling it out shows: how many terminals, how many pairs are joined in each position."""
    return len(each.terminals), tuple(sorted(len(pairs) for pairs in each.positions)), len(each.positions)


def _called(point: Point, at: int) -> str:
    """Return what a join of a point is called: its terminal, or the connector with the colours' use."""
    join = point.joins[at]
    if not join.terminals:
        return "the connector"
    many = len(point.accessories) > 1
    return " and ".join(name if many else name.split(".")[-1] for name in join.terminals)


def swaps(circuit: Circuit) -> list[tuple[str, int, int]]:
    """Return pairs of joins at one place, by their places in its list, that hold something and are no earth."""
    found = []
    for point in circuit.points:
        held = [at for at, join in enumerate(point.joins) if join.ends and "E" not in join.terminals]
        bare = [at for at in held if not point.joins[at].terminals]
        # One connector is told from a terminal; two of them not from each other.
        held = held if len(bare) < 2 else [at for at in held if at not in bare]
        found += [(point.id, one, other) for one, other in combinations(held, 2)]
    return found


def swapped(circuit: Circuit, place: str, one: int, other: int) -> Circuit:
    """Return a circuit with what is in two joins of a place changed over."""

    def changed(point: Point) -> Point:
        if point.id != place:
            return point
        ends = {one: point.joins[other].ends, other: point.joins[one].ends}
        joins = (join.model_copy(update={"ends": ends.get(at, join.ends)}) for at, join in enumerate(point.joins))
        return point.model_copy(update={"joins": tuple(joins)})

    return circuit.model_copy(update={"points": tuple(map(changed, circuit.points))})


def outcome_of(before: Proof, after: Proof) -> str:
    """Return what became of lighting that was in order, by the tables of both proofs."""
    if any(hazard.check == "paths" and hazard.grave for hazard in after.hazards):
        return TRIPS
    if not any(hazard.check == "lights" and hazard.grave for hazard in after.hazards):
        return SAME
    columns = ["".join(column) for table in after.tables for column in zip(*table.lit, strict=True)]
    if after.always_lit and not before.always_lit:
        return ALWAYS
    if not columns or any("1" not in column for column in columns):
        return NEVER
    return ALWAYS if any("0" not in column for column in columns) else PARTLY
