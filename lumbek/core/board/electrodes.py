"""Electrodes of circuits' own: which circuits share one, and what it was measured at on the sheet of any of them."""

from collections.abc import Mapping

from lumbek.core.board.member import Member
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.board import Board
from lumbek.core.study.own_earth import as_measured


def on_one_electrode(board: Board | None, members: Mapping[str, Member], key: str) -> tuple[str, ...]:
    """Return the circuits that stand on the electrode of one, that one first.

    A board all of whose circuits stand on their own earth has its bar on one electrode. Where others of the board are
    on the house's earth, the electrode is at the far end of the circuit, and nobody else's.
    """
    held = () if board is None else tuple(each for way in board.ways for each in way.circuits if each in members)
    shared = key in held and all(members[each].on_own_earth for each in held)
    return (key, *(each for each in held if each != key)) if shared else (key,)


def measured_at(readings: Mapping[str, float], sharing: tuple[str, ...]) -> str | None:
    """Return the circuit on whose sheet an electrode was read; None where nobody has."""
    return next((each for each in sharing if each in readings), None)


def own_earth_of(own: OwnEarth | None, readings: Mapping[str, float], sharing: tuple[str, ...]) -> OwnEarth | None:
    """Return the earth of a circuit's own with what was read of it in Ω, by circuit, on any sheet of those sharing."""
    return None if own is None else as_measured(own, (readings[each] for each in sharing if each in readings))
