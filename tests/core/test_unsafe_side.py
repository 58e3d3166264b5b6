"""Rules whose mutation nobody noticed once, on the unsafe side of each limit."""

import unittest
from math import sqrt

from lumbek.core.board.trips import trips
from lumbek.core.judging.check import Verdict
from lumbek.core.model.supply import Supply
from lumbek.core.protection.let_through import let_through
from lumbek.core.protection.selectivity import selective
from lumbek.core.study.ahead import known_fault_current_ka
from tests.core.test_assessor import PME, RCD, SLOW, TWIN, C, Cases, F, P, fuse, mcb, radial, rcbo, ring, swa
from tests.support.boards import board, circuit, group, house, way
from tests.support.houses import BS, SUPPLY
from tests.support.stated import a_device, an_rcd

FEED = {"name": "Yard", "length_m": 4, "method": "D", "current_a": 20}
STRONG = {**PME, "fault_current_ka": 3}


def rccb(**rcd: object) -> dict[str, object]:
    return {"device": {"standard": "bs-en-61008", "curve": None, "rating_a": 80, "rcd": {**RCD, **rcd}}}


def _shed(ahead: list[dict[str, object]]) -> dict[str, object]:
    return radial("fixed", device=mcb(10), csa=1.5, ahead=ahead)


class InSeries(Cases):
    def test_two_delayed_ones_go_together(self) -> None:
        slow = {"rated_ma": 300, "type": "A", "delayed": True}
        self.case("S behind S", radial(*TWIN, device=rcbo(20, rcd=SLOW), ahead=[rccb(**slow)]), "rcd-series", F)
        ahead = a_device(standard="bs-en-61009", rating_a=80, rcd=an_rcd(rated_ma=300, delayed=True))
        for delayed, verdict in ((True, Verdict.FAIL), (False, Verdict.PASS)):
            own = a_device(rating_a=20, rcd=an_rcd(rated_ma=100, delayed=delayed))
            self.assertEqual(selective(BS, ahead, own, 0.1).verdict, verdict)

    def test_exactly_three_times_waits(self) -> None:
        for rated, verdict in ((90, P), (89.9, F)):
            slow = rccb(rated_ma=rated, delayed=True)
            self.case(f"{rated} mA over 30 mA", radial(*TWIN, device=rcbo(20), ahead=[slow]), "rcd-series", verdict)

    def test_any_of_them_may_give_the_protection_and_the_least_counts(self) -> None:
        socket = radial(*TWIN, device=rcbo(20, rcd=SLOW), ahead=[rccb()])
        self.case("30 mA ahead, 100 mA its own", socket, "rcd", P)
        self.case("100 mA on both", radial(*TWIN, device=rcbo(20, rcd=SLOW), ahead=[rccb(rated_ma=100)]), "rcd", F)


class Energy(Cases):
    """A fuse acts by its curve on the fault at the far end, which lasts longest."""

    def test_between_its_two_currents_it_follows_the_curve(self) -> None:
        device = a_device(standard="bs88-3", curve=None, rating_a=32, rcd=None)
        least, trip = (BS.trip_current_a(device, time) for time in (5.0, 0.4))
        middle = sqrt(least * trip)
        found = let_through(BS, device, 1.0, middle)
        # Half way on double logarithmic paper: the time is the geometric mean of the two.
        self.assertAlmostEqual(found.a2s, middle**2 * sqrt(5.0 * 0.4), delta=0.01 * found.a2s)
        quick = let_through(BS, device, 1.0, trip).a2s
        self.assertAlmostEqual(quick, trip**2 * 0.4, delta=0.01 * quick)
        self.assertGreater(found.a2s, quick)

    def test_below_the_least_it_counts_as_the_least(self) -> None:
        device = a_device(standard="bs88-3", curve=None, rating_a=32, rcd=None)
        least = BS.trip_current_a(device, 5.0)
        slow = let_through(BS, device, 1.0, least).a2s
        self.assertAlmostEqual(slow, least**2 * 5.0, delta=0.01 * slow)
        self.assertEqual(let_through(BS, device, 1.0, 0.5 * least).a2s, slow)

    def test_a_sure_failure_of_a_feed_is_not_hidden_behind_a_bound(self) -> None:
        bound = {**FEED, "name": "First", "feed": swa(6, cpc_by="core", cpc_mm2=1)}
        sure = {**bound, "name": "Second", "feed": swa(6, cpc_by="core", cpc_mm2=1.5)}
        figure = {"device": mcb(32, let_through_a2s=60_000)}
        ahead = [{"device": mcb(63)}, bound, figure, sure]
        self.case("by a bound alone", _shed(ahead[:2]), "feed-withstand", C, STRONG)
        self.case("with the other behind it", _shed(ahead), "feed-withstand", F, STRONG)

    def test_at_an_electrode_the_armour_of_the_feed_sees_the_houses_fault(self) -> None:
        feed = {**FEED, "feed": swa(4, cpc_by="core", cpc_mm2=1)}
        ahead = [{"device": mcb(32, let_through_a2s=30_000)}, feed]
        island = {**_shed(ahead), "device": mcb(10, rcd=RCD), "own_earth": {"electrode_ohm": 60}}
        self.case("its thin core serves nobody there", island, "feed-withstand", P, STRONG)
        self.case("without one it is the cpc", _shed(ahead), "feed-withstand", F, STRONG)

    def test_the_feeds_in_a_row_are_one_loop(self) -> None:
        first = {"name": "To the yard", "feed": swa(16, cpc_by="core"), "length_m": 30, "method": "D", "current_a": 20}
        second = {**first, "name": "To the shed", "feed": swa(10, cpc_by="core", cpc_mm2=1.5)}
        house, yard = {"device": fuse("bs88-3", 63)}, {"device": fuse("bs88-3", 32)}

        def shed(length: float) -> dict[str, object]:
            feeds = [house, {**first, "length_m": length}, yard, second]
            return radial("fixed", device=mcb(10), csa=1.5, ahead=feeds)

        self.case("a short one", shed(5), "feed-withstand", P)
        # With the first as long as this the fault behind the second lasts: the loop is of both.
        for length in (200, 300):
            self.case(f"behind {length} m", shed(length), "feed-withstand", F)
        between = {**first, "name": "Past the shed", "length_m": 2}
        three = [house, {**first, "length_m": 300}, between, yard, second]
        self.case(
            "of all that is before it", radial("fixed", device=mcb(10), csa=1.5, ahead=three), "feed-withstand", F
        )


class OnTheWay(Cases):
    """Switches and RCCBs ahead of a circuit."""

    def rated(self, amps: float, **stated: float) -> list[dict[str, object]]:
        small = {"standard": "bs-en-61008", "curve": None, "rating_a": amps, "rcd": RCD}
        return [{"name": "RCCB", "device": small, **stated}]

    def test_what_the_circuit_itself_draws_flows_through_it_whatever_is_stated(self) -> None:
        heater = {"kind": "fixed", "loads": [{"current_a": 30}]}
        circuit = radial(heater, device=mcb(32), csa=6, ahead=self.rated(25, current_a=20))
        self.case("30 A through 25 A, 20 A said", circuit, "switches", F)

    def test_a_greater_device_behind_it_guards_nothing(self) -> None:
        heater = {"kind": "fixed", "loads": [{"current_a": 10}]}
        self.case("25 A before 32 A", radial(heater, device=mcb(32), csa=6, ahead=self.rated(25)), "switches", F)
        self.case("40 A before 32 A", radial(heater, device=mcb(32), csa=6, ahead=self.rated(40)), "switches", C)


class Origin(Cases):
    def test_what_an_electrode_lets_through_is_no_fault_current_of_the_origin(self) -> None:
        # 230 V over 0.2 Ω would be 1.15 kA, were there a metal way back.
        self.assertIsNone(known_fault_current_ka(BS, Supply(earthing="TT", ze_ohm=0.2)))
        self.assertAlmostEqual(known_fault_current_ka(BS, Supply(earthing="TN-S", ze_ohm=0.2)), 1.15)
        both = Supply(earthing="TN-S", ze_ohm=0.2, fault_current_ka=0.9)
        self.assertAlmostEqual(known_fault_current_ka(BS, both), 1.15)


class Loads(Cases):
    def test_no_more_than_the_device_is_taken_at_the_far_point(self) -> None:
        # A 16 A device cannot give the 20 A that are conventional at the far point.
        small = radial(*TWIN, device=rcbo(16), length=14)
        result = self.judge(small, PME, False)
        drawn = [point.load_a for point in result.points if point.load_a]
        self.assertAlmostEqual(sum(drawn), 16.0)
        self.assertTrue(all(each >= 0 for each in drawn))

    def test_joints_are_no_points_that_spurs_are_counted_against(self) -> None:
        spurs = {"P1": ["socket-twin"], "P2": ["socket-twin"], "P3": ["socket-twin"]}
        self.case(
            "three spurs, two outlets and a joint", ring("socket-twin", "joint", "socket-twin", spurs=spurs), "spurs", F
        )
        self.case(
            "three spurs, three outlets", ring("socket-twin", "socket-twin", "socket-twin", spurs=spurs), "spurs", P
        )

    def test_a_thin_spur_is_not_hidden_by_a_thick_ring(self) -> None:
        spurred = ring(*TWIN, spurs={"P2": ["socket-twin"]})
        spurred["legs"][-1]["cable"] = {"csa_mm2": 1.5}
        self.case("a spur in 1.5 mm²", spurred, "ring-rule", F, says="1.5")

    def test_the_largest_of_what_is_plugged_in_counts_in_full_where_it_stands(self) -> None:
        plugged = [
            {"kind": "socket-twin", "loads": [{"current_a": amps, "diversity": "sockets"}]} for amps in (4, 12, 6)
        ]
        result = self.judge(radial(*plugged, device=rcbo(20)), PME, False)
        first, largest, last = (point.load_a for point in result.points)
        self.assertEqual(largest, 12)
        self.assertTrue(first < 4 and last < 6, (first, last))

    def test_lightly_loaded_cables_of_a_group_are_not_counted(self) -> None:
        def grouped(**more: object) -> float | None:
            found = radial(*TWIN, device=rcbo(20))
            found["legs"][0]["segments"][0].update({"grouped_circuits": 4, **more})
            return next(leg.iz_a for leg in self.judge(found, PME, False).legs if leg.leg == "L1")

        alone = next(leg.iz_a for leg in self.judge(radial(*TWIN, device=rcbo(20)), PME, False).legs)
        self.assertEqual(grouped(lightly_loaded=3), alone)
        self.assertLess(grouped(lightly_loaded=2), alone)
        self.assertLess(grouped(), grouped(lightly_loaded=2))


class Houses(unittest.TestCase):
    """What circuits draw together, and what goes dark at once."""

    def test_a_circuit_on_no_known_line_counts_on_each(self) -> None:
        three = SUPPLY.model_copy(update={"phases": 3})
        ways = [board(group("G1", way(1), ma=None))]
        drawn = house(ways, circuit(1, "fixed", amps=10, of="fixed-appliance"), supply=three).whole_draw
        self.assertEqual(drawn.demand_a, {"L1": 10, "L2": 10, "L3": 10})
        self.assertEqual(len(drawn.unplaced), 1)

    def test_a_cooker_has_its_diversity_once(self) -> None:
        cooker = circuit(1, "fixed", amps=40, of="cooker", rating_a=32)
        drawn = house([board(group("G1", way(1), ma=None))], cooker).whole_draw
        # The first 10 A and 30 % of the rest: 19 A, and not 12.7 A of them again.
        self.assertEqual(drawn.greatest_a, 19)

    def test_what_hangs_on_a_board_counts_there_and_not_as_its_feed_too(self) -> None:
        feed = circuit(1, "board", amps=20, of="outdoor")
        shed = board(group("G2", way(2), ma=None), board_id="B2", fed_by="C1")
        heater = circuit(2, "fixed", amps=7, of="fixed-appliance")
        self.assertEqual(house([board(group("G1", way(1), ma=None)), shed], feed, heater).whole_draw.greatest_a, 7)
        self.assertEqual(house([board(group("G1", way(1), ma=None))], feed).whole_draw.greatest_a, 20)

    def test_a_main_that_breaks_overcurrent_takes_all_with_it(self) -> None:
        breaker = a_device(standard="bs-en-60898", rating_a=63, rcd=None)
        ways = group("G1", way(1), way(2), ma=None)
        two = (circuit(1, "light", of="lighting"), circuit(2, "socket-twin"))
        found = [each for each in trips(house([board(ways, main=breaker)], *two)) if each.kind == "board"]
        self.assertEqual([len(each.circuits) for each in found], [2])
        self.assertEqual([each for each in trips(house([board(ways)], *two)) if each.kind == "board"], [])
