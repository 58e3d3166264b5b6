"""What is seen of an accessory from the front, as drawings of our own."""

import json
from functools import cache
from importlib.resources import files

from lumbek.practice.pictures import PictureShape, box, disc, line


@cache
def front_shapes(accessory: str) -> tuple[PictureShape, ...]:
    """Return the shapes of an accessory's front, by its id; those that nobody tells apart are drawn alike."""
    raw = json.loads((files("lumbek.practice") / "data" / "fronts.json").read_text(encoding="utf-8"))
    drawn = raw["fronts"][raw["like"].get(accessory, accessory)]
    first, *rest = (_shape(*each) for each in drawn)
    return (first, *(each.model_copy(update={"tone": "quiet"}) for each in rest))


def _shape(sort: str, *at: float) -> PictureShape:
    if sort == "disc":
        x, y, r = at
        return disc(x, y, r)
    x, y, x2, y2 = at
    return line(x, y, x2, y2) if sort == "line" else box(x, y, x2, y2)
