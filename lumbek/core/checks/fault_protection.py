"""Zs at every point against what lets its device disconnect in time."""

from dataclasses import dataclass

from lumbek.core.checks.loop_working import loop_steps
from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.model.circuit import Device, Rcd
from lumbek.core.network.figures import is_open
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.result import Check, Clause, Place, Step, Verdict

QUESTION = Question("zs", "Fault loop Zs", "Does an earth fault at the worst point trip the device in time?", "zs")


@dataclass(frozen=True)
class ZsLimit:
    """The greatest Zs in Ω that a point may have at design, how it was found, and by which clause."""

    ohm: float
    steps: tuple[Step, ...]
    by_rcd: bool
    clause: Clause


def protective_device(context: Context, point_id: str) -> Device | None:
    """Return the device that clears a fault at this point: the circuit's own, or a fused spur's fuse."""
    fuse = context.fuse_before(point_id)
    if fuse is None:
        return context.protection
    return Device(standard="bs1362", curve=None, rating_a=float(fuse.fuse_a or 13), rcd=context.circuit.device.rcd)


def zs_limit(context: Context, point_id: str) -> ZsLimit | None:
    """Return the design limit of Zs at a point, or None where nothing in the tables disconnects in time.

    TN: the published table (BS 7671 Tables 41.2 to 41.4), else U0 Cmin / Ia rounded down to two decimals
    (411.4.4; IEC: U0 / Ia, not rounded). TT with an RCD: 50 V / IΔn (411.5.3).
    """
    # The limit is the device's, the same for all points behind it.
    device = protective_device(context, point_id)
    key = (device.standard, device.rating_a) if device else None
    if key not in context.zs_limits:
        final = context.rulebook.kinds[context.circuit.kind].final
        context.zs_limits[key] = device_limit(context, device, context.earthing, final, context.circuit.device.rcd)
    found: ZsLimit | None = context.zs_limits[key]
    return found


def measured_factor(context: Context, limit: ZsLimit) -> float:
    """Return the part of a design limit that a measured loop may reach.

    The RCD's limit is a voltage, not a conductor temperature: nothing is taken off it for a cold loop.
    """
    return 1.0 if limit.by_rcd else context.rulebook.measured_zs_factor


def device_limit(
    context: Context, device: Device | None, earthing: str | None, final: bool, rcd: Rcd | None
) -> ZsLimit | None:
    """Return the limit that a device or, on TT, an RCD sets; `final` circuits have the shorter time."""
    book = context.rulebook
    rules = book.data.fault_protection
    if earthing == "TT":
        if rcd is None:
            return None
        ohm = rules.touch_voltage_v / (rcd.rated_ma / 1000)
        steps = (
            Step(
                text="The RCD disconnects: RA × IΔn no more than 50 V",
                sum=f"50 V / {plain(rcd.rated_ma / 1000)} A = {plain(floor_to(ohm, 0))} Ω",
            ),
        )
        return ZsLimit(ohm=ohm, steps=steps, by_rcd=True, clause=context.clause("zs-tt"))
    if device is None:
        return None
    time_s = book.disconnection_time_s(device, context.group, final, earthing or "TN-S")
    name = device_name(context, device)
    clause = context.clause("zs")
    listed = device if device.curve else book.listed_fuse(device, time_s)
    published = book.published_zs_ohm(listed, time_s) if rules.published_table else None
    if published is not None:
        instead = "" if listed == device else f", not listed: that of {device_name(context, listed)}"
        step = Step(text=f"Published limit for {name}{instead}, {plain(time_s)} s", sum=f"{show(published)} Ω")
        return ZsLimit(ohm=published, steps=(step,), by_rcd=False, clause=clause)
    trip = book.trip_current_a(device, time_s)
    if trip is None:
        return None
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


def device_name(context: Context, device: Device) -> str:
    """Return a device as it is called: type, curve and rating."""
    kind = context.rulebook.devices[device.standard]
    curve = f"type {device.curve}, " if device.curve else ""
    return f"{kind.short} {curve}{plain(device.rating_a)} A"


def check_fault_protection(context: Context) -> Check:
    """Zs = Ze + (R1 + R2) hot, at the point with the least to spare, in Ω (411.4.4, 411.5.3)."""
    missing = _missing(context)
    hot, ze, cold = context.hot_joined_ohm, context.ze_ohm, context.cold
    if missing or hot is None or ze is None or cold is None:
        return QUESTION.cannot_tell(context, missing)
    limits = {point: zs_limit(context, point) for point in hot}
    unlimited = next((point for point, limit in limits.items() if limit is None), None)
    if unlimited is not None:
        return _nothing_disconnects(context, unlimited)

    def spare(point: str) -> float:
        limit = limits[point]
        return round((limit.ohm - ze - hot[point]) / limit.ohm, 9) if limit else 0.0

    worst = min(hot, key=spare)
    limit = limits[worst]
    assert limit is not None
    zs = ze + hot[worst]
    place = context.point_place(worst)
    if is_open(zs):
        return _open_loop(context, place, limit)
    factor = hot[worst] / cold.joined_ohm[worst]
    assumed = context.supply.ze_ohm is None and context.circuit.own_earth is None
    decimals = 0 if limit.by_rcd else 2
    shown = plain(floor_to(limit.ohm, decimals)) if limit.by_rcd else show(floor_to(limit.ohm, 2))
    cautions = []
    if assumed:
        cautions.append(f"Ze is not measured: {plain(ze)} Ω assumed for {context.earthing}.")
    stable = context.rulebook.data.supply.tt_stable_ohm
    if limit.by_rcd and ze > stable:
        cautions.append(f"An electrode over {plain(stable)} Ω may not stay stable.")
    return QUESTION.held(
        context,
        zs,
        limit.ohm,
        "at most",
        f"{show(zs)} Ω, limit {shown} Ω",
        unit="Ω",
        decimals=2,
        clause=limit.clause,
        place=place,
        steps=(
            *_feed_step(context),
            *loop_steps(context, worst),
            Step(
                text=f"R1 + R2 at 20 °C, from the network, at {place.name}",
                sum=f"{show(cold.joined_ohm[worst], 3)} Ω",
            ),
            Step(
                text="Zs = Ze + (R1 + R2) × temperature",
                sum=f"{show(ze, 3)} + {show(cold.joined_ohm[worst], 3)} × {show(factor)} = {show(zs, 3)} Ω",
            ),
            *limit.steps,
        ),
        caution=" ".join(cautions),
    )


def _feed_step(context: Context) -> tuple[Step, ...]:
    """Write out the loop of the feeds, hot, and Ze with them."""
    if not context.feeds or context.circuit.own_earth is not None:
        return ()
    book, steps = context.rulebook, []
    for each in context.feeds:
        line, earth = (book.milliohm_per_m(each.cable, conductor) or 0.0 for conductor in ("L", "E"))
        hot_line, hot_earth = book.hot_factor(each.cable, "L"), book.hot_factor(each.cable, "E")
        both = f"{plain(line)} × {show(hot_line)} + {plain(earth)} × {show(hot_earth)}"
        steps.append(
            Step(
                text=f"{each.title}, line and cpc hot",
                sum=f"{plain(each.length_m)} m × ({both}) mΩ/m / 1000 "
                f"= {show(each.length_m * (line * hot_line + earth * hot_earth) / 1000, 3)} Ω",
            )
        )
    feed = context.feed_loop_ohm or 0.0
    origin = (context.ze_ohm or 0.0) - feed
    return (
        *steps,
        Step(
            text="Ze at the circuit's board: at the origin, and the feed",
            sum=f"{show(origin, 3)} + {show(feed, 3)} = {show(origin + feed, 3)} Ω",
        ),
    )


def _missing(context: Context) -> tuple[str, ...]:
    missing = list(context.unknown_lengths)
    if context.shape.kind == "empty":
        missing.append("first leg from the board")
    if context.protection is None:
        missing.append("main fuse of the supply")
    if context.earthing is None:
        missing.append("earthing system of the supply")
    elif context.ze_ohm is None:
        missing.append("resistance of its own electrode" if context.circuit.own_earth else "Ze of the supply")
    return tuple(missing)


def _nothing_disconnects(context: Context, point: str) -> Check:
    tt = context.earthing == "TT"
    return QUESTION.check(
        context,
        Verdict.FAIL if tt else Verdict.CANNOT_TELL,
        "TT without an RCD" if tt else "This device is not in the tables",
        clause=context.clause("zs-tt" if tt else "zs"),
        place=context.point_place(point),
        steps=(
            Step(
                text="On a TT supply the loop is too high for an overcurrent device: fit an RCD"
                if tt
                else "No published figure for this device and disconnection time: use its maker's"
            ),
        ),
        missing=() if tt else ("trip current of the device",),
    )


def _open_loop(context: Context, place: Place, limit: ZsLimit) -> Check:
    return QUESTION.check(
        context,
        Verdict.FAIL,
        "Open: no way back to earth",
        clause=limit.clause,
        place=place,
        steps=(Step(text="Line or cpc is broken on every way to the board"),),
    )
