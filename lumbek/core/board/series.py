"""Devices in series over the whole tree: which opens first, and is none blinded."""

from collections.abc import Iterator

from lumbek.core.board.house import House
from lumbek.core.board.ratings import guard_within
from lumbek.core.board.trips import way_title
from lumbek.core.judging.check import Check, Step, Verdict, worst_of
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.numbers import show, show_up
from lumbek.core.protection.selectivity import Selectivity, selective
from lumbek.core.protection.who import device_name
from lumbek.core.study.ahead import AheadOf


def fault_at_ka(house: House, board: Board) -> float | None:
    """Return the greatest fault current in kA at a board; None where none is known at the origin."""
    ahead = AheadOf(house.rulebook, house.supply, Circuit(ahead=house.ahead_of(board)))
    if ahead.known_fault_current_ka is None:
        return None
    return ahead.board_fault_current_ka


def check_selectivity(house: House, board: Board) -> Check:
    """For each way, whether the device ahead of the board leaves a fault to it (536.4).

    A pair that surely fails fails in a new board; one that only a maker's table decides is told with the fault up to
    which it is sure: in a dwelling it is wanted, and not asked for by name.
    """
    question = Question(
        f"selectivity-{board.id}",
        f"Selectivity, {board.name}",
        "Does the device next to a fault open first, alone?",
        "selectivity",
    )
    guard, fault_ka = guard_within(house, board), fault_at_ka(house, board)
    place = house.board_place(board)
    pairs = [(way, device) for way, device in _fitted(house, board)]
    if not pairs:
        return question.not_applicable(house, "No device in any way")
    if guard is None:
        return question.cannot_tell(house, ("main fuse of the supply",), place=place)
    found: list[tuple[Way, Selectivity]] = [
        (way, selective(house.rulebook, _bare(guard), _bare(device), fault_ka)) for way, device in pairs
    ]
    steps = tuple(
        Step(text=f"{device_name(house.rulebook, guard)} over {way_title(house, way)}", sum=part.why)
        for way, part in found
    )
    verdict = worst_of(part.verdict for _, part in found)
    first = next(each for each in found if each[1].verdict is verdict)
    sure = min((part.up_to_ka for _, part in found if part.up_to_ka is not None), default=0.0)
    if verdict is Verdict.CANNOT_TELL and fault_ka is None:
        return question.cannot_tell(
            house,
            ("prospective fault current of the supply",),
            answer=f"Sure up to {show(sure)} kA: needs the prospective fault current"
            if sure >= 0.01
            else "Needs the prospective fault current",
            steps=steps,
            place=place,
        )
    title, why = way_title(house, first[0]), first[1].why
    if verdict is Verdict.CANNOT_TELL:
        return question.check(
            house,
            Verdict.PASS,
            f"Sure up to {show(sure)} kA of {show_up(fault_ka or 0.0)} kA",
            steps=steps,
            place=place,
            caution=f"Beyond it both may open, {title} first of all: makers' tables say.",
        )
    if verdict is Verdict.FAIL and board.state == "as-found":
        return question.check(
            house,
            Verdict.PASS,
            "As found",
            steps=steps,
            place=place,
            caution=f"{title}: {why}. Better in the next board.",
        )
    answer = f"{title}: {why}" if verdict is Verdict.FAIL else "Each way opens alone"
    return question.check(house, verdict, answer, steps=steps, place=place)


def _fitted(house: House, board: Board) -> Iterator[tuple[Way, Device]]:
    for way in board.ways:
        device = house.device_of(way)
        if way.circuits and device is not None and house.rulebook.protects(device):
            yield way, device


def _bare(device: Device) -> Device:
    """Return a device without its RCD: which of two of those goes first is the circuit's own question."""
    return device.model_copy(update={"rcd": None})


def series_checks(house: House) -> Iterator[Check]:
    """Yield the selectivity of every board."""
    for board in house.boards:
        yield check_selectivity(house, board)
