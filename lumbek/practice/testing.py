"""Testing: null the leads, say what you expect before you read, know which reading is wrong, correct a limit."""

from functools import cached_property
from random import Random
from typing import ClassVar

from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import Catalogue, Test
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.model.device import Device
from lumbek.core.network.measure import measure
from lumbek.core.numbers import plain
from lumbek.core.study.door import study_of
from lumbek.practice.exercise import Choice, Kind
from lumbek.practice.faults import SUPPLY
from lumbek.practice.hidden import Meter, draw, with_names
from lumbek.practice.pictures import Picture, run_of
from lumbek.practice.quiz import Quiz, QuizQuestion, choices_of
from lumbek.simulated.house import Installed

# By level: how many points, which shapes.
_LEVELS: dict[int, tuple[tuple[int, int], tuple[str, ...]]] = {
    1: ((3, 4), ("radial",)),
    2: ((4, 6), ("ring",)),
    3: ((5, 8), ("ring", "radial")),
    4: ((7, 10), ("ring",)),
    5: ((8, 12), ("ring", "radial")),
}
_SEQUENCE = ("Continuity of the cpc", "Insulation resistance", "Polarity", "Earth fault loop", "RCD")
_WITHIN = 0.15
_CASES = {
    "sound": "All three rings are closed",
    "r1 open": "The line ring is open",
    "rn open": "The neutral ring is open",
    "r2 open": "The cpc ring is open",
    "rn loose": "A bad joint in the neutral",
    "r2 loose": "A bad joint in the cpc",
}
# A slip of the leads: so many Ω more than there is.
_SLIP_OHM = (0.6, 1.4)
# A path beside the cpc, through metal that is earthed elsewhere: so much of what is read before it.
_PARALLEL = (0.3, 0.6)
_CAUSES = {
    "contact": "A bad contact, at the probes or under a screw",
    "parallel": "A path beside the cpc, through earthed metal there",
    "length": "The cable to it is longer than drawn",
    "insulation": "Its insulation is poor",
}
_STANDS_OUT = {
    "contact": "one that is far above is a bad contact, at the probes or under a screw; read again at clean contacts.",
    "parallel": "one far below has company: metal that is earthed elsewhere touches its box; take it off to read.",
}


class Testing(Quiz):
    """A circuit to be tested."""

    kind: ClassVar[Kind] = "testing"
    title = "Say it before you read it"

    def make(self) -> list[QuizQuestion]:
        """Draw a circuit, install it, and ask on the way through its tests."""
        points, shapes = _LEVELS[self.level]
        drawn, document, shape = draw(self.chance, points, shapes)
        self.circuit = with_names(drawn)
        self.patient = Patient(study_of(self.book, SUPPLY, self.circuit).middle)
        self.catalogue = Catalogue(self.patient)
        self.inst = Installed(document, self.chance, 0.03)
        cable = f"{plain(self.circuit.cable.csa_mm2)} mm² with a cpc of {plain(self._cpc)} mm²"
        legs = ", ".join(f"{plain(leg.length_m or 0.0)}" for leg in self.circuit.legs)
        self.story = (
            f"{'A ring' if shape == 'ring' else 'A radial'} in {cable}. Its cables from the board on, in m: {legs}. "
            "It is dead, locked and proved."
        )
        asked = [self._nulled(), self._sequence()]
        asked += self._ring() if shape == "ring" else self._radial()
        asked += [self._limit(), *self._wrong()]
        return asked if self.level > 1 else [*asked[:1], *asked[2:]]

    def picture(self) -> Picture:
        """Return the run."""
        return run_of(self.patient.points, self.circuit.legs, self.patient.ring is not None, "")

    @cached_property
    def _cpc(self) -> float:
        return self.book.cpc_mm2(self.circuit.cable) or self.circuit.cable.csa_mm2

    @property
    def _metres(self) -> float:
        return sum(leg.length_m or 0.0 for leg in self.circuit.legs)

    def expected(self, test: Test) -> float:
        """Return what a test reads on the circuit as drawn, Ω: by its copper at 20 °C."""
        wired = self.patient.study.wires.wired
        assert wired is not None, "every leg has its length"
        return measure(wired, test.how)

    def _nulled(self) -> QuizQuestion:
        lead = round(self.chance.uniform(0.08, 0.25), 2)
        read = round(lead + self.chance.uniform(0.3, 0.9), 2)
        return QuizQuestion(
            words=(
                f"The leads read {lead:.2f} Ω together and were not nulled; the meter shows {read:.2f} Ω. "
                "What is the circuit's?"
            ),
            figure=read - lead,
            within=0.02,
            unit="Ω",
            why=f"{read:.2f} − {lead:.2f}: what the leads add is in every reading until they are nulled.",
            clause=self.book.clause("test-cpc").ref,
            hint="The leads are in series with what is read.",
        )

    def _sequence(self) -> QuizQuestion:
        at = self.chance.randrange(len(_SEQUENCE) - 1)
        live = {each: "A live test before the dead ones are in order." for each in _SEQUENCE[3:] if at < 2}
        return QuizQuestion(
            words=f"{_SEQUENCE[at]} is done and in order. What comes next?",
            choices=choices_of({each: each for each in _SEQUENCE}),
            right=frozenset((_SEQUENCE[at + 1],)),
            unsafe={each: words for each, words in live.items() if each != _SEQUENCE[at + 1]},
            why="Dead before live: continuity of cpcs, insulation, polarity; then loop and RCD.",
            clause=", ".join(self.book.clause(f"test-{each}").ref for each in ("cpc", "insulation", "polarity")),
        )

    def _ring(self) -> list[QuizQuestion]:
        r1, r2 = self.catalogue.test("read/r1"), self.catalogue.test("read/r2")
        middle = self.patient.points[len(self.patient.points) // 2]
        cross = self.catalogue.test(f"read/cross-le/{middle}")
        a, b = self.expected(r1), self.expected(r2)
        metres = plain(round(self._metres, 1))
        return [
            self._figure("r1, line end to line end", r1, f"{metres} m of {plain(self.circuit.cable.csa_mm2)} mm²"),
            self._figure(
                "r2, cpc end to cpc end",
                r2,
                f"r1 times the sizes: {plain(self.circuit.cable.csa_mm2)} / {plain(self._cpc)}",
            ),
            self._figure(
                "Line and cpc crossed at the board: R1+R2 at every socket",
                cross,
                f"({a:.2f} + {b:.2f}) / 4, nearly the same everywhere",
            ),
            self._interpret(),
        ]

    def _interpret(self) -> QuizQuestion:
        """Return the question what three end to end readings say: one core of the ring is open, or loose, or none."""
        r1, rn, r2 = (self.expected(self.catalogue.test(f"read/{each}")) for each in ("r1", "rn", "r2"))
        case = self.chance.choice(list(_CASES))
        core, _, how = case.partition(" ")
        more = round(self.chance.uniform(*_SLIP_OHM), 2)
        shown = {
            each: "open" if (each, how) == (core, "open") else f"{ohm + more * ((each, how) == (core, 'loose')):.2f} Ω"
            for each, ohm in (("r1", r1), ("rn", rn), ("r2", r2))
        }
        return QuizQuestion(
            words=f"End to end: {', '.join(f'{each} {ohm}' for each, ohm in shown.items())}. What do they say?",
            choices=choices_of(_CASES),
            right=frozenset((case,)),
            unsafe={"sound": "A ring that is not closed is put back into service."} if how == "open" else {},
            why=(
                f"By the length r1 and rn are {r1:.2f} Ω, and r2 is {r2:.2f} Ω: "
                f"{plain(self.circuit.cable.csa_mm2)} / {plain(self._cpc)} times r1."
            ),
            clause=self.book.clause("test-ring").ref,
            hint="Line and neutral are alike; the cpc is more by its smaller size.",
        )

    def _radial(self) -> list[QuizQuestion]:
        last = self.patient.points[-1]
        both, neutral = (self.catalogue.test(f"read/{each}/{last}") for each in ("r1+r2", "r1+rn"))
        metres = plain(round(self._metres, 1))
        return [
            self._figure(f"R1+R2 at socket {last[1:]}, the last", both, f"{metres} m of line and of cpc"),
            self._figure(
                f"R1+Rn at socket {last[1:]}, the last", neutral, f"{metres} m of line and as much of neutral"
            ),
        ]

    def _figure(self, words: str, test: Test, why: str) -> QuizQuestion:
        expected = self.expected(test)
        took = self._read(test)
        return QuizQuestion(
            words=f"{words}: what do you expect?",
            figure=expected,
            within=_WITHIN,
            unit="Ω",
            shown=f"{expected:.2f} Ω; the meter then showed {took.value:.2f} Ω",
            why=f"{why}: {expected:.2f} Ω at 20 °C. The meter then showed {took.value:.2f} Ω.",
            clause=self.book.clause("test-cpc").ref,
            hint="Copper at 20 °C: 18.1 mΩ a metre at 1 mm², less by its size, and more for a thinner cpc.",
        )

    def _read(self, test: Test) -> Took:
        return Meter(Random(f"{self.seed}/{test.id}"), 0.0).read(self.inst, test)

    def _limit(self) -> QuizQuestion:
        rating = self.chance.choice((16, 20, 32))
        device = Device(standard="bs-en-60898", curve="B", rating_a=rating)
        trip = self.book.trip_current_a(device, 0.4)
        assert trip is not None, "a breaker has a trip current"
        table = self.book.u0_v * self.book.data.fault_protection.cmin / trip
        factor = self.book.measured_zs_words
        limit = table * self.book.measured_zs_factor
        return QuizQuestion(
            words=(
                f"B{rating}, whose loop may be {table:.2f} Ω with all copper warm. What may the meter show at most "
                "on cold copper?"
            ),
            figure=limit,
            within=0.015,
            unit="Ω",
            why=f"{factor} × {table:.2f} = {limit:.2f} Ω: cold copper is read, and warm copper has to clear.",
            clause=self.book.clause("zs-measured").ref,
            hint=f"{factor} of it.",
        )

    def _wrong(self) -> list[QuizQuestion]:
        """Return which reading of a run is wrong, and, from the second level on, why."""
        is_parallel = self.level > 1 and self.chance.random() < 0.5
        to_cpc = is_parallel or not self.patient.ring
        quantity = {True: "cross-le" if to_cpc else "cross-ln", False: "r1+r2"}[self.patient.ring is not None]
        points = list(self.patient.points[:6])
        readings = {point: self._read(self.catalogue.test(f"read/{quantity}/{point}")).value for point in points}
        # A path beside it shows from the second place on: there less is read than before it.
        wrong = self.chance.choice(points[1:] if is_parallel else points)
        before = min(readings.values()) if self.patient.ring else readings[points[points.index(wrong) - 1]]
        beside = round(before * self.chance.uniform(*_PARALLEL), 2)
        readings[wrong] = beside if is_parallel else round(readings[wrong] + self.chance.uniform(*_SLIP_OHM), 2)
        cause = "parallel" if is_parallel else "contact"
        crossed = f"Line and {'cpc' if to_cpc else 'neutral'} crossed at the board"
        what = crossed if self.patient.ring else "R1+R2 along the run"
        lines = ", ".join(f"socket {point[1:]} {value:.2f} Ω" for point, value in readings.items())
        usual = (
            "On a ring that is crossed every socket reads nearly the same"
            if self.patient.ring
            else "R1+R2 grows along a radial"
        )
        which = QuizQuestion(
            words=f"{what}: {lines}. Which do you read again?",
            choices=tuple(Choice(id=point, words=f"socket {point[1:]}") for point in points),
            right=frozenset((wrong,)),
            why=f"{usual}: {_STANDS_OUT[cause]}",
            clause=self.book.clause("test-ring" if self.patient.ring else "test-cpc").ref,
            hint="Which of them do the others not explain?",
        )
        why = QuizQuestion(
            words=f"Socket {wrong[1:]} reads {readings[wrong]:.2f} Ω among {lines}. What is the likeliest?",
            choices=choices_of(_CAUSES),
            right=frozenset((cause,)),
            why=f"{usual}: {_STANDS_OUT[cause]}",
            clause=which.clause,
            hint="Too much, or too little? What could add to a path, what could help it?",
        )
        return [which, why] if self.level > 1 else [which]
