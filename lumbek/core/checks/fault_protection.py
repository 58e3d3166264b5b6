"""Zs at every point against what lets its device disconnect in time."""

from lumbek.core.checks.loop_working import loop_steps
from lumbek.core.network.figures import is_open
from lumbek.core.numbers import plain, show
from lumbek.core.protection.zs_limit import ZsLimit, zs_limit
from lumbek.core.question import Question
from lumbek.core.result import Check, Place, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("zs", "Fault loop Zs", "Does an earth fault at the worst point trip the device in time?", "zs")


def check_fault_protection(study: Study) -> Check:
    """Zs = Ze + (R1 + R2) hot, at the point with the least to spare, in Ω (411.4.4, 411.5.3)."""
    missing = _missing(study)
    hot, ze, cold = study.wires.hot_joined_ohm, study.ahead.ze_ohm, study.wires.cold
    if missing or hot is None or ze is None or cold is None:
        return QUESTION.cannot_tell(study, missing)
    limits = {point: zs_limit(study, point) for point in hot}
    unlimited = next((point for point, limit in limits.items() if limit is None), None)
    if unlimited is not None:
        return _nothing_disconnects(study, unlimited)

    def spare(point: str) -> float:
        limit = limits[point]
        return round((limit.ohm - ze - hot[point]) / limit.ohm, 9) if limit else 0.0

    worst = min(hot, key=spare)
    limit = limits[worst]
    assert limit is not None
    zs = ze + hot[worst]
    place = study.point_place(worst)
    if is_open(zs):
        return _open_loop(study, place, limit)
    factor = hot[worst] / cold.joined_ohm[worst]
    assumed = study.supply.ze_ohm is None and study.circuit.own_earth is None
    cautions = []
    if assumed:
        cautions.append(f"Ze is not measured: {plain(ze)} Ω assumed for {study.ahead.earthing}.")
    stable = study.rulebook.data.supply.tt_stable_ohm
    if limit.by_rcd and ze > stable:
        cautions.append(f"An electrode over {plain(stable)} Ω may not stay stable.")
    return QUESTION.held(
        study,
        zs,
        limit.ohm,
        "at most",
        "{value} Ω, limit {limit} Ω",
        unit="Ω",
        decimals=2,
        clause=limit.clause,
        place=place,
        steps=(
            *_feed_step(study),
            *loop_steps(study, worst),
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


def _feed_step(study: Study) -> tuple[Step, ...]:
    """Write out the loop of the feeds, hot, and Ze with them."""
    if not study.ahead.feeds or study.circuit.own_earth is not None:
        return ()
    book, steps = study.rulebook, []
    for each in study.ahead.feeds:
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
    feed = study.ahead.feed_loop_ohm or 0.0
    origin = (study.ahead.ze_ohm or 0.0) - feed
    return (
        *steps,
        Step(
            text="Ze at the circuit's board: at the origin, and the feed",
            sum=f"{show(origin, 3)} + {show(feed, 3)} = {show(origin + feed, 3)} Ω",
        ),
    )


def _missing(study: Study) -> tuple[str, ...]:
    missing = list(study.wires.unknown_lengths)
    if study.shape.kind == "empty":
        missing.append("first leg from the board")
    if study.ahead.protection is None:
        missing.append("main fuse of the supply")
    if study.ahead.earthing is None:
        missing.append("earthing system of the supply")
    elif study.ahead.ze_ohm is None:
        missing.append("resistance of its own electrode" if study.circuit.own_earth else "Ze of the supply")
    return tuple(missing)


def _nothing_disconnects(study: Study, point: str) -> Check:
    tt = study.ahead.earthing == "TT"
    return QUESTION.check(
        study,
        Verdict.FAIL if tt else Verdict.CANNOT_TELL,
        "TT without an RCD" if tt else "This device is not in the tables",
        clause=study.clause("zs-tt" if tt else "zs"),
        place=study.point_place(point),
        steps=(
            Step(
                text="On a TT supply the loop is too high for an overcurrent device: fit an RCD"
                if tt
                else "No published figure for this device and disconnection time: use its maker's"
            ),
        ),
        missing=() if tt else ("trip current of the device",),
    )


def _open_loop(study: Study, place: Place, limit: ZsLimit) -> Check:
    return QUESTION.check(
        study,
        Verdict.FAIL,
        "Open: no way back to earth",
        clause=limit.clause,
        place=place,
        steps=(Step(text="Line or cpc is broken on every way to the board"),),
    )
