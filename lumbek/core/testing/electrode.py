"""What an electrode's resistance says besides its limit: too good to be a rod's, or such that it may not stay."""

from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook

# What is wanted where nothing was read: leads that touch, or another earth beside it.
ALONE = "reading of the electrode alone"
# A rod in soil has tens of ohms. What has no more than this is a supply's earth or buried metal, until looked at again.
_LIKE_A_SUPPLY_OHM = 1.0


def is_no_electrode(ohm: float) -> bool:
    """Whether a reading is none of an electrode: some resistance every one has."""
    return ohm <= 0


def is_like_a_supply(ohm: float) -> bool:
    """Whether an earth is as low as a supply's, and hardly an electrode's."""
    return ohm <= _LIKE_A_SUPPLY_OHM


def electrode_caution(book: Rulebook, ohm: float) -> str:
    """Return what is to be minded of an electrode of so many Ω; nothing where it is as they are."""
    stable = book.data.supply.tt_stable_ohm
    if ohm > stable:
        return f"Over {plain(stable)} Ω an electrode may not stay stable."
    return "As low as the earth of a supply: was it read alone?" if is_like_a_supply(ohm) else ""
