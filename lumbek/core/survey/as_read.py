"""The supply as surveyed and as measured since: what is read on the installation's sheet is heard everywhere."""

from collections.abc import Iterable

from lumbek.core.model.board import Board, Surge
from lumbek.core.model.job import Job
from lumbek.core.model.reading import Key, Quantity, Reading, figure_of, standing
from lumbek.core.model.supply import Supply, greatest_known_ohm

# A three-phase fault current that was not measured is no more than twice that between line and neutral.
_LINES_TO_NEUTRAL = 2.0
_FAULT: tuple[Quantity, ...] = ("fault-current", "fault-current-le", "fault-current-3p")


def as_read(supply: Supply, readings: Iterable[Reading], boards: Iterable[Board] = ()) -> Supply:
    """Return a supply with what was measured of it, and what its boards have been described with.

    Measured are Ze or the electrode in Ω, and the greatest fault current in kA (434.1). A surge device that is
    described on the first board is fitted where the survey has not said so yet.

    A measurement stands for what was only declared or not known. Of two figures that are not, the one on the safe side
    counts: the greater loop, the greater current.
    """
    taken = standing(tuple(readings))
    changes: dict[str, object] = {}
    loop: tuple[Quantity, ...] = ("electrode", "ze") if supply.earthing == "TT" else ("ze",)
    read_ze = max((ohm for each in loop if (ohm := figure_of(taken, each)) is not None), default=None)
    if read_ze is not None and read_ze > 0:
        ze_ohm = greatest_known_ohm(read_ze, supply.ze_ohm, supply.ze_origin)
        changes |= {"ze_ohm": ze_ohm, "ze_origin": "measured"}
    read_ka = _greatest_ka(supply, taken)
    if read_ka is not None and read_ka >= (supply.fault_current_ka or 0.0):
        changes |= {"fault_current_ka": read_ka, "fault_current_origin": "measured"}
    fitted = any(board.is_root and isinstance(board.surge, Surge) and board.surge.type != "3" for board in boards)
    if fitted and supply.surge_protection == "unknown":
        changes |= {"surge_protection": "fitted"}
    return supply.model_copy(update=changes) if changes else supply


def _greatest_ka(supply: Supply, taken: dict[Key, Reading]) -> float | None:
    """Return the greatest fault current that was measured, kA: of three phases twice that to neutral, if no more is."""
    found = {each: ka for each in _FAULT if (ka := figure_of(taken, each)) is not None and ka > 0}
    if supply.phases == 3 and "fault-current-3p" not in found and "fault-current" in found:
        found["fault-current-3p"] = _LINES_TO_NEUTRAL * found["fault-current"]
    return max(found.values(), default=None)


def supply_of_job(job: Job) -> Supply:
    """Return the supply of a job as surveyed and measured."""
    return as_read(job.supply, job.readings, job.boards)
