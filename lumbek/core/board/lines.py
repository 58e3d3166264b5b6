"""How the single-phase circuits are shared out over three lines, and how they would be best."""

from dataclasses import dataclass
from itertools import permutations

from lumbek.core.board.balance import MOST, balance, neutral_a
from lumbek.core.board.house import House
from lumbek.core.board.ratings import lines_of
from lumbek.core.board.trips import way_title
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.board import LINES, Line, Way
from lumbek.core.numbers import counted, show_up
from lumbek.core.value import Frozen

QUESTION = Question("lines", "Lines", "Are the single-phase circuits shared out over the lines?", "balance")
# A fullest line that is so much fuller than it need be is worth a word.
_WORTH = 1.1


class LineMove(Frozen):
    """A circuit that a better sharing puts on another line."""

    way: str
    circuit: str
    line: Line


class Lines(Frozen):
    """What the lines carry in A as they are and at best, the neutral with them, and what would move.

    `now_a` counts only what has a line. `runner_up_a` is the least greatest line of any other sharing that is worse.
    """

    now_a: tuple[str, ...]
    now_neutral_a: str
    best_a: tuple[str, ...]
    best_neutral_a: str
    runner_up_a: str
    moves: tuple[LineMove, ...]
    could_be: float


@dataclass(frozen=True)
class _Sorted:
    """The ways of the three-line boards: what may move with its current in A, and what the lines carry anyway."""

    movable: list[tuple[Way, float]]
    fixed_a: list[float]
    now_a: list[float]


def _feeds_three(house: House, way: Way) -> bool:
    """Whether a way feeds a board of three lines, which shares out its own ways."""
    return any(lines_of(house, board) == 3 for key in way.circuits for board in house.hanging_on(key))


def _sorted(house: House) -> _Sorted:
    found = _Sorted([], [0.0] * 3, [0.0] * 3)
    boards = (board for board in house.boards if lines_of(house, board) == 3)
    for way in (way for board in boards for way in board.ways):
        if not way.circuits or _feeds_three(house, way):
            continue
        amperes = house.way_draws[way.id].greatest_a
        three = any(house.members[key].phases == 3 for key in way.circuits)
        now = range(3) if three else [LINES.index(way.line)] if way.line is not None else []
        for index in now:
            found.now_a[index] += amperes
        if three or (way.stays and now):
            for index in now:
                found.fixed_a[index] += amperes
        else:
            found.movable.append((way, amperes))
    return found


def share_of_lines(house: House) -> Lines | None:
    """Return how the lines are shared out and how they would be best; None on one line, or for too many circuits.

    Of the ways to number the lines of the best sharing, the one that moves fewest circuits.
    """
    ways = _sorted(house) if house.supply.phases == 3 else None
    if ways is None or not ways.movable or len(ways.movable) > MOST:
        return None
    found = balance([amperes for _, amperes in ways.movable], ways.fixed_a)
    now = [way.line for way, _ in ways.movable]
    # Lines may be exchanged where they carry the same already.
    orders = [
        each
        for each in permutations(range(3))
        if all(ways.fixed_a[each[line]] == ways.fixed_a[line] for line in range(3))
    ]
    order = min(
        orders,
        key=lambda each: sum(was != LINES[each[line]] for was, line in zip(now, found.best.lines, strict=True)),
    )
    best = [0.0, 0.0, 0.0]
    for line, value in enumerate(found.best.line_a):
        best[order[line]] = value
    moves = tuple(
        LineMove(way=way.id, circuit=way_title(house, way), line=LINES[order[line]])
        for (way, _), line in zip(ways.movable, found.best.lines, strict=True)
        if way.line != LINES[order[line]]
    )
    return Lines(
        now_a=_shown(ways.now_a),
        now_neutral_a="" if None in now else show_up(neutral_a(ways.now_a), 1),
        best_a=_shown(best),
        best_neutral_a=show_up(found.best.neutral_a, 1),
        runner_up_a="" if found.runner_up is None else show_up(found.runner_up.greatest_a, 1),
        moves=moves,
        could_be=max(ways.now_a) / found.best.greatest_a if found.best.greatest_a else 1.0,
    )


def _shown(amperes: list[float]) -> tuple[str, ...]:
    return tuple(show_up(each, 1) for each in amperes)


def check_lines(house: House, lines: Lines | None) -> Check:
    """Every single-phase circuit is said to be on a line; a sharing that is much worse than the best is pointed out."""
    unplaced = [
        way
        for board in house.boards
        if lines_of(house, board) == 3
        for way in board.ways
        if way.line is None
        and way.circuits
        and any(house.members[key].phases == 1 for key in way.circuits)
        and not _feeds_three(house, way)
    ]
    steps = (
        ()
        if lines is None
        else (
            Step(
                text="As they are, before the diversity of the house",
                sum=f"{' / '.join(lines.now_a)} A" + _neutral(lines.now_neutral_a),
            ),
            Step(text="At best", sum=f"{' / '.join(lines.best_a)} A" + _neutral(lines.best_neutral_a)),
            *(
                (Step(text="The next best has a fullest line of", sum=f"{lines.runner_up_a} A"),)
                if lines.runner_up_a
                else ()
            ),
        )
    )
    if unplaced:
        return QUESTION.cannot_tell(house, (f"line of {way_title(house, unplaced[0])}",), steps=steps)
    if lines is None:
        return QUESTION.check(house, Verdict.PASS, "Every circuit is on a line", steps=steps)
    caution = (
        f"Could be {max(lines.best_a, key=float)} A: move {counted(len(lines.moves), 'circuit', 'circuits')}."
        if lines.could_be > _WORTH
        else ""
    )
    return QUESTION.check(house, Verdict.PASS, f"{' / '.join(lines.now_a)} A", steps=steps, caution=caution)


def _neutral(amperes: str) -> str:
    return f", neutral {amperes} A" if amperes else ""
