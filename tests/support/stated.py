"""Devices, RCDs and circuits of which everything is said: what is left out is what one usually meets.

The model takes nothing for granted that nobody said; most tests are about something else.
"""

from typing import Any

from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.device import Device, Rcd


def an_rcd(**fields: Any) -> Rcd:
    """An RCD of 30 mA, type A, but for what is said."""
    return Rcd(**{"rated_ma": 30, "type": "A", **fields})


def a_device(**fields: Any) -> Device:
    """An RCBO of type B, 32 A and 6 kA with 30 mA, but for what is said."""
    return Device(**{"breaking_capacity_ka": 6, "rcd": an_rcd(), **fields})


def a_circuit(**fields: Any) -> Circuit:
    """A circuit with its device stated, in walls and in no bath room, but for what is said."""
    usual = {"device": a_device(), "surroundings": Surroundings(concealed_shallow=True, bath_room=False)}
    return Circuit(**{**usual, **fields})
