"""The test sheet of one circuit: every reading in the order of testing, expected beside entered."""

from typing import Literal

from lumbek.core.checks.fault_protection import measured_factor, zs_limit
from lumbek.core.context import Context
from lumbek.core.model.circuit import BOARD
from lumbek.core.model.reading import Quantity, Reading, standing
from lumbek.core.network.figures import is_open
from lumbek.core.numbers import floor_to
from lumbek.core.result import Check, Frozen, Verdict, overall
from lumbek.core.testing.band import Expected, band, temperature_factor
from lumbek.core.testing.verdicts import Bench, judge_reading


class Item(Frozen):
    """One reading to take: what it is, what is expected, what was read and what that means.

    `limit` is the figure the reading is held to, already rounded against the user for showing.
    """

    quantity: Quantity
    point: str | None
    place: str
    title: str
    unit: str
    expected: Expected | None
    limit: float | None
    sense: Literal["at most", "at least"] | None
    reading: Reading | None
    check: Check | None


class Stage(Frozen):
    """A step of testing: what is joined and measured, and its readings."""

    id: str
    title: str
    how: str
    live: bool
    items: tuple[Item, ...]


class Sheet(Frozen):
    """A circuit's test sheet. `verdict` is over the readings entered; `taken` of `total` are there."""

    stages: tuple[Stage, ...]
    taken: int
    total: int
    verdict: Verdict
    cautions: int


_UNITS: dict[Quantity, str] = {
    "isolation": "",
    "insulation-ll": "MΩ",
    "insulation-le": "MΩ",
    "rcd-trip": "ms",
    "polarity": "",
    "rcd-button": "",
}

_TITLES: dict[Quantity, str] = {
    "isolation": "Isolated, locked, proved dead",
    "r1": "Line, end to end (r1)",
    "rn": "Neutral, end to end (rn)",
    "r2": "cpc, end to end (r2)",
    "cross-ln": "L–N, cross-joined",
    "cross-le": "L–cpc, cross-joined",
    "r1+r2": "R1+R2",
    "insulation-ll": "Between live conductors",
    "insulation-le": "Live conductors to earth",
    "polarity": "Polarity",
    "zs": "Zs",
    "rcd-trip": "Trip time at IΔn",
    "rcd-button": "Test button",
}


def test_sheet(
    context: Context,
    readings: tuple[Reading, ...],
    peers_mohm: tuple[float, ...] = (),
    ambient_c: float = 20.0,
) -> Sheet:
    """Return the sheet of a circuit (order of BS 7671 Part 6 and IEC 60364-6).

    `peers_mohm` are insulation readings of the other circuits; `ambient_c` the temperature of the copper.
    """
    bench = Bench(context, standing(readings), peers_mohm, ambient_c)
    points = walk_points(context)
    stages = [
        Stage(id=key, title=title, how=how, live=live, items=tuple(_item(bench, *what) for what in items))
        for key, title, how, live, items in _plan(context, points)
        if items
    ]
    items = [item for stage in stages for item in stage.items]
    checks = [item.check for item in items if item.check is not None]
    return Sheet(
        stages=tuple(stages),
        taken=sum(item.reading is not None for item in items),
        total=len(items),
        verdict=overall(checks),
        cautions=sum(bool(check.caution) for check in checks),
    )


def walk_points(context: Context) -> list[str]:
    """Return the points in the order one walks them: along the run, then its branches. Joints are closed."""
    order: list[str] = []
    for chain in context.shape.walk:
        order += [step.point for step in chain.steps if step.point != BOARD and step.point not in order]
    return [point for point in order if context.circuit.point(point).kind != "joint"]


_Plan = list[tuple[str, str, str, bool, list[tuple[Quantity, str | None]]]]


def _plan(context: Context, points: list[str]) -> _Plan:
    def at(quantity: Quantity) -> list[tuple[Quantity, str | None]]:
        return [(quantity, point) for point in points]

    volts = f"{context.rulebook.data.testing.insulation_v:.0f} V"
    plan: _Plan = [
        (
            "isolation",
            "Safe isolation",
            "Identify, switch off, lock and tag, prove the indicator, test every pair, prove it again.",
            False,
            [("isolation", None)],
        )
    ]
    if context.is_socket_ring:
        plan += [
            (
                "ring-1",
                "Ring, end to end",
                "Take both ends out at the board. Read each conductor from end to end.",
                False,
                [("r1", None), ("rn", None), ("r2", None)],
            ),
            (
                "ring-2",
                "Ring, line and neutral crossed",
                "Join the line of each end to the neutral of the other. Read L–N at every point: all alike.",
                False,
                at("cross-ln"),
            ),
            (
                "ring-3",
                "Ring, line and cpc crossed",
                "Join the line of each end to the cpc of the other. Read L–cpc at every point: this is R1+R2.",
                False,
                at("cross-le"),
            ),
        ]
    else:
        plan.append(
            (
                "cpc",
                "Continuity of the cpc",
                "Link line and cpc at the board. Read between them at every point: R1+R2.",
                False,
                at("r1+r2"),
            )
        )
    plan += [
        (
            "insulation",
            "Insulation resistance",
            f"{volts} d.c., loads out, switches on, electronics disconnected.",
            False,
            [("insulation-ll", None), ("insulation-le", None)],
        ),
        (
            "polarity",
            "Polarity",
            "Line to the device and the switches, every outlet right way round.",
            False,
            [("polarity", None)],
        ),
        (
            "zs",
            "Earth fault loop",
            "Live. Read Zs at every point; the highest goes on the schedule.",
            True,
            at("zs"),
        ),
    ]
    if context.circuit.device.rcd is not None:
        plan.append(
            (
                "rcd",
                "RCD",
                "Live. Trip time at the rated residual current, then the button.",
                True,
                [("rcd-trip", None), ("rcd-button", None)],
            )
        )
    return plan


def _item(bench: Bench, quantity: Quantity, point: str | None) -> Item:
    expected = expected_reading(bench, quantity, point)
    reading = bench.readings.get((quantity, point))
    place = bench.context.circuit.point_title(point) if point else ""
    title = _TITLES[quantity]
    limit, sense = _limit(bench, quantity, point)
    return Item(
        quantity=quantity,
        point=point,
        place=place,
        title=title,
        unit=_UNITS.get(quantity, "Ω"),
        expected=expected,
        limit=limit,
        sense=sense,
        reading=reading,
        check=judge_reading(bench, reading, f"{title}, {place}" if place else title, expected)
        if reading is not None
        else None,
    )


def _limit(
    bench: Bench, quantity: Quantity, point: str | None
) -> tuple[float | None, Literal["at most", "at least"] | None]:
    context, rules = bench.context, bench.context.rulebook.data.testing
    if quantity in ("insulation-ll", "insulation-le"):
        return rules.insulation_mohm, "at least"
    if quantity == "rcd-trip":
        rcd = context.circuit.device.rcd
        return (rules.rcd_s_trip_ms[1] if rcd and rcd.delayed else rules.rcd_trip_ms), "at most"
    if quantity == "zs" and point is not None and context.earthing:
        limit = zs_limit(context, point)
        if limit is not None:
            return floor_to(limit.ohm * measured_factor(context, limit), 0 if limit.by_rcd else 2), "at most"
    return None, None


def expected_reading(bench: Bench, quantity: Quantity, point: str | None) -> Expected | None:
    """Return what the tester should read in Ω, from the network; None where the network cannot say."""
    context = bench.context
    cold = context.cold
    if cold is None:
        return None
    warm = temperature_factor(bench.ambient_c)
    ring = cold.ring
    if quantity == "zs" and point is not None:
        ze = context.ze_ohm
        return None if ze is None else _shut_band(cold.joined_ohm[point] * warm, ze)
    if quantity == "r1+r2" and point is not None:
        return _shut_band(cold.joined_ohm[point] * warm)
    if ring is None:
        return None
    match quantity:
        case "r1":
            return _shut_band(ring.r1_ohm * warm)
        case "rn":
            return _shut_band(ring.rn_ohm * warm)
        case "r2":
            return _shut_band(ring.r2_ohm * warm)
        case "cross-ln" if point is not None:
            return _shut_band(ring.cross_ln_ohm[point] * warm)
        case "cross-le" if point is not None:
            return _shut_band(ring.cross_le_ohm[point] * warm)
        case _:
            return None


def _shut_band(cable_ohm: float, fixed_ohm: float = 0.0) -> Expected | None:
    return None if is_open(cable_ohm) else band(cable_ohm, fixed_ohm)
