"""Does a box hold what comes into it? By the maker's depth and a rule of the firm's: no standard has a figure here."""

from collections.abc import Mapping, Sequence
from functools import cache

from lumbek.core.model.plan import Mark
from lumbek.core.rulebooks.rules import PackData
from lumbek.core.rulebooks.tables import DATA


class BoxRules(PackData):
    """The file `box_depth.json`."""

    source: str
    least_mm: Mapping[str, int]
    from_cables: int
    more_for_cables_mm: int
    from_csa_mm2: float
    more_for_csa_mm: int
    # How far what sits in it reaches in, what the box measures inside, how long each end is left, the most it fills.
    body_mm: Mapping[str, int]
    inner_mm: int
    each_gang_more_mm: int
    end_mm: int
    most_fill_percent: int


@cache
def box_rules() -> BoxRules:
    """Return the rule that a firm begins with."""
    return BoxRules.model_validate_json((DATA / "common" / "box_depth.json").read_text(encoding="utf-8"))


def least_depth_mm(mark: Mark, csa_mm2: Sequence[float]) -> int | None:
    """Return how deep a mark's box is at least, for the cables that come into it; None for what sits in none.

    More where several cables meet, and where one of them is thick.
    """
    rules = box_rules()
    least = rules.least_mm.get(mark.kind)
    if least is None:
        return None
    if len(csa_mm2) >= rules.from_cables:
        least += rules.more_for_cables_mm
    if any(csa >= rules.from_csa_mm2 for csa in csa_mm2):
        least += rules.more_for_csa_mm
    return least


def too_shallow(mark: Mark, csa_mm2: Sequence[float]) -> str:
    """Return what is said of a box that is too shallow; nothing of one that is not, or is on the surface."""
    least = least_depth_mm(mark, csa_mm2)
    if least is None or mark.box.is_surface or mark.box.depth_mm >= least:
        return ""
    many = "one cable" if len(csa_mm2) == 1 else f"{len(csa_mm2)} cables"
    return f"{many}: {least} mm deep at least by the firm's rule, and this box is {mark.box.depth_mm} mm."
