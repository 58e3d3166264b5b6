"""How thick cables are, in mm: the greatest mean sizes of BS 6004 and BS EN 50525-2-31; armoured ones about so much.

Makers differ: what comes of these sizes is a help to drill and cut by, and no limit of a standard.
"""

from functools import cache
from typing import NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks.tables import DATA, rows


class CableSize(NamedTuple):
    """A cable across: both alike where it is round."""

    wide_mm: float
    thick_mm: float


@cache
def _sizes() -> dict[tuple[str, float, int], CableSize]:
    table = rows(DATA / "common" / "cable_size.csv")
    return {
        (row["type"], float(row["csa_mm2"]), int(row["cores"])): CableSize(
            float(row["wide_mm"]), float(row["thick_mm"])
        )
        for row in table
    }


@cache
def singles_mm2() -> tuple[float, ...]:
    """Return the singles whose thickness is known, least first."""
    return tuple(sorted(csa_mm2 for sort, csa_mm2, _ in _sizes() if sort == "single-core"))


def size_of(cable: Cable) -> CableSize | None:
    """Return how thick a cable is; None where no size is known."""
    by_cores = cable.cores if cable.type in ("armoured", "multicore", "flex") else 0
    return _sizes().get((cable.type, cable.csa_mm2, by_cores))
