"""What is meant of one lamp: when it is to burn, by how its switches, sensors and master stand.

Switches of a row each change it; a sensor or a receiver lights it beside them, or only behind them; a switch that
holds it on does so whatever the others do; with the master off it is dark. Which position of a switch is "on" is left
open: a wiring has one reading of it that fits every state, or does not do.
"""

from collections.abc import Callable, Hashable, Iterator, Mapping
from itertools import product
from typing import Generic, NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.scheme import Control, GangAt

K = TypeVar("K", bound=Hashable)
# Of each free position, whether it is turned round: the row, the master, then every switch that holds.
Signs = tuple[bool, ...]
Bits = NDArray[np.bool_]
V = TypeVar("V", bool, Bits)


class Meaning(NamedTuple, Generic[K]):
    """What is meant of a lamp, its switches by whatever name they go by."""

    gangs: tuple[K, ...] = ()
    sensors: tuple[K, ...] = ()
    # The switches stand before the sensors: both have to be on.
    behind: bool = False
    master: K | None = None
    holds: tuple[K, ...] = ()

    @property
    def switches(self) -> tuple[K, ...]:
        """All that may act on it."""
        return (*self.gangs, *self.sensors, *(() if self.master is None else (self.master,)), *self.holds)

    @property
    def is_fixed(self) -> bool:
        """Whether nothing switches it: it is on for good."""
        return not self.switches

    def signs(self) -> Iterator[Signs]:
        """Yield every way of reading which positions are on."""
        free = (bool(self.gangs), self.master is not None, *(True for _ in self.holds))
        return product(*((False, True) if each else (False,) for each in free))

    def wanted(self, moved: Mapping[K, V], signs: Signs, yes: V) -> V:
        """Return whether it is to burn, with each switch moved from its rest or not; `yes` is what is always so.

        Works on one state, or on arrays of states alike.
        """
        row, master, *holds = signs
        on = yes ^ row
        for gang in self.gangs:
            on = on ^ moved[gang]
        if self.sensors:
            sensed = yes ^ yes
            for sensor in self.sensors:
                sensed = sensed | (yes ^ moved[sensor])
            on = sensed if not self.gangs else (on & sensed if self.behind else on | sensed)
        for hold, sign in zip(self.holds, holds, strict=True):
            on = on | (yes ^ moved[hold] ^ sign)
        return on if self.master is None else on & (yes ^ moved[self.master] ^ master)

    def only(self, known: Callable[[K], bool]) -> "Meaning[K]":
        """Return what is left of it with the switches that are known."""
        return Meaning(
            tuple(each for each in self.gangs if known(each)),
            tuple(each for each in self.sensors if known(each)),
            self.behind,
            self.master if self.master is not None and known(self.master) else None,
            tuple(each for each in self.holds if known(each)),
        )


def meaning_of(control: Control, named: Callable[[GangAt], K]) -> Meaning[K]:
    """Return what is meant of the lamps of a control, its switches by name."""
    return Meaning(
        tuple(named(gang) for gang in control.gangs),
        tuple(named(sensor) for sensor in control.sensors),
        control.sensors_behind,
        None if control.master is None else named(control.master),
        tuple(named(hold) for hold in control.holds),
    )
