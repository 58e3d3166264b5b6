"""A rulebook laid open: its clauses in our words, its tables, and where the two rulebooks differ."""

from collections.abc import Iterator
from typing import Any

from lumbek.core.numbers import plain
from lumbek.core.rulebooks.common import Appliance
from lumbek.core.rulebooks.pack import Rulebook, load_rulebook
from lumbek.core.rulebooks.rules import DiversityRule, Guidance
from lumbek.core.rulebooks.tables import rows
from lumbek.core.value import Frozen


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
    "capacity.buried": "Cc, for cables in the ground",
    "least_csa.lighting_mm2": "Least copper for lighting, mm²",
    "arc_fault.required_in_higher_risk": "Arc-fault detection required in homes of higher risk",
    "pme.guard_outdoors": "PME outdoors wants a guard against a lost neutral",
}

_COMMON_TABLES = {
    "voltage_drop.csv": "Voltage drop, mV/A/m",
    "conductor_resistance.csv": "Conductor resistance at 20 °C",
    "flat_cable_cpc.csv": "The cpc inside flat cables",
    "conduit.csv": "Steel conduit as a cpc, impedance at a fault",
    "armour_resistance.csv": "Steel armour at 20 °C, makers' greatest figures",
    "grouping_factor.csv": "Grouping in air, Cg",
    "grouping_ground.csv": "Grouping in the ground, Cg",
    "imperial.csv": "Old conductors by their strands",
    "insulation_factor.csv": "Length in insulation, Ci",
    "soil_factor.csv": "Thermal resistivity of soil, Cs",
    "depth_factor.csv": "Depth in the ground, Cd",
    "flex.csv": "Flexible cords",
    "max_zs.csv": "Greatest Zs as published",
    "let_through.csv": "Let-through energy of breakers, class 3, by the fault current",
}
_OWN_TABLES = {
    "cable_ratings.csv": "Current-carrying capacity, A",
    "ambient_factor.csv": "Ambient temperature, Ca",
}


def rulebook_page(rulebook: Rulebook) -> RulebookPage:
    """Return a rulebook laid open."""
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
        tables=(*_rule_tables(rulebook), *_files(rulebook)),
        differences=_differences(),
    )


def _files(rulebook: Rulebook) -> Iterator[TableView]:
    """Yield the tables of figures as they are kept."""
    for folder, names in ((rulebook.pack, _OWN_TABLES), (rulebook.common, _COMMON_TABLES)):
        for name, title in names.items():
            path = folder / name
            # Limits that another rulebook publishes are not this one's; only its fuses are looked up there.
            if name == "max_zs.csv" and not rulebook.data.fault_protection.published_table:
                continue
            if path.is_file():
                found = rows(path)
                columns = tuple(found[0])
                yield TableView(
                    title=title, columns=columns, rows=tuple(tuple(row[key] for key in columns) for row in found)
                )


def _draws(appliance: Appliance) -> str:
    if appliance.power_w is None:
        return f"{plain(appliance.current_a or 0)} A"
    return f"{plain(appliance.power_w)} W"


def _rule_tables(rulebook: Rulebook) -> Iterator[TableView]:
    """Yield the rules that are tables by nature: times, kinds of circuit, diversity, devices, appliances, k."""
    data = rulebook.data
    fault = data.fault_protection
    yield TableView(
        title="Disconnection times, s",
        columns=("circuit", "TN", "TT"),
        rows=(
            (
                f"final: sockets up to {plain(fault.socket_final_up_to_a)} A, "
                f"fixed up to {plain(fault.fixed_final_up_to_a)} A",
                plain(fault.final_s.TN),
                plain(fault.final_s.TT),
            ),
            ("distribution, and others", plain(fault.other_s.TN), plain(fault.other_s.TT)),
        ),
    )
    yield TableView(
        title="Kinds of circuit",
        columns=("kind", "usual", "load", "special"),
        rows=tuple(
            (
                kind.name,
                ", ".join(f"{plain(pair.rating_a)} A {plain(pair.csa_mm2)} mm²" for pair in kind.usual),
                kind.loads,
                kind.special,
            )
            for kind in rulebook.kinds.values()
        ),
    )
    yield TableView(
        title="Diversity in one dwelling",
        columns=("loads", "in full", "of the rest"),
        rows=tuple(
            (key.replace("-", " "), _in_full(rule), f"{plain(100 * rule.rest)} %")
            for key, rule in data.diversity.items()
        ),
    )
    yield TableView(
        title="Protective devices",
        columns=("device", "ratings, A", "breaks, kA"),
        rows=tuple(
            (
                device.name,
                ", ".join(plain(rating) for rating in device.ratings_a),
                ", ".join(plain(ka) for ka in device.breaking_capacities_ka) or "–",
            )
            for device in rulebook.devices.values()
        ),
    )
    yield TableView(
        title="Appliances",
        columns=("appliance", "draws", "leaks, mA", "d.c. part"),
        rows=tuple((each.name, _draws(each), plain(each.leakage_ma), each.dc) for each in rulebook.appliances.values()),
    )
    yield TableView(
        title="k for fault withstand, A √s / mm²",
        columns=("conductor", "PVC 70 °C", "XLPE 90 °C"),
        rows=(
            ("copper in a cable", plain(data.withstand.k["pvc70"]), plain(data.withstand.k["xlpe90"])),
            ("steel armour", plain(data.withstand.k_armour["pvc70"]), plain(data.withstand.k_armour["xlpe90"])),
        ),
    )


def _in_full(rule: DiversityRule) -> str:
    """Return what of several loads counts in full, in words."""
    parts = [
        f"first {plain(rule.first_a)} A" if rule.first_a else "",
        f"largest {rule.largest_count}" if rule.largest_count else "",
        f"{plain(rule.socket_a)} A more with a socket" if rule.socket_a else "",
    ]
    return ", ".join(part for part in parts if part) or "–"


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


def _of_two(value: tuple[float, ...]) -> str:
    """Return two figures in words: parts of a whole as a fraction, others as a range."""
    match value:
        case (int(a), int(b)) if 0 < a < b:
            return f"{a}/{b}"
        case _:
            return " to ".join(f"{figure:+g}" for figure in value)


def _said(value: object) -> str:
    match value:
        case bool():
            return "yes" if value else "no"
        case None:
            return "as declared locally"
        case dict():
            return ", ".join(f"{key} {figure:g}" for key, figure in value.items()) or "as declared"
        case tuple():
            return _of_two(value)
        case _:
            return f"{value:g}" if isinstance(value, float) else str(value)
