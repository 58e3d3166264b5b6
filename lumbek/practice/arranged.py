"""Which arrangement of sockets holds, and which type of RCD sees a fault beside what a load leaks: by the checks."""

from itertools import pairwise
from random import Random
from typing import get_args

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.device import RcdType
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.point import DcPart, Load, Point
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.practice.exercise import Choice
from lumbek.practice.judged import check_of, failing, overheats, rcbo
from lumbek.practice.quiz import QuizQuestion, choices_of

# Ring or not, the cable's size in mm², the rating of its device in A.
_ARRANGED = ((True, 2.5, 32), (False, 2.5, 32), (False, 2.5, 20), (False, 4.0, 32), (True, 1.5, 32))
_LOADS: dict[str, tuple[str, DcPart]] = {
    "heater": ("a heater of wire alone", "none"),
    "electronics": ("a washing machine with its electronics", "pulsed"),
    "charger": ("a charging post that cuts off 6 mA of smooth d.c. itself", "smooth-6ma"),
    "inverter": ("an inverter whose maker tells of smooth d.c.", "smooth"),
}


def which_arrangement(book: Rulebook, supply: Supply, chance: Random) -> QuizQuestion:
    """Return the question which of five arrangements of the same sockets hold."""
    count, metres = chance.randint(5, 9), float(chance.randint(3, 6))
    results = [judge_circuit(book, supply, _sockets(count, metres, *each)) for each in _ARRANGED]
    words = [
        f"{'A ring' if is_ring else 'A radial'} of {plain(csa)} mm² on B{rating}" for is_ring, csa, rating in _ARRANGED
    ]
    fits = [at for at, result in enumerate(results) if _holds(result)]
    why = "; ".join(f"{words[at]}: {_told(result)}" for at, result in enumerate(results) if at not in fits)
    return QuizQuestion(
        words=f"{count} twin sockets, each {plain(metres)} m from the last and the board. Which of these hold?",
        choices=tuple(Choice(id=str(at), words=each) for at, each in enumerate(words)),
        right=frozenset(map(str, fits)),
        several=True,
        unsafe={str(at): f"{_told(result)}." for at, result in enumerate(results) if overheats(result)},
        why=why,
        clause=book.clause("overload").ref,
        hint="Both legs of a ring carry; of a radial one does.",
    )


def _sockets(count: int, metres: float, is_ring: bool, csa: float, rating: int) -> Circuit:
    places = [f"P{at}" for at in range(1, count + 1)]
    ends = [BOARD, *places, *((BOARD,) if is_ring else ())]
    legs = tuple(
        Leg(id=f"L{at}", a=a, b=b, segments=(Segment(length_m=metres),))
        for at, (a, b) in enumerate(pairwise(ends), start=1)
    )
    return Circuit(
        device=rcbo(rating),
        cable=Cable(csa_mm2=csa),
        surroundings=Surroundings(concealed_shallow=True, bath_room=False),
        points=tuple(Point(id=each) for each in places),
        legs=legs,
    )


def which_rcd(book: Rulebook, supply: Supply, chance: Random) -> QuizQuestion:
    """Return the question which types of RCD do for a load, by what it lets into the earth."""
    name, dc = _LOADS[chance.choice(sorted(_LOADS))]
    checks = {kind: check_of(judge_circuit(book, supply, _leaking(dc, kind)), "rcd-type") for kind in get_args(RcdType)}
    fits = [kind for kind, check in checks.items() if check.verdict is Verdict.PASS]
    return QuizQuestion(
        words=f"For {name}: which types of RCD still see a fault?",
        choices=choices_of({each: f"Type {each}" for each in get_args(RcdType)}),
        right=frozenset(fits),
        several=True,
        why=f"It lets {_DC_WORDS[dc]} through; beside that these see a fault: {', '.join(fits)}.",
        clause=checks["B"].clause.ref,
        hint="A, F and B each see what the one before sees, and more.",
    )


_DC_WORDS: dict[DcPart, str] = {
    "none": "no d.c.",
    "pulsed": "pulsed d.c.",
    "smooth-6ma": "no more than 6 mA of smooth d.c.",
    "smooth": "smooth d.c.",
}


def _leaking(dc: DcPart, kind: RcdType) -> Circuit:
    return Circuit(
        kind="fixed-appliance",
        device=rcbo(20, kind),
        cable=Cable(csa_mm2=2.5),
        surroundings=Surroundings(concealed_shallow=True, bath_room=False),
        points=(Point(id="P1", kind="fixed", loads=(Load(power_w=2000, dc=dc, leakage_ma=1.0),)),),
        legs=(Leg(id="L1", a=BOARD, b="P1", segments=(Segment(length_m=8),)),),
    )


def _holds(result: CircuitResult) -> bool:
    return not any(check.verdict is Verdict.FAIL for check in result.checks)


def _told(result: CircuitResult) -> str:
    first = failing(result)
    return f"{first.title}, {first.answer}"
