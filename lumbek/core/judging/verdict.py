"""The verdict on one circuit as a whole, and on one whose lengths are only known within a range."""

from collections.abc import Mapping

from lumbek.core.checks import ring_rule, volt_drop
from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.circuit.shape import Shape
from lumbek.core.evidence.intervals import Interval
from lumbek.core.judging.check import Check, Step, Verdict, hold, overall
from lumbek.core.judging.circuit_figures import LegFigures, PointFigures, RingFigures
from lumbek.core.numbers import plain
from lumbek.core.study.box import Box
from lumbek.core.study.door import Studied
from lumbek.core.value import Frozen


class CircuitResult(Frozen):
    """Everything Lumbek has to say of a circuit's design."""

    rulebook: str
    edition: str
    verdict: Verdict
    shape: Shape
    ib_a: float | None
    # Whether its loads are stated; where they are not, conventional ones are assumed.
    loads_stated: bool
    ring: RingFigures | None
    points: tuple[PointFigures, ...]
    legs: tuple[LegFigures, ...]
    checks: tuple[Check, ...]
    tightest: str | None
    assumptions: tuple[str, ...] = ()
    # At which lengths the figures are, where some are only known within a range.
    lengths: str = ""


def over_range(studied: Studied, results: list[CircuitResult]) -> CircuitResult:
    """Return one result for several lengths of the same circuit; those of the greatest lengths are shown.

    What only grows with length is worst there, and least at the shortest. What does not is bounded over the whole box
    of lengths: passed by its upper bound, failed by its lower, and else it cannot be told.
    """
    shown, box = results[-1], studied.box
    if box is None:
        assumptions = studied.lengths.assumptions
        return shown.model_copy(update={"assumptions": assumptions}) if assumptions else shown
    surely = {ring_rule.CURRENT.id: _ring_current(box), volt_drop.QUESTION.id: _drop(box)}
    checks = tuple(
        _one_over_range(studied, [result.checks[index] for result in results], surely.get(each.id))
        for index, each in enumerate(shown.checks)
    )
    return shown.model_copy(
        update={
            "checks": checks,
            "verdict": overall(checks),
            "tightest": tightest(checks),
            "assumptions": studied.lengths.assumptions,
            "lengths": "the greatest lengths",
        }
    )


def _one_over_range(studied: Studied, found: list[Check], surely: Verdict | None) -> Check:
    """Return one check for several lengths: the tightest where all agree, else that it depends.

    `surely` is what bounds over all lengths say of it: a verdict, that neither is sure, or None where none are needed.
    """
    verdicts = {check.verdict for check in found}
    sure = surely in (None, *verdicts) or verdicts.isdisjoint(_JUDGED)
    if len(verdicts) == 1 and sure:
        return _at(studied, found, min(found, key=_margin))
    worst = next(filter(_fails, found), found[-1])
    if worst.verdict not in _JUDGED or (len(verdicts) > 1 and Verdict.PASS not in verdicts):
        return worst
    missing = ("true lengths of the cables that are known within a range",)
    return depends_on(_at(studied, found, worst), "lengths", missing)


def depends_on(worst: Check, what: str, missing: tuple[str, ...]) -> Check:
    """Return a check that cannot be told for want of some lengths: its figures at worst, and which lengths it wants."""
    return worst.model_copy(
        update={
            "verdict": Verdict.CANNOT_TELL,
            "answer": f"Depends on {what}: {worst.answer} at worst",
            "shown_margin": "",
            "missing": missing,
            "missing_codes": ("length",) * len(missing),
        }
    )


_JUDGED = (Verdict.PASS, Verdict.FAIL)


def _fails(check: Check) -> bool:
    return check.verdict is Verdict.FAIL


def _margin(check: Check) -> float:
    return 1.0 if check.margin is None else check.margin


def _at(studied: Studied, found: list[Check], chosen: Check) -> Check:
    """Return a check that says at which lengths it is what it is, where those are not the greatest."""
    index = next(place for place, check in enumerate(found) if check is chosen)
    if index == len(found) - 1 or all(check == chosen for check in found):
        return chosen
    circuit, longest = studied.variants[index].circuit, studied.longest.circuit
    shorter = [leg for leg in circuit.legs if leg.length_m != longest.leg(leg.id).length_m]
    lengths = ", ".join(f"{circuit.leg_title(leg)} {plain(round(leg.length_m or 0.0, 2))} m" for leg in shorter)
    return chosen.model_copy(update={"steps": (Step(text="At these lengths", sum=lengths), *chosen.steps)})


def _ring_current(box: Box) -> Verdict | None:
    """Return what is sure of the currents round a ring at any lengths; None where there is no such ring."""
    study = box.longest
    if not study.is_socket_ring or study.wires.cold is None or study.currents.demand is None:
        return None
    limits = {leg: study.least_iz_a(leg) for leg in study.shape.ring_legs}
    verdicts = set()
    for currents in box.ring_currents_a():
        most = {leg: max(abs(each.least), abs(each.most)) for leg, each in currents.items()}
        least = {leg: max(0.0, each.least, -each.most) for leg, each in currents.items()}
        verdicts.add(_sure(most, least, limits))
    return _agreed(verdicts)


def _sure_of(drops: Mapping[str, Interval], limits: dict[str, float]) -> Verdict:
    most = {point: each.most for point, each in drops.items()}
    least = {point: each.least for point, each in drops.items()}
    return _sure(most, least, limits)


def _drop(box: Box) -> Verdict | None:
    """Return what is sure of the voltage drops at any lengths; None where nothing is to be told."""
    study = box.longest
    feed_v = study.currents.feed_drop_v
    if study.currents.flow is None or feed_v is None or study.shape.kind not in _BOUNDED:
        return None
    limits = {
        point: drop_limit_percent(study, point) * study.currents.drop_base_v / 100 - feed_v
        for point in study.wires.points
    }
    if study.shape.is_ring and study.wires.parted:
        # Its branches are no sum of legs, so that nothing bounds them.
        return Verdict.CANNOT_TELL
    each = box.ring_drops_v() if study.shape.is_ring else box.open_drops_v()
    return _agreed({_sure_of(drops, limits) for drops in each})


_BOUNDED = ("ring", "ring-with-spurs", "radial", "branched-radial")


def _sure(most: dict[str, float], least: dict[str, float], limits: dict[str, float]) -> Verdict:
    if all(hold(most[key], limits[key], "at most")[0] is Verdict.PASS for key in most):
        return Verdict.PASS
    fails = any(hold(least[key], limits[key], "at most")[0] is Verdict.FAIL for key in least)
    return Verdict.FAIL if fails else Verdict.CANNOT_TELL


def _agreed(verdicts: set[Verdict]) -> Verdict:
    return next(iter(verdicts)) if len(verdicts) == 1 else Verdict.CANNOT_TELL


def tightest(checks: tuple[Check, ...]) -> str | None:
    """Return the id of the check with the least margin, failures first."""
    judged = [check for check in checks if check.verdict in (Verdict.PASS, Verdict.FAIL)]
    if not judged:
        return None
    return min(
        judged,
        key=lambda check: (check.verdict is not Verdict.FAIL, 1.0 if check.margin is None else check.margin),
    ).id
