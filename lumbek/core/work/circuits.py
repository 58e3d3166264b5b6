"""What is done circuit by circuit: tested half-way before anything is closed, its device put into the board."""

from collections import Counter
from collections.abc import Iterator

from lumbek.core.items.amounts import HALF_WAY, device_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.reading import Quantity, standing
from lumbek.core.work.site import WorkSite
from lumbek.core.work.step import StepStands, WorkStep

# Continuity of one kind or the other, and insulation, before cable is closed in (BS 7671 643.2, 643.3; IEC 60364-6
# 6.4.3.2, 6.4.3.3 ask for both on the finished circuit; half-way they find the screw that went through a cable).
_CONTINUITY: tuple[Quantity, ...] = ("r1+r2", "r2", "r2-lead")
_INSULATION: tuple[Quantity, ...] = ("insulation-le", "insulation-l-e", "insulation-ll")


def circuit_steps(site: WorkSite) -> Iterator[WorkStep]:
    """Yield the half-way test and the device of every circuit that gets cable now."""
    laid = {key for key, _, _ in site.new_legs}
    for key, design in site.designs:
        board = site.mark_of(key, BOARD)
        room = "" if board is None else board.room
        if key in laid:
            yield WorkStep(
                key=f"half-way/{key}",
                phase="hold",
                room=room,
                what=f"Circuit {design.number}, {design.name}: half-way test",
                told=(*_left_off(design), "Insulation between all cores, with nothing connected."),
                follows=True,
                stands=_tested(site, key),
                **site.taken(Counter((HALF_WAY,))),
            )
        device = device_of(design, site.rulebook)
        for each in device:
            yield WorkStep(
                key=f"device/{key}",
                phase="second-fix",
                room=room,
                what=f"Circuit {design.number}, {design.name}: {each.what} into the board",
                told=("The board is dead and locked; neutral and earth to the way's own terminals.",),
                **site.taken(device),
            )


def _left_off(design: Circuit) -> tuple[str, ...]:
    """Return what stays out of its terminals at the board, for continuity to be read."""
    at_board = sum(BOARD in (leg.a, leg.b) for leg in design.legs)
    if at_board > 1:
        return ("Both ends stay out of the board: r1, rn and r2 from end to end, then crossed and read at each box.",)
    return ("Line and cpc stay joined at the board: R1+R2 is read at each box before its front goes on.",)


def _tested(site: WorkSite, key: str) -> StepStands:
    """Return whether continuity and insulation of a circuit are read: who read the last of them, and when."""
    kept = standing(site.readings.get(key, ()))
    read = {reading.quantity: reading for reading in kept.values()}
    for wanted in (_CONTINUITY, _INSULATION):
        if not any(quantity in read for quantity in wanted):
            return StepStands()
    last = max((read[each] for each in (*_CONTINUITY, *_INSULATION) if each in read), key=lambda each: each.at or "")
    return StepStands(status="done", by=last.by or "", at=last.at or "")
