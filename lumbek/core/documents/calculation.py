"""The calculation sheet of a circuit: every check with its working, to be followed by hand."""

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.issue import may_issue
from lumbek.core.documents.paper import (
    BLANK,
    COMPETENT,
    Column,
    Fact,
    Facts,
    Paper,
    Row,
    Section,
    Table,
    Words,
    Workings,
)
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study


def _figures(*headings: tuple[str, str]) -> tuple[Column, ...]:
    """Return columns of figures after the one that says what they are of."""
    first, *others = headings
    return (
        Column(key=first[0], heading=first[1]),
        *(Column(key=key, heading=heading, align="right") for key, heading in others),
    )


_LEGS = _figures(
    ("way", "From, to"), ("length", "Length"), ("size", "Size"), ("iz", "Iz, worst segment"), ("current", "Current")
)
_POINTS = _figures(
    ("point", "Point"), ("load", "Load"), ("r1_r2", "R1+R2, 20 °C"), ("zs", "Zs, hot"), ("drop", "Voltage drop")
)


def calculation_paper(gathered: Gathered) -> Paper:
    """Return the calculation sheet of a circuit."""
    rulebook, circuit = gathered.rulebook, gathered.circuit
    studied = study_of(rulebook, gathered.house.supply, circuit)
    result, study = judge_studied(studied), studied.longest
    complies = may_issue(result.verdict)
    first = [f"{result.shape.title}.", *(f"Assumed: {each}" for each in result.assumptions)]
    checks = tuple(each for each in result.checks if each.verdict is not Verdict.NOT_APPLICABLE)
    return Paper(
        kind="calculation",
        title="Calculation sheet",
        of=f"{circuit.number} {circuit.name}",
        **gathered.head,
        sections=(
            Section(
                blocks=(
                    Facts(facts=_facts(rulebook, gathered.house.supply, circuit, study, result.ib_a)),
                    Words(lines=tuple(first)),
                    Workings(checks=checks),
                )
            ),
            Section(title="Cables", blocks=(Table(columns=_LEGS, rows=_legs(circuit, result)),)),
            Section(title="Points", blocks=(Table(columns=_POINTS, rows=_points(circuit, result)),)),
        ),
        claim="Complies.",
        statements=("A prediction never replaces a test.", COMPETENT),
        missing=() if complies else ("Compliance is not shown.",),
    )


def _facts(rulebook: Rulebook, supply: Supply, circuit: Circuit, study: Study, ib_a: float | None) -> tuple[Fact, ...]:
    cpc, method = rulebook.cpc_mm2(circuit.cable), rulebook.data.methods.get(circuit.method)
    said = {
        "Device": device_name(rulebook, circuit.device),
        "Cable": f"{rulebook.data.cables[circuit.cable.type].name}, {plain(circuit.cable.csa_mm2)} mm²",
        "cpc": _given(cpc, "mm²") if circuit.cable.earth_by == "core" else circuit.cable.earth_by or BLANK,
        "Method": f"{circuit.method}, {method.name}" if method else circuit.method,
        "Earthing": study.ahead.earthing or BLANK,
        "Ze": _given(study.ahead.ze_ohm, "Ω", 2),
        "Fault current": _given(supply.fault_current_ka, "kA"),
        "Ib": _given(ib_a, "A", 1),
        "Ahead": _ahead(study) if circuit.ahead else "",
        "Reason": circuit.reason,
    }
    return tuple(Fact(name=name, value=value) for name, value in said.items() if value)


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
        return BLANK
    return f"{plain(value) if decimals is None else show(value, decimals)} {unit}"


def _legs(circuit: Circuit, result: CircuitResult) -> tuple[Row, ...]:
    figures = {each.leg: each for each in result.legs}
    return tuple(
        Row(
            cells={
                "way": circuit.leg_title(leg),
                "length": _given(figures[leg.id].length_m, "m", 1),
                "size": f"{plain((circuit.cable_of(leg)).csa_mm2)} mm²",
                "iz": _given(figures[leg.id].iz_a, "A", 1),
                "current": _given(None if (current := figures[leg.id].current_a) is None else abs(current), "A", 2),
            }
        )
        for leg in circuit.legs
    )


def _points(circuit: Circuit, result: CircuitResult) -> tuple[Row, ...]:
    figures = {each.point: each for each in result.points}
    return tuple(
        Row(
            cells={
                "point": point.title,
                "load": _given(figures[point.id].load_a, "A", 2),
                "r1_r2": _given(figures[point.id].r1_plus_r2_ohm, "Ω", 3),
                "zs": _given(figures[point.id].zs_ohm, "Ω", 3),
                "drop": _given(figures[point.id].drop_percent, "%", 2),
            }
        )
        for point in circuit.points
    )
