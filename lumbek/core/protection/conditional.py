"""The conditional rating of a board's enclosure: what its devices break behind the service fuse, by its maker."""

from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook

# What an answer waits for where nobody has said it and it would decide.
UNSAID = "conditional rating of the board behind the service fuse, from its maker"


def conditional_ka(rulebook: Rulebook, supply: Supply) -> float:
    """Return what the enclosure gives its devices behind the service fuse, in kA (BS EN 61439-3); 0 if not known."""
    rules, fuse = rulebook.data.breaking, supply.main_fuse
    behind = fuse.standard in rules.conditional_behind and (fuse.rating_a or 1e9) <= rules.conditional_up_to_a
    return supply.board_conditional_ka if supply.board_conditional_ka is not None and behind else 0.0


def may_be_conditional(rulebook: Rulebook, supply: Supply, fault_ka: float) -> bool:
    """Whether an enclosure may yet hold at a fault current: nobody has said, and the fuse ahead may be such a one."""
    rules, fuse = rulebook.data.breaking, supply.main_fuse
    kind = fuse.standard == "unknown" or fuse.standard in rules.conditional_behind
    small = fuse.rating_a is None or fuse.rating_a <= rules.conditional_up_to_a
    said = supply.board_conditional_ka is not None and fuse.standard != "unknown" and fuse.rating_a is not None
    return fault_ka <= rules.conditional_usual_ka and kind and small and not said
