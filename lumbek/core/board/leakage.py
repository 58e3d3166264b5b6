"""Is the RCD of a group left in peace by all that its circuits leak?"""

from collections.abc import Iterator

from lumbek.core.board.house import House
from lumbek.core.model.board import Board, Group
from lumbek.core.numbers import plain, show
from lumbek.core.question import Question
from lumbek.core.result import Check, Step


def check_leakage(house: House, board: Board, group: Group) -> Check:
    """Sum of the protective-conductor currents of a group <= 0.3 IΔn of its RCD, mA (531.3.2).

    What is stated of a circuit counts once; on three lines the leakages of the lines do not cancel in the worst case.
    """
    question = Question(
        f"leakage-{group.id}", f"Leakage, {house.group_title(board, group)}", "Is its RCD left in peace?", "leakage"
    )
    if group.rcd is None:
        return question.not_applicable(house, "No RCD for the group")
    leaks = [(member.title, member.leakage_ma) for member in house.behind_group(group) if member.leakage_ma]
    total = sum(leak for _, leak in leaks)
    place = house.group_place(board, group)
    steps = tuple(Step(text=title, sum=f"{show(leak)} mA") for title, leak in leaks)
    if group.rcd == "unknown" or group.rcd.rated_ma is None:
        return question.cannot_tell(
            house, (f"rated residual current of {house.group_title(board, group)}",), steps=steps, place=place
        )
    part = house.rulebook.data.residual.leakage_fraction
    limit = part * group.rcd.rated_ma
    return question.held(
        house,
        total,
        limit,
        "at most",
        "{value} mA, limit {limit} mA",
        unit="mA",
        place=place,
        steps=(*steps, Step(text="Limit", sum=f"{plain(part)} × {plain(group.rcd.rated_ma)} = {plain(limit)} mA")),
        caution="" if leaks else "No circuit of the group states any leakage.",
    )


def leakage_checks(house: House) -> Iterator[Check]:
    """Yield the check of every group with an RCD."""
    for board in house.boards:
        for group in board.groups:
            if group.rcd is not None and any(way.circuits for way in group.ways):
                yield check_leakage(house, board, group)
