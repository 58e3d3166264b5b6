"""Electrodes that circuits stand on instead of the house's earth: of which circuits, and what they were measured at."""

from collections import defaultdict
from collections.abc import Iterable

from lumbek.core.board.house import House
from lumbek.core.documents.asking import Asking
from lumbek.core.documents.paper import Fact
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.job import JobCircuit
from lumbek.core.numbers import plain


def own_electrodes(house: House, circuits: Iterable[JobCircuit]) -> list[tuple[str, OwnEarth]]:
    """Return the circuits on each electrode, in words, and the electrode; those that read the same are one line."""
    numbers: dict[OwnEarth, list[int]] = defaultdict(list)
    for circuit in circuits:
        own = house.earth_of(circuit.key, circuit.design)
        if own is not None:
            numbers[own].append(circuit.design.number)
    return [(_circuits(found), own) for own, found in numbers.items()]


def _circuits(numbers: list[int]) -> str:
    return f"circuit{'s' * (len(numbers) > 1)} {', '.join(map(str, sorted(numbers)))}"


def measured_words(own: OwnEarth) -> str | None:
    """Return what an electrode was measured at; None where nobody is said to have measured it."""
    return None if own.measured_ohm is None else f"{plain(own.measured_ohm)} Ω"


def electrode_facts(found: Iterable[tuple[str, OwnEarth]], asking: Asking) -> list[Fact]:
    """Return a fact for each electrode that circuits stand on; one that nobody has measured is wanted."""
    return [asking.fact(f"Electrode of {whose}, RA", measured_words(own), "tests") for whose, own in found]
