"""What is joined to what: cores that end at a point, the terminals there, and the switches between terminals.

Where nothing is said the plain joins hold: at every point the lines meet, the neutrals meet, the cpcs meet, each
in the point's terminal of that name. A join is said only where it is another.
"""

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lumbek.core.model.text import Id
from lumbek.core.value import Frozen

# The conductors that every circuit has, and the terminals that every point has.
CONDUCTORS = ("L", "N", "E")
CoreName = Annotated[str, StringConstraints(pattern=r"^[A-Z][A-Z0-9]{0,3}$")]
# A terminal of an accessory: `COM`, `L1`, or with its gang `2.COM`.
TerminalName = Annotated[str, StringConstraints(pattern=r"^([1-9]\.)?[A-Z][A-Z0-9]{0,3}$")]


# What a sleeve at the end of a core says that it is.
Mark = Literal["line", "neutral", "earth"]


class CoreEnd(Frozen):
    """The end of one core of one leg, at the point where it is joined.

    What belongs to another circuit says its number, and at which of that circuit's points the leg ends there. `marked`
    is what a sleeve or tape on it says, whatever its colour.
    """

    leg: Id
    core: CoreName
    circuit: Annotated[int, Field(ge=1, le=9999)] | None = None
    at: Id | None = None
    marked: Mark | None = None

    @model_validator(mode="after")
    def _placed(self) -> Self:
        if (self.circuit is None) != (self.at is None):
            raise ValueError("at: say circuit and point together for another circuit's leg, neither for one's own")
        return self


class Join(Frozen):
    """Core ends and terminals that meet. A core end joined with nothing is left off."""

    ends: Annotated[tuple[CoreEnd, ...], Field(max_length=40)] = ()
    terminals: Annotated[tuple[TerminalName, ...], Field(max_length=40)] = ()

    @model_validator(mode="after")
    def _holds_something(self) -> Self:
        if not self.ends and not self.terminals:
            raise ValueError("ends: a join names at least one core end or terminal")
        return self


class Pair(Frozen):
    """Two terminals that a contact joins."""

    a: TerminalName
    b: TerminalName


class Switch(Frozen):
    """Contacts that move together: for each position the pairs of terminals that are joined in it.

    `at` is the position it is in where nobody has moved it; figures of the design are worked out so.
    """

    id: Id
    positions: Annotated[
        tuple[Annotated[tuple[Pair, ...], Field(max_length=8)], ...], Field(min_length=1, max_length=8)
    ]
    at: Annotated[int, Field(ge=0, le=7)] = 0

    @model_validator(mode="after")
    def _is_somewhere(self) -> Self:
        if self.at >= len(self.positions):
            raise ValueError("at: the switch has no such position")
        return self


def one_way(switch_id: str, a: str = "COM", b: str = "L1") -> Switch:
    """Return a switch that is closed or open; it begins closed, as for a test."""
    return Switch(id=switch_id, positions=((Pair(a=a, b=b),), ()))


def two_way(switch_id: str, common: str = "COM", one: str = "L1", two: str = "L2") -> Switch:
    """Return a switch whose common goes to one or the other."""
    return Switch(id=switch_id, positions=((Pair(a=common, b=one),), (Pair(a=common, b=two),)))


def intermediate(switch_id: str, a: tuple[str, str] = ("L1", "L2"), b: tuple[str, str] = ("L3", "L4")) -> Switch:
    """Return a switch that passes two wires straight on or crosses them."""
    straight = (Pair(a=a[0], b=b[0]), Pair(a=a[1], b=b[1]))
    crossed = (Pair(a=a[0], b=b[1]), Pair(a=a[1], b=b[0]))
    return Switch(id=switch_id, positions=(straight, crossed))
