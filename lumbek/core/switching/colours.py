"""What colour a core has, and whether it may be what it is without a sleeve."""

from typing import Literal

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.rules import ColourScheme

Use = Literal["line", "neutral", "earth"]


def scheme_of(book: Rulebook, cable: Cable) -> ColourScheme:
    """Return the colours that a cable was made by."""
    return book.switching.schemes[cable.colours]


def colour_of(book: Rulebook, cable: Cable, core: str) -> str:
    """Return the colour of a core; of more cores than are listed the later ones are numbered."""
    scheme, live = scheme_of(book, cable), cable.live_cores
    if core == "E":
        return scheme.earth
    listed = scheme.colours.get(len(live), scheme.colours[max(scheme.colours)])
    at = live.index(core)
    return listed[at] if at < len(listed) else f"no. {at + 1}"


def needs_sleeve(scheme: ColourScheme, colour: str, use: Use) -> bool:
    """Whether a core of this colour must be marked to be used so (BS 7671 514.3.2, 514.4; IEC 60445)."""
    if use == "earth":
        return colour not in (scheme.earth, "green-yellow", "green", "bare")
    return colour not in (scheme.line if use == "line" else scheme.neutral)


def sleeve_colour(scheme: ColourScheme, use: Use) -> str:
    """Return the colour of the sleeve that says what a core is."""
    if use == "earth":
        return scheme.earth if scheme.earth != "bare" else "green"
    return scheme.sleeve_line if use == "line" else scheme.sleeve_neutral
