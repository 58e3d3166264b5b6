"""The figures of a circuit at every point and leg, as values and as they are shown."""

from typing import Literal

from pydantic import computed_field

from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.checks.overload import needed_iz_a
from lumbek.core.judging.check import hold
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.network.flows import is_open
from lumbek.core.numbers import MINUS, NONE, floor_to, plain, show_down, show_up
from lumbek.core.protection.zs_limit import ZsLimit, zs_limit
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen


class PointShown(Frozen):
    """The figures of a point as they stand on the drawing, rounded against the user; a dash where there is none."""

    load: str = NONE
    drop: str = NONE
    zs: str = NONE
    r1_plus_r2: str = NONE
    margin: str = NONE


class LegShown(Frozen):
    """The figures of a leg as they stand on the drawing, rounded against the user; a dash where there is none."""

    length: str = NONE
    current: str = NONE
    iz: str = NONE
    margin: str = NONE


class PointFigures(Frozen):
    """Figures at one point. Resistances in Ω at 20 °C, Zs in Ω hot; None where unknown or open.

    `margin` is the part of its limit that is left of Zs or of the voltage drop, whichever has less: `margin_of`.
    """

    point: str
    open: bool = False
    r1_ohm: float | None = None
    rn_ohm: float | None = None
    r2_ohm: float | None = None
    r1_plus_r2_ohm: float | None = None
    cross_ln_ohm: float | None = None
    cross_le_ohm: float | None = None
    own_ends_ln_ohm: float | None = None
    zs_ohm: float | None = None
    zs_limit_ohm: float | None = None
    drop_v: float | None = None
    drop_percent: float | None = None
    load_a: float | None = None
    margin: float | None = None
    margin_of: Literal["zs", "drop"] | None = None

    @computed_field  # type: ignore[prop-decorator]
    @property
    def shown(self) -> PointShown:
        """The figures as they are shown."""
        return PointShown(
            load=NONE if self.load_a is None else f"{show_up(self.load_a, 1)} A",
            drop=NONE if self.drop_percent is None else f"{show_up(self.drop_percent)} %",
            zs=NONE if self.zs_ohm is None else f"{show_up(self.zs_ohm)} Ω",
            r1_plus_r2=NONE if self.r1_plus_r2_ohm is None else f"{show_up(self.r1_plus_r2_ohm)} Ω",
            margin=_percent(self.margin),
        )


class LegFigures(Frozen):
    """Figures of one leg: length in m, line current in A from its end a to b, Iz in A of its worst segment.

    `needed_a` is what it must carry, `margin` the part of that which it carries more.
    """

    leg: str
    length_m: float | None = None
    current_a: float | None = None
    iz_a: float | None = None
    needed_a: float | None = None
    margin: float | None = None

    @computed_field  # type: ignore[prop-decorator]
    @property
    def shown(self) -> LegShown:
        """The figures as they are shown."""
        return LegShown(
            length=NONE if self.length_m is None else f"{plain(round(self.length_m, 2))} m",
            current=NONE if self.current_a is None else f"{show_up(abs(self.current_a), 1)} A",
            iz=NONE if self.iz_a is None else f"{show_down(self.iz_a, 1)} A",
            margin=_percent(self.margin),
        )


class RingFigures(Frozen):
    """A ring end to end at 20 °C in Ω; None where a conductor is broken."""

    r1_ohm: float | None
    rn_ohm: float | None
    r2_ohm: float | None


def _shut(ohm: float | None) -> float | None:
    """Return None for an open circuit, which JSON has no number for."""
    return None if ohm is None or is_open(ohm) else ohm


def leg_figures(study: Study, leg: Leg) -> LegFigures:
    """Return the figures of a leg."""
    iz = _least_iz(study, leg.id)
    needed = needed_iz_a(study, leg.id)[0] if leg.id in study.capacities and study.ahead.protection else None
    current = study.currents.flow.leg_a.get(leg.id) if study.currents.flow else None
    margin = None if iz is None or needed is None else hold(iz, needed, "at least")[1]
    return LegFigures(
        leg=leg.id,
        length_m=leg.length_m,
        current_a=current,
        iz_a=iz,
        needed_a=needed,
        margin=margin,
    )


def point_figures(study: Study, point: str) -> PointFigures:
    """Return the figures of a point."""
    cold = study.wires.cold
    if cold is None or point not in study.graph.distance or point == BOARD:
        return PointFigures(point=point, open=point not in study.graph.distance)
    hot = study.wires.hot_joined_ohm or {}
    ze, ring = study.ahead.ze_ohm, cold.ring
    limit = zs_limit(study, point) if study.ahead.earthing else None
    drop = study.currents.flow.drop_v.get(point) if study.currents.flow else None
    zs = _shut(ze + hot[point]) if ze is not None and study.ahead.earthing else None
    percent = None if drop is None else 100 * (drop + (study.currents.feed_drop_v or 0.0)) / study.currents.drop_base_v
    margin, margin_of = _least_margin(study, point, zs, limit, percent)
    load = study.currents.demand.at_points.get(point) if study.currents.demand else None
    r1_plus_r2 = _shut(cold.joined_ohm[point])
    return PointFigures(
        point=point,
        open=is_open(cold.joined_ohm[point]),
        r1_ohm=_shut(cold.r1_ohm[point]),
        rn_ohm=_shut(cold.rn_ohm[point]),
        r2_ohm=_shut(cold.r2_ohm[point]),
        r1_plus_r2_ohm=r1_plus_r2,
        cross_ln_ohm=_shut(ring.cross_ln_ohm[point]) if ring else None,
        cross_le_ohm=_shut(ring.cross_le_ohm[point]) if ring else None,
        own_ends_ln_ohm=_shut(ring.own_ends_ln_ohm[point]) if ring else None,
        zs_ohm=zs,
        zs_limit_ohm=limit.ohm if limit else None,
        drop_v=drop,
        drop_percent=percent,
        load_a=load,
        margin=margin,
        margin_of=margin_of,
    )


def _percent(margin: float | None) -> str:
    """Return what is left of a limit in whole percent, rounded down: a failure never shows as none left over."""
    return NONE if margin is None else f"{floor_to(100 * margin, 0):+.0f} %".replace("-", MINUS)


def ring_figures(study: Study) -> RingFigures | None:
    """Return a ring's figures from end to end; None where there is no ring, or something of it is not known."""
    ring = study.wires.cold.ring if study.wires.cold else None
    if ring is None:
        return None
    return RingFigures(r1_ohm=_shut(ring.r1_ohm), rn_ohm=_shut(ring.rn_ohm), r2_ohm=_shut(ring.r2_ohm))


def _least_margin(
    study: Study, point: str, zs_ohm: float | None, limit: ZsLimit | None, drop_percent: float | None
) -> tuple[float | None, Literal["zs", "drop"] | None]:
    """Return the lesser margin of a point and which figure has it."""
    margins: list[tuple[float | None, Literal["zs", "drop"]]] = []
    if zs_ohm is not None and limit is not None:
        margins.append((hold(zs_ohm, limit.ohm, "at most")[1], "zs"))
    if drop_percent is not None:
        most = drop_limit_percent(study, point)
        margins.append((hold(drop_percent, most, "at most")[1], "drop"))
    return min(margins, default=(None, None), key=lambda each: each[0] or 0.0)


def _least_iz(study: Study, leg_id: str) -> float | None:
    found = [capacity.iz_a for capacity in study.capacities.get(leg_id, ())]
    known = [iz for iz in found if iz is not None]
    return min(known) if known and len(known) == len(found) else None
