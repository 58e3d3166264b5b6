"""How ways grow: all legs of houses of 4 storeys, and one edit, beside a house half as large.

    python -m bench.routes

All legs are those of rings through twenty places at a time, from a board on the lowest storey. An edit moves one place:
the graph is built anew, and the ways of one circuit are found.
"""

import time
from itertools import pairwise

from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.places import Places, Spot
from lumbek.core.model.plan import CircuitPoint, Floor, Joists, RoomLies
from lumbek.core.model.point import Point
from lumbek.core.places.commands import AddStorey
from lumbek.core.plan.commands import TypeLine, TypeRoom
from lumbek.core.routes.answer import RoutedHouse, answer_routes
from tests.support.plans import after

_LINES = (
    "door 838 s left 100",
    "3 sockets spread n",
    "2 sockets spread e",
    "switch w left 0.30",
    "light ceiling w 2.00 s 1.80",
)
_JOISTS = Joists(runs="n", pitch_mm=400, width_mm=47)
Designs = list[tuple[str, Circuit]]


def house(rooms: int) -> tuple[Places, tuple[Board, ...], Designs]:
    """Return a house of so many rooms on four storeys, eight places in each, and its circuits."""
    places = Places()
    for name in ("Loft", "Upper", "Ground", "Cellar"):
        places = after(places, AddStorey(name=name))
    floor = Floor(height_mm=2400, build_up_mm=300, joists=_JOISTS, reached_from_above=True)
    storeys = tuple(storey.model_copy(update={"floor": floor}) for storey in places.storeys)
    places = places.model_copy(update={"storeys": storeys})
    for at in range(rooms):
        places = after(places, TypeRoom(typed=f"Room {at} 4.{at:02d} x 3.60", storey=storeys[3 - at % 4].id))
        places = after(places, *(TypeLine(room=places.rooms[-1].id, typed=line) for line in _LINES))
    first = places.rooms[0].id
    places = after(places, TypeLine(room=first, typed="board s right 0.40 at 1400"))
    # Rooms of a storey in rows of four; storeys over each other.
    lies = {
        room.id: RoomLies(of=first, east_mm=5100 * (at // 4 % 4), north_mm=3700 * (at // 16))
        for at, room in enumerate(places.rooms)
        if at
    }
    placed = tuple(room.model_copy(update={"seat": lies.get(room.id)}) for room in places.rooms)
    places = places.model_copy(update={"rooms": placed})
    return _with_circuits(places, first)


def _with_circuits(places: Places, first: str) -> tuple[Places, tuple[Board, ...], Designs]:
    marks, designs = [], Designs()
    mine = [mark for mark in places.marks if mark.kind != "board"]
    for count, start in enumerate(range(0, len(mine), 20), start=1):
        key, ids = f"C{count}", [f"P{at}" for at in range(1, len(mine[start : start + 20]) + 1)]
        for mark, point in zip(mine[start : start + 20], ids, strict=True):
            marks.append(mark.model_copy(update={"point": CircuitPoint(circuit=key, point=point)}))
        legs = (Leg(id=f"L{at}", a=a, b=b) for at, (a, b) in enumerate(pairwise(["board", *ids, "board"])))
        designs.append((key, Circuit(points=tuple(Point(id=each) for each in ids), legs=tuple(legs))))
    boards = [mark for mark in places.marks if mark.kind == "board"]
    ways = tuple(Way(id=f"W{key}", circuits=(key,)) for key, _ in designs)
    board = Board(id="B1", at=Spot(room=first), groups=(Group(id="G", ways=ways),))
    return places.model_copy(update={"marks": (*marks, *boards)}), (board,), designs


def main() -> None:
    """Print how long all ways take, and one edit, in houses of growing size."""
    before = None
    # What is loaded once belongs to none of them.
    places, boards, designs = house(4)
    answer_routes(RoutedHouse(places, boards, "bs7671"), designs)
    for rooms in (8, 15, 30, 36):
        places, boards, designs = house(rooms)
        start = time.process_time()
        answer = answer_routes(RoutedHouse(places, boards, "bs7671"), designs)
        took = time.process_time() - start
        start = time.process_time()
        answer_routes(RoutedHouse(places, boards, "bs7671"), designs[:1])
        edit = time.process_time() - start
        found = sum(bool(leg.pieces) for leg in answer.legs)
        growth = "" if before is None else f", {took / before:.2f} times the one before"
        ways = f"{found} of {len(answer.legs)} ways in {took:.2f} s{growth}"
        print(f"{rooms} rooms, {len(places.marks)} places: {ways}; an edit {1000 * edit:.0f} ms")
        before = took


if __name__ == "__main__":
    main()
