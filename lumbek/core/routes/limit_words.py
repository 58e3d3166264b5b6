"""How joists and walls bear what is cut out of them, in words."""

from collections.abc import Callable

from lumbek.core.routes.limits import NOTCHED_FROM, NOTCHED_TO, Bears


def told_of(bears: Bears, room: str, wall: str) -> str:
    """Return what is said of joists over or under a room, or of one of its walls."""
    where = f"{room}, joists" if bears.what == "joist" else f"{room}, wall {wall}"
    return f"{where}: {_TOLD[bears.what, bears.verdict](bears)}"


def _wanted(bears: Bears) -> str:
    if bears.what == "chase":
        return f"a chase {bears.wanted_mm} mm deep" if bears.wanted_mm else "cable lies in the plaster alone"
    together = "one cable wants" if bears.cables == 1 else f"{bears.cables} cables together want"
    return f"{together} a hole of {bears.wanted_mm} mm"


def _allowed(bears: Bears) -> str:
    return f"{_wanted(bears)}, {bears.allowed_mm} mm are allowed"


def _in_holes(bears: Bears) -> str:
    if bears.notch_mm is not None:
        part = f"{NOTCHED_FROM:.0%} to {NOTCHED_TO:.0%} of the span from a support"
        return f"{_allowed(bears)}: only notches, {bears.notch_mm} mm deep at most, {part}, with a plate over each"
    if bears.holes == 0:
        return f"{_allowed(bears)}: its thickest cable goes through no joist"
    return f"{_allowed(bears)}: {bears.holes} holes, three diameters apart"


def _elsewhere(bears: Bears) -> str:
    return f"{_allowed(bears)}: another way, or on the surface"


def _unknown(bears: Bears) -> str:
    what = "how deep they are" if bears.what == "joist" else "its depth"
    return f"say {what}" if bears.wanted_mm is not None else "the size of a cable is not known"


_TOLD: dict[tuple[str, str], Callable[[Bears], str]] = {
    ("joist", "pass"): _allowed,
    ("joist", "fail"): _in_holes,
    ("joist", "cannot-tell"): _unknown,
    ("chase", "pass"): _wanted,
    ("chase", "fail"): _elsewhere,
    ("chase", "cannot-tell"): _unknown,
}
