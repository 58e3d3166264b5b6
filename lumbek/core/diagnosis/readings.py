"""The readings of a test sheet as tests of the catalogue."""

from collections.abc import Mapping

from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import Catalogue
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.model.reading import Quantity, Reading

_INSULATION: Mapping[Quantity, str] = {
    "insulation-ll": "ins/LN",
    "insulation-le": "ins/live-E",
    "insulation-l-e": "ins/LE",
    "insulation-n-e": "ins/NE",
}
_LOW_OHM: tuple[Quantity, ...] = ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "r1+rn", "r2-lead")


def taken_of(patient: Patient, standing: Mapping[tuple[Quantity, str | None], Reading]) -> list[Took]:
    """Return what the readings in force say for finding faults, but for what is no test of this circuit any more."""
    catalogue, found = Catalogue(patient), []
    for (quantity, where), reading in standing.items():
        test_id = _INSULATION.get(quantity) or (where if quantity == "trace" else None)
        if quantity in _LOW_OHM:
            test_id = f"read/{quantity}/{where}" if where else f"read/{quantity}"
        if test_id is None or reading.value is None:
            continue
        if catalogue.known([test_id]):
            found.append(Took(test_id, reading.value, reading.beyond))
    return found
