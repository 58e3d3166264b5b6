"""What is left at the ends of a cable: slack, and a long tail, labelled, where something comes over it later."""

from collections.abc import Mapping

from lumbek.core.model.leg import BOARD
from lumbek.core.model.plan import Thing, ThingKind
from lumbek.core.model.routes import RouteRules
from lumbek.core.plan.spans import span_of
from lumbek.core.routes.lay_of_house import LayOfHouse, LegEnd

# A metre, so that it is found and reaches when the units stand.
TAIL_MM = 1000
_COMES_LATER: tuple[ThingKind, ...] = ("units", "wall-units", "built-in", "appliance", "hob", "extraction", "bath")


def tails_of(house: LayOfHouse) -> Mapping[str, Thing]:
    """Return, by mark, the thing that comes later over it: a new one, on its wall, over its place and height."""
    new = {mark.id for mark in house.places.marks if mark.is_put_in}
    found = {}
    for mark, end in house.ends.items():
        thing = _over(house, end) if mark in new and end.wall else None
        if thing is not None:
            found[mark] = thing
    return found


def _over(house: LayOfHouse, end: LegEnd) -> Thing | None:
    outline = house.placing.outline(end.room)
    for thing in outline.things:
        if thing.wall != end.wall or thing.fate not in ("new", "move") or thing.kind not in _COMES_LATER:
            continue
        span = span_of(outline, thing)
        if span.left <= end.at_mm <= span.right and thing.bottom_mm <= end.height_mm <= thing.top_mm:
            return thing
    return None


def slack_of(rules: RouteRules, a: str, b: str) -> int:
    """Return what is left at both ends of a leg together besides tails, in mm."""
    return sum(rules.board_slack_mm if end == BOARD else rules.slack_mm for end in (a, b))
