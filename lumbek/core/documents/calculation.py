"""The calculation sheet of a circuit: every check with its working, to be followed by hand."""

from lumbek.core.documents.issue import may_issue
from lumbek.core.judgement import judge_studied
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.result import Check, Verdict
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen
from lumbek.core.verdict import CircuitResult

_BLANK = "–"


class CalculationSheet(Frozen):
    """What the sheet shows."""

    head: JobHead
    rulebook: str
    advice: str
    title: str
    facts: tuple[tuple[str, str], ...]
    verdict: Verdict
    shape: str
    checks: tuple[Check, ...]
    legs: tuple[tuple[str, ...], ...]
    points: tuple[tuple[str, ...], ...]
    assumptions: tuple[str, ...]
    draft: bool


def make_calculation_sheet(head: JobHead, supply: Supply, circuit: Circuit) -> CalculationSheet:
    """Return the calculation sheet of a circuit."""
    rulebook = rulebook_of(head)
    studied = study_of(rulebook, supply, circuit)
    result, study = judge_studied(studied), studied.longest
    cpc = rulebook.cpc_mm2(circuit.cable)
    ze = study.ahead.ze_ohm
    return CalculationSheet(
        head=head,
        rulebook=rulebook.data.title,
        advice=rulebook.data.advice,
        title=f"{circuit.number} {circuit.name}",
        facts=(
            ("Device", device_name(rulebook, circuit.device)),
            ("Cable", f"{rulebook.data.cables[circuit.cable.type].name}, {plain(circuit.cable.csa_mm2)} mm²"),
            ("cpc", _given(cpc, "mm²") if circuit.cable.earth_by == "core" else circuit.cable.earth_by or _BLANK),
            ("Method", f"{circuit.method}, {rulebook.data.methods[circuit.method].name}")
            if circuit.method in rulebook.data.methods
            else ("Method", circuit.method),
            ("Earthing", study.ahead.earthing or _BLANK),
            ("Ze", _given(ze, "Ω", 2)),
            ("Fault current", _given(supply.fault_current_ka, "kA")),
            ("Ib", _given(result.ib_a, "A", 1)),
            *((("Ahead", _ahead(study)),) if circuit.ahead else ()),
            *((("Reason", circuit.reason),) if circuit.reason else ()),
        ),
        verdict=result.verdict,
        shape=result.shape.title,
        checks=result.checks,
        legs=_legs(circuit, result),
        points=_points(circuit, result),
        assumptions=result.assumptions,
        draft=not may_issue(result.verdict),
    )


def _ahead(study: Study) -> str:
    """Return what stands between the origin and the circuit's device, origin first."""
    words = []
    for each in study.circuit.ahead:
        if each.device is not None:
            words.append(device_name(study.rulebook, each.device))
        elif each.feed is not None:
            words.append(f"{plain(each.length_m or 0)} m of {plain(each.feed.csa_mm2)} mm²")
    return ", then ".join(words)


def _given(value: float | None, unit: str, decimals: int | None = None) -> str:
    if value is None:
        return _BLANK
    return f"{plain(value) if decimals is None else show(value, decimals)} {unit}"


def _legs(circuit: Circuit, result: CircuitResult) -> tuple[tuple[str, ...], ...]:
    figures = {each.leg: each for each in result.legs}
    return tuple(
        (
            circuit.leg_title(leg),
            _given(figures[leg.id].length_m, "m", 1),
            f"{plain((circuit.cable_of(leg)).csa_mm2)} mm²",
            _given(figures[leg.id].iz_a, "A", 1),
            _given(None if (current := figures[leg.id].current_a) is None else abs(current), "A", 2),
        )
        for leg in circuit.legs
    )


def _points(circuit: Circuit, result: CircuitResult) -> tuple[tuple[str, ...], ...]:
    figures = {each.point: each for each in result.points}
    return tuple(
        (
            point.title,
            _given(figures[point.id].load_a, "A", 2),
            _given(figures[point.id].r1_plus_r2_ohm, "Ω", 3),
            _given(figures[point.id].zs_ohm, "Ω", 3),
            _given(figures[point.id].drop_percent, "%", 2),
        )
        for point in circuit.points
    )
