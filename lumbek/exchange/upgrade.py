"""Bringing a document of an older version forward. Pure: decoded JSON in, decoded JSON out, the input untouched.

The job file and the stored documents share these steps: a stored circuit is the `design` of the file's circuit.
A step is written once, when the version it starts from is left behind, and is never changed after that.
"""

from collections.abc import Callable
from copy import deepcopy
from typing import Any, Literal

from lumbek.exchange.upgrade_boards import BoardTree
from lumbek.exchange.upgrade_places import RoomsByName, with_room_ids, with_spots

# The version that is written now.
CURRENT = 5
# Versions before this one said of each circuit what its boards and rooms say since.
WITH_HOUSE = 4

Document = dict[str, Any]
Part = Literal["circuit", "supply", "head", "reading", "house", "places"]


def upgrade(part: Part, document: Document, version: int, to: int = CURRENT) -> Document:
    """Return a document of the current version from one of an older. A newer one is returned as it is."""
    for step in range(version, to):
        document = _STEPS[step, part](deepcopy(document)) if (step, part) in _STEPS else document
    return document


def upgrade_job(data: Document, version: int) -> Document:
    """Return a whole job of the current version: its head and supply, each circuit, each reading."""
    if version >= WITH_HOUSE:
        # Version 5 came with outlines of rooms and marks, which older ones have none of.
        return data if version >= CURRENT else {**data, "version": CURRENT}
    job = {**upgrade("head", data, version), "version": CURRENT}
    if isinstance(job.get("supply"), dict):
        job["supply"] = upgrade("supply", job["supply"], version)
    around = OldHouse(version, job.get("storeys", []))
    if isinstance(job.get("circuits"), list):
        circuits = [around.take(circuit) for circuit in job["circuits"]]
        job["circuits"] = [*circuits, *around.feeders]
    return {**job, **around.house(job.get("boards"))}


class OldHouse:
    """The house around the circuits of a file of an older version, as it is met circuit by circuit."""

    def __init__(self, version: int, storeys: Any) -> None:
        """Begin with the storeys that the file names."""
        self._version, self._tree, self._rooms = version, BoardTree(), RoomsByName(storeys)
        self._boards: list[Document] | None = None
        self._feeders: list[Document] = []

    def take(self, data: Any) -> Any:
        """Return a circuit of a job with its readings; what is no such thing is returned for the model to refuse.

        What it says of the house around it the house says from then on.
        """
        if not isinstance(data, dict) or self._version >= WITH_HOUSE:
            return data
        found = dict(data) if self._version >= 3 else _out_of_the_tree(data, self._version, self._tree)
        if isinstance(found.get("design"), dict):
            self._rooms.see(found["design"])
            found["design"] = upgrade("circuit", found["design"], 3)
        return found

    @property
    def feeders(self) -> list[Document]:
        """The circuits that feed boards, which versions before 3 had no place for; after all circuits were taken."""
        self._finish()
        return self._feeders

    def house(self, boards: Any = None) -> Document:
        """Return storeys, rooms, and boards where any are said or given; after all circuits were taken."""
        self._finish()
        said = self._boards or boards
        return {**({} if said is None else upgrade("house", {"boards": said}, 3)), **self._rooms.places()}

    def _finish(self) -> None:
        if self._boards is None:
            self._boards, self._feeders = self._tree.finish() if self._version < 3 else ([], [])


def _out_of_the_tree(data: Document, version: int, tree: BoardTree) -> Document:
    """Return a circuit of version 3; `tree` takes what it says of what is ahead of it, which the boards say there."""
    found = dict(data)
    if isinstance(found.get("design"), dict):
        # The tree is made of version 2; what it takes, the step to version 3 has nothing left of.
        found["design"] = upgrade("circuit", found["design"], version, to=2)
    if isinstance(found.get("readings"), list):
        found["readings"] = [
            upgrade("reading", reading, version) if isinstance(reading, dict) else reading
            for reading in found["readings"]
        ]
    key, found["design"] = tree.take(found.get("design"))
    if key is not None:
        found["id"] = key
    return {name: value for name, value in found.items() if name != "design" or value is not None}


# --- 1 to 2 ---------------------------------------------------------------------------------------------------------

# Version 1 took any figure above zero; these are the least that version 2 takes, and none of them can be meant.
_LEAST = {
    **dict.fromkeys(("length_m", "length_to_m", "measured_r1_ohm", "conduit_milliohm_per_m"), 0.001),
    **dict.fromkeys(("csa_mm2", "cpc_mm2", "bonding_mm2", "earthing_conductor_mm2", "rating_a", "rated_ma"), 0.1),
    **dict.fromkeys(("depth_m", "soil_km_w", "electrode_ohm", "power_factor", "breaking_capacity_ka"), 0.01),
    "floor_area_m2": 0.1,
    "fault_current_ka": 0.001,
}
# Of these so little is nothing.
_NOTHING = dict.fromkeys(("current_a", "power_w", "leakage_ma", "ze_ohm", "value"), 1e-9)


def _without_dust(document: Any) -> Any:
    """Lift figures that are too small to be meant to the least there is, or let them be nothing."""
    if isinstance(document, list):
        return [_without_dust(each) for each in document]
    if not isinstance(document, dict):
        return document
    return {key: _figure(key, value) for key, value in document.items()}


def _figure(key: str, value: Any) -> Any:
    if isinstance(value, bool) or not isinstance(value, int | float) or value <= 0:
        return _without_dust(value)
    if value < _NOTHING.get(key, 0):
        return 0.0
    return max(value, _LEAST.get(key, 0))


def _signed(reading: Document) -> Document:
    """Say of a reading who took it and when, which version 1 took for granted where it was left out."""
    return {"by": "", "at": "1970-01-01T00:00:00Z", **_without_dust(reading)}


# --- 2 to 3 ---------------------------------------------------------------------------------------------------------


def _on_its_own(circuit: Document) -> Document:
    """Take a circuit out of its house: what is ahead of it and what it shares, its boards say, where it has any."""
    device = circuit.get("device")
    if isinstance(device, dict) and isinstance(device.get("rcd"), dict) and device["rcd"].get("shared"):
        circuit["device"] = {**device, "rcd": None}
    circuit.pop("ahead", None)
    return circuit


_STEPS: dict[tuple[int, Part], Callable[[Document], Document]] = {
    (1, "circuit"): _without_dust,
    (1, "supply"): _without_dust,
    (1, "reading"): _signed,
    (2, "circuit"): _on_its_own,
    (3, "circuit"): with_room_ids,
    (3, "house"): with_spots,
}
