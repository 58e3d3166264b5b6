"""Electrodes of circuits' own: which circuits share one, and what it was read at on the sheet of any of them."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from lumbek.core.board.member import Member
from lumbek.core.model.board import Board


class ReadElectrode(NamedTuple):
    """What the electrode of a circuit was read at, Ω, the worst where it was on several sheets; and on whose sheet."""

    ohm: float
    at: str


def read_electrodes(
    boards: Iterable[Board], members: Mapping[str, Member], readings: Mapping[str, float]
) -> Mapping[str, ReadElectrode]:
    """Return the electrode that each circuit stands on, by the readings on circuits' own sheets; each board once.

    A board all of whose circuits stand on their own earth has its bar on one electrode. Where others of the board are
    on the house's earth, the electrode is at the far end of the circuit, and nobody else's.
    """
    found = {key: ReadElectrode(ohm, key) for key, ohm in readings.items()}
    for board in boards if readings else ():
        held = [key for way in board.ways for key in way.circuits if key in members]
        read = [key for key in held if key in readings]
        if read and all(members[key].on_own_earth for key in held):
            worst = max(readings[key] for key in read)
            found |= {key: ReadElectrode(worst, key if key in readings else read[0]) for key in held}
    return found
