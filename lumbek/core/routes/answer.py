"""The ways of a house: every leg of every circuit whose ends are at marks, as it would be laid."""

from collections import Counter
from collections.abc import Mapping, Sequence

from lumbek.core.board.tree import first_board, seated
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.places import Places
from lumbek.core.routes.apart import Keeps, keeps_of
from lumbek.core.routes.bearing import bearing_of
from lumbek.core.routes.find import Finder, FoundWay
from lumbek.core.routes.graph import Graph, build_graph
from lumbek.core.routes.lay_of_house import LayOfHouse
from lumbek.core.routes.limits import Bears
from lumbek.core.routes.pieces import RoutePiece, Surveyor, edge_of, segments_of
from lumbek.core.routes.tails import TAIL_MM, slack_of, tails_of
from lumbek.core.value import Frozen

# A length that departs from its way by more than this is told.
TOLD_FROM = 0.15


class LegRoute(Frozen):
    """A leg as it would be laid: its way, its length with the slack at its ends; or why there is none.

    `differs` where what is drawn departs from it by more than 15 %.
    """

    circuit: str
    leg: str
    a: str
    b: str
    why_not: str = ""
    cost: int = 0
    way_mm: int = 0
    slack_mm: int = 0
    # How much of the slack is tails left long, for something comes over them later.
    tail_mm: int = 0
    pieces: tuple[RoutePiece, ...] = ()
    segments: tuple[Segment, ...] = ()
    drawn_m: float | None = None
    is_taped: bool = False
    differs: bool = False

    @property
    def length_mm(self) -> int:
        """The length of cable that it takes."""
        return self.way_mm + self.slack_mm


class RoutesAnswer(Frozen):
    """The ways of all circuits, and what a person has to say before more of them are found."""

    legs: tuple[LegRoute, ...]
    missing: tuple[str, ...]
    # How joists and walls bear what is cut out of them.
    bears: tuple[Bears, ...] = ()
    # What cable comes near to, and circuits that deny what their ways do.
    keeps: tuple[Keeps, ...] = ()


class RoutedHouse:
    """A house with its graph: what else is asked of it (orders of a run) is asked on the same one."""

    def __init__(self, places: Places, boards: Sequence[Board], rulebook: str) -> None:
        self.places = places
        self.house = LayOfHouse(places, rulebook)
        self.graph: Graph = build_graph(self.house, places.ways)
        self.finder = Finder(self.graph)
        self.surveyor = Surveyor(self.house, self.graph, rulebook)
        self.tails = tails_of(self.house)
        self.forced = {(each.circuit, each.leg): each.by for each in places.ways.forced}
        self.boards = boards
        self.at_point = {
            (mark.point.circuit, mark.point.point): mark.id for mark in places.marks if mark.point is not None
        }

    def sit(self, circuit: str, sits: Mapping[str, str]) -> None:
        """Take in that points of a circuit sit at marks; one that is in no way yet is seated at the first board."""
        self.at_point |= {(circuit, point): mark for mark, point in sits.items()}
        there = [each for board in self.boards for way in board.ways for each in way.circuits]
        self.boards = seated(tuple(self.boards), [*there, circuit])

    def way(self, circuit: str, leg: str, one: str, other: str) -> FoundWay | None:
        """Return the way of a leg between two marks: by the place that it is forced by, where there is one."""
        by = self.forced.get((circuit, leg))
        if by is None or by in (one, other) or by not in self.graph.ends:
            return self.finder.way(one, other)
        there, on = self.finder.way(one, by), self.finder.way(by, other)
        if there is None or on is None:
            return None
        return FoundWay(there.cost + on.cost, there.mm + on.mm, (*there.steps, *on.steps))

    def board_mark(self, circuit: str) -> str | None:
        """Return the mark of the board that a circuit sits on: the one in the board's room."""
        board = next((b for b in self.boards for way in b.ways if circuit in way.circuits), None)
        return None if board is None else self.mark_of_board(board)

    def mark_of_first_board(self) -> str | None:
        """Return the mark of the board that new circuits sit on; None where it is at none."""
        return self.mark_of_board(first_board(self.boards)) if self.boards else None

    def mark_of_board(self, board: Board) -> str | None:
        """Return the mark of a board: the one in its room; None where there is none."""
        here = (mark.id for mark in self.places.marks if mark.kind == "board" and mark.room == board.at.room)
        return next(here, None)

    def mark_of(self, circuit: str, point: str) -> str | None:
        """Return the mark that an end of a leg is at; None where it is at none."""
        return self.board_mark(circuit) if point == BOARD else self.at_point.get((circuit, point))


def routes_of(
    places: Places, boards: tuple[Board, ...], rulebook: str, designs: Sequence[tuple[str, Circuit]]
) -> RoutesAnswer:
    """Return the ways of every leg of a house's circuits; those in no way yet are seated at its first board."""
    return answer_routes(RoutedHouse(places, seated(boards, [key for key, _ in designs]), rulebook), designs)


def answer_routes(routed: RoutedHouse, designs: Sequence[tuple[str, Circuit]]) -> RoutesAnswer:
    """Return the ways of every leg of these circuits."""
    legs: list[tuple[str, Leg, str | None, str | None]] = [
        (key, leg, routed.mark_of(key, leg.a), routed.mark_of(key, leg.b))
        for key, design in designs
        for leg in design.legs
    ]
    wanted = {(key, leg.id): (one, other) for key, leg, one, other in legs if one is not None and other is not None}
    routed.finder.prepare(wanted.values())
    ways = {leg: routed.way(*leg, *ends) for leg, ends in wanted.items()}
    shared = _shared(ways)
    found = []
    for key, leg, one, other in legs:
        if one is None or other is None:
            end = leg.a if one is None else leg.b
            what = "its board is at no mark" if end == BOARD else f"{end} is at no mark"
            found.append(LegRoute(circuit=key, leg=leg.id, a=leg.a, b=leg.b, why_not=what, drawn_m=leg.length_m))
            continue
        found.append(_routed(routed, key, leg, ways[key, leg.id], shared))
    bears = bearing_of(routed.house, routed.graph, routed.surveyor, ways, designs)
    keeps = keeps_of(routed.house, designs, {(each.circuit, each.leg): each.pieces for each in found})
    return RoutesAnswer(legs=tuple(found), missing=_missing(routed), bears=bears, keeps=keeps)


def _shared(ways: Mapping[tuple[str, str], FoundWay | None]) -> Mapping[tuple[int, int], int]:
    """Return how many circuits each stretch holds: two legs of one circuit are one."""
    circuits: dict[tuple[int, int], set[str]] = {}
    for (circuit, _), way in ways.items():
        for step in () if way is None else way.steps:
            circuits.setdefault(edge_of(step), set()).add(circuit)
    return {edge: len(each) for edge, each in circuits.items()}


def _why_not(routed: RoutedHouse, key: str, leg: Leg) -> str:
    """Return why no way was found: an end that is nowhere in its room, else that nothing leads there."""
    nowhere = next((end for end in (leg.a, leg.b) if routed.mark_of(key, end) not in routed.house.ends), None)
    if nowhere is None:
        return "no way leads there: say where the rooms lie, or a way outside"
    return f"the mark of {'its board' if nowhere == BOARD else nowhere} is nowhere in its room"


def _routed(
    routed: RoutedHouse, key: str, leg: Leg, way: FoundWay | None, shared: Mapping[tuple[int, int], int]
) -> LegRoute:
    said = {"circuit": key, "leg": leg.id, "a": leg.a, "b": leg.b, "drawn_m": leg.length_m, "is_taped": leg.taped}
    if way is None:
        return LegRoute(**said, why_not=_why_not(routed, key, leg))
    rules = routed.places.ways
    pieces = routed.surveyor.pieces(way, shared)
    tail = TAIL_MM * sum(routed.mark_of(key, end) in routed.tails for end in (leg.a, leg.b))
    slack = slack_of(rules, leg.a, leg.b) + tail
    depths = {each.id: each.depth_mm / 1000 for each in rules.outside if each.depth_mm}
    drawn = leg.length_m
    length_m = (way.mm + slack) / 1000
    return LegRoute(
        **said,
        cost=round(way.cost),
        way_mm=way.mm,
        slack_mm=slack,
        tail_mm=tail,
        pieces=pieces,
        segments=segments_of(pieces, slack, depths),
        differs=drawn is not None and abs(drawn - length_m) > TOLD_FROM * length_m,
    )


def _missing(routed: RoutedHouse) -> tuple[str, ...]:
    """Return in words what keeps ways from being found."""
    found = []
    groups = Counter(seat.group for seat in routed.house.frame.rooms.values())
    if len(groups) > 1:
        found.append(
            f"{len(groups)} groups of rooms lie by themselves: say what is behind a wall, or what lies over what"
        )
    for board in routed.boards:
        if routed.mark_of_board(board) is None:
            found.append(f"{board.name or board.id} is at no mark: mark it in its room, `board n left 0.50`")
    return tuple(found)
