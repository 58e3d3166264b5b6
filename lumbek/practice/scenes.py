"""What one stands before, drawn: small sketches of findings, told in words beside them."""

import json
from functools import cache
from importlib.resources import files

from lumbek.practice.pictures import Picture

WIDTH, HEIGHT = 290, 190


@cache
def scenes() -> dict[str, Picture]:
    """Return the sketches by the finding that they show."""
    raw = json.loads((files("lumbek.practice") / "data" / "scenes.json").read_text(encoding="utf-8"))
    return {kind: Picture.model_validate({"width": WIDTH, "height": HEIGHT, **each}) for kind, each in raw.items()}


def scene_of(kind: str) -> Picture | None:
    """Return the sketch of a finding; None where it is told in words alone."""
    return scenes().get(kind)
