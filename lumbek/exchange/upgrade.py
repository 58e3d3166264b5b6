"""Bringing a document of an older version forward. Pure: decoded JSON in, decoded JSON out, the input untouched.

The job file and the stored documents share these steps: a stored circuit is the `design` of the file's circuit.
A step is written once, when the version it starts from is left behind, and is never changed after that.
"""

from collections.abc import Callable
from copy import deepcopy
from typing import Any, Literal

from lumbek.exchange.upgrade_boards import BoardTree

# The version that is written now.
CURRENT = 3

Document = dict[str, Any]
Part = Literal["circuit", "supply", "head", "reading", "house"]


def upgrade(part: Part, document: Document, version: int, to: int = CURRENT) -> Document:
    """Return a document of the current version from one of an older. A newer one is returned as it is."""
    for step in range(version, to):
        document = _STEPS[step, part](deepcopy(document)) if (step, part) in _STEPS else document
    return document


def upgrade_job(data: Document, version: int) -> Document:
    """Return a whole job of the current version: its head and supply, each circuit, each reading."""
    if version >= CURRENT:
        return data
    job = {**upgrade("head", data, version), "version": CURRENT}
    if isinstance(job.get("supply"), dict):
        job["supply"] = upgrade("supply", job["supply"], version)
    if isinstance(job.get("circuits"), list):
        tree = BoardTree()
        circuits = [upgrade_job_circuit(circuit, version, tree) for circuit in job["circuits"]]
        boards, feeders = tree.finish()
        job["circuits"] = [*circuits, *feeders]
        if boards:
            job["boards"] = boards
    return job


def upgrade_job_circuit(data: Any, version: int, tree: BoardTree) -> Any:
    """Return a circuit of a job with its readings; what is no such thing is returned for the model to refuse.

    `tree` takes what it says of the house around it, which since version 3 the boards say.
    """
    if not isinstance(data, dict) or version >= CURRENT:
        return data
    found = dict(data)
    if isinstance(found.get("design"), dict):
        # The tree is made of version 2; what it takes, the last step has nothing left of.
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
}
