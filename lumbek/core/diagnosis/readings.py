"""The readings of a test sheet as tests of the catalogue."""

from collections.abc import Mapping
from contextlib import suppress

from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import Catalogue, UnknownTestError
from lumbek.core.diagnosis.noticed import is_sign, sign_of
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.model.reading import Key, Quantity, Reading

_INSULATION: Mapping[Quantity, str] = {
    "insulation-ll": "ins/LN",
    "insulation-le": "ins/live-E",
    "insulation-l-e": "ins/LE",
    "insulation-n-e": "ins/NE",
}
_LOW_OHM: tuple[Quantity, ...] = ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "r1+rn", "r2-lead", "zs")


def test_of(quantity: Quantity, where: str | None) -> str | None:
    """Return the id of the test that a place of the sheet is (or the trace that was taken); None for what is none."""
    if quantity in _LOW_OHM:
        return f"read/{quantity}/{where}" if where else f"read/{quantity}"
    return _INSULATION.get(quantity) or (where if quantity == "trace" else None)


def taken_of(patient: Patient, standing: Mapping[Key, Reading]) -> list[Took]:
    """Return what the readings in force say for finding faults, but for what is no test of this circuit any more.

    They come in the order they were read.

    A loop that was read live before a dead reading that stands beside it speaks of the circuit as it was, and is left
    out.
    """
    catalogue, found = Catalogue(patient), []
    dead = set(_LOW_OHM) - {"zs"}
    since = max((each.at for each in standing.values() if each.quantity in dead), default="")
    for key, reading in standing.items():
        test_id, live = test_of(*key), reading.quantity == "zs"
        value = _less_ze(patient, reading) if live else reading.value
        if (live and reading.at < since) or _is_outdated(key, reading, standing):
            continue
        if test_id and value is not None and _is_known(catalogue, test_id, value):
            found.append(Took(test_id, value, reading.beyond, reading.at))
    return sorted(found, key=lambda took: took.at)


def _is_outdated(key: Key, reading: Reading, standing: Mapping[Key, Reading]) -> bool:
    """Whether a reading taken a second time stands beside one of the sheet that is newer than both."""
    if reading.quantity != "trace" or not (reading.test or "").startswith("read/"):
        return False
    first = next((each for other, each in standing.items() if other != key and test_of(*other) == reading.test), None)
    return first is not None and first.at > reading.at


def _is_known(catalogue: Catalogue, test_id: str, value: float) -> bool:
    """Whether a reading says something of this circuit as it is drawn now; what was taken back says nothing."""
    if not is_sign(test_id):
        return bool(catalogue.known([test_id]))
    with suppress(UnknownTestError):
        sign = sign_of(catalogue.patient, test_id, value)
        return sign.volts is not None or value > 0
    return False


def _less_ze(patient: Patient, reading: Reading) -> float | None:
    """Return what a circuit adds to Ze by a Zs that was read, Ω; None where Ze is not measured.

    A loop lower than its parts has metal beside the cpc: that is no less than nothing.
    """
    ahead = patient.study.ahead
    if reading.value is None or ahead.cold_ze_ohm is None or not ahead.outside_measured or ahead.earthing == "TT":
        return None
    return reading.value if reading.beyond else max(0.0, reading.value - ahead.cold_ze_ohm)
