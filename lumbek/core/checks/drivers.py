"""Drivers of extra-low voltage: what hangs behind each, and what is left of its voltage there."""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import Driver, Point
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study

QUESTION = Question("drivers", "Behind drivers", "Does each driver carry what hangs behind it?", "driver")


def check_drivers(study: Study) -> Check:
    """The lamps behind a driver take no more than it is made for (512.1.2); its cable loses 5 % at the most (525).

    Drop in V is 2 R l I (Ohm's law), R the table's resistance a metre at 20 °C made warm, I what the lamps take at the
    output voltage.
    """
    drivers = [(point, point.driver) for point in study.circuit.points if point.kind == "driver"]
    said = [(point, driver) for point, driver in drivers if driver is not None and driver.load_w is not None]
    if not said:
        return QUESTION.not_applicable(study, "No lamps stated behind a driver")
    steps, missing = [], list[str]()
    for point, driver in said:
        steps.append(
            Step(text=f"Behind {point.title}", sum=f"{plain(driver.load_w or 0)} W at {plain(driver.output_v)} V")
        )
        if driver.rated_w is None:
            missing.append(f"the rating of {point.title} in W")
        over = driver.rated_w is not None and (driver.load_w or 0.0) > driver.rated_w
        lost = drop_percent(study, driver)
        if lost is not None:
            steps.append(Step(text="Lost on the way to the farthest lamp", sum=f"{show(lost, 1)} %"))
        if over or (lost is not None and lost > study.rulebook.data.driver.most_drop_percent):
            return QUESTION.check(
                study,
                Verdict.FAIL,
                _why(study, point, driver, over, lost),
                place=study.point_place(point.id),
                steps=tuple(steps),
            )
        if lost is None and (driver.run_m or 0.0) > 0:
            missing.append(f"the conductor behind {point.title} in mm²")
    if missing:
        return QUESTION.cannot_tell(study, tuple(missing), steps=tuple(steps))
    return QUESTION.check(study, Verdict.PASS, "Within their ratings", place=study.whole, steps=tuple(steps))


def drop_percent(study: Study, driver: Driver) -> float | None:
    """Return what is lost of a driver's voltage on its way to the farthest lamp, in %; None where it is not said."""
    if not driver.run_m or driver.csa_mm2 is None or driver.load_w is None:
        return None
    cold = study.rulebook.conductor_milliohm_per_m.get(driver.csa_mm2)
    if cold is None:
        return None
    loop_ohm = 2 * cold / 1000 * study.rulebook.data.driver.warm * driver.run_m
    return 100 * loop_ohm * driver.load_w / driver.output_v**2


def _why(study: Study, point: Point, driver: Driver, over: bool, lost: float | None) -> str:
    if over:
        return f"{plain(driver.load_w or 0)} W behind {point.title}, made for {plain(driver.rated_w or 0)} W"
    most = plain(study.rulebook.data.driver.most_drop_percent)
    return f"{show(lost or 0.0, 1)} % lost behind {point.title}, {most} % at the most"
