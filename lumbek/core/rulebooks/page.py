"""A rulebook laid open: its clauses in our words, its tables, and where the two rulebooks differ."""

from typing import Any

from lumbek.core.result import Frozen
from lumbek.core.rulebooks.pack import Rulebook, load_rulebook
from lumbek.core.rulebooks.rules import Guidance
from lumbek.core.rulebooks.tables import rows


class ClauseLine(Frozen):
    """A clause: what it is about, where it stands, what it asks."""

    topic: str
    ref: str
    text: str


class TableView(Frozen):
    """A table as it is used."""

    title: str
    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


class Difference(Frozen):
    """A point on which the two rulebooks differ."""

    topic: str
    bs7671: str
    iec60364: str


class RulebookPage(Frozen):
    """Everything a reader may want of a rulebook."""

    id: str
    title: str
    edition: str
    advice: str
    clauses: tuple[ClauseLine, ...]
    guidance: tuple[ClauseLine, ...]
    tables: tuple[TableView, ...]
    differences: tuple[Difference, ...]


# Figures worth comparing, by their place in the pack.
_FIGURES = {
    "supply.tolerance_percent": "Voltage tolerance, %",
    "supply.assumed_ze_ohm": "Ze that may be assumed, Ω",
    "supply.assumed_fault_current_ka": "Fault current that may be declared, kA",
    "supply.tails_own_device_over_m": "Tails need a device of their own over, m",
    "bonding.pme_min_mm2": "Main bonding with PME, mm² at least",
    "fault_protection.cmin": "Cmin on U0 for Zs",
    "fault_protection.published_table": "Zs from a published table",
    "fault_protection.measured_factor": "Part of the Zs limit that a cold measurement may reach",
    "ring.allowed": "Ring final circuits described",
    "rcd.concealed_cables": "30 mA for shallow cables in walls",
}

_COMMON_TABLES = {
    "voltage_drop.csv": "Voltage drop, mV/A/m",
    "conductor_resistance.csv": "Conductor resistance at 20 °C",
    "flat_cable_cpc.csv": "The cpc inside flat cables",
    "armour_resistance.csv": "Steel armour at 20 °C, makers' greatest figures",
    "grouping_factor.csv": "Grouping, Cg",
    "insulation_factor.csv": "Length in insulation, Ci",
    "soil_factor.csv": "Thermal resistivity of soil, Cs",
    "depth_factor.csv": "Depth in the ground, Cd",
    "flex.csv": "Flexible cords",
    "let_through.csv": "Let-through energy of 6 kA breakers, class 3",
}
_OWN_TABLES = {
    "cable_ratings.csv": "Current-carrying capacity, A",
    "ambient_factor.csv": "Ambient temperature, Ca",
    "max_zs.csv": "Greatest Zs as published",
}


def rulebook_page(rulebook: Rulebook) -> RulebookPage:
    """Return a rulebook laid open."""
    tables = []
    for folder, names in ((rulebook.pack, _OWN_TABLES), (rulebook.common, _COMMON_TABLES)):
        for name, title in names.items():
            path = folder / name
            if path.is_file():
                found = rows(path)
                columns = tuple(found[0])
                tables.append(
                    TableView(
                        title=title, columns=columns, rows=tuple(tuple(row[key] for key in columns) for row in found)
                    )
                )
    data = rulebook.data
    return RulebookPage(
        id=data.id,
        title=data.title,
        edition=data.edition,
        advice=data.advice,
        clauses=tuple(
            ClauseLine(topic=key.replace("-", " "), ref=clause.ref, text=clause.text)
            for key, clause in data.clauses.items()
        ),
        guidance=tuple(_line(each) for each in data.guidance),
        tables=tuple(tables),
        differences=_differences(),
    )


def _line(guidance: Guidance) -> ClauseLine:
    return ClauseLine(topic=guidance.title, ref=guidance.ref, text=guidance.text)


def _differences() -> tuple[Difference, ...]:
    ours, theirs = load_rulebook("bs7671").data, load_rulebook("iec60364").data
    found = []
    for path, topic in _FIGURES.items():
        a, b = _at(ours, path), _at(theirs, path)
        if a != b:
            found.append(Difference(topic=topic, bs7671=_said(a), iec60364=_said(b)))
    for key, clause in ours.clauses.items():
        other = theirs.clauses[key]
        if clause.text != other.text:
            found.append(Difference(topic=key.replace("-", " ").capitalize(), bs7671=clause.text, iec60364=other.text))
    other_guidance = {each.title: each.text for each in theirs.guidance}
    for each in ours.guidance:
        if each.text != other_guidance.get(each.title):
            found.append(
                Difference(topic=each.title, bs7671=each.text, iec60364=other_guidance.get(each.title, "not said"))
            )
    return tuple(found)


def _at(data: Any, path: str) -> object:
    for part in path.split("."):
        data = getattr(data, part)
    return data


def _said(value: object) -> str:
    match value:
        case bool():
            return "yes" if value else "no"
        case None:
            return "as declared locally"
        case dict():
            return ", ".join(f"{key} {figure:g}" for key, figure in value.items()) or "as declared"
        case (int(a), int(b)) if a < b and a > 0:
            return f"{a}/{b}"
        case tuple():
            return " to ".join(f"{figure:+g}" for figure in value)
        case float():
            return f"{value:g}"
        case _:
            return str(value)
