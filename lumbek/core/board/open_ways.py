"""Spare ways: closed, or open to a finger."""

from lumbek.core.board.house import House
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board


def open_ways(house: House, board: Board) -> Check:
    """No way of a board is open: one that holds nothing is blanked (416.2)."""
    question = Question(f"open-ways-{board.id}", f"Spare ways, {board.name}", "Is every spare way closed?", "open-way")
    spare = [
        (at, way)
        for at, way in enumerate(board.ways, start=1)
        if not way.circuits and way.device is None and not way.direct
    ]
    if not spare:
        return question.not_applicable(house, "No spare way")
    open_at = [str(at) for at, way in spare if not way.blank]
    if open_at:
        named = f"Way {open_at[0]}" if len(open_at) == 1 else f"Ways {', '.join(open_at[:6])}"
        return question.check(
            house,
            Verdict.FAIL,
            f"{named} open: a finger reaches live parts",
            place=house.board_place(board),
            steps=(Step(text="Blank each way that holds nothing"),),
        )
    return question.check(house, Verdict.PASS, f"Blanked: {len(spare)}", place=house.board_place(board))
