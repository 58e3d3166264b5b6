"""What must hold for every board, whatever hangs on it and in whichever order it is said."""

import unittest
from random import Random

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lumbek.core.board.house import House
from lumbek.core.board.series import fault_at_ka
from lumbek.core.judging.check import Verdict
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.board import Group
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.leg import Segment
from lumbek.core.rulebooks import Rulebook
from tests.support.boards import board, circuit, group, house, judged_house, way
from tests.support.houses import BS, IEC, SUPPLY, check, judged


class AnyBoard(unittest.TestCase):
    """What must hold for every board, whatever hangs on it."""

    KINDS = (
        ("light", "lighting"),
        ("socket-twin", "sockets"),
        ("fixed", "fixed-appliance"),
        ("fixed", "shower"),
        ("fixed", "cooker"),
    )

    def drawn(self, chance: Random) -> tuple[list[Circuit], list[Group]]:
        """A few circuits with their loads and leakage, behind one RCD or several."""
        circuits = []
        for number in range(1, chance.randint(2, 7)):
            kind, of = chance.choice(self.KINDS)
            circuits.append(
                circuit(
                    number,
                    kind,
                    chance.choice(("Loft", "Hall", "Kitchen", "")),
                    chance.choice((1, 5, 10, 20, 30)),
                    of=of,
                    rating_a=chance.choice((6, 16, 20, 32, 40)),
                    leakage_ma=chance.choice((0, 1, 3)),
                )
            )
        ways = [way(each.number) for each in circuits]
        chance.shuffle(ways)
        many = chance.randint(1, 3)
        groups = [
            group(
                f"G{at}", *ways[at::many], ma=chance.choice((30, 30, None, 100)), rating_a=chance.choice((40, 63, 80))
            )
            for at in range(many)
        ]
        return circuits, groups

    @settings(max_examples=40)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_in_which_order_circuits_and_ways_come_says_nothing(self, chance: Random, book: Rulebook) -> None:
        circuits, groups = self.drawn(chance)
        before = judged_house([board(*groups)], *circuits, book=book)
        mixed = [each.model_copy(update={"ways": tuple(chance.sample(each.ways, len(each.ways)))}) for each in groups]
        after = judged_house([board(*mixed)], *chance.sample(circuits, len(circuits)), book=book)
        verdicts = [{each.id: each.verdict for each in result.checks} for result in (before, after)]
        self.assertEqual(*verdicts)
        self.assertAlmostEqual(before.headroom.demand_a, after.headroom.demand_a)

    @settings(max_examples=40)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_more_load_lowers_no_demand_and_mends_nothing(self, chance: Random, book: Rulebook) -> None:
        circuits, groups = self.drawn(chance)
        before = judged_house([board(*groups)], *circuits, book=book)
        at = chance.randrange(len(circuits))
        point = circuits[at].points[0]
        more = point.model_copy(update={"loads": (*point.loads, point.loads[0].model_copy(update={"current_a": 12.0}))})
        heavier = [*circuits]
        heavier[at] = circuits[at].model_copy(update={"points": (more,)})
        after = judged_house([board(*groups)], *heavier, book=book)
        self.assertGreaterEqual(after.headroom.demand_a, before.headroom.demand_a - 1e-9)
        was = {each.id: each.verdict for each in before.checks}
        for each in after.checks:
            turned = (was.get(each.id), each.verdict) == (Verdict.FAIL, Verdict.PASS)
            self.assertFalse(turned, (each.id, each.answer))


class Feeds(unittest.TestCase):
    """A board behind a feed of which nobody knows exactly how long it is."""

    def behind(self, *lengths_m: float) -> House:
        """Sockets on a breaker of 3 kA, behind 10 mm² so long, or between so long; 5 kA at the origin."""
        feed = circuit(9, "board", "Hall", None, of="distribution", rating_a=40)
        segment = Segment(length_m=lengths_m[0], length_to_m=lengths_m[-1] if len(lengths_m) > 1 else None)
        legs = (feed.legs[0].model_copy(update={"segments": (segment,)}),)
        feed = feed.model_copy(update={"legs": legs, "cable": feed.cable.model_copy(update={"csa_mm2": 10.0})})
        sub = circuit(1, "socket-twin", "Loft", 5, rating_a=20)
        sub = sub.model_copy(update={"device": sub.device.model_copy(update={"breaking_capacity_ka": 3})})
        self.sub = JobCircuit(design=sub)
        boards = [board(group("GA", way(9), ma=None)), board(group("GB", way(1)), board_id="B2", fed_by="C9")]
        supply = SUPPLY.model_copy(update={"fault_current_ka": 5.0, "ze_ohm": 0.05})
        return house(boards, feed, sub, supply=supply)

    def test_a_fault_is_greatest_behind_the_least_length_and_its_loop_behind_the_greatest(self) -> None:
        short, long, between = self.behind(1), self.behind(60), self.behind(1, 60)
        fault = [fault_at_ka(each, each.by_id["B2"]) or 0.0 for each in (short, long, between)]
        self.assertGreater(fault[0], 4.9)
        self.assertLess(fault[1], 1.1)
        self.assertEqual(fault[2], fault[0])
        for check_id, like in (("zs", long), ("volt-drop", long)):
            one, other = (check(judged(each.effective(self.sub), each.supply), check_id) for each in (between, like))
            self.assertEqual((one.verdict, one.value), (other.verdict, other.value), check_id)
        self.assertEqual(check(judged(long.effective(self.sub), long.supply), "breaking").verdict, Verdict.PASS)

    def test_what_only_some_lengths_fail_cannot_be_told(self) -> None:
        """A loop that the longest feed makes too great, a fault too great behind the shortest: nobody is accused."""
        verdicts = {}
        for lengths in ((1.0,), (250.0,), (1.0, 250.0), (230.0, 250.0)):
            found = self.behind(*lengths)
            result = judged(found.effective(self.sub), found.supply)
            verdicts[lengths] = {each.id: each for each in result.checks}
        for check_id, short, long in (
            ("feed-zs", Verdict.PASS, Verdict.FAIL),
            ("breaking", Verdict.FAIL, Verdict.PASS),
            ("feed", Verdict.PASS, Verdict.PASS),
        ):
            one, other = verdicts[1.0,][check_id], verdicts[250.0,][check_id]
            self.assertEqual((one.verdict, other.verdict), (short, long), check_id)
            between = verdicts[1.0, 250.0][check_id]
            if short is long:
                self.assertEqual(between.verdict, short)
                continue
            self.assertEqual((between.verdict, between.missing_codes), (Verdict.CANNOT_TELL, ("length",)), check_id)
            self.assertIn("Depends on the length of board 9", between.answer)
            self.assertEqual(between.missing, ("true length of board 9",))
        # What fails at both ends fails.
        self.assertEqual(verdicts[230.0, 250.0]["feed-zs"].verdict, Verdict.FAIL)
        self.assertEqual(verdicts[230.0, 250.0]["breaking"].verdict, Verdict.PASS)

    @settings(max_examples=20)
    @given(st.randoms(use_true_random=False))
    def test_nothing_sure_of_a_feed_between_two_lengths_is_otherwise_at_one_of_them(self, chance: Random) -> None:
        least = chance.choice([1.0, 3.0, 10.0, 30.0])
        most = least + chance.choice([5.0, 20.0, 60.0, 200.0])

        def verdicts(*lengths: float) -> dict[str, Verdict]:
            found = self.behind(*lengths)
            return {each.id: each.verdict for each in judged(found.effective(self.sub), found.supply).checks}

        whole = verdicts(least, most)
        for inside in (verdicts(chance.uniform(least, most)), verdicts(least), verdicts(most)):
            for check_id, verdict in inside.items():
                self.assertNotEqual({whole[check_id], verdict}, {Verdict.PASS, Verdict.FAIL}, check_id)

    def test_a_feed_that_does_not_reach_its_board_is_none(self) -> None:
        """Drawn without its cable, or without the board at its end: nothing is taken for granted, nothing breaks."""
        whole = self.behind(10)
        feed = circuit(9, "board", "Hall", None, of="distribution", rating_a=40)
        boards = [board(group("GA", way(9), ma=None)), board(group("GB", way(1)), board_id="B2", fed_by="C9")]
        for bare in (
            feed.model_copy(update={"legs": ()}),
            feed.model_copy(update={"points": (feed.points[0].model_copy(update={"kind": "joint"}),)}),
        ):
            found = house(boards, bare, self.sub.design)
            self.assertEqual([each for each in found.ahead_of(found.by_id["B2"]) if each.feed is not None], [])
        self.assertEqual(len([each for each in whole.ahead_of(whole.by_id["B2"]) if each.feed is not None]), 1)

    def test_the_least_of_a_feed_is_no_more_than_its_length(self) -> None:
        cable = Cable(csa_mm2=10)
        self.assertEqual(Ahead(feed=cable, length_m=9, least_length_m=9).least_length_m, 9)
        for wrong in ({"length_m": 9, "least_length_m": 10}, {"least_length_m": 3}):
            with self.assertRaisesRegex(ValidationError, "no more than length_m"):
                Ahead(feed=cable, **wrong)


if __name__ == "__main__":
    unittest.main()
