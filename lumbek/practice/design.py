"""Design: cable, device, voltage drop, the one of five that is wrong and by which rule, a board that leaves light.

Right and wrong are what the checks say of each design, as they would of a job's.
"""

from collections.abc import Iterator
from typing import ClassVar

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, CircuitKind, Surroundings
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import MainFuse, Service, Supply, Tails
from lumbek.core.numbers import plain
from lumbek.practice.arranged import which_arrangement, which_rcd
from lumbek.practice.divided import divided_board
from lumbek.practice.exercise import Choice, Kind
from lumbek.practice.judged import check_of, failing, overheats, rcbo
from lumbek.practice.quiz import Quiz, QuizQuestion, choices_of

_SIZES = (1.5, 2.5, 4.0, 6.0, 10.0)
_RATINGS = (6, 10, 16, 20, 32, 40, 50)
SUPPLY = Supply(
    earthing="TN-C-S",
    ze_ohm=0.21,
    fault_current_ka=1.1,
    main_fuse=MainFuse(standard="bs88-3", rating_a=80),
    tails=Tails(csa_mm2=25, length_m=2),
    earthing_conductor_mm2=16,
    services=(Service(what="water", material="plastic"),),
    surge_protection="fitted",
)
# What is fed, by its power in kW, and how it is told.
_APPLIANCES: tuple[tuple[str, CircuitKind, tuple[float, ...]], ...] = (
    ("a shower", "shower", (7.2, 8.5, 9.5)),
    ("a water heater", "water-heater", (2.4, 3.0)),
    ("a kiln", "fixed-appliance", (3.6, 5.0, 6.5)),
)
_MOST_DRAWN = 400


class Design(Quiz):
    """Designs to be chosen and judged."""

    kind: ClassVar[Kind] = "design"
    title = "Choose, and say why"

    def make(self) -> list[QuizQuestion]:
        """Return questions of each sort."""
        self.story = (
            "TN-C-S, Ze 0.21 Ω, 1.1 kA at the board, an 80 A main fuse. Flat cable in walls, nothing beside it, unless "
            "something else is said."
        )
        found = [self._cable(), self._drop(), self._rating()]
        found += self._one_of_five()
        if self.level > 1:
            found.append(which_arrangement(self.book, SUPPLY, self.chance))
        if self.level > 2:
            found += [divided_board(self.book, SUPPLY), which_rcd(self.book, SUPPLY, self.chance)]
        return found

    # What is designed

    def _fed(self, kw: float, kind: CircuitKind, csa: float, rating: float, metres: float) -> Circuit:
        """Return a circuit to one appliance."""
        given = {
            "kind": kind,
            "device": rcbo(rating),
            "cable": Cable(csa_mm2=csa),
            "surroundings": Surroundings(concealed_shallow=True, bath_room=kind == "shower"),
            "points": (
                Point(
                    id="P1",
                    kind="fixed",
                    loads=(Load(power_w=1000 * kw),),
                    zone="1" if kind == "shower" else None,
                    ip="IPX4",
                ),
            ),
            "legs": (Leg(id="L1", a="board", b="P1", segments=(Segment(length_m=metres),)),),
        }
        return Circuit.model_validate(given)

    def _judged(self, circuit: Circuit) -> CircuitResult:
        return judge_circuit(self.book, SUPPLY, circuit)

    def _drawn(self) -> tuple[str, CircuitKind, float, float]:
        name, kind, powers = self.chance.choice(_APPLIANCES)
        return name, kind, self.chance.choice(powers), float(self.chance.randint(6, 10 + 6 * self.level))

    def _least_rating(self, kw: float) -> int:
        return next(each for each in _RATINGS if each >= 1000 * kw / self.book.u0_v)

    # What is asked

    def _cable(self) -> QuizQuestion:
        for _ in range(_MOST_DRAWN):
            name, kind, kw, metres = self._drawn()
            rating = self._least_rating(kw)
            verdicts = {csa: self._judged(self._fed(kw, kind, csa, rating, metres)) for csa in _SIZES}
            fits = [csa for csa, result in verdicts.items() if result.verdict is Verdict.PASS]
            if fits:
                break
        least = fits[0]
        small = [csa for csa in _SIZES if csa < least]
        why = f"{plain(least)} mm² holds."
        unsafe = {}
        if small:
            first = failing(verdicts[small[-1]])
            why = f"{why} {plain(small[-1])} mm² fails: {first.title}, {first.answer}."
            unsafe = {
                plain(csa): f"{failing(verdicts[csa]).answer}: it would overheat."
                for csa in small
                if overheats(verdicts[csa])
            }
        return QuizQuestion(
            words=f"{name.capitalize()} of {plain(kw)} kW on B{rating}, {plain(metres)} m: the thinnest cable?",
            choices=choices_of({plain(each): f"{plain(each)} mm²" for each in _SIZES}),
            right=frozenset((plain(least),)),
            why=why,
            clause=(failing(verdicts[small[-1]]).clause if small else self.book.clause("overload")).ref,
            unsafe=unsafe,
            hint="Carry the device first; then look at the drop and the loop.",
        )

    def _drop(self) -> QuizQuestion:
        name, kind, kw, metres = self._drawn()
        csa = self.chance.choice(_SIZES[1:4])
        rating = self._least_rating(kw)
        result = self._judged(self._fed(kw, kind, csa, rating, metres))
        check = check_of(result, "volt-drop")
        percent = check.value or 0.0
        steps = "; ".join(f"{step.text} {step.sum}".strip() for step in check.steps)
        return QuizQuestion(
            words=f"{name.capitalize()}, {plain(kw)} kW, {plain(metres)} m of {plain(csa)} mm²: about what drop?",
            figure=percent,
            within=0.2,
            unit=check.unit,
            why=steps,
            clause=check.clause.ref,
            hint="Millivolts by ampere and metre: about 44 over the size in mm².",
        )

    def _rating(self) -> QuizQuestion:
        name, kind, kw, _ = self._drawn()
        csa = self.chance.choice((2.5, 4.0, 6.0, 10.0))
        held = {rating: self._judged(self._fed(kw, kind, csa, rating, 8.0)) for rating in _RATINGS}
        fits = [rating for rating, result in held.items() if result.verdict is Verdict.PASS]
        if not fits:
            return self._rating()
        current = 1000 * kw / self.book.u0_v
        over = {
            str(rating): f"{failing(result).answer}: the cable burns before it opens."
            for rating, result in held.items()
            if rating > max(fits) and overheats(result)
        }
        return QuizQuestion(
            words=f"{name.capitalize()} of {plain(kw)} kW on {plain(csa)} mm², 8 m: which breakers of type B hold?",
            choices=choices_of({str(each): f"B{each}" for each in _RATINGS}),
            right=frozenset(map(str, fits)),
            several=True,
            unsafe=over,
            why=f"It draws {current:.1f} A; Ib ≤ In ≤ Iz leaves {' and '.join(f'B{each}' for each in fits)}.",
            clause=self.book.clause("overload").ref,
            hint="Not under what it draws, not over what the cable carries.",
        )

    def _one_of_five(self) -> Iterator[QuizQuestion]:
        good: list[tuple[str, CircuitResult]] = []
        bad: list[tuple[str, CircuitResult]] = []
        for _ in range(_MOST_DRAWN):
            words, circuit = self._some()
            result = self._judged(circuit)
            into = good if result.verdict is Verdict.PASS else bad if result.verdict is Verdict.FAIL else None
            if into is not None and words not in {each for each, _ in (*good, *bad)}:
                into.append((words, result))
            if len(good) >= 4 and bad:
                break
        shown = [*good[:4], bad[0]]
        self.chance.shuffle(shown)
        at = shown.index(bad[0])
        first = failing(bad[0][1])
        yield QuizQuestion(
            words="Which of these five does not hold?",
            choices=tuple(Choice(id=str(index), words=words) for index, (words, _) in enumerate(shown)),
            right=frozenset((str(at),)),
            why=f"{first.title}: {first.answer}.",
            clause=first.clause.ref,
            hint="For each: the load against the device, the device against the cable, the length against the drop.",
        )
        titles = {check.id: check.title for check in bad[0][1].checks}
        fails = {check.id for check in bad[0][1].checks if check.verdict is Verdict.FAIL}
        others = self.chance.sample(
            [
                each
                for each in ("load", "cable", "volt-drop", "zs", "rcd", "breaking", "withstand")
                if each in titles and each not in fails
            ],
            3,
        )
        asked = sorted([first.id, *others])
        yield QuizQuestion(
            words=f"{bad[0][0]}: by which rule does it fail?",
            choices=choices_of({each: titles[each] for each in asked}),
            right=frozenset((first.id,)),
            why=first.answer,
            clause=first.clause.ref,
        )

    def _some(self) -> tuple[str, Circuit]:
        """Return a design in words, and as it is judged."""
        name, kind, kw, metres = self._drawn()
        csa, rating = self.chance.choice(_SIZES), self.chance.choice(_RATINGS[2:6])
        metres *= self.chance.choice((1.0, 1.0, 2.5))
        has_rcd = self.chance.random() < 0.85
        circuit = self._fed(kw, kind, csa, rating, metres)
        if not has_rcd:
            device = circuit.device.model_copy(update={"rcd": None, "standard": "bs-en-60898"})
            circuit = circuit.model_copy(update={"device": device})
        rcd = "30 mA" if has_rcd else "no RCD"
        return f"{name.capitalize()}, {plain(kw)} kW, B{rating}, {rcd}, {plain(csa)} mm², {plain(metres)} m", circuit
