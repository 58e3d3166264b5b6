"""What is screwed to a box: switches and units by their terminals, and the plate they sit in.

A gang's terminals begin with its number: `1.COM`, `2.L1`. What its contacts join in each position is here, once; the
conductor network is expanded from it.
"""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.terminals import Pair, Switch
from lumbek.core.model.text import Name, PowerW
from lumbek.core.value import Frozen

AccessoryKind = Literal[
    "one-way",
    "two-way",
    "intermediate",
    "dimmer",
    "dimmer-two-way",
    "sensor",
    "receiver",
    "double-pole",
    "isolator-3",
    "fused-unit",
]

# For each kind: what is joined in each position, the position of rest first.
CONTACTS: dict[AccessoryKind, tuple[tuple[tuple[str, str], ...], ...]] = {
    "one-way": ((("COM", "L1"),), ()),
    "two-way": ((("COM", "L1"),), (("COM", "L2"),)),
    "intermediate": ((("L1", "L3"), ("L2", "L4")), (("L1", "L4"), ("L2", "L3"))),
    "dimmer": ((("COM", "L1"),), ()),
    "dimmer-two-way": ((("COM", "L1"),), (("COM", "L2"),)),
    "sensor": ((("L", "S"),), ()),
    "receiver": ((("L", "S"),), ()),
    "double-pole": ((("LI", "LO"), ("NI", "NO")), ()),
    "isolator-3": ((("LI", "LO"), ("SI", "SO"), ("NI", "NO")), ()),
    "fused-unit": ((("LI", "LO"), ("NI", "NO")), ()),
}
# Terminals beyond those of the contacts: what a sensor, or the receiver of a radio or bus, needs for itself.
_BESIDES: dict[AccessoryKind, tuple[str, ...]] = {"sensor": ("N",), "receiver": ("N",)}
SENSING: tuple[AccessoryKind, ...] = ("sensor", "receiver")
# What isolates, and is not moved to light a lamp.
ISOLATING: tuple[AccessoryKind, ...] = ("double-pole", "isolator-3", "fused-unit")
DIMMING: tuple[AccessoryKind, ...] = ("dimmer", "dimmer-two-way")

# How a dimmer dims: by cutting the wave at its start or its end, or by a control line of its own.
Dimming = Literal["leading", "trailing", "0-10", "push", "dali"]

GangNumber = Annotated[int, Field(ge=1, le=6)]


class Accessory(Frozen):
    """One gang of a plate, or what fills it. `name` is what its button is for."""

    gang: GangNumber = 1
    kind: AccessoryKind = "one-way"
    name: Name = ""
    # Pulled by a cord: it may hang where a plate may not sit.
    cord: bool = False
    # The least and the greatest load that its maker allows a dimmer, and how it dims.
    least_w: PowerW | None = None
    most_w: PowerW | None = None
    dims_by: Dimming | None = None
    # The position it rests in.
    at: Annotated[int, Field(ge=0, le=1)] = 0

    @property
    def switch(self) -> Switch:
        """Its contacts, named by its gang."""
        return Switch(
            id=str(self.gang),
            positions=tuple(
                tuple(Pair(a=self.terminal(a), b=self.terminal(b)) for a, b in pairs) for pairs in CONTACTS[self.kind]
            ),
            at=self.at,
        )

    def terminal(self, name: str) -> str:
        """Return one of its terminals as it is called at its point."""
        return f"{self.gang}.{name}"

    @property
    def poles(self) -> tuple[str, ...]:
        """The poles of what isolates, by the letter of their terminals: `L` for `LI` and `LO`."""
        return tuple(one[0] for one, _ in CONTACTS[self.kind][0]) if self.kind in ISOLATING else ()

    @property
    def dims(self) -> bool:
        """Whether it is a dimmer."""
        return self.kind in DIMMING

    @property
    def terminals(self) -> tuple[str, ...]:
        """All its terminals, as they are called at its point."""
        return tuple(self.terminal(name) for name in terminals_of(self.kind))


def terminals_of(kind: AccessoryKind) -> tuple[str, ...]:
    """Return the terminals of a kind of accessory, by themselves."""
    paired = (name for pairs in CONTACTS[kind] for pair in pairs for name in pair)
    return tuple(dict.fromkeys((*paired, *_BESIDES.get(kind, ()))))


class Plate(Frozen):
    """The plate and the box behind it; None where nobody has looked."""

    metal: bool | None = None
    # A grid holds modules of any kind side by side; other plates of several gangs hold no intermediate.
    grid: bool = False
    box_mm: Annotated[float, Field(ge=10, le=100)] | None = None
