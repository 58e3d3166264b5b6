"""The loop outside a circuit, written out: Ze as it is measured or assumed, and the feeds that come on top of it."""

from lumbek.core.judging.check import Step
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study


def of_assumed_ze(study: Study) -> list[str]:
    """Return the words on Ze that a circuit stands on and that is assumed, where it is."""
    return [] if study.circuit.own_earth is not None else of_assumed_origin(study)


def of_assumed_origin(study: Study) -> list[str]:
    """Return the words on Ze at the origin that is assumed, where it is; feeds that come on top are none of it."""
    ze = study.ahead.assumed_ze_ohm
    return [] if ze is None else [f"Ze is not measured: {plain(ze)} Ω assumed for {study.supply.earthing}."]


def outside_steps(study: Study) -> tuple[Step, ...]:
    """Return the loop of the feeds, hot, and Ze with them, Ω; nothing where no feed is ahead."""
    if not study.ahead.feeds or study.circuit.own_earth is not None:
        return ()
    book, steps = study.rulebook, []
    for each in study.ahead.feeds:
        line, earth = (book.milliohm_per_m(each.cable, conductor) or 0.0 for conductor in ("L", "E"))
        hot_line, hot_earth = book.hot_factor(each.cable, "L"), book.hot_factor(each.cable, "E")
        length = each.length_m or 0.0
        both = f"{plain(line)} × {show(hot_line)} + {plain(earth)} × {show(hot_earth)}"
        steps.append(
            Step(
                text=f"{each.title}, line and cpc hot",
                sum=f"{plain(length)} m × ({both}) mΩ/m / 1000 "
                f"= {show(length * (line * hot_line + earth * hot_earth) / 1000, 3)} Ω",
            )
        )
    origin, feed = study.ahead.origin_ze_ohm or 0.0, study.ahead.feed_loop_ohm or 0.0
    return (
        *steps,
        Step(
            text="Ze at the circuit's board: at the origin, and the feed",
            sum=f"{show(origin, 3)} + {show(feed, 3)} = {show(origin + feed, 3)} Ω",
        ),
    )
