"""The resistance of a length of cable."""

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks import Rulebook


def core_ohm(rulebook: Rulebook, cable: Cable, core: str, length_m: float | None) -> float | None:
    """Return the resistance in Ω at 20 °C of one core: R = ρ' l. None if size or length is not known."""
    milliohm = rulebook.milliohm_per_m(cable, core)
    return None if milliohm is None or length_m is None else milliohm * length_m / 1000


def cold_loop_ohm(rulebook: Rulebook, cable: Cable, length_m: float | None) -> float | None:
    """Return line and cpc of a cable together in Ω at 20 °C. None if a size is not listed."""
    line, earth = core_ohm(rulebook, cable, "L", length_m), core_ohm(rulebook, cable, "E", length_m)
    return None if line is None or earth is None else line + earth


def hot_loop_ohm(rulebook: Rulebook, cable: Cable, length_m: float | None) -> float | None:
    """Return line and cpc of a cable together in Ω at working temperature. None if a size is not listed."""
    line, earth = core_ohm(rulebook, cable, "L", length_m), core_ohm(rulebook, cable, "E", length_m)
    if line is None or earth is None:
        return None
    return line * rulebook.hot_factor(cable, "L") + earth * rulebook.hot_factor(cable, "E")
