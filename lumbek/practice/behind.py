"""Accessories from behind: what bells out to what in each position, and what each terminal takes."""

import json
from functools import cache
from importlib.resources import files
from typing import NamedTuple

from lumbek.core.model.accessory import CONTACTS, AccessoryKind, terminals_of

_NAMES: dict[AccessoryKind, str] = {
    "one-way": "One-way switch",
    "two-way": "Two-way switch",
    "intermediate": "Intermediate switch",
    "dimmer": "Dimmer, one-way",
    "dimmer-two-way": "Dimmer, two-way",
    "sensor": "Sensor",
    "receiver": "Receiver of a radio switch",
    "double-pole": "Double-pole switch",
    "isolator-3": "Isolator, three poles",
    "fused-unit": "Fused connection unit",
}
_ONE_WAY = {"COM": "the permanent line", "L1": "the switched line"}
_TWO_WAY = {
    "COM": "the permanent line, or the switched line at the other end",
    "L1": "a strapper",
    "L2": "the other strapper",
}
_TAKES: dict[AccessoryKind, dict[str, str]] = {
    "one-way": _ONE_WAY,
    "two-way": _TWO_WAY,
    "intermediate": dict.fromkeys(("L1", "L2", "L3", "L4"), "a strapper"),
    "dimmer": _ONE_WAY,
    "dimmer-two-way": _TWO_WAY,
    "sensor": {"L": "the permanent line", "S": "the switched line", "N": "the neutral, for the sensor itself"},
    "double-pole": {
        "LI": "the line of the supply",
        "NI": "the neutral of the supply",
        "LO": "the line of the load",
        "NO": "the neutral of the load",
    },
    "isolator-3": {
        "LI": "the permanent line of the supply",
        "SI": "the switched line of the supply",
        "NI": "the neutral of the supply",
        "LO": "the permanent line of the fan",
        "SO": "the switched line of the fan",
        "NO": "the neutral of the fan",
    },
    "fused-unit": {
        "LI": "the line of the supply",
        "NI": "the neutral of the supply",
        "LO": "the line of the load, behind the fuse",
        "NO": "the neutral of the load",
    },
}


class Behind(NamedTuple):
    """An accessory: its terminals with what each takes, and what is joined in each position."""

    id: str
    name: str
    takes: dict[str, str]
    positions: tuple[tuple[tuple[str, str], ...], ...]
    about: str
    clause: str

    @property
    def terminals(self) -> tuple[str, ...]:
        """Its terminals."""
        return tuple(self.takes)

    def bells(self, letters: dict[str, str]) -> str:
        """Return what bells out to what in each position, in letters; terminals have no names here."""
        found = []
        for at, pairs in enumerate(self.positions, start=1):
            said = ", ".join(sorted("–".join(sorted((letters[a], letters[b]))) for a, b in pairs)) or "nothing"
            found.append(f"position {at}: {said}" if len(self.positions) > 1 else said)
        return "; ".join(found)


@cache
def accessories() -> dict[str, Behind]:
    """Return every accessory by its id: switches as the network has them, the rest as the file says."""
    found = {kind: Behind(kind, _NAMES[kind], takes, CONTACTS[kind], "", "") for kind, takes in _TAKES.items()}
    assert all(set(each.takes) == set(terminals_of(kind)) for kind, each in found.items()), "terminals of the network"
    raw = json.loads((files("lumbek.practice") / "data" / "accessories.json").read_text(encoding="utf-8"))
    fixed = {
        each["id"]: Behind(
            each["id"],
            each["name"],
            each["takes"],
            (tuple((a, b) for a, b in each["joined"]),),
            each["about"],
            each["clause"],
        )
        for each in raw["fixed"]
    }
    return {**found, **fixed}
