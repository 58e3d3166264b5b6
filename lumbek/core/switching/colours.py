"""What colour a core has, and whether it may be what it is without a sleeve."""

from typing import Literal

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.common import ColourScheme

Use = Literal["line", "neutral", "earth"]


def scheme_of(book: Rulebook, cable: Cable) -> ColourScheme:
    """Return the colours that a cable was made by."""
    return book.switching.schemes[cable.colours]


def colour_of(book: Rulebook, cable: Cable, core: str) -> str:
    """Return the colour of a core; of more cores than are listed the later ones are numbered."""
    scheme, live = scheme_of(book, cable), cable.live_cores
    if core == "E":
        return scheme.earth
    if cable.lone is not None:
        return (scheme.line if cable.lone == "L" else scheme.neutral)[0]
    listed = scheme.colours.get(len(live), scheme.colours[max(scheme.colours)])
    at = live.index(core)
    return listed[at] if at < len(listed) else f"no. {at + 1}"


def is_bare(book: Rulebook, cable: Cable) -> bool:
    """Whether the cpc of a cable is a bare wire that is sleeved wherever the sheath ends (BS 7671 514.4.2)."""
    made_so = cable.type.startswith("flat-") and cable.earth_by == "core"
    return made_so and scheme_of(book, cable).earth != "bare"


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
