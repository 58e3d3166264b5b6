"""Ways of cable through a house: worked by hand, held to safe zones and joists, and beside an independent search."""

import unittest
from itertools import pairwise

import networkx as nx
from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.circuit.edit import EditRefusedError, NewPoint
from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.shape import recognise
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.places import Places, Spot
from lumbek.core.model.plan import CircuitPoint, Floor, Joists, WallFace
from lumbek.core.model.point import Point
from lumbek.core.model.routes import ForcedWay, RouteRules, RouteWeights, WayOutside
from lumbek.core.places.commands import AddStorey, DropRoom, SetRoom
from lumbek.core.plan.at_points import renamed_points
from lumbek.core.plan.commands import PutMark, PutWays, SetFloor, TypeLine
from lumbek.core.routes.answer import RoutedHouse, RoutesAnswer, answer_routes
from lumbek.core.routes.breaks import breaks_of
from lumbek.core.routes.graph import ZONE_MM
from lumbek.core.routes.lay import as_laid, laid_through, point_kind, taken_through
from lumbek.core.routes.orders import orders_of
from tests.support.plans import after, plan

BOARD = Board(id="B1", at=Spot(room="hall"), groups=(Group(id="G", ways=(Way(id="W1", circuits=("C1", "C2")),)),))
WEIGHTS = RouteWeights()


def line(places: Places, room: str, *typed: str) -> Places:
    """Places after lines typed into a room."""
    return after(places, *(TypeLine(room=room, typed=each) for each in typed))


def routed(places: Places, rules: RouteRules | None = None, boards: tuple[Board, ...] = (BOARD,)) -> RoutedHouse:
    """A house with its graph."""
    return RoutedHouse(places if rules is None else places.model_copy(update={"ways": rules}), boards, "bs7671")


def way(places: Places, one: str, other: str, rules: RouteRules | None = None) -> tuple[int, int] | None:
    """What the way between two marks costs, and how long it is."""
    found = routed(places, rules).finder.way(one, other)
    return None if found is None else (round(found.cost), found.mm)


def hall(*lines: str) -> Places:
    """A hall of 4 by 3 m, 2.4 m high, with what is typed into it."""
    return plan({"Hall 4.00 x 3.00 h 2.40": lines})


class Walls(unittest.TestCase):
    def test_level_from_place_to_place(self) -> None:
        places = hall("socket n left 1.00 at 450", "socket n left 2.20 at 450")
        chase = 1200 * WEIGHTS.chase_masonry / 1000
        self.assertEqual(way(places, "socket-1", "socket-2"), (1200 + chase, 1200))
        hollow = line(places, "hall", "wall n stud")
        self.assertEqual(way(hollow, "socket-1", "socket-2"), (1200 + 1200 * WEIGHTS.chase_hollow / 1000, 1200))

    def test_a_door_between_sends_it_over_the_ceiling(self) -> None:
        places = hall("socket n left 1.00 at 450", "socket n left 2.80 at 450", "door 838 n left 1.50")
        # Up 1950 in brick, through, 1800 over the ceiling, through and down again.
        up = 1950 * (1 + WEIGHTS.chase_masonry / 1000)
        self.assertEqual(way(places, "socket-1", "socket-2"), (2 * up + 2 * WEIGHTS.through + 1800, 2 * 1950 + 1800))
        # Under a window's sill it stays level.
        window = hall("socket n left 1.00 at 450", "socket n left 2.80 at 450", "window 838 n left 1.50 sill 900")
        self.assertEqual(way(window, "socket-1", "socket-2"), (1800 * 4, 1800))
        touching = hall("socket n left 1.00 at 900", "socket n left 2.80 at 900", "window 838 n left 1.50 sill 900")
        self.assertEqual(way(touching, "socket-1", "socket-2"), (1800 * 4, 1800))

    def test_a_tiled_wall_costs_and_a_barred_one_is_not_cut(self) -> None:
        places = hall("socket n left 1.00 at 450", "socket n left 1.40 at 450", "wall n stud tiled")
        tiled = 400 * (1 + (WEIGHTS.chase_hollow + WEIGHTS.chase_tiled) / 1000)
        self.assertEqual(way(places, "socket-1", "socket-2"), (round(tiled), 400))
        barred = RouteRules(barred=(WallFace(room="hall", wall="w2"),))
        self.assertIsNone(way(places, "socket-1", "socket-2", barred))

    def test_round_a_corner_by_its_corner_lines(self) -> None:
        dear = RouteRules(weights=RouteWeights(through=90_000))
        places = hall("socket n right 0.50 at 450", "socket e left 0.60 at 450")
        # 400 to the corner line, 100 and 100 round the corner, 500 on; a bend; let in but for the corner itself.
        self.assertEqual(way(places, "socket-1", "socket-2", dear), (900 * 4 + 200 + WEIGHTS.bend, 1100))

    @settings(max_examples=25)
    @given(st.integers(1200, 3800), st.integers(200, 700), st.integers(300, 1500), st.integers(300, 1500))
    def test_no_way_leaves_a_safe_zone(self, along: int, aside: int, low: int, high: int) -> None:
        """Upright and level from a place, beside a corner, under the ceiling: nothing else, in any wall."""
        places = hall(
            f"socket n left {along / 1000:.3f} at {low}",
            f"switch e left {aside / 1000:.3f} at {high}",
            "socket s left 1.00 at 450",
            "light ceiling w 1.20 s 0.90",
            "door 838 n left 0.30",
            "window 1200 e left 0.70 sill 800",
        )
        house = routed(places)
        spots, graph = house.graph.spots, house.graph
        for one, other in (("socket-1", "switch-1"), ("socket-1", "socket-2"), ("switch-1", "light-1")):
            found = house.finder.way(one, other)
            assert found is not None
            for step in found.steps:
                faces = {int(spots.face[node]) for node in step[:2]}
                if -1 in faces or len(faces) > 1 or step.mm == 0:
                    continue
                face = graph.faces[faces.pop()]
                here = [end for end in house.house.ends.values() if end.wall == face.wall.id]
                z = {int(spots.z[node]) for node in step[:2]}
                xy = [(int(spots.x[node]), int(spots.y[node])) for node in step[:2]]
                is_upright = len(z) > 1
                corner = (ZONE_MM, face.wall.length_mm - ZONE_MM)
                uprights = {face.spot(mm) for mm in (*(end.at_mm for end in here), *corner)}
                heights = {end.height_mm for end in here} | {face.height_mm - ZONE_MM}
                self.assertTrue(set(xy) <= uprights if is_upright else z <= heights, (xy, z))


class Layers(unittest.TestCase):
    def test_over_a_ceiling_along_its_lines(self) -> None:
        places = hall("light ceiling w 1.00 s 1.00", "light ceiling w 3.00 s 2.00")
        self.assertEqual(way(places, "light-1", "light-2"), (3000 + WEIGHTS.bend + 2 * WEIGHTS.through, 3000))

    def test_joists_are_crossed_where_they_may_be_drilled(self) -> None:
        """Two lights in a row across joists of 3 m: the row lies 1.5 m up, which is no place to drill."""
        places = after(Places(), AddStorey(name="Up"), AddStorey(name="Down"))
        rooms = hall("light ceiling w 0.60 s 1.50", "light ceiling w 3.40 s 1.50", "joists n pitch 400 wide 50 first 0")
        places = rooms.model_copy(update={"storeys": places.storeys})
        places = after(places, SetRoom(room="hall", storey="down"))
        # Joists stand with their middles at 25, 425 ... 3225: seven of them between, from 825 on.
        aside = 1500 - 1200
        cost = 2800 + 2 * aside + 2 * WEIGHTS.bend + 7 * WEIGHTS.joist_hole + 2 * WEIGHTS.through
        self.assertEqual(way(places, "light-1", "light-2"), (cost, 2800 + 2 * aside))
        inside = line(places, "hall", "light ceiling w 0.60 s 1.20", "light ceiling w 3.40 s 1.20")
        self.assertEqual(way(inside, "light-3", "light-4"), (2800 + 7 * 250 + 600, 2800))
        # A quarter of 3 m is 750: below that they are not drilled, above it they are.
        low = line(places, "hall", "light ceiling w 0.60 s 0.70", "light ceiling w 3.40 s 0.70")
        self.assertEqual(way(low, "light-3", "light-4"), (2800 + 100 + 2 * WEIGHTS.bend + 7 * 250 + 600, 2900))
        along_them = line(places, "hall", "light ceiling w 0.60 s 2.60")
        self.assertEqual(way(along_them, "light-1", "light-3"), (1100 + 600, 1100))

    def test_over_the_topmost_ceiling_they_are_not_drilled(self) -> None:
        places = after(Places(), AddStorey(name="Up"))
        rooms = hall("light ceiling w 0.60 s 1.50", "light ceiling w 3.40 s 1.50", "joists n pitch 400 wide 50 first 0")
        places = after(rooms.model_copy(update={"storeys": places.storeys}), SetRoom(room="hall", storey="up"))
        reached = after(places, SetFloor(storey="up", floor=Floor(reached_from_above=True)))
        self.assertEqual(way(reached, "light-1", "light-2"), (2800 + 600, 2800))
        shut = way(places, "light-1", "light-2")
        assert shut is not None
        self.assertGreater(shut[0], 2800 + 600)

    def test_joists_of_the_storey_count_where_a_room_says_none(self) -> None:
        places = after(Places(), AddStorey(name="Up"), AddStorey(name="Down"))
        rooms = hall("light ceiling w 0.60 s 1.20", "light ceiling w 3.40 s 1.20")
        places = after(rooms.model_copy(update={"storeys": places.storeys}), SetRoom(room="hall", storey="down"))
        free = way(places, "light-1", "light-2")
        joists = Joists(runs="n", pitch_mm=400, width_mm=50, first_mm=0)
        held = way(after(places, SetFloor(storey="down", floor=Floor(joists=joists))), "light-1", "light-2")
        assert free is not None and held is not None
        self.assertEqual(held[0] - free[0], 7 * WEIGHTS.joist_hole)


def two_storeys() -> Places:
    """A hall, and a bedroom over it; a floor of 300 mm between."""
    storeys = after(Places(), AddStorey(name="Up"), AddStorey(name="Down")).storeys
    places = plan({"Hall 4.00 x 3.00 h 2.40": [], "Bedroom 4.00 x 3.00 h 2.40": []}).model_copy(
        update={"storeys": storeys}
    )
    places = after(places, SetRoom(room="hall", storey="down"), SetRoom(room="bedroom", storey="up"))
    return line(places, "bedroom", "lies over Hall", "socket n left 1.00 at 450")


class Storeys(unittest.TestCase):
    def test_up_through_a_floor(self) -> None:
        places = line(two_storeys(), "hall", "light ceiling w 1.00 s 2.00")
        # From the light's hole 1000 north to the wall, up 300 through the floor, 450 in brick.
        mm = 1000 + 300 + 450
        cost = 1000 + 300 + 450 * 4 + 2 * WEIGHTS.through + WEIGHTS.floor_opened
        self.assertEqual(way(places, "light-1", "socket-1"), (cost, mm))

    def test_a_floor_that_stays_shut_sends_it_over_the_roof(self) -> None:
        places = line(two_storeys(), "hall", "light ceiling w 1.00 s 2.00")
        shut = RouteRules(closed=("bedroom",))
        self.assertIsNone(way(places, "light-1", "socket-1", shut))
        down = line(places, "bedroom", "socket n left 2.00 at 450")
        self.assertIsNotNone(way(down, "socket-1", "socket-2", shut))

    def test_a_yard_is_no_storey_under_the_house(self) -> None:
        places = after(two_storeys(), AddStorey(name="Yard"))
        apart = after(places, SetFloor(storey="yard", floor=Floor(is_apart=True)))
        house = routed(apart).house
        self.assertEqual([house.floor_mm(house.level_of(room)) for room in apart.rooms], [0, 2700])
        self.assertEqual([routed(places).house.has_below(level) for level in range(3)], [False, True, True])
        self.assertEqual([house.has_below(level) for level in range(3)], [False, True, False])

    def test_a_way_outside_leads_to_what_lies_by_itself(self) -> None:
        places = plan(
            {"Hall 4.00 x 3.00": ["board e left 0.50 at 1400"], "Shed 2.00 x 2.00": ["socket w left 0.60 at 450"]}
        )
        self.assertIsNone(way(places, "board-1", "socket-1"))
        outside = WayOutside(
            id="trench",
            one=WallFace(room="hall", wall="w3"),
            one_mm=500,
            other=WallFace(room="shed", wall="w1"),
            other_mm=600,
            length_mm=8000,
            depth_mm=600,
        )
        led = after(places, PutWays(ways=RouteRules(outside=(outside,))))
        cost = 1400 * 4 + 450 * 4 + 8000 * 2.5 + 2 * WEIGHTS.through
        self.assertEqual(way(led, "board-1", "socket-1"), (cost, 1400 + 450 + 8000))
        self.assertEqual(after(led, DropRoom(room="shed")).ways.outside, ())


def with_circuit(places: Places, *marks: str, lengths: tuple[float | None, ...] = ()) -> tuple[Places, Circuit]:
    """A radial through marks, each with a point of circuit C1, its legs as long as is said."""
    by_id = {mark.id: mark for mark in places.marks}
    for at, mark in enumerate(marks, start=1):
        point = CircuitPoint(circuit="C1", point=f"P{at}")
        places = after(places, PutMark(mark=by_id[mark].model_copy(update={"point": point})))
    ends = ["board", *(f"P{at}" for at in range(1, len(marks) + 1))]
    given = (*lengths, *(None for _ in marks))
    legs = tuple(
        Leg(id=f"L{at}", a=a, b=b, segments=(Segment(length_m=given[at - 1]),))
        for at, (a, b) in enumerate(pairwise(ends), start=1)
    )
    return places, Circuit(points=tuple(Point(id=each) for each in ends[1:]), legs=legs)


class Legs(unittest.TestCase):
    def answer(self, places: Places, *designs: tuple[str, Circuit]) -> RoutesAnswer:
        return answer_routes(routed(places), designs)

    def places(self) -> Places:
        return hall("board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.00 at 450")

    def test_lengths_with_their_slack_and_what_departs_by_more_than_15_percent(self) -> None:
        places, design = with_circuit(self.places(), "socket-1", "socket-2", lengths=(4.0, 1.6 * 0.85))
        first, second = self.answer(places, ("C1", design)).legs
        # 950 down and 800 along in brick; 1000 left at the board, 300 at a place.
        self.assertEqual((first.way_mm, first.slack_mm, first.length_mm), (1750, 1300, 3050))
        self.assertEqual((second.way_mm, second.slack_mm), (1000, 600))
        self.assertEqual((first.differs, second.differs), (True, False))
        places, design = with_circuit(self.places(), "socket-1", "socket-2", lengths=(3.05, 1.6 * 0.85 - 0.001))
        self.assertEqual([leg.differs for leg in self.answer(places, ("C1", design)).legs], [False, True])
        places, design = with_circuit(self.places(), "socket-1", "socket-2", lengths=(3.05, 1.6 * 1.15 + 0.001))
        self.assertEqual([leg.differs for leg in self.answer(places, ("C1", design)).legs], [False, True])

    def test_segments_are_all_of_the_length_and_cables_beside_are_counted(self) -> None:
        places, design = with_circuit(self.places(), "socket-1")
        alone = self.answer(places, ("C1", design)).legs[0]
        self.assertEqual(
            [(each.length_m, each.method, each.grouped_circuits) for each in alone.segments], [(3.05, "C", 1)]
        )
        other = places.marks[2].model_copy(update={"point": CircuitPoint(circuit="C2", point="P1")})
        both = self.answer(after(places, PutMark(mark=other)), ("C1", design), ("C2", design))
        one, two = both.legs
        self.assertEqual([each.grouped_circuits for each in one.segments], [2])
        self.assertEqual(sorted(each.grouped_circuits for each in two.segments), [1, 2])
        self.assertAlmostEqual(sum(each.length_m or 0 for each in two.segments), two.length_mm / 1000)

    def test_a_way_is_told_from_its_first_end_to_its_second(self) -> None:
        places, design = with_circuit(self.places(), "socket-1", "socket-2")
        turned = design.legs[1].model_copy(update={"a": "P2", "b": "P1"})
        legs = self.answer(places, ("C1", design.model_copy(update={"legs": (design.legs[0], turned)}))).legs
        # The board is 200 from the left end of the north wall, which is the west: x runs east.
        ends = [(leg.pieces[0].line[0].x, leg.pieces[-1].line[-1].x) for leg in legs]
        self.assertEqual(ends, [(200, 1000), (2000, 1000)])

    def test_two_legs_of_one_circuit_are_one_circuit(self) -> None:
        places, design = with_circuit(self.places(), "socket-1")
        back = design.model_copy(update={"legs": (*design.legs, Leg(id="L2", a="P1", b="board"))})
        self.assertEqual([leg.segments[0].grouped_circuits for leg in self.answer(places, ("C1", back)).legs], [1, 1])

    def test_methods_follow_what_a_way_is_in(self) -> None:
        places, design = with_circuit(line(self.places(), "hall", "wall n stud"), "socket-1")
        self.assertEqual(self.answer(places, ("C1", design)).legs[0].segments[0].method, "B")
        far = hall("board n left 0.20 at 2000", "light ceiling w 2.00 s 1.00", "ceiling insulated", "wall n stud")
        places, design = with_circuit(far, "light-1")
        methods = {each.method for each in self.answer(places, ("C1", design)).legs[0].segments}
        self.assertEqual(methods, {"B", "101"})
        iec = answer_routes(RoutedHouse(places, (BOARD,), "iec60364"), [("C1", design)])
        self.assertEqual({each.method for each in iec.legs[0].segments}, {"B2", "A2"})

    def test_what_has_no_way_says_why(self) -> None:
        places, design = with_circuit(self.places(), "socket-1")
        stray = design.model_copy(
            update={"legs": (*design.legs, Leg(id="L2", a="P1", b="P9")), "points": (*design.points, Point(id="P9"))}
        )
        self.assertEqual(self.answer(places, ("C1", stray)).legs[1].why_not, "P9 is at no mark")
        no_board = hall("socket n left 1.00 at 450")
        places, design = with_circuit(no_board, "socket-1")
        answer = self.answer(places, ("C1", design))
        self.assertEqual(answer.legs[0].why_not, "its board is at no mark")
        self.assertIn("is at no mark: mark it in its room", answer.missing[0])

    def test_a_mark_that_is_nowhere_in_its_room_is_named_and_the_others_are_led(self) -> None:
        sound = ("board n left 0.20 at 2000", "socket n left 1.00 at 450")
        for nowhere in ("socket n left 4.01 at 450", "socket n left 2.00 at 2401", "light ceiling w 4.20 s 1.00"):
            for mark, led in (("socket-1", True), (nowhere.split()[0] + ("-1" if "light" in nowhere else "-2"), False)):
                places, design = with_circuit(hall(*sound, nowhere), mark)
                why = self.answer(places, ("C1", design)).legs[0].why_not
                self.assertEqual(why, "" if led else "the mark of P1 is nowhere in its room", nowhere)
        # At the very end of its wall, and at the ceiling, it is.
        for edge in ("socket n left 4.00 at 450", "socket n left 2.00 at 2400"):
            places, design = with_circuit(hall(*sound, edge), "socket-2")
            self.assertEqual(self.answer(places, ("C1", design)).legs[0].why_not, "", edge)

    def test_taken_into_a_circuit_but_for_what_was_taped_or_found(self) -> None:
        places, design = with_circuit(self.places(), "socket-1", "socket-2", lengths=(9.0, 9.0))
        legs = self.answer(places, ("C1", design)).legs
        self.assertEqual([leg.length_m for leg in as_laid(design, legs).legs], [3.05, 1.6])
        kept = tuple(
            leg.model_copy(update=said)
            for leg, said in zip(design.legs, ({"taped": True}, {"state": "as-found"}), strict=True)
        )
        self.assertEqual(
            [leg.length_m for leg in as_laid(design.model_copy(update={"legs": kept}), legs).legs], [9.0, 9.0]
        )
        warm = design.legs[0].model_copy(update={"segments": (Segment(length_m=9.0, ambient_c=40),)})
        laid = as_laid(design.model_copy(update={"legs": (warm, design.legs[1])}), legs)
        self.assertEqual([leg.segments[0].ambient_c for leg in laid.legs], [40, None])

    def test_changing_a_wall_changes_lengths(self) -> None:
        places, design = with_circuit(
            hall("board n left 0.20 at 1400", "socket n right 1.00 at 450", "wall n stud"), "socket-1"
        )
        before = self.answer(places, ("C1", design)).legs[0].length_mm
        moved = line(places, "hall", "wall e moves 0.50 out")
        self.assertEqual(self.answer(moved, ("C1", design)).legs[0].length_mm, before + 500)


class Beside(unittest.TestCase):
    """The search beside one that shares no code with it."""

    @settings(max_examples=8)
    @given(
        st.lists(
            st.tuples(st.sampled_from("nesw"), st.integers(200, 2800), st.sampled_from((450, 1100))),
            min_size=4,
            max_size=8,
            unique=True,
        )
    )
    def test_costs_are_those_of_networkx(self, at: list[tuple[str, int, int]]) -> None:
        places = hall(*(f"socket {wall} left {mm / 1000:.3f} at {up}" for wall, mm, up in at), "door 838 n left 1.20")
        house = routed(places)
        graph = nx.Graph()
        matrix = house.graph.matrix.tocoo()
        for a, b, cost in zip(matrix.row, matrix.col, matrix.data, strict=True):
            graph.add_edge(
                int(a), int(b), weight=min(float(cost), graph.get_edge_data(int(a), int(b), {}).get("weight", 1e18))
            )
        ends = house.graph.ends
        source = next(iter(ends))
        least = nx.single_source_dijkstra_path_length(graph, ends[source])
        for mark, node in ends.items():
            found = house.finder.way(source, mark)
            if mark != source:
                self.assertEqual(found is None, node not in least)
                self.assertAlmostEqual(found.cost if found else 0, least.get(node, 0), places=3)

    @settings(max_examples=10)
    @given(st.integers(1, 4))
    def test_nothing_barred_makes_a_way_cheaper(self, wall: int) -> None:
        places = hall("socket n left 1.00 at 450", "socket s left 1.00 at 450", "switch e left 1.00")
        barred = RouteRules(barred=(WallFace(room="hall", wall=f"w{wall}"),))
        for other in ("socket-2", "switch-1"):
            free, held = way(places, "socket-1", other), way(places, "socket-1", other, barred)
            assert free is not None
            self.assertTrue(held is None or held >= free)


class Laying(unittest.TestCase):
    def test_a_circuit_is_laid_in_the_best_order(self) -> None:
        places = hall(
            "board n left 0.20 at 1400",
            "socket n right 0.50 at 450",
            "socket n left 1.00 at 450",
            "socket n left 2.20 at 450",
        )
        house = routed(places)
        # The least of each shape comes first; rings that share better, after all of these.
        orders = {order.shape: order for order in orders_of(house, ["socket-1", "socket-2", "socket-3"])[:3]}
        radial = orders["radial"]
        self.assertEqual(radial.runs, (("socket-2", "socket-3", "socket-1"),))
        # 950 down and 3300 along; 1000 at the board, 5 ends of 300.
        self.assertEqual((radial.length_mm, radial.is_proved), (950 + 3300 + 1000 + 5 * 300, True))
        # Back over the ceiling, up 1950 and down 1000: in brick that is dearer by the metre.
        self.assertEqual(orders["ring"].length_mm, (950 + 3300) + (1950 + 3300 + 1000) + 2000 + 6 * 300)
        circuit, sits = laid_through(Circuit(), orders["ring"], places.marks, lambda _: NewPoint())
        self.assertEqual([sits[mark] for mark in orders["ring"].runs[0]], ["P1", "P2", "P3"])
        self.assertEqual([(leg.a, leg.b) for leg in circuit.legs][-1], ("P3", "board"))
        self.assertEqual({point.kind for point in circuit.points}, {"socket-twin"})
        self.assertEqual(orders_of(routed(places, boards=()), ["socket-1"]), ())

    def test_what_comes_to_a_mark_is_the_kind_of_its_point(self) -> None:
        places = hall("socket n left 1.00 single", "socket n left 2.00", "data n left 3.00", "cooker n left 3.50")
        self.assertEqual(
            [point_kind(mark) for mark in places.marks], ["socket-single", "socket-twin", None, "control-with-socket"]
        )


class Forced(unittest.TestCase):
    def test_a_leg_goes_by_the_place_it_is_told_to(self) -> None:
        places = hall("board n left 0.20 at 450", "socket n left 1.00 at 450", "socket n left 3.00 at 450")
        places, design = with_circuit(places, "socket-1", lengths=(9.0,))
        (plain,) = answer_routes(routed(places), [("C1", design)]).legs
        by = after(places, PutWays(ways=RouteRules(forced=(ForcedWay(circuit="C1", leg="L1", by="socket-2"),))))
        (forced,) = answer_routes(routed(by), [("C1", design)]).legs
        # From 200 past 1000 to 3000, and back to 1000.
        self.assertEqual((plain.way_mm, forced.way_mm), (800, 2800 + 2000))
        self.assertEqual(sum(piece.mm for piece in forced.pieces), forced.way_mm)
        # Another leg's, and one by an end of its own, change nothing.
        for other in (
            ForcedWay(circuit="C2", leg="L1", by="socket-2"),
            ForcedWay(circuit="C1", leg="L1", by="socket-1"),
        ):
            rules = RouteRules(forced=(other,))
            self.assertEqual(answer_routes(routed(places, rules), [("C1", design)]).legs[0].way_mm, 800)

    def test_by_a_mark_that_is_there_and_by_one_only(self) -> None:
        places = hall("socket n left 1.00 at 450")
        lost = ForcedWay(circuit="C1", leg="L1", by="socket-7")
        with self.assertRaisesRegex(EditRefusedError, "socket-7 is not there"):
            after(places, PutWays(ways=RouteRules(forced=(lost,))))
        with self.assertRaisesRegex(ValueError, "one place"):
            RouteRules(forced=(lost, lost.model_copy(update={"by": "socket-1"})))
        kept = RouteRules(forced=(lost.model_copy(update={"by": "socket-1"}),))
        renamed = renamed_points(after(places, PutWays(ways=kept)), {"C1": "abc"})
        self.assertEqual([each.circuit for each in renamed.ways.forced], ["abc"])
        self.assertEqual(renamed_points(renamed, {}).ways.forced, ())


class Breaks(unittest.TestCase):
    """A ring of three sockets on the north wall; two new ones on the south wall."""

    def ring(self) -> tuple[Places, Circuit]:
        places = hall(
            "board n left 0.20 at 1400",
            "socket n left 1.00 at 450",
            "socket n left 2.00 at 450",
            "socket n left 3.00 at 450",
            "socket s right 1.20 at 450",
            "socket n left 2.40 at 450",
        )
        places, design = with_circuit(places, "socket-1", "socket-2", "socket-3")
        back = Leg(id="L4", a="P3", b="board")
        return places, design.model_copy(update={"legs": (*design.legs, back)})

    def test_the_leg_that_takes_least_comes_first(self) -> None:
        places, design = self.ring()
        found = breaks_of(routed(places), "C1", design, ["socket-5"])
        # Between 2.00 and 3.00: 1000 of new cable in brick, four ends.
        best = found[0]
        self.assertEqual([(each.leg, each.marks) for each in best.broken], [("L3", ("socket-5",))])
        self.assertEqual((best.cost, best.length_mm, best.is_proved), (4000, 1000 + 4 * 300, True))
        self.assertEqual([each.cost for each in found], sorted(each.cost for each in found))
        self.assertEqual({each.broken[0].leg for each in found}, {"L1", "L2", "L3", "L4"})
        first = next(each for each in found if each.broken[0].leg == "L1")
        # To the board there is more left at the end.
        house = routed(places).finder
        ways = [house.way(*pair) for pair in (("board-1", "socket-5"), ("socket-5", "socket-1"))]
        self.assertEqual(first.length_mm, sum(way.mm for way in ways if way) + 1000 + 3 * 300)

    def test_through_one_leg_the_order_is_the_least(self) -> None:
        places, design = self.ring()
        house = routed(places)
        costs, _ = house.finder.matrix(["socket-2", "socket-4", "socket-5", "socket-3"])
        found = [each for each in breaks_of(house, "C1", design, ["socket-4", "socket-5"]) if len(each.broken) == 1]
        through = next(each for each in found if each.broken[0].leg == "L3")
        both = min(costs[0, 1] + costs[1, 2] + costs[2, 3], costs[0, 2] + costs[2, 1] + costs[1, 3])
        self.assertEqual(through.cost, round(both))

    def test_legs_are_broken_and_the_circuit_stays_a_ring(self) -> None:
        places, design = self.ring()
        best = breaks_of(routed(places), "C1", design.model_copy(update={"state": "as-found"}), ["socket-5"])[0]
        circuit, sits = taken_through(design, best.broken, places.marks, lambda _: NewPoint())
        self.assertEqual(sits, {"socket-5": "P4"})
        self.assertNotIn("L3", [leg.id for leg in circuit.legs[:3]])
        self.assertEqual(recognise(graph_of(circuit)).kind, "ring")
        old, _ = taken_through(
            design.model_copy(update={"state": "as-found"}), best.broken, places.marks, lambda _: NewPoint()
        )
        self.assertEqual((old.state, old.points[-1].state), ("altered", "new"))

    def test_what_is_not_on_the_plan_is_not_broken(self) -> None:
        places, design = self.ring()
        self.assertEqual(breaks_of(routed(places, boards=()), "C9", design, ["socket-5"]), ())


if __name__ == "__main__":
    unittest.main()
