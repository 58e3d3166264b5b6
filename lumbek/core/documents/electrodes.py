"""Electrodes that circuits stand on instead of the house's earth: of which circuits, and what they were measured at."""

from collections import defaultdict
from collections.abc import Iterable

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.paper import Fact
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.circuit import Circuit
from lumbek.core.numbers import plain


def own_electrodes(designs: Iterable[Circuit]) -> list[tuple[str, OwnEarth]]:
    """Return the circuits on each electrode, in words, and the electrode; those that read the same are one line."""
    numbers: dict[OwnEarth, list[int]] = defaultdict(list)
    for design in designs:
        if design.own_earth is not None:
            numbers[design.own_earth].append(design.number)
    return [(_circuits(found), own) for own, found in numbers.items()]


def _circuits(numbers: list[int]) -> str:
    return f"circuit{'s' * (len(numbers) > 1)} {', '.join(map(str, sorted(numbers)))}"


def measured_words(own: OwnEarth) -> str | None:
    """Return what an electrode was measured at; None where nobody is said to have measured it."""
    return None if own.measured_ohm is None else f"{plain(own.measured_ohm)} Ω"


def electrode_facts(designs: Iterable[Circuit], asking: Asking) -> list[Fact]:
    """Return a fact for each electrode that circuits stand on; one that nobody has measured is wanted."""
    found = own_electrodes(designs)
    return [asking.fact(f"Electrode of {whose}, RA", measured_words(own), "circuits") for whose, own in found]
