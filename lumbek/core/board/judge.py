"""The verdict on a house: every question that its circuits share, and the figures that the page shows."""

from lumbek.core.board.demand import Headroom, check_demand, headroom
from lumbek.core.board.division import check_alarms, check_division, worst_trip
from lumbek.core.board.enclosure import board_checks
from lumbek.core.board.house import House
from lumbek.core.board.labels import WayLabel, fed_from, way_label
from lumbek.core.board.leakage import leakage_checks
from lumbek.core.board.lines import Lines, check_lines, share_of_lines
from lumbek.core.board.ratings import lines_of, rating_checks
from lumbek.core.board.series import fault_at_ka, series_checks
from lumbek.core.board.trips import Trip, rcd_title, trips
from lumbek.core.inspection.codes import coded
from lumbek.core.judging.check import Check, Verdict, overall
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.numbers import NONE, ceil_to, show_up
from lumbek.core.value import Frozen

# Devices that carry so much of their rating for long warm each other where they stand side by side.
_FULL = 0.75


class LineView(Frozen):
    """What one line carries."""

    line: str
    connected_a: str
    demand_a: str
    share: float


class WayView(Frozen):
    """A way as the page shows it: its label, what it draws, how full it is, what it leaks."""

    id: str
    label: WayLabel
    circuits: tuple[str, ...]
    ib_a: str
    fullness: float
    fullness_percent: str
    leakage_ma: str
    is_warm: bool


class GroupView(Frozen):
    """A group: its RCD, and the leakage on it as a part of what it bears."""

    id: str
    title: str
    rcd: str
    leakage_ma: str
    leakage_share: float | None
    leakage_percent: str
    demand_a: str
    ways: tuple[WayView, ...]


class BoardView(Frozen):
    """A board: what feeds it, what it carries by line, its groups."""

    id: str
    where: str
    fed_from: str
    lines: tuple[LineView, ...]
    # Whether ratings stand in for loads that are not stated.
    by_ratings: bool
    fault_ka: str
    groups: tuple[GroupView, ...]


class HouseResult(Frozen):
    """Everything there is to say of what the circuits of a house share."""

    verdict: Verdict
    checks: tuple[Check, ...]
    trips: tuple[Trip, ...]
    worst_trip: str
    boards: tuple[BoardView, ...]
    headroom: Headroom
    lines: Lines | None


def judge_house(house: House) -> HouseResult:
    """Return every figure and check of what the circuits of a house share. Never raises for a tree that is sound."""
    found = list(trips(house))
    lines = share_of_lines(house)
    checks = _checks(house, found, lines)
    worst = worst_trip([trip for trip in found if trip.kind != "board"]) or worst_trip(found)
    return HouseResult(
        verdict=overall(checks),
        checks=tuple(checks),
        trips=tuple(found),
        worst_trip="" if worst is None else worst.id,
        boards=tuple(_board_view(house, board) for board in house.boards),
        headroom=headroom(house),
        lines=lines,
    )


def _checks(house: House, found: list[Trip], lines: Lines | None) -> list[Check]:
    """Return every check of a house; a departure has a code where no board is new."""
    checks = [
        check_division(house, found),
        check_alarms(house),
        check_demand(house),
        *([check_lines(house, lines)] if house.supply.phases == 3 else []),
        *rating_checks(house),
        *leakage_checks(house),
        *series_checks(house),
        *board_checks(house),
    ]
    return checks if any(board.state == "new" for board in house.boards) else [coded(check) for check in checks]


def _board_view(house: House, board: Board) -> BoardView:
    draw, place = house.board_draws[board.id], 0
    groups = []
    for group in board.groups:
        ways = []
        full = [_full(house, way) for way in group.ways]
        for at, way in enumerate(group.ways):
            place += 1
            # A full way beside another full one warms it, and is warmed.
            beside = any(full[index] for index in (at - 1, at + 1) if 0 <= index < len(full))
            ways.append(_way_view(house, board, group, way, place, full[at] and beside))
        groups.append(_group_view(house, board, group, tuple(ways)))
    fault = fault_at_ka(house, board)
    return BoardView(
        id=board.id,
        where=house.places.where(board.at),
        fed_from=fed_from(house, board),
        lines=_line_views(house, board),
        by_ratings=not draw.stated,
        fault_ka="" if fault is None else show_up(fault),
        groups=tuple(groups),
    )


def _line_views(house: House, board: Board) -> tuple[LineView, ...]:
    draw = house.board_draws[board.id]
    limit = board.known_main.rating_a if board.known_main else house.supply.main_fuse.rating_a
    return tuple(
        LineView(
            line=line,
            connected_a=show_up(draw.connected_a[line], 1),
            demand_a=show_up(draw.demand_a[line], 1),
            share=draw.demand_a[line] / limit if limit else 0.0,
        )
        for line in list(draw.demand_a)[: lines_of(house, board)]
    )


def _group_view(house: House, board: Board, group: Group, ways: tuple[WayView, ...]) -> GroupView:
    leaks = sum(member.leakage_ma for member in house.behind_group(group))
    rcd = group.rcd
    rated = None if rcd is None or rcd == "unknown" else rcd.rated_ma
    most = None if rated is None else house.rulebook.data.residual.leakage_fraction * rated
    share = None if most is None else leaks / most
    return GroupView(
        id=group.id,
        title=house.group_title(board, group),
        rcd=rcd_title(group),
        leakage_ma=show_up(leaks),
        leakage_share=share,
        leakage_percent="" if share is None else _percent(share),
        demand_a=show_up(house.group_draws[group.id].greatest_a, 1),
        ways=ways,
    )


def _way_view(house: House, board: Board, group: Group, way: Way, place: int, is_warm: bool) -> WayView:
    draw, device = house.way_draws[way.id], house.device_of(way)
    fullness = min(draw.greatest_a / device.rating_a, 1.0) if device is not None else 0.0
    leaks = sum(member.leakage_ma for member in house.members_in((way,)))
    return WayView(
        id=way.id,
        label=way_label(house, board, group, way, place),
        circuits=way.circuits,
        ib_a=show_up(draw.greatest_a, 1) if way.circuits else "",
        fullness=fullness,
        fullness_percent=_percent(fullness),
        leakage_ma=show_up(leaks) if leaks else NONE,
        is_warm=is_warm,
    )


def _percent(share: float) -> str:
    return f"{ceil_to(100 * share, 0):.0f} %"


def _full(house: House, way: Way) -> bool:
    device, draw = house.device_of(way), house.way_draws[way.id]
    return bool(device is not None and draw.stated and draw.greatest_a >= _FULL * device.rating_a)
