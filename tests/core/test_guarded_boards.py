"""What circuits share: branches and choices that nothing had guarded, found by changing them one by one."""

import unittest

from lumbek.core.board.demand import _left
from lumbek.core.board.labels import fed_from, way_label
from lumbek.core.board.lines import check_lines, share_of_lines
from lumbek.core.board.propose import _may_move, propose_boards
from lumbek.core.board.ratings import least_poles, lines_of
from lumbek.core.board.trips import rcd_title, trips
from lumbek.core.judging.check import Verdict
from lumbek.core.model.board import Group
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from tests.support.boards import FOUR, LIGHTS_DOWN, SOCKETS_UP, asked, board, circuit, group, house, judged_house, way
from tests.support.houses import SUPPLY
from tests.support.stated import a_device, an_rcd

PASS, FAIL, OPEN = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL
LINES = ("L1", "L2", "L3")
THREE = SUPPLY.model_copy(update={"phases": 3})


class BathFellows(unittest.TestCase):
    def fellow(self, *rooms: tuple[str, bool], of: int = 1) -> str:
        """What is said to be in the bath room beside a circuit: circuits by their room, and whether 30 mA guards."""
        some = []
        for number, (room, guarded) in enumerate(rooms, start=1):
            light = circuit(number, "light", room, 1, of="lighting", rating_a=6)
            if guarded:
                light = light.model_copy(update={"device": a_device(standard="bs-en-61009", rating_a=6, rcd=an_rcd())})
            lamp = light.points[0].model_copy(update={"zone": "outside"})
            some.append(light.model_copy(update={"points": (lamp,)}))
        seated = house([board(group("GA", *(way(each.number) for each in some), ma=None))], *some)
        return seated.placed(f"C{of}", some[of - 1]).surroundings.bath_fellow

    def test_a_circuit_is_no_fellow_of_its_own(self) -> None:
        self.assertEqual(self.fellow(("Bath", False)), "")

    def test_another_of_the_same_room_without_30_ma_is_one(self) -> None:
        self.assertIn("2", self.fellow(("Bath", True), ("Bath", False)))
        self.assertEqual(self.fellow(("Bath", True), ("Bath", True)), "")
        self.assertEqual(self.fellow(("Bath", True), ("Loft", False)), "")


class Ratings(unittest.TestCase):
    def told(self, amps: float, rating_a: float, line: str | None = None):
        """An RCCB behind the main fuse of 80 A on three phases, with one circuit that is on a line or on none."""
        one = circuit(1, "fixed", "Hall", amps, of="fixed-appliance", rating_a=50)
        result = judged_house([board(group("GA", way(1, line=line), rating_a=rating_a))], one, supply=THREE)
        return asked(result, "rccb-GA")

    def test_what_is_on_no_line_matters_only_where_it_is_too_much(self) -> None:
        """What nobody has placed may all be on one line: within the rating it is no question."""
        self.assertEqual(self.told(30, 63).verdict, PASS)
        self.assertEqual(self.told(45, 40, line="L1").verdict, FAIL)

    def test_it_is_enough_to_be_as_large_as_the_device_ahead(self) -> None:
        self.assertEqual(self.told(79, 80).verdict, PASS)
        self.assertIn("behind", self.told(79, 80).answer)


class BehindAnRccb(unittest.TestCase):
    def flows_a(self, amps: float | None, **said: object) -> float | None:
        """What the circuit of a group of 40 A is told to flow through its RCCB."""
        one = circuit(1, "fixed", "Hall", amps, of="fixed-appliance", rating_a=50)
        seated = house([board(group("GA", way(1), rating_a=40, **said))], one)
        return seated.placed("C1", one).ahead[-1].current_a

    def test_what_is_drawn_flows_where_it_is_known_who_draws_it(self) -> None:
        self.assertEqual(self.flows_a(45), 45)
        # Which circuits are behind it is not sure: theirs is no current of its own.
        self.assertIsNone(self.flows_a(45, unsure=True))
        self.assertEqual(self.flows_a(45, unsure=True, stated_a=30), 30)

    def test_what_nobody_has_stated_is_what_was_stated_for_the_group(self) -> None:
        self.assertIsNone(self.flows_a(None))
        self.assertEqual(self.flows_a(None, stated_a=30), 30)


class Words(unittest.TestCase):
    def test_what_is_left_and_what_is_too_much(self) -> None:
        self.assertEqual([_left(each) for each in (12.34, 0.0, -0.01, -3.21)],
                         ["12.3 A left", "0.0 A left", "0.1 A too much", "3.3 A too much"])  # fmt: skip

    def test_a_board_says_what_feeds_it(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        boards = [
            board(group("GA", way(1), way(9), ma=None)),
            board(board_id="B2", fed_by="C9", name="Shed"),
            board(board_id="B3", beside="B2", name="Beside"),
        ]
        found = house(boards, circuit(1, "light", "Hall", 1, of="lighting"), feed)
        said = [fed_from(found, found.by_id[each]) for each in ("B1", "B2", "B3")]
        self.assertEqual(said[0], "the meter")
        self.assertTrue(said[1].startswith("Main board, way 2, "), said[1])
        self.assertEqual(said[2], "Shed, linked beside it")

    def test_a_board_has_the_lines_of_what_feeds_it_or_of_the_one_it_is_beside(self) -> None:
        for cores, lines in ((2, 1), (4, 3)):
            feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
            thick = Cable(type="armoured", csa_mm2=10, cores=cores)
            fed = feed.model_copy(update={"cable": thick})
            boards = [
                board(group("GA", way(9), ma=None)),
                board(board_id="B2", fed_by="C9", name="Shed"),
                board(board_id="B3", beside="B2", name="Beside"),
            ]
            found = house(boards, fed, supply=THREE)
            self.assertEqual([lines_of(found, each) for each in found.boards], [3, lines, lines])
            self.assertEqual(least_poles(found, found.boards[2]), 2 if lines == 1 else 3)


class WayLabels(unittest.TestCase):
    def test_a_way_says_its_own_rcd_first_and_that_of_its_group_else(self) -> None:
        own = FOUR[0].model_copy(update={"device": a_device(rating_a=6, rcd=an_rcd(rated_ma=10))})
        some = (own, FOUR[1])
        boards = [board(group("GA", *(way(each.number) for each in some)), group("GB", ma=None))]
        found = house(boards, *some)
        (ga, _), (first, second) = found.boards[0].groups, found.boards[0].groups[0].ways
        labels = [way_label(found, found.boards[0], ga, each, at) for at, each in enumerate((first, second), 1)]
        self.assertEqual([(each.rcd, each.own_rcd) for each in labels], [("10 mA", "10 mA"), (rcd_title(ga), "")])
        self.assertEqual([each.neutral for each in labels], ["N1, bar 1", "N2, bar 1"])
        self.assertEqual([each.line for each in labels], ["", ""])

    def test_on_three_phases_a_way_says_its_line_or_that_nobody_has(self) -> None:
        some = FOUR[:2]
        ways = (way(some[0].number, line="L2"), way(some[1].number))
        found = house([board(group("GA", *ways, ma=None))], *some, supply=THREE)
        seated = found.boards[0].groups[0]
        labels = [way_label(found, found.boards[0], seated, each, 1) for each in seated.ways[:2]]
        self.assertEqual([each.line for each in labels], ["L2", "?"])


class Proposals(unittest.TestCase):
    def test_what_has_an_rcbo_already_is_not_changed_for_one(self) -> None:
        own = a_device(standard="bs-en-61009", rating_a=6, rcd=an_rcd())
        some = (LIGHTS_DOWN.model_copy(update={"device": own}), SOCKETS_UP)
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        ways = (way(each.number) for each in (*some, feed))
        boards = [board(group("GA", *ways, ma=None)), board(board_id="B2", fed_by="C9")]
        layout = propose_boards(house(boards, *some, feed)).layouts[0]
        self.assertEqual(layout.school, "rcbo-each")
        self.assertEqual([each.split()[0] for each in layout.change], [str(SOCKETS_UP.number)])
        self.assertEqual((layout.count.rcbos, layout.count.breakers), (3, 0))

    def test_a_way_keeps_one_rcd_wherever_it_is_moved(self) -> None:
        rcbo = a_device(standard="bs-en-61009", rating_a=16, rcd=an_rcd())
        own, plain = SOCKETS_UP.model_copy(update={"device": rcbo}), LIGHTS_DOWN
        bare, bare_too, guarded, guarded_too = (group("GA", way(own.number), way(plain.number), ma=None),
                                                group("GB", ma=None), group("GC"), group("GD"))  # fmt: skip
        found = house([board(bare, bare_too, guarded, guarded_too)], own, plain)
        with_own, without = found.boards[0].groups[0].ways
        for which, here, to, may in (
            (with_own, bare, bare_too, True),
            (with_own, bare, guarded, False),
            (with_own, guarded, bare, True),
            (without, bare, bare_too, True),
            (without, bare, guarded, False),
            (without, guarded, guarded_too, True),
            (without, guarded, bare, False),
        ):
            self.assertEqual(_may_move(found, which, here, to), may, (which.circuits, here.id, to.id))

    def test_the_heaviest_is_nearest_to_the_main_switch(self) -> None:
        some = (LIGHTS_DOWN, SOCKETS_UP, circuit(7, "fixed", "Kitchen", 30, of="cooker", rating_a=32))
        found = house([board(group("GA", *(way(each.number) for each in some), ma=None))], *some)
        for order, numbers in (("heavy-first", [7, 2, 3]), ("by-number", [2, 3, 7])):
            layout = propose_boards(found, order).layouts[0]
            ways = [way for each in layout.boards[0].groups for way in each.ways if way.circuits]
            self.assertEqual([way.circuits for way in ways], [(f"C{each}",) for each in numbers], order)


class Trips(unittest.TestCase):
    def test_only_the_group_that_nobody_is_sure_of_is_unsure(self) -> None:
        some = FOUR[:2]
        for first, second in ((True, False), (False, True), (False, False), (True, True)):
            groups = (group("GA", way(some[0].number), unsure=first), group("GB", way(some[1].number), unsure=second))
            seen = {each.id: each.unsure for each in trips(house([board(*groups)], *some)) if each.kind == "group"}
            self.assertEqual(seen, {"GA": first, "GB": second})

    def test_each_names_what_somebody_would_miss_and_all_that_goes_dark(self) -> None:
        groups = [Group(id="GA", name="GA", rcd=an_rcd(), rating_a=63,
                        ways=tuple(way(each.number) for each in FOUR))]  # fmt: skip
        (trip,) = [each for each in trips(house([board(*groups)], *FOUR), ways=False) if each.kind == "group"]
        self.assertEqual(sorted(trip.circuits), ["C1", "C2", "C3", "C4"])
        # Up has lights and sockets in one room, down in two.
        self.assertEqual((set(trip.dark_storeys), trip.dark_rooms), ({"Up", "Down"}, ("Loft",)))
        self.assertEqual(trip.weight, (3, 0, 4))


class Lines(unittest.TestCase):
    def on(self, *lines: str | None, amps: float = 10) -> tuple:
        some = [circuit(at, "fixed", "Hall", amps, of="fixed-appliance") for at in range(1, len(lines) + 1)]
        ways = (way(at, line=line) for at, line in enumerate(lines, start=1))
        found = house([board(group("GA", *ways, ma=None))], *some, supply=THREE)
        shared = share_of_lines(found)
        return shared, check_lines(found, shared)

    def test_three_alike_belong_one_on_each_line(self) -> None:
        """All on L1 the fullest line has three times what it could have."""
        shared, told = self.on("L1", "L1", "L1")
        self.assertEqual((shared.now_a, shared.best_a), (("30.0", "0.0", "0.0"), ("10.0", "10.0", "10.0")))
        self.assertAlmostEqual(shared.could_be, 3)
        self.assertEqual((len(shared.moves), told.verdict), (2, PASS))
        self.assertIn("move 2 circuits", told.caution)
        self.assertEqual([step.sum for step in told.steps[:2]],
                         ["30.0 / 0.0 / 0.0 A, neutral 30.0 A", "10.0 / 10.0 / 10.0 A, neutral 0.0 A"])  # fmt: skip
        even, fine = self.on("L1", "L2", "L3")
        self.assertEqual((even.moves, even.could_be, fine.caution), ((), 1, ""))
        self.assertEqual(even.best_neutral_a, "0.0")

    def test_what_may_be_on_any_line_overloads_none_for_sure(self) -> None:
        """Three of 30 A on a main fuse of 80 A: all on one line would be too much, one on each is not."""
        some = [circuit(at, "fixed", "Hall", 30, of="fixed-appliance", rating_a=32) for at in (1, 2, 3)]
        for lines, told in (((None,) * 3, OPEN), (("L1", None, None), OPEN), (("L1",) * 3, FAIL), (LINES, PASS)):
            ways = (way(at, line=line) for at, line in enumerate(lines, start=1))
            result = judged_house([board(group("GA", *ways, ma=None))], *some, supply=THREE)
            self.assertEqual(asked(result, "house-demand").verdict, told, lines)

    def test_one_on_no_line_is_asked_for(self) -> None:
        _, told = self.on("L1", None, "L3")
        self.assertEqual(told.verdict, OPEN)


def _rccb(rated_ma: float) -> Device:
    return a_device(standard="bs-en-61008", curve=None, rating_a=63, rcd=an_rcd(rated_ma=rated_ma))


class Mains(unittest.TestCase):
    def test_a_main_that_trips_is_told_and_a_mere_switch_is_not(self) -> None:
        light: Circuit = FOUR[0]
        for main, seen in ((_rccb(100), 1), (a_device(rating_a=63, rcd=None), 1), (board().main, 0)):
            found = house([board(group("GA", way(light.number), ma=None), main=main)], light)
            self.assertEqual(sum(each.kind == "board" for each in trips(found)), seen, main)


if __name__ == "__main__":
    unittest.main()
