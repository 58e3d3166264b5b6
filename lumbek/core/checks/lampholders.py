"""Are the lights on a device that lampholders and their accessories are made for?"""

from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question(
    "lampholders", "Device of the lights", "Are the lights on a device small enough for their fittings?", "lampholders"
)


def check_lampholders(study: Study) -> Check:
    """Lights that no fuse of their own guards on a device of no more than 16 A (559.5.1)."""
    lights = [
        point for point in study.standing.lights if point.kind == "light" and study.fused.before(point.id) is None
    ]
    lights = [point for point in lights if point.id in study.graph.distance]
    if not lights:
        return QUESTION.not_applicable(study, "No lights but behind a fuse of their own")
    if study.ahead.protection is None:
        return QUESTION.cannot_tell(study, ("main fuse of the supply",))
    most, rating = study.rulebook.data.lighting.most_device_a, study.ahead.protection.rating_a
    return QUESTION.held(
        study,
        rating,
        most,
        "at most",
        "{value} A device, {limit} A for lights",
        has_margin=False,
        unit="A",
        decimals=0,
        place=study.point_place(lights[0].id),
        steps=(Step(text=f"{len(lights)} lights on a device of {plain(rating)} A"),),
    )
