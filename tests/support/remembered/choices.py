"""What is usual, what follows from a choice, and small changes as they begin."""

import random
from collections.abc import Iterator
from itertools import product
from typing import get_args

from lumbek.core.circuit.presets import RCD_PRESETS, device_of_standard, laid_by, rcd_of_preset, retyped
from lumbek.core.circuit.usual import next_point, usual_circuit, usual_device
from lumbek.core.documents.gathered import gather
from lumbek.core.model.cable import Cable, CableKind
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Rcd, Standard
from lumbek.core.survey.quick import Quick, quick_job
from tests.support.houses import BS, IEC
from tests.support.said import in_words


def quick() -> Iterator[str]:
    """Yield the jobs of small changes, as they begin."""
    chance = random.Random(1)
    asked = (
        ("light", "socket", "breaker"),
        ("10", "6", "none", "plastic", "unknown"),
        ("30-A", "30", "none", "unknown"),
    )
    for what, bonding, rcd in product(*asked):
        said = {
            "what": what,
            "bonding": bonding,
            "rcd": rcd,
            "earthing": chance.choice(["TN-S", "TN-C-S", "TT", None]),
            "standard": chance.choice(["bs-en-60898", "bs-en-61009", "bs3036"]),
            "rating_a": chance.choice([6, 16, 20, 32]),
            "csa_mm2": chance.choice([None, 1.0, 2.5]),
            "room": chance.choice(["", "Hall"]),
            "on_ring": chance.random() < 0.5,
            "new_length_m": chance.choice([None, 4.5]),
            "fault_current_ka": chance.choice([None, 1.2]),
            "kind": chance.choice([None, "cooker"]) if what == "breaker" else None,
        }
        job = quick_job(BS, Quick.model_validate(said))
        gathered = gather(job)
        yield f"{what}, bonding {bonding}, RCD {rcd}: {in_words(job)}"
        checks = (*gathered.survey.checks, *gathered.answers[0].result.checks)
        yield "  " + ", ".join(f"{each.id} {each.verdict}" for each in checks if each.verdict != "not-applicable")


def usual() -> Iterator[str]:
    """Yield what is usual for each kind of circuit, and what follows from each choice."""
    for book in (BS, IEC):
        for kind in get_args(CircuitKind):
            circuit = usual_circuit(book, kind)
            yield f"{book.id} {kind}: {in_words(circuit)} then {in_words(next_point(book, circuit))}"
        device = usual_device(book, "sockets")
        for standard, found in product(get_args(Standard), (False, True)):
            if standard in book.devices:
                yield f"{book.id} {standard}: {in_words(device_of_standard(book, device, standard, found))}"
        for kind, was in product(get_args(CableKind), get_args(CableKind)):
            cable = retyped(book, Cable(type=was), kind)
            yield f"{book.id} {was} to {kind}: {in_words(cable)}, {laid_by(book, cable, 'C', was)}"
    now = (None, Rcd(rated_ma=30, type="F"), Rcd())
    for preset, rcd, found in product(RCD_PRESETS, now, (False, True)):
        yield f"{preset.id} {in_words(rcd)} {found}: {in_words(rcd_of_preset(preset.id, rcd, found))}"
