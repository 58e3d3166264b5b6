"""What a lamp let into a ceiling runs into: joists, pipes and ducts, a void too shallow, insulation, a floor above.

Fire: a ceiling below a floor keeps the time it resists fire only where what is let into it is rated for that
(Approved Document B; IEC 60364-5-52, 527). Insulation: a lamp that is not made to be covered is kept clear of it
(BS EN 60598-1, marking of recessed luminaires).
"""

from collections.abc import Iterator

from lumbek.core.model import plan as model
from lumbek.core.plan.nudged import bars_over
from lumbek.core.plan.position import Placed


def recessed_troubles(outline: model.Outline, placed: Placed, has_room_above: bool) -> Iterator[str]:
    """Yield in words what is wrong with a lamp that is let into a ceiling."""
    lamp = placed.mark.lamp or model.LampSaid()
    if _hits_something(outline, placed, lamp):
        yield "its cut-out meets a joist, or what lies above the ceiling"
    if outline.void_mm is not None and lamp.deep_mm is not None and lamp.deep_mm > outline.void_mm:
        yield f"{lamp.deep_mm} mm deep in a void of {outline.void_mm} mm"
    if outline.is_insulated and lamp.may_be_covered is not True:
        yield "insulation lies there: a lamp that may be covered, or a cover over it"
    if has_room_above and lamp.is_fire_rated is not True:
        yield "a floor is above: fire rated, or a hood over it"


def _hits_something(outline: model.Outline, placed: Placed, lamp: model.LampSaid) -> bool:
    """Whether a cut-out, with what stays clear round it, is over a bar: by squared distance, touching allowed."""
    assert placed.at is not None, "only asked of what has a position"
    x, y = placed.at.x, placed.at.y
    clear2 = (lamp.cut_out_mm / 2 + lamp.clear_mm) ** 2
    return any(
        max(bar.left - x, 0, x - bar.right) ** 2 + max(bar.low - y, 0, y - bar.high) ** 2 < clear2
        for bar in bars_over(outline, lamp)
    )
