"""The board itself: what it is made of, its surge protection, its neutrals, what generates behind it."""

from collections.abc import Iterator

from lumbek.core.board.before_rcd import check_before_rcd
from lumbek.core.board.house import House
from lumbek.core.board.open_ways import open_ways
from lumbek.core.board.ratings import guard_within
from lumbek.core.board.source_rcd import source_checks
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.graver import FINGER
from lumbek.core.judging.question import Question
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.numbers import plain, show


def _finger_enters(ip: str) -> bool:
    """Whether a first numeral says that a finger reaches live parts, and nothing better is said of the top."""
    return bool(ip) and _top(ip) < 4 and ip[2] != "X" and int(ip[2]) < 2


def check_enclosure(house: House, board: Board) -> Check:
    """Non-combustible, or in a cabinet that is (421.1.201), and IP4X on top (416.2).

    One that was there before is not failed for plastic: it is an improvement to recommend. Timber is.
    """
    question = Question(f"enclosure-{board.id}", f"Enclosure, {board.name}", "Does it contain a fire?", "enclosure")
    place, made = house.board_place(board), board.enclosure
    if _finger_enters(made.ip):
        return question.check(house, Verdict.FAIL, f"{made.ip}: {FINGER}", place=place)
    if made.material == "unknown" and not made.cabinet:
        return question.cannot_tell(house, (f"what {board.name} is made of",), place=place)
    if made.material == "metal" or made.cabinet:
        return question.check(house, Verdict.PASS, "Metal" if made.material == "metal" else "In a cabinet", place=place)
    if made.material == "timber":
        return question.check(house, Verdict.FAIL, "Timber feeds a fire", place=place)
    if not house.rulebook.data.board.non_combustible:
        return question.check(
            house,
            Verdict.PASS,
            "Insulating material",
            place=place,
            caution="Some national rules ask for one that does not burn.",
        )
    if board.state == "as-found":
        return question.check(
            house,
            Verdict.PASS,
            "Plastic, as found",
            place=place,
            caution="It feeds a fire: graver where it stands on an escape route, or shows heat.",
            code="C3",
            code_why="Plastic, in a dwelling",
        )
    return question.check(house, Verdict.FAIL, "Plastic: a new board in a dwelling is of metal", place=place)


def _top(ip: str) -> int:
    return int(ip[2]) if ip[2].isdigit() else 0


def check_surge(house: House, board: Board) -> Check:
    """Leads of the surge device no longer than 0.5 m together, 1 m at the most (534.4.8); type 2 at the board."""
    question = Question(
        f"surge-{board.id}", f"Surge leads, {board.name}", "Are its leads short enough to help?", "surge-leads"
    )
    place, rules = house.board_place(board), house.rulebook.data.board
    if board.surge == "unknown" and board.is_root and house.supply.surge_protection == "fitted":
        return question.cannot_tell(house, (f"type and length of the surge leads of {board.name}",), place=place)
    if board.surge == "unknown":
        return question.not_applicable(house, "Not said whether there is any: the survey asks")
    if board.surge is None:
        if board.is_root and house.supply.surge_protection == "fitted":
            missing = (f"whether surge protection is fitted: the survey says so, {board.name} has none",)
            return question.cannot_tell(house, missing, place=place)
        return question.not_applicable(house, "None on this board")
    if board.is_root and house.supply.surge_protection == "declined":
        missing = (f"whether surge protection is fitted: the survey says declined, {board.name} has it",)
        return question.cannot_tell(house, missing, place=place)
    if board.surge.type == "3":
        return question.check(house, Verdict.FAIL, "Type 3 alone does not guard a board", place=place)
    if board.surge.lead_m is None or board.surge.type is None:
        what = "type of the surge protection" if board.surge.type is None else "length of the surge leads"
        return question.cannot_tell(house, (f"{what} of {board.name}",), place=place)
    lead = board.surge.lead_m
    return question.held(
        house,
        lead,
        rules.most_lead_m,
        "at most",
        "{value} m of lead",
        unit="m",
        place=place,
        steps=(Step(text="Usual", sum=f"{plain(rules.usual_lead_m)} m, at the most {plain(rules.most_lead_m)} m"),),
        caution=f"Longer than {plain(rules.usual_lead_m)} m: shorten it where you can."
        if lead > rules.usual_lead_m
        else "",
    )


def check_neutrals(house: House, board: Board) -> Check:
    """Every neutral at the bar of its own group (314.4): at another's, the RCD trips, or a bar stays live."""
    question = Question(
        f"neutrals-{board.id}", f"Neutrals, {board.name}", "Does each neutral end at its own group's bar?", "neutrals"
    )
    if len(board.groups) < 2:
        return question.not_applicable(house, "One group, one bar")
    for group, way, other in _at_anothers_bar(board):
        return question.check(
            house,
            Verdict.FAIL,
            f"The neutral of {house.members[way.circuits[0]].title} is at {house.group_title(board, other)}",
            place=house.group_place(board, group),
            steps=(Step(text="Its load current returns past its own RCD, which trips"),),
        )
    for key, seats in house.several.items():
        if len({seat.group.id for seat in seats}) > 1:
            return question.check(
                house,
                Verdict.FAIL,
                f"{house.members[key].title} is in ways of two groups",
                place=house.board_place(board),
            )
    return question.check(house, Verdict.PASS, "Each at its own", place=house.board_place(board))


def _at_anothers_bar(board: Board) -> Iterator[tuple[Group, Way, Group]]:
    """Yield the ways with a circuit whose neutral is at another group's bar, between the two groups."""
    groups = {group.id: group for group in board.groups}
    for group in board.groups:
        for way in group.ways:
            other = groups.get(way.neutral_at or group.id, group)
            if other is not group and way.circuits:
                yield group, way, other


def check_several(house: House) -> Check:
    """No circuit in two ways, no two circuits in one (314.4): one device does not make it dead, or neither alone."""
    question = Question(
        "ways", "A way for each circuit", "Does one device, and only one, make each circuit dead?", "neutrals"
    )
    for key, seats in house.several.items():
        return question.check(
            house,
            Verdict.FAIL,
            f"{house.members[key].title} is in {len(seats)} ways: one off leaves it live",
            place=house.board_place(seats[0].board),
        )
    for board in house.boards:
        for way in board.ways:
            if len(way.circuits) > 1:
                titles = " and ".join(house.members[each].title for each in way.circuits)
                return question.check(
                    house,
                    Verdict.FAIL,
                    f"{titles} share a way",
                    place=house.board_place(board),
                    steps=(
                        Step(text="Each final circuit has a way of its own, so that it can be isolated and tested"),
                    ),
                )
    return question.check(house, Verdict.PASS, "One way each")


def check_sources(house: House, board: Board) -> Check:
    """Rating of the board >= what guards it + what sources behind it give, A (551.7.2)."""
    question = Question(
        f"sources-{board.id}",
        f"Sources, {board.name}",
        "Does the board carry fuse and source together?",
        "source-board",
    )
    sources = [member for member in house.behind_board(board) if member.is_source]
    if not sources:
        return question.not_applicable(house, "Nothing generates behind it")
    place, main, guard = house.board_place(board), board.known_main, guard_within(house, board)
    missing = [f"current of the source on {member.title}" for member in sources if member.source_unsaid][:1]
    if missing or guard is None or main is None:
        missing += ["main fuse of the supply"] * (guard is None)
        missing += [f"main switch of {board.name}: its rating and poles"] * (main is None)
        return question.cannot_tell(house, tuple(missing), place=place)
    gives = sum(member.sources_a for member in sources)
    return question.held(
        house,
        guard.rating_a + gives,
        main.rating_a,
        "at most",
        "{value} A together, rated {limit} A",
        unit="A",
        decimals=1,
        place=place,
        steps=(Step(text="What guards it, and the sources", sum=f"{plain(guard.rating_a)} + {show(gives, 1)} A"),),
    )


def board_checks(house: House) -> Iterator[Check]:
    """Yield what is asked of each board itself."""
    yield check_several(house)
    yield from source_checks(house)
    for board in house.boards:
        yield check_enclosure(house, board)
        yield open_ways(house, board)
        yield check_before_rcd(house, board)
        yield check_surge(house, board)
        yield check_neutrals(house, board)
        yield check_sources(house, board)
