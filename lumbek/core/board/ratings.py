"""Does every main switch and RCCB carry what can flow through it?"""

from collections.abc import Iterator

from lumbek.core.board.draw import Draw
from lumbek.core.board.house import House
from lumbek.core.judging.check import Check, Place, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board, Group
from lumbek.core.model.device import Device
from lumbek.core.numbers import show
from lumbek.core.protection.who import device_name
from lumbek.core.study.ahead import main_fuse_of


def guard_of(house: House, board: Board) -> Device | None:
    """Return the overcurrent device ahead of a board; None where it is not known."""
    if board.beside is not None and board.beside in house.by_id:
        return guard_within(house, house.by_id[board.beside])
    if board.fed_by is not None and board.fed_by in house.seats:
        seat = house.seats[board.fed_by]
        device = house.device_of(seat.way)
        return device if house.rulebook.protects(device) else guard_within(house, seat.board)
    return main_fuse_of(house.supply)


def guard_within(house: House, board: Board) -> Device | None:
    """Return what guards the bars of a board: its main where that breaks overcurrent, else what is ahead."""
    main = board.known_main
    return main if house.rulebook.protects(main) else guard_of(house, board)


def _flows(rating_a: float, draw: Draw, most_a: float, said_a: float | None) -> float | None:
    """Return what flows through a switch, A: the ratings behind it, or less where that is known; None where not."""
    if hold(most_a, rating_a, "at most")[0] is not Verdict.FAIL:
        return most_a
    drawn_a = min(draw.greatest_a, most_a)
    return drawn_a if draw.stated or drawn_a > rating_a else said_a


def check_rating(
    house: House,
    question: Question,
    place: Place,
    rating_a: float,
    guard: Device | None,
    draw: Draw,
    most_a: float,
    said_a: float | None,
) -> Check:
    """In of a switch or RCCB >= the overcurrent device ahead, or >= all that can flow through it, A (536.4.202).

    All that can flow: the ratings behind it together, or the stated loads with their diversity. Where loads are not
    stated and the ratings exceed it, what flows is not known.
    """
    ahead = "" if guard is None else device_name(house.rulebook, guard)
    steps = [Step(text="Overcurrent device ahead", sum=ahead or "not known")]
    if guard is not None and hold(guard.rating_a, rating_a, "at most")[0] is Verdict.PASS:
        return question.held(
            house,
            guard.rating_a,
            rating_a,
            "at most",
            f"{{limit}} A behind {ahead}",
            unit="A",
            decimals=0,
            place=place,
            steps=tuple(steps),
            has_margin=False,
        )
    steps += [
        Step(text="Ratings of the ways behind it together", sum=f"{show(most_a, 1)} A"),
        *draw.steps,
    ]
    flows = _flows(rating_a, draw, most_a, said_a)
    if flows is None:
        missing = f"current of {draw.unstated[0]}: its loads are not stated"
        return question.cannot_tell(house, (missing,), steps=tuple(steps), place=place)
    exceeded = flows > rating_a and not draw.stated and said_a is None
    if exceeded and draw.unplaced:
        return question.cannot_tell(house, (f"line of {draw.unplaced[0]}",), steps=tuple(steps), place=place)
    return question.held(
        house,
        flows,
        rating_a,
        "at most",
        "{value} A through it, rated {limit} A",
        unit="A",
        decimals=1,
        place=place,
        steps=tuple(steps),
    )


def lines_of(house: House, board: Board) -> int:
    """Return how many lines a board has: three where the supply has, and what feeds it."""
    if house.supply.phases == 1:
        return 1
    if board.beside is not None and board.beside in house.by_id:
        return lines_of(house, house.by_id[board.beside])
    if board.fed_by is None or board.fed_by not in house.members:
        return 3
    feeder = house.members[board.fed_by]
    cores = feeder.feeder.cable.cores if feeder.feeder is not None else 3
    return 3 if feeder.phases == 3 or cores >= 4 else 1


def least_poles(house: House, board: Board) -> int:
    """Return the poles a main switch must have: both live conductors; of three lines the neutral too on TT."""
    if lines_of(house, board) == 1:
        return 2
    return 4 if house.supply.earthing == "TT" else 3


def _of_group(house: House, board: Board, group: Group) -> Check:
    title = house.group_title(board, group)
    question = Question(
        f"rccb-{group.id}", f"Rating of the RCCB, {title}", "Does it carry what can flow through it?", "switch-rating"
    )
    place = house.group_place(board, group)
    if group.rating_a is None:
        return question.cannot_tell(house, (f"rated current of the RCCB of {title}",), place=place)
    found = check_rating(
        house,
        question,
        place,
        group.rating_a,
        guard_within(house, board),
        house.group_draws[group.id],
        house.most_through(group.ways, house.hanging_on(group.id)),
        group.stated_a,
    )
    if group.unsure and found.verdict is Verdict.FAIL:
        what = f"RCD that each circuit of {title} is behind: there may be several alike"
        return question.cannot_tell(house, (what,), steps=found.steps, place=place)
    return found


def _of_main(house: House, board: Board) -> Check:
    question = Question(
        f"main-{board.id}", f"Main switch, {board.name}", "Is there one, and does it carry what flows?", "main-switch"
    )
    place = house.board_place(board)
    if board.main == "unknown":
        return question.cannot_tell(house, (f"main switch of {board.name}: its rating and poles",), place=place)
    if board.main is None:
        if not board.is_root:
            return question.check(
                house,
                Verdict.PASS,
                "None; what feeds it opens it",
                place=place,
                caution="Only where that can be locked off beside it.",
            )
        return question.check(house, Verdict.FAIL, "No main switch", place=place)
    if board.main_poles is not None and board.main_poles < least_poles(house, board):
        return question.check(
            house, Verdict.FAIL, f"{board.main_poles}-pole: it leaves a live conductor closed", place=place
        )
    found = check_rating(
        house,
        question,
        place,
        board.main.rating_a,
        guard_within(house, board),
        house.board_draws[board.id],
        house.most_through_board(board),
        board.stated_a,
    )
    if board.main_poles is None and found.verdict is Verdict.PASS:
        return question.cannot_tell(
            house, (f"poles of the main switch of {board.name}",), steps=found.steps, place=place
        )
    return found


def rating_checks(house: House) -> Iterator[Check]:
    """Yield the checks of every main switch and every RCCB of a group."""
    for board in house.boards:
        yield _of_main(house, board)
        for group in board.groups:
            if group.rcd is not None and group.rcd != "unknown" and any(way.circuits for way in group.ways):
                yield _of_group(house, board, group)
