"""Accessories from behind: what bells out to what in each position, and what each terminal takes."""

import json
from functools import cache
from importlib.resources import files
from itertools import product
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

_CLAUSES: dict[AccessoryKind, str] = {
    "dimmer": "dimmer-load",
    "dimmer-two-way": "dimmer-load",
    "double-pole": "isolators",
    "isolator-3": "isolators",
    "fused-unit": "fused-spur",
}


class Behind(NamedTuple):
    """An accessory: its terminals with what each takes, and what is joined in each position."""

    id: str
    name: str
    takes: dict[str, str]
    positions: tuple[tuple[tuple[str, str], ...], ...]
    about: str
    # The key of its clause in either rulebook.
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
    found: dict[str, Behind] = {
        kind: Behind(kind, _NAMES[kind], takes, CONTACTS[kind], "", _CLAUSES.get(kind, "switching-function"))
        for kind, takes in _TAKES.items()
    }
    found |= {each.id: each for each in (_two_gangs(found["one-way"]), _two_gangs(found["two-way"]))}
    assert all(set(takes) == set(terminals_of(kind)) for kind, takes in _TAKES.items()), "terminals of the network"
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


def _two_gangs(one: Behind) -> Behind:
    """Return a plate with two of an accessory side by side: each stands in each of its positions by itself."""
    gangs = (1, 2)
    takes = {
        f"{gang}.{name}": f"{what.split(', or')[0]}, gang {gang}" for gang in gangs for name, what in one.takes.items()
    }
    positions = tuple(
        tuple((f"{gang}.{a}", f"{gang}.{b}") for gang, pairs in zip(gangs, each, strict=True) for a, b in pairs)
        for each in product(one.positions, repeat=2)
    )
    about = "Two switches in one plate: nothing joins them, and their lines may be of two circuits."
    return Behind(f"two-{one.id}", f"Two gangs, {one.name.split()[0].lower()}", takes, positions, about, one.clause)
