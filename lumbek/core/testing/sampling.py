"""Which points get R1+R2 and Zs: a plan of the job. What is outside it is asked of nobody, and nothing waits for it."""

from lumbek.core.model.extent import Extent
from lumbek.core.model.leg import BOARD
from lumbek.core.model.reading import Quantity
from lumbek.core.study.study import Study

# Readings that a plan leaves out at points.
SAMPLED: tuple[Quantity, ...] = ("cross-ln", "cross-le", "r1+r2", "zs")
# Asked of nobody where a job is a change: a circuit that goes on feeding things is read to earth, live conductors
# joined; the neutral of what is new shows in the ends of the ring, in polarity and in the live loop.
BESIDE_A_CHANGE: tuple[Quantity, ...] = ("insulation-ll", "cross-ln")
# One point of so many is read beside the ends of runs.
_ONE_OF = 5
WORDS = {
    "every": "",
    "ends": "Outside the plan of this job: the end of each run and branch is read",
    "share": f"Outside the plan of this job: ends are read, and one point of {_ONE_OF}",
    "change": "Outside the extent of this job: what is new is read",
}


def plan_of(extent: Extent) -> str:
    """Return the plan by which points are chosen, as `WORDS` knows it."""
    return "change" if extent.is_change else extent.sampling


def planned(study: Study, walk: list[str], extent: Extent) -> frozenset[str]:
    """Return the points that are to be read, of those on the walk."""
    plan = plan_of(extent)
    if plan == "every":
        return frozenset(walk)
    ends = _ends(study, walk)
    if plan == "ends":
        return ends
    if plan == "share":
        return ends | frozenset(walk[::_ONE_OF])
    changed = frozenset(point for point in walk if study.points[point].state == "new")
    # Where only the device is another, the end of each run shows that it still trips.
    return changed or ends


def _ends(study: Study, walk: list[str]) -> frozenset[str]:
    """Return the last point of each run and branch; of a ring what hangs off it, and the point in its middle."""
    far = study.graph.distance
    leaves = {
        point
        for point in walk
        if all(far[leg.other_end(point)] < far[point] for leg in study.graph.at[point]) and point != BOARD
    }
    ring = [point for point in study.shape.ring_points if point in walk]
    if ring:
        leaves = {point for point in leaves if point not in ring} | {ring[len(ring) // 2]}
    return frozenset(leaves)
