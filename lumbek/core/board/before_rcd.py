"""On a TT supply a fault ahead of the first RCD is cut off by nothing: what may stand there."""

from lumbek.core.board.house import House
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board
from lumbek.core.model.device import Device


def _has_rcd(main: Device | None) -> bool:
    return main is not None and (main.known_rcd is not None or main.standard == "bs-en-61008")


def _may_have_rcd(main: Device | None) -> bool:
    return main is not None and main.rcd == "unknown" and main.standard != "switch"


def check_before_rcd(house: House, board: Board) -> Check:
    """A board of metal on TT has an RCD at its main, or is of class II (411.5, 531.3.5.3.2)."""
    question = Question(
        f"before-rcd-{board.id}",
        f"Ahead of the RCDs, {board.name}",
        "Is a fault to the board itself cut off?",
        "before-rcd",
    )
    place, main = house.board_place(board), board.known_main
    if house.supply.earthing != "TT" or board.fed_by is not None:
        return question.not_applicable(house, "Not at the origin of a TT supply")
    if _has_rcd(main):
        return question.check(house, Verdict.PASS, "An RCD at its main", place=place)
    if board.beside_group is not None:
        return question.check(house, Verdict.PASS, "Behind the RCD of a group", place=place)
    if board.enclosure.material == "unknown":
        return question.cannot_tell(house, (f"what {board.name} is made of",), place=place)
    if board.enclosure.material in ("plastic", "timber"):
        return question.check(house, Verdict.PASS, "Nothing of metal ahead of the RCDs", place=place)
    if board.main == "unknown" or _may_have_rcd(main):
        return question.cannot_tell(house, (f"main switch of {board.name}: whether it has an RCD",), place=place)
    return question.check(
        house,
        Verdict.FAIL,
        "Metal, and no RCD ahead of its bars",
        place=place,
        steps=(
            Step(text="A line that touches the case trips nothing: the electrode lets too little through"),
            Step(text="A time-delayed RCD at the origin, or a board of class II"),
        ),
    )
