"""On a TT supply a fault ahead of the first RCD is cut off by nothing: what may stand there."""

from lumbek.core.board.house import House
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show, show_down
from lumbek.core.protection.electrode_limit import electrode_limit_ohm
from lumbek.core.study.ahead import ELECTRODE

_NO_METAL = ("plastic", "timber")


def _has_rcd(main: Device) -> bool:
    return main.known_rcd is not None or main.standard == "bs-en-61008"


def _may_have_rcd(main: Device | None) -> bool:
    return main is not None and main.rcd == "unknown" and main.standard != "switch"


def check_before_rcd(house: House, board: Board) -> Check:
    """A board of metal on TT has an RCD at its main that its electrode trips, or is of class II (411.5, 531.3.5)."""
    question = Question(
        f"before-rcd-{board.id}",
        f"Ahead of the RCDs, {board.name}",
        "Is a fault to the board itself cut off?",
        "before-rcd",
    )
    place, main = house.board_place(board), board.known_main
    if house.supply.earthing != "TT" or board.fed_by is not None:
        return question.not_applicable(house, "Not at the origin of a TT supply")
    if main is not None and _has_rcd(main):
        return _by_its_main(house, board, question, main)
    if board.beside_group is not None:
        return question.check(house, Verdict.PASS, "Behind the RCD of a group", place=place)
    if board.enclosure.material == "unknown":
        return question.cannot_tell(house, (f"what {board.name} is made of",), place=place)
    if board.enclosure.material in _NO_METAL:
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


def _by_its_main(house: House, board: Board, question: Question, main: Device) -> Check:
    """Hold the electrode to the RCD at the main: RA × IΔn no more than 50 V, or the case stays live (411.5.3)."""
    place, supply, material = house.board_place(board), house.supply, board.enclosure.material
    if material in _NO_METAL:
        return question.check(house, Verdict.PASS, "An RCD at its main", place=place)
    rated_ma = main.known_rcd.rated_ma if main.known_rcd is not None else None
    ra_ohm = supply.ze_ohm if supply.ze_origin == "measured" else None
    if rated_ma is None or ra_ohm is None:
        known = {f"main switch of {board.name}: its rated residual current": rated_ma, ELECTRODE: ra_ohm}
        missing = tuple(name for name, value in known.items() if value is None)
        return question.cannot_tell(house, missing, place=place)
    touch_v = house.rulebook.data.fault_protection.touch_voltage_v
    limit_ohm = electrode_limit_ohm(house.rulebook, rated_ma)
    step = Step(
        text=f"A fault to the case: {plain(touch_v)} V / {plain(rated_ma)} mA", sum=f"{show_down(limit_ohm)} Ω at most"
    )
    if material == "unknown" and hold(ra_ohm, limit_ohm, "at most")[0] is Verdict.FAIL:
        return question.cannot_tell(house, (f"what {board.name} is made of",), place=place, steps=(step,))
    words = f"An electrode of {show(ra_ohm)} Ω and {plain(rated_ma)} mA at its main"
    return question.held(house, ra_ohm, limit_ohm, "at most", words, unit="Ω", place=place, steps=(step,))
