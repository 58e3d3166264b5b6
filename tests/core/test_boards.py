"""What the circuits of a house share: each question with what passes, fails and cannot be told, in both rulebooks."""

import unittest

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.board import Enclosure, Surge
from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.places import Places
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import MainFuse
from tests.support.boards import (
    FOUR,
    LIGHTS_DOWN,
    LIGHTS_UP,
    MCB,
    SOCKETS_DOWN,
    SOCKETS_UP,
    asked,
    board,
    circuit,
    group,
    house,
    in_room,
    judged_house,
    two_groups,
    way,
)
from tests.support.houses import BS, IEC, SUPPLY, check
from tests.support.stated import a_device, an_rcd

BOOKS = (BS, IEC)
PASS, FAIL, OPEN, NONE = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL, Verdict.NOT_APPLICABLE


class Division(unittest.TestCase):
    def verdict(self, *boards, circuits=FOUR, **more) -> Verdict:
        return asked(judged_house(boards, *circuits, **more), "division").verdict

    def test_lights_and_sockets_of_one_storey_on_one_rcd(self) -> None:
        for book in BOOKS:
            self.assertEqual(self.verdict(two_groups((1, 4), (2, 3)), book=book), PASS)
            self.assertEqual(self.verdict(two_groups((1, 2), (3, 4)), book=book), FAIL)
            # One RCD for all, as many old boards have it.
            self.assertEqual(self.verdict(board(group("GA", *(way(n) for n in (1, 2, 3, 4)))), book=book), FAIL)
            self.assertEqual(
                self.verdict(board(group("GA", *(way(n) for n in (1, 2, 3, 4)), ma=None)), book=book), PASS
            )

    def test_what_trips_them_may_be_the_main_switch(self) -> None:
        rccb = Device(standard="bs-en-61008", curve=None, rating_a=80, rcd=Rcd(rated_ma=100, type="AC"))
        plain = board(group("GA", *(way(n) for n in (1, 2, 3, 4)), ma=None), main=rccb)
        found = asked(judged_house([plain], *FOUR), "division")
        self.assertEqual((found.verdict, found.place.kind), (FAIL, "board"))

    def test_a_room_that_loses_both_is_enough_and_rooms_on_no_storey_cannot_tell(self) -> None:
        same_room = (LIGHTS_UP, SOCKETS_UP)
        self.assertEqual(self.verdict(board(group("GA", way(1), way(2))), circuits=same_room, places=Places()), FAIL)
        apart = (LIGHTS_DOWN, SOCKETS_DOWN)
        both = board(group("GA", way(3), way(4)))
        # One RCD over all there is takes both, whatever the storey; with more of the house beside it nobody knows.
        self.assertEqual(self.verdict(both, circuits=apart, places=Places()), FAIL)
        more = board(group("GA", way(3), way(4)), group("GB", way(1), ma=None))
        self.assertEqual(self.verdict(more, circuits=(LIGHTS_UP, *apart), places=Places()), OPEN)
        self.assertEqual(self.verdict(both, circuits=apart), FAIL)

    def test_a_group_whose_rcd_nobody_knows_cannot_tell(self) -> None:
        unknown = board(group("GA", *(way(n) for n in (1, 3)), rcd="unknown"))
        self.assertEqual(self.verdict(unknown, circuits=(LIGHTS_UP, LIGHTS_DOWN)), OPEN)

    def test_circuits_that_only_said_they_share_one_may_share_several(self) -> None:
        leaky = [circuit(n, "fixed", "Hall", 30, leakage_ma=5, rating_a=32) for n in (5, 6, 7)]
        alarms = circuit(8, "fixed", "Hall", 0.1, of="alarms", rating_a=6)
        everything = (*FOUR, *leaky, alarms)
        for unsure, verdict in ((True, OPEN), (False, FAIL)):
            shared = board(group("GA", *(way(each.number) for each in everything), unsure=unsure))
            found = {each.id: each.verdict for each in judged_house([shared], *everything).checks}
            for check_id in ("division", "leakage-GA", "rccb-GA"):
                self.assertEqual(found[check_id], verdict, check_id)
            self.assertEqual(found["alarms"], OPEN if unsure else PASS)

    def test_a_medical_need_stands_alone(self) -> None:
        for needs, verdict in ((("medical",), FAIL), (("freezer",), PASS)):
            shared = board(group("GA", way(1, needs=needs), way(4)), group("GB", way(2), way(3)))
            self.assertEqual(self.verdict(shared), verdict)

    def test_what_only_one_way_takes_is_pointed_out_and_not_failed(self) -> None:
        shed = circuit(5, "socket-twin", "Shed", 2)
        lamp = Point(id="P2", kind="light", at=in_room("Shed"))
        both = shed.model_copy(update={"points": (*shed.points, lamp)})
        found = asked(judged_house([board(group("GA", way(5), ma=None))], both), "division")
        self.assertEqual((found.verdict, "feeds lights and sockets" in found.caution), (PASS, True))
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        lights = circuit(6, "light", "Shed", 1, of="lighting", rating_a=6)
        boards = [
            board(group("GA", way(9), ma=None)),
            board(group("GB", way(5), way(6), ma=None), board_id="B2", fed_by="C9"),
        ]
        found = asked(judged_house(boards, feed, shed, lights), "division")
        self.assertEqual((found.verdict, "takes all of its board" in found.caution), (PASS, True))

    def test_alarms(self) -> None:
        alarms = circuit(5, "fixed", "Hall", 0.1, of="alarms", rating_a=6)
        own = judged_house([board(group("GA", way(5), ma=None))], alarms)
        self.assertEqual((asked(own, "alarms").verdict, asked(own, "alarms").caution), (PASS, ""))
        with_sockets = judged_house([board(group("GA", way(5), way(4)))], alarms, SOCKETS_DOWN)
        self.assertEqual(asked(with_sockets, "alarms").verdict, FAIL)
        with_lights = judged_house([board(group("GA", way(5), way(3)))], alarms, LIGHTS_DOWN)
        self.assertEqual(asked(with_lights, "alarms").verdict, PASS)
        self.assertIn("battery", asked(with_lights, "alarms").caution)
        said = judged_house([board(group("GA", way(3, needs=("alarms",)), ma=None))], LIGHTS_DOWN)
        self.assertIn("3 ", asked(said, "alarms").answer)
        wrong = judged_house([board(group("GA", way(4, needs=("alarms",)), ma=None))], SOCKETS_DOWN)
        self.assertEqual(asked(wrong, "alarms").verdict, FAIL)
        self.assertEqual(asked(judged_house([board(group("GA", way(3)))], LIGHTS_DOWN), "alarms").verdict, NONE)

    def test_a_trip_says_what_is_lost_and_the_worst_is_named(self) -> None:
        found = judged_house([two_groups((1, 4), (2, 3))], *FOUR)
        trip = next(each for each in found.trips if each.id == "GA")
        self.assertEqual(
            {(lost.room, lost.storey, lost.what) for lost in trip.lost},
            {("Loft", "Up", ("lights",)), ("Kitchen", "Down", ("sockets",))},
        )
        self.assertIn(found.worst_trip, ("GA", "GB"))


class Leakage(unittest.TestCase):
    def verdict(self, *leaks: float, ma: float | None = 30, book=BS, **more) -> Verdict:
        circuits = [circuit(n, "fixed", "Hall", 2, leakage_ma=leak) for n, leak in enumerate(leaks, start=1)]
        found = judged_house(
            [board(group("GA", *(way(n) for n in range(1, len(leaks) + 1)), ma=ma, **more))], *circuits, book=book
        )
        return asked(found, "leakage-GA").verdict

    def test_three_tenths_of_what_trips_it(self) -> None:
        for book in BOOKS:
            self.assertEqual(self.verdict(4.5, 4.5, book=book), PASS)
            self.assertEqual(self.verdict(4.5, 4.51, book=book), FAIL)
            self.assertEqual(self.verdict(29, 1, ma=100, book=book), PASS)

    def test_an_rcd_that_nobody_has_read(self) -> None:
        self.assertEqual(self.verdict(1.0, rcd=Rcd()), OPEN)

    def test_every_rcd_that_is_shared_bears_all_behind_it(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40, device=a_device(rating_a=40))
        shed = circuit(5, "fixed", "Shed", 2, leakage_ma=6)
        hall = circuit(6, "fixed", "Hall", 2, leakage_ma=4)
        rccb = Device(standard="bs-en-61008", curve=None, rating_a=100, rcd=Rcd(rated_ma=30))
        boards = [
            board(group("GA", way(9), way(6), ma=None), main=rccb),
            board(group("GB", way(5), ma=None), board_id="B2", fed_by="C9"),
        ]
        found = {each.id: (each.verdict, each.value) for each in judged_house(boards, feed, shed, hall).checks}
        self.assertEqual((found["leakage-B1"], found["leakage-W9"]), ((FAIL, 10), (PASS, 6)))
        unread = boards[0].model_copy(update={"main": rccb.model_copy(update={"rcd": "unknown"})})
        self.assertEqual(asked(judged_house([unread, boards[1]], feed, shed, hall), "leakage-B1").verdict, OPEN)

    def test_a_moved_way_is_judged_in_both_groups(self) -> None:
        circuits = [circuit(n, "fixed", "Hall", 2, leakage_ma=4) for n in (1, 2, 3)]
        for first, second, verdicts in (((1, 2, 3), (), (FAIL, None)), ((1, 2), (3,), (PASS, PASS))):
            found = judged_house([two_groups(first, second)], *circuits)
            of = {each.id: each.verdict for each in found.checks}
            self.assertEqual((of["leakage-GA"], of.get("leakage-GB")), verdicts)


class Ratings(unittest.TestCase):
    def rccb(self, rating_a: float | None, *circuits, fuse_a: float | None = 80, **more) -> Verdict:
        supply = SUPPLY.model_copy(
            update={"main_fuse": MainFuse(standard="bs88-3" if fuse_a else "unknown", rating_a=fuse_a)}
        )
        ways = [way(each.number) for each in circuits]
        found = judged_house([board(group("GA", *ways, rating_a=rating_a, **more))], *circuits, supply=supply)
        return asked(found, "rccb-GA").verdict

    def test_guarded_by_the_fuse_or_by_what_can_flow(self) -> None:
        heavy = [circuit(n, "fixed", "Hall", 30, rating_a=32) for n in (1, 2, 3)]
        self.assertEqual(self.rccb(80, *heavy), PASS)
        # 90 A flow through 63 A behind 80 A.
        self.assertEqual(self.rccb(63, *heavy), FAIL)
        light = [circuit(n, "fixed", "Hall", 20, rating_a=32) for n in (1, 2, 3)]
        # 96 A of ratings, and 60 A that are stated.
        self.assertEqual(self.rccb(63, *light), PASS)
        unsaid = [circuit(n, "fixed", "Hall", None, of="fixed-appliance", rating_a=20) for n in (1, 2, 3)]
        self.assertEqual(self.rccb(63, *unsaid), PASS)
        self.assertEqual(self.rccb(40, *unsaid, fuse_a=80), FAIL)
        self.assertEqual(self.rccb(None, *light), OPEN)

    def test_unstated_loads_that_diversity_may_fit_cannot_tell(self) -> None:
        rings = [circuit(n, "socket-twin", "Hall", None, rating_a=32) for n in (1, 2, 3)]
        # 32 + 0.4 × 64 = 57.6 A by diversity of the ratings, which add up to 96 A.
        self.assertEqual(self.rccb(63, *rings), OPEN)
        self.assertEqual(self.rccb(40, *rings), FAIL)
        self.assertEqual(self.rccb(63, *rings, stated_a=50), PASS)

    def test_a_way_lets_through_no_more_than_its_device(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=32)
        shed = [circuit(n, "fixed", "Shed", None, of="fixed-appliance", rating_a=32) for n in (5, 6, 7)]
        boards = [
            board(group("GA", way(9), rating_a=40)),
            board(group("GB", *(way(n) for n in (5, 6, 7)), ma=None), board_id="B2", fed_by="C9"),
        ]
        for direct, verdict in ((False, PASS), (True, FAIL)):
            seat = boards[0].model_copy(update={"groups": (group("GA", way(9, direct=direct), rating_a=40),)})
            found = asked(judged_house([seat, boards[1]], feed, *shed), "rccb-GA")
            self.assertEqual((found.verdict, found.value), (verdict, 96 if direct else 32))

    def test_main_switch(self) -> None:
        def verdict(book=BS, supply=SUPPLY, **more) -> Verdict:
            plain = board(group("GA", way(4), ma=None), **more)
            return asked(judged_house([plain], SOCKETS_DOWN, book=book, supply=supply), "main-B1").verdict

        for book in BOOKS:
            self.assertEqual(verdict(book), PASS)
            self.assertEqual(verdict(book, main="unknown"), OPEN)
            self.assertEqual(verdict(book, main=None), FAIL)
            self.assertEqual(verdict(book, main_poles=None), OPEN)
            self.assertEqual(verdict(book, main_poles=1), FAIL)
        tt = SUPPLY.model_copy(update={"earthing": "TT", "phases": 3})
        self.assertEqual([verdict(supply=tt, main_poles=poles) for poles in (3, 4)], [FAIL, PASS])
        tn = SUPPLY.model_copy(update={"phases": 3})
        self.assertEqual([verdict(supply=tn, main_poles=poles) for poles in (2, 3)], [FAIL, PASS])


class Demand(unittest.TestCase):
    def found(self, *circuits, supply=SUPPLY, book=BS, ways=()):
        given = [board(group("GA", *ways, ma=None))] if ways else []
        return asked(judged_house(given, *circuits, supply=supply, book=book), "house-demand")

    def test_classes_have_their_diversity_over_the_house(self) -> None:
        for book in BOOKS:
            lights = [circuit(n, "light", "Hall", 5, of="lighting", rating_a=6) for n in (1, 2)]
            self.assertAlmostEqual(self.found(*lights, book=book).value, 6.6)
            sockets = [circuit(n, "socket-twin", "Hall", 15) for n in (1, 2, 3)]
            self.assertAlmostEqual(self.found(*sockets, book=book).value, 15 + 0.4 * 30)
            showers = [circuit(n, "fixed", "Hall", 40, of="shower", rating_a=45) for n in (1, 2, 3)]
            self.assertAlmostEqual(self.found(*showers, book=book).value, 40 + 40 + 0.25 * 40)
            kilns = [circuit(n, "fixed", "Hall", 20, of="fixed-appliance", diversity="fixed-heating") for n in (1, 2)]
            self.assertAlmostEqual(self.found(*kilns, book=book).value, 10 + 0.5 * 30)

    def test_at_the_limit_and_beyond_it(self) -> None:
        for amps, verdict in ((40, PASS), (40.1, FAIL)):
            found = self.found(*(circuit(n, "fixed", "Hall", amps, of="fixed-appliance", rating_a=45) for n in (1, 2)))
            self.assertEqual(found.verdict, verdict)
        limited = SUPPLY.model_copy(update={"declared_limit_a": 60})
        found = self.found(circuit(1, "fixed", "Hall", 61, of="fixed-appliance", rating_a=63), supply=limited)
        self.assertEqual((found.verdict, found.limit), (FAIL, 60))

    def test_loads_that_are_not_stated_pass_by_ratings_and_never_fail_by_them(self) -> None:
        few = [circuit(n, "fixed", "Hall", None, of="fixed-appliance", rating_a=20) for n in (1, 2)]
        self.assertEqual(self.found(*few).verdict, PASS)
        many = [circuit(n, "fixed", "Hall", None, of="fixed-appliance", rating_a=32) for n in (1, 2, 3)]
        self.assertEqual(self.found(*many).verdict, OPEN)
        self.assertEqual(self.found(*many, circuit(9, "fixed", "Hall", 81, rating_a=100)).verdict, FAIL)
        unknown = SUPPLY.model_copy(update={"main_fuse": MainFuse()})
        self.assertEqual(self.found(*few, supply=unknown).verdict, OPEN)

    def test_by_line_and_a_line_that_nobody_has_said(self) -> None:
        three = SUPPLY.model_copy(update={"phases": 3, "main_fuse": MainFuse(standard="bs88-2", rating_a=25)})
        circuits = [circuit(n, "fixed", "Hall", 20, of="fixed-appliance", rating_a=20) for n in (1, 2, 3)]
        lines = [way(n, line=f"L{n}") for n in (1, 2, 3)]
        self.assertEqual(self.found(*circuits, supply=three, ways=lines).value, 20)
        unsaid = [way(1, line="L1"), way(2, line="L2"), way(3)]
        self.assertEqual(self.found(*circuits, supply=three, ways=unsaid).verdict, OPEN)
        same = [way(1, line="L1"), way(2, line="L1"), way(3, line="L3")]
        self.assertEqual(self.found(*circuits, supply=three, ways=same).verdict, FAIL)

    def test_a_sub_board_counts_once(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        shed = circuit(5, "fixed", "Shed", 12, of="fixed-appliance")
        boards = [board(group("GA", way(9), ma=None)), board(group("GB", way(5), ma=None), board_id="B2", fed_by="C9")]
        self.assertAlmostEqual(house(boards, feed, shed).whole_draw.greatest_a, 12)
        # Where no board of the house hangs on it, what is stated at its end counts.
        told = feed.model_copy(update={"points": (Point(id="P1", kind="board", loads=(Load(current_a=17),)),)})
        self.assertAlmostEqual(house([], told).whole_draw.greatest_a, 17)

    def test_a_feed_carries_no_less_than_the_circuit_that_draws_most(self) -> None:
        """A shed with nothing but lights: 66 % of them is for the lights of a whole house."""
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=32, cable=Cable(csa_mm2=6))
        ways = group("GB", way(5), way(6), ma=None)
        boards = [board(group("GA", way(9), ma=None)), board(ways, board_id="B2", fed_by="C9")]
        for first_a, second_a, flows_a in ((4.0, 0.0, 4.0), (4.0, 0.5, 4.0), (4.0, 4.0, 5.28)):
            lights = [circuit(5, "light", "Shed", first_a, of="lighting", rating_a=6)]
            lights += [circuit(6, "light", "Shed", second_a, of="lighting", rating_a=6)]
            found = house(boards, feed, *lights)
            both = (JobCircuit(design=lights[0]), JobCircuit(design=feed))
            seen = {each.design.number: found.effective(each) for each in both}
            (cable,) = (each for each in seen[5].ahead if each.feed is not None)
            self.assertAlmostEqual(cable.current_a or 0, flows_a)
            (load,) = seen[9].points[0].loads
            self.assertAlmostEqual(load.current_a or 0, flows_a)
            self.assertEqual(check(judge_circuit(BS, SUPPLY, seen[5]), "feed").verdict, Verdict.PASS, flows_a)

    def test_what_may_be_added(self) -> None:
        room = judged_house([], circuit(1, "fixed", "Hall", 45, of="fixed-appliance", rating_a=50)).headroom
        fits = {each.what.split(",")[0]: each.fits for each in room.may_add}
        self.assertEqual(room.spare_a, 35)
        self.assertTrue(fits["Vehicle charging"])
        self.assertFalse(fits["Instantaneous shower"])


class Itself(unittest.TestCase):
    def verdict(self, check_id: str, *circuits, book=BS, supply=SUPPLY, groups=None, **more) -> Verdict:
        circuits = circuits or (SOCKETS_DOWN,)
        groups = groups or (group("GA", *(way(each.number) for each in circuits), ma=None),)
        return asked(judged_house([board(*groups, **more)], *circuits, book=book, supply=supply), check_id).verdict

    def test_enclosure(self) -> None:
        def of(book=BS, state="new", **made) -> Verdict:
            return self.verdict("enclosure-B1", book=book, state=state, enclosure=Enclosure(**made))

        self.assertEqual(of(material="metal"), PASS)
        self.assertEqual(of(material="plastic"), FAIL)
        self.assertEqual(of(material="plastic", cabinet=True), PASS)
        self.assertEqual(of(material="plastic", state="as-found"), PASS)
        self.assertEqual(of(IEC, material="plastic"), PASS)
        for book in BOOKS:
            self.assertEqual(of(book, material="timber", state="as-found"), FAIL)
            self.assertEqual(of(book), OPEN)
            self.assertEqual(of(book, material="metal", ip="IP1X"), FAIL)

    def test_surge_leads(self) -> None:
        for book in BOOKS:
            for surge, verdict in (
                (Surge(type="2", lead_m=0.5), PASS),
                (Surge(type="2", lead_m=1.0), PASS),
                (Surge(type="2", lead_m=1.01), FAIL),
                (Surge(type="3", lead_m=0.2), FAIL),
                (Surge(type="2"), OPEN),
                ("unknown", OPEN),
                # The survey says that it is fitted.
                (None, OPEN),
            ):
                self.assertEqual(self.verdict("surge-B1", book=book, surge=surge), verdict, surge)

    def test_neutrals_of_a_group_kept_apart(self) -> None:
        kept = (group("GA", way(1), way(2)), group("GB", way(3), way(4)))
        self.assertEqual(self.verdict("neutrals-B1", *FOUR, groups=kept), PASS)
        crossed = (group("GA", way(1, neutral_at="GB"), way(2)), group("GB", way(3), way(4)))
        self.assertEqual(self.verdict("neutrals-B1", *FOUR, groups=crossed), FAIL)
        borrowed = (group("GA", way(1), way(2)), group("GB", way(3), way(4, 1)))
        self.assertEqual(self.verdict("neutrals-B1", *FOUR, groups=borrowed), FAIL)

    def test_a_way_for_each_circuit(self) -> None:
        self.assertEqual(self.verdict("ways", *FOUR), PASS)
        shared = (group("GA", way(1, 2), way(3), way(4), ma=None),)
        self.assertEqual(self.verdict("ways", *FOUR, groups=shared), FAIL)

    def test_sources_add_to_the_fuse(self) -> None:
        def sun(*loads: Load):
            return circuit(7, "source", "Loft", None, rating_a=16).model_copy(
                update={"points": (Point(id="P1", kind="source", loads=loads),)}
            )

        for book in BOOKS:
            for amps, verdict in ((20, PASS), (20.5, FAIL)):
                self.assertEqual(self.verdict("sources-B1", sun(Load(current_a=amps)), book=book), verdict)
            self.assertEqual(self.verdict("sources-B1", sun(), book=book), OPEN)
            self.assertEqual(self.verdict("sources-B1", book=book), NONE)

    def test_selectivity_of_a_board(self) -> None:
        for book in BOOKS:
            self.assertEqual(self.verdict("selectivity-B1", book=book), PASS)
            unknown = SUPPLY.model_copy(update={"fault_current_ka": None, "ze_ohm": None})
            self.assertEqual(self.verdict("selectivity-B1", supply=unknown, book=book), OPEN)
            big = circuit(6, "fixed", "Hall", 60, rating_a=80)
            self.assertEqual(self.verdict("selectivity-B1", big, book=book), FAIL)
            self.assertEqual(self.verdict("selectivity-B1", big, book=book, state="as-found"), PASS)


class InItsSeat(unittest.TestCase):
    def test_what_is_ahead_follows_from_the_seat(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        shed = circuit(5, "socket-twin", "Shed", 12)
        boards = [
            board(group("GA", way(9), ma=100)),
            board(group("GB", way(5)), board_id="B2", fed_by="C9", main=a_device(rating_a=32, **MCB)),
        ]
        placed = house(boards, feed, shed).effective(JobCircuit(design=shed))
        things = [each.device.standard if each.device else each.feed.type for each in placed.ahead]
        self.assertEqual(things, ["bs-en-61008", "bs-en-60898", "flat-twin-and-earth", "bs-en-60898", "bs-en-61008"])
        self.assertEqual(placed.ahead[2].current_a, 12)
        rcds = [each.device.known_rcd for each in placed.ahead if each.device is not None]
        ids = [rcd.rated_ma for rcd in rcds if rcd is not None]
        self.assertEqual(ids, [100, 30])

    def test_the_feed_draws_what_its_board_does(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        shed = [circuit(n, "fixed", "Shed", 11, of="fixed-appliance") for n in (5, 6)]
        boards = [
            board(group("GA", way(9), ma=None)),
            board(group("GB", way(5), way(6), ma=None), board_id="B2", fed_by="C9"),
        ]
        built = house(boards, feed, *shed)
        result = judge_circuit(BS, SUPPLY, built.effective(JobCircuit(design=feed)))
        self.assertAlmostEqual(result.ib_a, 22)

    def test_a_feed_through_a_joint_is_two_cables_in_a_row(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        joint = Point(id="P0", kind="joint")
        legs = (
            feed.legs[0].model_copy(update={"b": "P0"}),
            feed.legs[0].model_copy(update={"id": "L2", "a": "P0"}),
        )
        feed = feed.model_copy(update={"points": (joint, *feed.points), "legs": legs})
        shed = circuit(5, "fixed", "Shed", 11, of="fixed-appliance")
        boards = [board(group("GA", way(9), ma=None)), board(group("GB", way(5), ma=None), board_id="B2", fed_by="C9")]
        built = house(boards, feed, shed)
        self.assertAlmostEqual(judge_circuit(BS, SUPPLY, built.effective(JobCircuit(design=feed))).ib_a, 11)
        ahead = built.effective(JobCircuit(design=shed)).ahead
        self.assertEqual([each.length_m for each in ahead if each.feed], [8, 8])

    def test_an_rcd_of_unread_rating_goes_with_the_device_that_shares_it(self) -> None:
        built = house([board(group("GA", way(4), rating_a=None))], SOCKETS_DOWN)
        placed = built.effective(JobCircuit(design=SOCKETS_DOWN))
        self.assertEqual((placed.ahead, placed.device.rcd), ((), an_rcd(shared=True)))
        self.assertEqual(check(judge_circuit(BS, SUPPLY, placed), "rcd").verdict, PASS)

    def test_two_rcds_in_one_path_are_the_circuits_question(self) -> None:
        own = SOCKETS_DOWN.model_copy(update={"device": a_device()})
        placed = house([board(group("GA", way(4)))], own).effective(JobCircuit(design=own))
        self.assertEqual(check(judge_circuit(BS, SUPPLY, placed), "rcd-series").verdict, FAIL)

    def test_a_length_of_the_feed_that_nobody_knows_cannot_tell(self) -> None:
        feed = circuit(9, "board", "Shed", None, of="distribution", rating_a=40)
        unknown = feed.legs[0].model_copy(
            update={"segments": (feed.legs[0].segments[0].model_copy(update={"length_m": None}),)}
        )
        feed = feed.model_copy(update={"legs": (unknown,)})
        shed = circuit(5, "fixed", "Shed", 3, of="fixed-appliance")
        boards = [board(group("GA", way(9), ma=None)), board(group("GB", way(5), ma=None), board_id="B2", fed_by="C9")]
        result = judge_circuit(BS, SUPPLY, house(boards, feed, shed).effective(JobCircuit(design=shed)))
        for name in ("zs", "volt-drop", "feed-zs"):
            self.assertEqual(check(result, name).verdict, OPEN, name)
        self.assertIn("length", check(result, "feed-zs").missing_codes)
