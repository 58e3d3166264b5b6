"""The greatest Zs that lets a device disconnect in time."""

from collections.abc import Sequence
from dataclasses import dataclass

from lumbek.core.judging.check import Clause, Step
from lumbek.core.model.device import Device, Rcd
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.protection.electrode_limit import electrode_limit_ohm
from lumbek.core.protection.who import device_name, protective_device
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.study import Study


@dataclass(frozen=True)
class ZsLimit:
    """The greatest Zs in Ω that a point may have at design, how it was found, and by which clause."""

    ohm: float
    steps: tuple[Step, ...]
    by_rcd: bool
    clause: Clause


def zs_limit(study: Study, point_id: str) -> ZsLimit | None:
    """Return the design limit of Zs at a point, or None where nothing in the tables disconnects in time.

    TN: the published table (BS 7671 Tables 41.2 to 41.4), else U0 Cmin / Ia rounded down to two decimals
    (411.4.4; IEC: U0 / Ia, not rounded). TT with an RCD: 50 V / IΔn (411.5.3).
    """
    # The limit is the device's, the same for all points behind it.
    device = protective_device(study, point_id)
    key = (device.standard, device.rating_a) if device else None
    if key not in study.zs_limits:
        # What may be a feed or may be equipment is held to the shorter time; `fault_protection` asks which it is.
        final = study.standing.feeds_only_boards is not True
        study.zs_limits[key] = device_limit(
            study, device, study.ahead.earthing, final, study.known_rcds, sockets=bool(study.standing.sockets)
        )
    found: ZsLimit | None = study.zs_limits[key]
    return found


def measured_factor(study: Study, limit: ZsLimit) -> float:
    """Return the part of a design limit that a measured loop may reach.

    The RCD's limit is a voltage, not a conductor temperature: nothing is taken off it for a cold loop.
    """
    return 1.0 if limit.by_rcd else study.rulebook.measured_zs_factor


def rcd_limit(study: Study, rcds: Sequence[Rcd], clause: str) -> ZsLimit | None:
    """Return the limit of the RCD that allows most: 50 V / IΔn (411.5.3, 411.4.204). None without one that is known."""
    known = [rcd.rated_ma for rcd in rcds if rcd.rated_ma is not None]
    if not known:
        return None
    volts, least_ma = study.rulebook.data.fault_protection.touch_voltage_v, min(known)
    ohm = electrode_limit_ohm(study.rulebook, least_ma)
    steps = (
        Step(
            text=f"The RCD disconnects: RA × IΔn no more than {plain(volts)} V",
            sum=f"{plain(volts)} V / {plain(least_ma / 1000)} A = {plain(floor_to(ohm, 0))} Ω",
        ),
    )
    return ZsLimit(ohm=ohm, steps=steps, by_rcd=True, clause=study.clause(clause))


def rcd_instead(study: Study) -> ZsLimit | None:
    """Return the limit of an RCD where the loop is too high for the overcurrent device (411.4.204); None without one.

    A fault between line and neutral is no RCD's: behind a mere switch nothing would cut that off, so none counts.
    """
    if study.ahead.behind_switch:
        return None
    return rcd_limit(study, study.known_rcds, "zs-rcd")


def device_limit(
    study: Study,
    device: Device | None,
    earthing: str | None,
    final: bool,
    rcds: Sequence[Rcd],
    sockets: bool = False,
) -> ZsLimit | None:
    """Return the limit that a device or, on TT, an RCD sets; `final` circuits have the shorter time."""
    book = study.rulebook
    rules = book.data.fault_protection
    if earthing == "TT":
        return rcd_limit(study, rcds, "zs-tt")
    if device is None:
        return None
    time_s = book.disconnection_time_s(device, sockets, final, earthing or "TN-S")
    name = device_name(study.rulebook, device)
    clause = study.clause("zs")
    listed = device if device.curve else book.listed_fuse(device, time_s)
    published = book.published_zs_ohm(listed, time_s) if rules.published_table else None
    trip = book.trip_current_a(device, time_s)
    if published is not None:
        instead = "" if listed == device else f", not listed: that of {device_name(study.rulebook, listed)}"
        step = Step(text=f"Published limit for {name}{instead}, {plain(time_s)} s", sum=f"{show(published)} Ω")
        return ZsLimit(ohm=published, steps=(step,), by_rcd=False, clause=clause)
    return None if trip is None else _by_trip(book, name, time_s, trip, clause)


def _by_trip(book: Rulebook, name: str, time_s: float, trip: float, clause: Clause) -> ZsLimit:
    """Return the limit by what operates a device in time: U0 x Cmin / Ia, Ω."""
    rules = book.data.fault_protection
    ohm = book.u0_v * rules.cmin / trip
    # Where limits are published, one that is not listed has two decimals like the others.
    decimals = 2 if rules.published_table else 3
    if rules.published_table:
        ohm = floor_to(ohm, decimals)
    cmin = f" × {plain(rules.cmin)}" if rules.cmin != 1 else ""
    step = Step(
        text=f"{name} operates within {plain(time_s)} s at Ia = {plain(round(trip, 2))} A",
        sum=f"{plain(book.u0_v)} V{cmin} / {plain(round(trip, 2))} A = {show(floor_to(ohm, decimals), decimals)} Ω",
    )
    return ZsLimit(ohm=ohm, steps=(step,), by_rcd=False, clause=clause)
