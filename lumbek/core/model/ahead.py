"""What stands between the origin and a circuit's own device, and an earth of its own."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Device
from lumbek.core.model.supply import Origin
from lumbek.core.model.text import CurrentA, LengthM, Name
from lumbek.core.value import Frozen


class Ahead(Frozen):
    """One thing between the origin and the circuit's own device, origin first: a device, or a feed cable.

    A feed's current is that of everything it feeds; None takes the circuit's own. It all follows from the boards, for
    the circuits of a house: what is made by hand here is a circuit by itself. Of a feed that is only known to lie
    between two lengths `length_m` is the greatest and `least_length_m` the least: a fault is greatest behind that.
    """

    name: Name = ""
    device: Device | None = None
    feed: Cable | None = None
    length_m: LengthM | None = None
    least_length_m: LengthM | None = None
    method: Annotated[str, Field(max_length=4)] = "C"
    current_a: CurrentA | None = None
    # Whether its board is asked if it carries what flows: then its circuits are not.
    at_board: bool = False

    @model_validator(mode="after")
    def _one_thing(self) -> Self:
        if (self.device is None) == (self.feed is None):
            raise ValueError("device: give either a device or a feed")
        if self.least_length_m is not None and (self.length_m is None or self.least_length_m > self.length_m):
            raise ValueError("least_length_m: must be no more than length_m")
        return self

    @property
    def least_m(self) -> float | None:
        """The length behind which a fault is greatest, in m; None where it is not known."""
        return self.length_m if self.least_length_m is None else self.least_length_m


class OwnEarth(Frozen):
    """An electrode that takes over from the supply's earth in an outbuilding: a TT island.

    As the house's, it clears a circuit only by a resistance that was measured.
    """

    electrode_ohm: Annotated[float, Field(ge=0.01, le=10_000, allow_inf_nan=False)] | None = None
    electrode_origin: Origin | None = None

    @property
    def measured_ohm(self) -> float | None:
        """Its resistance in Ω as it was measured; None where nobody is said to have measured it."""
        return self.electrode_ohm if self.electrode_origin == "measured" else None
