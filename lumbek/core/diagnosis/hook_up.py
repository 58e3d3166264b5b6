"""A circuit and the readings of its sheet as plain data, for a tester that follows them."""

from typing import Any

from lumbek.core.diagnosis.catalogue import Catalogue
from lumbek.core.diagnosis.instruction import instruction
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.readings import test_of
from lumbek.core.model.reading import SEEN, Quantity
from lumbek.core.testing.sheet import Sheet
from lumbek.core.value import Frozen


class HookUp(Frozen):
    """The circuit as drawn, and how each reading is taken, by `quantity:point`."""

    circuit: dict[str, Any]
    ways: dict[str, dict[str, Any]]


def hook_up(patient: Patient, sheet: Sheet) -> HookUp:
    """Return what a tester needs to know. Raises CannotDiagnoseError where the network is not known."""
    study, catalogue = patient.study, Catalogue(patient)
    # The network is needed, and says itself why it is not there.
    _ = patient.wiring
    legs = []
    for leg_id in patient.legs:
        leg = study.legs[leg_id]
        cable = study.circuit.cable_of(leg)
        legs.append(
            {
                "id": leg.id,
                "a": leg.a,
                "b": leg.b,
                "length_m": leg.length_m,
                "line_mm2": cable.csa_mm2,
                "cpc_mm2": study.rulebook.cpc_mm2(cable) or cable.csa_mm2,
            }
        )
    ways = {}
    for item in sheet.items:
        way = _way(catalogue, item.quantity, item.point)
        if way is not None:
            ways[f"{item.quantity}:{item.point or ''}"] = way
    return HookUp(
        circuit={
            "name": f"{study.circuit.number} {study.circuit.name}",
            "ring": list(patient.ring) if patient.ring else None,
            "points": list(patient.points),
            "legs": legs,
            "ze_ohm": study.ahead.cold_ze_ohm,
        },
        ways=ways,
    )


def _way(catalogue: Catalogue, quantity: Quantity, point: str | None) -> dict[str, Any] | None:
    if quantity in ("rcd-trip", "rcd-five"):
        return {"function": "rcd", "times": 5 if quantity == "rcd-five" else 1}
    if quantity in SEEN:
        return {"function": "seen", "what": quantity} if quantity not in ("isolation", "live-reason") else None
    if quantity == "zs":
        known = catalogue.known([f"link/LE/{point}/-"])
        return {**instruction(known[0]), "function": "loop"} if known else None
    test_id = test_of(quantity, point)
    return next((instruction(test) for test in catalogue.known([test_id] if test_id else [])), None)
