"""Readings held against each other: what each by itself may pass, and together cannot be."""

from collections.abc import Iterator

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.reading import AT_POINTS, Quantity, Reading
from lumbek.core.numbers import plain, show
from lumbek.core.study.evidence import NAMES
from lumbek.core.testing.taken import Taken

_RATIO = Question("r2-to-r1", "r2 beside r1", "Are line and cpc of the sizes that are drawn?", "test-ring")
_QUARTER = Question("quarter", "Step 3 beside step 1", "Is R1+R2 a quarter of r1 and r2 together?", "test-ring")
_HALF = Question("half", "Step 2 beside step 1", "Is L–N a quarter of r1 and rn together?", "test-ring")
_AGAIN = Question("again", "Beside the last visit", "Does it read as it did before?", "test-zs")
_VOLTAGE = Question(
    "voltage-only", "Earth proved by a reading", "Is the earth proved, or only seen to have a voltage?", "test-cpc"
)
_AT_BOARD: tuple[Quantity, ...] = ("r1", "rn", "r2")


def against_each_other(taken: Taken, readings: tuple[Reading, ...]) -> tuple[Check, ...]:
    """Return what readings say about each other; nothing where they agree.

    r1 beside rn, a point beside its fellows, Zs beside Ze and R1+R2, insulation beside its peers: those stand with
    the readings themselves.
    """
    return (*_ratio(taken), *_quarters(taken), *_voltage_only(taken), *_since_last_visit(taken, readings))


def _ratio(taken: Taken) -> Iterator[Check]:
    """r2 / r1 is the ratio of the sizes: 1.67 for 2.5 / 1.5 mm²; one of the two is off where it is not."""
    r1, r2 = taken.value("r1"), taken.value("r2")
    drawn = [taken.study.circuit.cable_of(taken.study.legs[leg]) for leg in taken.study.shape.ring_legs]
    if not r1 or not r2 or len(set(drawn)) != 1:
        return
    book, rules = taken.study.rulebook, taken.study.rulebook.data.testing
    line, cpc = (book.milliohm_per_m(drawn[0], core) for core in ("L", "E"))
    if not line or not cpc:
        return
    meant, ratio = cpc / line, r2 / r1
    # Both have been read to a digit and through a contact.
    room = meant * (rules.length_tolerance + rules.contact_ohm / r1 + rules.contact_ohm / r2) / 2
    if abs(ratio - meant) > room:
        words = "more cpc, or metal beside it" if ratio < meant else "a thinner cpc, or a loose joint in it"
        yield _RATIO.check(
            taken.study,
            Verdict.CANNOT_TELL,
            f"r2 / r1 is {show(ratio)}, the sizes drawn give {show(meant)}: {words}",
            missing=("reason of the reading",),
            place=taken.study.whole,
            steps=(Step(text="r2 / r1", sum=f"{show(r2)} / {show(r1)} = {show(ratio)}"),),
        )


def _quarters(taken: Taken) -> Iterator[Check]:
    """Cross-joined, a ring reads a quarter of its two conductors in series, everywhere between like conductors."""
    rules = taken.study.rulebook.data.testing
    pairs: tuple[tuple[Question, Quantity, Quantity], ...] = ((_HALF, "cross-ln", "rn"), (_QUARTER, "cross-le", "r2"))
    for question, crossed, other in pairs:
        r1, r = taken.value("r1"), taken.value(other)
        values = [taken.value(crossed, point) for point in taken.study.shape.ring_points]
        read = [value for value in values if value is not None]
        if r1 is None or r is None or not read:
            continue
        quarter, most = (r1 + r) / 4, max(read)
        if abs(most - quarter) > quarter * rules.length_tolerance + rules.contact_ohm:
            yield question.check(
                taken.study,
                Verdict.CANNOT_TELL,
                f"The highest is {show(most)} Ω, a quarter of r1 and {other} is {show(quarter)} Ω",
                missing=("reason of the reading",),
                place=taken.study.whole,
                steps=(
                    Step(
                        text=f"(r1 + {other}) / 4",
                        sum=f"({show(r1)} + {show(r)}) / 4 = {show(quarter)} Ω",
                    ),
                ),
            )


def _voltage_only(taken: Taken) -> Iterator[Check]:
    """A lamp or a voltmeter between line and earth lights through 40 Ω as well: only ohms prove an earth."""
    polarity = taken.readings.get(("polarity", None))
    proofs: tuple[Quantity, ...] = ("r2", "cross-le", "r1+r2", "r2-lead", "zs")
    if polarity is not None and polarity.correct and not any(key[0] in proofs for key in taken.readings):
        yield _VOLTAGE.check(
            taken.study,
            Verdict.CANNOT_TELL,
            "Polarity is right, and no ohms have been read to earth: a voltage to earth proves none",
            missing=("R1+R2 or Zs",),
            place=taken.study.whole,
        )


def _since_last_visit(taken: Taken, readings: tuple[Reading, ...]) -> Iterator[Check]:
    """A place that reads otherwise than on the visit before has changed since: a joint works loose, water gets in."""
    rules = taken.study.rulebook.data.testing
    for key, now in taken.readings.items():
        if now.value is None or now.beyond or (key[0] not in AT_POINTS and key[0] not in _AT_BOARD):
            continue
        before = [each for each in readings if each.key == key and each.value is not None and each.visit != now.visit]
        if not before or before[-1].beyond or now.visit is None:
            continue
        was = before[-1].value or 0.0
        if abs(now.value - was) > was * rules.again_part + rules.contact_ohm:
            where = taken.study.circuit.point_title(key[1]) if key[1] else "the circuit"
            yield _AGAIN.check(
                taken.study,
                Verdict.PASS,
                f"{NAMES.get(key[0], key[0])} at {where}: {plain(now.value)} Ω, {plain(was)} Ω on {before[-1].at[:10]}",
                place=taken.study.point_place(key[1]) if key[1] else taken.study.whole,
                caution="It has changed since the last visit: find out why.",
            )
