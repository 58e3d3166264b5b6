"""Proposals: each is computed, each does what it says."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lumbek.core.choosing.mend import mend
from lumbek.core.choosing.propose import propose
from lumbek.core.choosing.protect import protect
from lumbek.core.choosing.reach import reach
from lumbek.core.choosing.rebalance import rebalance
from lumbek.core.choosing.size import size_it
from lumbek.core.circuit.laying import lay_run
from lumbek.core.judging.check import Verdict
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.protection.selectivity import selective
from lumbek.exchange.typed_run import parse_run
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, leg, run, study, with_spur, worked_ring
from tests.support.stated import a_circuit, a_device, an_rcd


class Sizes(unittest.TestCase):
    def test_a_showers_pairs_cheapest_first(self) -> None:
        sizes = size_it(BS, SUPPLY, fixed(14, 9500, 45, 10)).sizes
        pairs = [(each.csa_mm2, each.rating_a) for each in sizes]
        self.assertEqual(pairs, [(6, 45), (10, 45), (10, 50), (10, 63), (16, 45), (16, 50), (16, 63)])
        self.assertEqual([each.in_force for each in sizes].index(True), 1)

    def test_without_a_stated_load_the_larger_device_of_a_size_comes_first(self) -> None:
        sizes = size_it(BS, SUPPLY, run(8, 6, device=a_device(rating_a=20))).sizes
        self.assertEqual([(each.csa_mm2, each.rating_a) for each in sizes][:3], [(2.5, 20), (2.5, 16), (4, 32)])

    def test_every_pair_complies_and_says_what_is_tightest(self) -> None:
        for circuit in (worked_ring(), fixed(20, 3000, 16, 2.5, kind="water-heater")):
            for size in size_it(BS, SUPPLY, circuit).sizes:
                self.assertNotEqual(judged(size.design).verdict, Verdict.FAIL)
                self.assertTrue(size.tightest)

    def test_where_nothing_works_it_says_at_what(self) -> None:
        sizes = size_it(BS, SUPPLY, fixed(400, 9500, 45, 10))
        self.assertEqual(sizes.sizes, ())
        self.assertIn(sizes.nearest, ("Voltage drop", "Fault loop Zs", "Cable capacity"))


class Mends(unittest.TestCase):
    def changes(self, circuit: Circuit, supply=SUPPLY, rulebook=BS) -> dict[str, Circuit]:
        found = mend(rulebook, supply, circuit)
        for each in found:
            after = {c.title for c in judged(each.design, supply, rulebook).checks if c.verdict is Verdict.FAIL}
            self.assertEqual(after, set(each.leaves), each.change)
            self.assertTrue(each.mends)
        return {each.change: each.design for each in found}

    def test_a_sound_circuit_needs_none(self) -> None:
        self.assertEqual(mend(BS, SUPPLY, worked_ring()), ())

    def test_missing_rcd(self) -> None:
        bare = fixed(
            5, 2000, 16, 2.5, kind="water-heater", device=a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        )
        self.assertIn("A 30 mA RCD, type A", self.changes(bare))

    def test_loft_insulation(self) -> None:
        lofty = fixed(14, 9500, 45, 10, method="101")
        self.assertIn("The whole run in 16 mm²", self.changes(lofty))

    def test_too_long_a_run_gets_shorter_or_thicker(self) -> None:
        changes = self.changes(fixed(90, 2300, 16, 1.5, kind="outdoor"))
        self.assertTrue(any(change.startswith("A run no longer than") for change in changes))
        self.assertIn("The whole run in 4 mm²", changes)

    def test_curve(self) -> None:
        mcb = a_device(standard="bs-en-60898", curve="D", rating_a=32, rcd=None)
        slow = fixed(30, 3000, 32, 4, kind="fixed-appliance", device=mcb)
        self.assertIn("Type B instead of D", self.changes(slow))

    @settings(max_examples=20)
    @given(st.floats(5, 150), st.sampled_from([1.0, 1.5, 2.5, 4.0]), st.sampled_from(["B", "C", "D"]))
    def test_whatever_is_proposed_holds(self, length, csa, curve) -> None:
        self.changes(fixed(length, 2800, 16, csa, kind="fixed-appliance", device=a_device(curve=curve, rating_a=16)))

    def test_a_feed_that_is_too_thin_and_a_device_ahead_that_breaks_too_little(self) -> None:
        way = a_device(standard="bs-en-60898", curve="C", rating_a=50, rcd=None)
        feed = Ahead(name="Feed", feed=Cable(type="multicore", csa_mm2=6), length_m=12, current_a=40)
        fed = run(5, 5, back=5, ahead=(Ahead(name="Way 3", device=way), feed))
        changes = self.changes(fed)
        self.assertIn("Feed in 10 mm²", changes)
        self.assertIn("Way 3 at 40 A", changes)
        strong = SUPPLY.model_copy(update={"fault_current_ka": 7.5})
        thick = feed.model_copy(update={"feed": Cable(type="multicore", csa_mm2=10)})
        weak = run(
            5, device=a_device(rating_a=16, breaking_capacity_ka=10), ahead=(Ahead(name="Way 3", device=way), thick)
        )
        self.assertIn("Way 3 to break 10 kA", self.changes(weak, strong))

    def test_what_is_joined_wrongly_is_put_right_first(self) -> None:
        ring = worked_ring()
        bridged = ring.model_copy(update={"legs": (*ring.legs, leg("X", "P2", "P6", 6))})
        for wrong, change in (
            (run(9, 4.5, 6, 3, 7.5, 5, 8), "Close the ring: a cable from P7 back to the board"),
            (with_spur(ring, "S1", "S2", 3), "S2 on a spur of its own from P4"),
            (bridged, "Take out the cable from P2 to P6"),
        ):
            first = mend(BS, SUPPLY, wrong)[0]
            self.assertEqual((first.change, first.leaves), (change, ()))

    def test_a_device_comes_last_where_its_cable_is_right_and_before_the_cable_where_it_is_not(self) -> None:
        thin = list(self.changes(run(9, 6, 6, 5)))
        self.assertLess(thin.index("20 A instead of 32 A"), thin.index("The whole run in 4 mm²"))
        long = list(self.changes(run(35, 4, cable=Cable(csa_mm2=4))))
        self.assertEqual(long[0], "The whole run in 6 mm²")
        self.assertEqual(long[-3:], ["25 A instead of 32 A", "20 A instead of 32 A", "16 A instead of 32 A"])

    def test_no_rating_less_than_usual_is_offered(self) -> None:
        for change in self.changes(run(70, 20, 20, device=a_device(rating_a=32))):
            self.assertFalse(change.startswith(("6 A", "10 A")), change)

    def test_two_faults_are_mended_by_a_pair(self) -> None:
        bare = a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        long = fixed(90, 2300, 16, 1.5, kind="outdoor", device=bare)
        first, *others = mend(BS, SUPPLY, long)
        self.assertEqual(first.change, "A 30 mA RCD, type A; and the whole run in 4 mm²")
        self.assertEqual(first.leaves, ())
        self.assertTrue(all(each.leaves for each in others))

    def test_legs_with_a_cable_of_their_own_are_named_as_apart(self) -> None:
        long = fixed(90, 2300, 16, 1.5, kind="outdoor")
        own = with_spur(long, "P1", "P2", 1, kind="socket-single", loads={"P2": 1})
        legs = (*own.legs[:-1], own.legs[-1].model_copy(update={"cable": Cable(csa_mm2=2.5)}))
        self.assertIn(
            "The whole run in 4 mm², except 1 cable with its own size",
            self.changes(own.model_copy(update={"legs": legs})),
        )

    def test_what_its_house_would_refuse_is_not_offered(self) -> None:
        """A change that fails something between circuit and board is no repair, whatever it mends."""
        open_ring = run(9, 4.5, 6, 3, 7.5, 5, 8)

        def refuses(changed: Circuit) -> set[str]:
            return {"board:A way"} if len(changed.legs) > len(open_ring.legs) else set()

        changes = [each.change for each in mend(BS, SUPPLY, open_ring, house_fails=refuses)]
        self.assertIn("The whole run in 6 mm²", changes)
        self.assertFalse([each for each in changes if each.startswith("Close the ring")])


class Reaches(unittest.TestCase):
    def scaled(self, circuit: Circuit, factor: float) -> Circuit:
        legs = tuple(
            each.model_copy(
                update={
                    "segments": tuple(s.model_copy(update={"length_m": s.length_m * factor}) for s in each.segments)
                }
            )
            for each in circuit.legs
        )
        return circuit.model_copy(update={"legs": legs})

    def test_each_limit_is_just_met_there(self) -> None:
        for circuit in (worked_ring(), fixed(14, 9500, 45, 10), run(8, 6, 9, device=a_device(rating_a=20))):
            # With an RCD a longer loop than this is for the RCD to cut off.
            device = circuit.device.model_copy(update={"rcd": None})
            circuit = circuit.model_copy(update={"device": device})  # noqa: PLW2901
            found = reach(BS, SUPPLY, circuit)
            self.assertEqual(len(found.limits), 2)
            for limit in found.limits:
                for factor, verdict in ((0.999, "pass"), (1.001, "fail")):
                    scaled = self.scaled(circuit, limit.factor * factor)
                    self.assertEqual(check(judged(scaled), limit.check).verdict, verdict)

    def test_the_length_that_is_told_is_the_one_it_may_have(self) -> None:
        """A run of 10 m with all of its load at the end: at the length told it passes, a decimetre on it fails."""
        plain = run(10, device=a_device(rating_a=20, rcd=None), loads={"P1": 18.0})
        found = reach(BS, SUPPLY, plain)
        self.assertEqual((found.length_m, found.shown), (10, "10.0 m"))
        self.assertEqual({each.check for each in found.limits}, {"volt-drop", "zs"})
        for limit in found.limits:
            self.assertAlmostEqual(limit.length_m, 10 * limit.factor)
            shown = float(limit.shown.removesuffix(" m"))
            self.assertLessEqual(shown, limit.length_m)
            for metres, verdict in ((shown, "pass"), (shown + 0.11, "fail")):
                there = run(metres, device=a_device(rating_a=20, rcd=None), loads={"P1": 18.0})
                self.assertEqual(check(judged(there), limit.check).verdict, verdict, (limit.check, metres))

    def test_it_is_the_first_point_to_meet_its_own_limit_that_counts(self) -> None:
        # Behind a 3 A fuse the limit is far higher: the ring's own points meet theirs first.
        bare = a_device(standard="bs-en-60898", rcd=None)
        ring = with_spur(run(9, 9, 9, back=9, device=bare), "P2", "F1", 1, kind="fused-spur", fuse_a=3)
        ring = with_spur(ring, "F1", "Q1", 12, kind="fixed")
        found = next(each for each in reach(BS, SUPPLY, ring).limits if each.check == "zs")
        for factor, verdict in ((0.999, "pass"), (1.001, "fail")):
            self.assertEqual(check(judged(self.scaled(ring, found.factor * factor)), "zs").verdict, verdict)

    def test_ranges_are_scaled_from_their_greatest_and_ct_counts(self) -> None:
        circuit = run(8, 6, device=a_device(rating_a=20))
        last = circuit.legs[1].model_copy(update={"segments": (Segment(length_m=6, length_to_m=9),)})
        ranged = circuit.model_copy(update={"legs": (circuit.legs[0], last)})
        self.assertEqual(reach(BS, SUPPLY, ranged), reach(BS, SUPPLY, run(8, 9, device=a_device(rating_a=20))))
        warm = circuit.model_copy(update={"drop_with_ct": True})
        drop = [next(x for x in reach(BS, SUPPLY, c).limits if x.check == "volt-drop").factor for c in (circuit, warm)]
        self.assertGreater(drop[1], drop[0])

    def test_withstand_holds_at_any_length_or_at_none(self) -> None:
        self.assertEqual(reach(BS, SUPPLY, worked_ring()).any_length, ("Fault withstand",))
        found = reach(BS, SUPPLY, run(5, device=a_device(rating_a=20, let_through_a2s=60_000)))
        self.assertEqual((found.any_length, found.limits[0].check, found.limits[0].length_m), ((), "withstand", 0))

    def test_unknown_lengths_are_asked_for(self) -> None:
        self.assertTrue(reach(BS, SUPPLY, run(5, None)).missing)


class Rebalanced(unittest.TestCase):
    def test_a_leg_over_20_a_gets_a_better_order(self) -> None:
        crowded = worked_ring({"P1": 10, "P2": 13, "P3": 0.1, "P4": 0.1, "P5": 0.1, "P6": 7, "P7": 0.1, "S1": 2})
        found = rebalance(BS, SUPPLY, crowded)
        self.assertTrue(found)
        for each in found:
            flow = study(each.design).currents.flow
            self.assertAlmostEqual(
                max(abs(flow.leg_a[leg]) for leg in study(each.design).shape.ring_legs), each.after_a
            )
            self.assertLess(each.after_a, each.before_a)
        self.assertLess(found[0].after_a, 20)
        self.assertEqual(rebalance(BS, SUPPLY, worked_ring()), ())


class Protected(unittest.TestCase):
    def test_both_schools_with_what_they_give_up(self) -> None:
        own = protect(BS, SUPPLY, worked_ring(), "rcbo-each")
        shared = protect(BS, SUPPLY, worked_ring(), "shared-rcds")
        self.assertEqual((own.design.device.standard, shared.design.device.standard), ("bs-en-61009", "bs-en-60898"))
        self.assertFalse(own.design.device.rcd.shared)
        self.assertTrue(shared.design.device.rcd.shared)
        self.assertNotEqual(own.gives_up, shared.gives_up)
        for advised in (own, shared):
            self.assertEqual(judged(advised.design).verdict, Verdict.PASS)

    def test_the_recommendation_follows_load_and_supply(self) -> None:
        car = Point(id="P1", kind="fixed", loads=(Load(name="Charger", current_a=32, dc="smooth"),))
        circuit = fixed(10, 7000, 40, 10, kind="vehicle-charging").model_copy(update={"points": (car,)})
        strong = SUPPLY.model_copy(update={"fault_current_ka": 8})
        found = protect(BS, strong, circuit, "rcbo-each").design.device
        self.assertEqual((found.rcd.type, found.rating_a, found.breaking_capacity_ka), ("B", 32, 10))

    def test_selectivity_of_rcds_in_series(self) -> None:
        for rcd, fits in (
            (an_rcd(rated_ma=100, delayed=True), True),
            (an_rcd(rated_ma=100), False),
            (an_rcd(delayed=True), False),
        ):
            upstream = a_device(standard="bs-en-61009", rating_a=63, rcd=rcd)
            self.assertEqual(selective(BS, upstream, a_device(), 0.1).verdict is Verdict.PASS, fits)

    def test_leakage_of_the_loads_is_part_of_the_advice(self) -> None:
        leaky = Point(id="P1", loads=(Load(current_a=2, leakage_ma=5), Load(current_a=2, leakage_ma=4.5)))
        circuit = run(5).model_copy(update={"points": (leaky,)})
        for school, words in (("rcbo-each", "trips for no fault"), ("shared-rcds", "other circuits")):
            advice = next(x for x in protect(BS, SUPPLY, circuit, school).advice if x.what.startswith("Leakage"))
            self.assertEqual((advice.what, advice.has), ("Leakage of the loads 9.5 mA", False))
            self.assertIn(words, advice.why)
        silent = [x.what for x in protect(BS, SUPPLY, run(5), "rcbo-each").advice]
        self.assertFalse(any(what.startswith("Leakage") for what in silent))

    def test_charging_not_said_to_detect_dc_is_given_type_b(self) -> None:
        unsaid = fixed(10, 7000, 40, 10, kind="vehicle-charging")
        found = protect(BS, SUPPLY, unsaid, "rcbo-each")
        self.assertEqual(found.design.device.rcd.type, "B")
        self.assertTrue(any("unless it detects 6 mA" in advice.why for advice in found.advice))

    def test_all_proposals_for_anything(self) -> None:
        for circuit in (a_circuit(), run(5, None), worked_ring()):
            for book in (BS, IEC):
                propose(book, SUPPLY, circuit, "rcbo-each").model_dump_json()


class Bulk(unittest.TestCase):
    def test_a_typed_run(self) -> None:
        typed = parse_run(
            "9m kitchen: by the door twin, 4,5 m fridge single, spur 3.5m reading seat; ? hall light\nback 11m"
        )
        self.assertEqual(typed.problems, ())
        self.assertEqual([each.length_m for each in typed.entries], [9, 4.5, 3.5, None, 11])
        self.assertEqual(typed.entries[0].room, "kitchen")
        self.assertEqual([each.kind for each in typed.entries[:2]], ["socket-twin", "socket-single"])
        result = judged(lay_run(a_circuit(), typed.entries))
        self.assertEqual(result.shape.kind, "ring-with-spurs")

    def test_what_is_not_understood_is_named(self) -> None:
        typed = parse_run("9m a, twin, 900m b")
        self.assertEqual([each.field for each in typed.problems], ["entry 2", "entry 3"])
        self.assertEqual(len(typed.entries), 1)

    def test_csv_with_either_divider(self) -> None:
        for text in (
            "length,kind,name,room,spur\n9,twin,Door,Kitchen,\n3.5,single,Seat,,yes\n11,back,,,\n",
            "length_m;kind;point;room;spur\n9;twin;Door;Kitchen;\n3,5;single;Seat;;yes\n11;back;;;\n",
        ):
            typed = parse_run(text)
            self.assertEqual(typed.problems, ())
            self.assertEqual(judged(lay_run(a_circuit(), typed.entries)).shape.kind, "ring-with-spurs")
        wrong = parse_run("length,kind\nnine,twin\n4,lamp\n")
        self.assertEqual([each.field for each in wrong.problems], ["line 2, length", "line 3, kind"])

    def test_too_long_a_run_is_refused(self) -> None:
        with self.assertRaises(ValidationError):
            lay_run(a_circuit(), parse_run(", ".join(["2m"] * 201)).entries)

    def test_what_cannot_be_printed_is_no_name(self) -> None:
        for text in ("1 \x08", "2m kitchen\x00", "length,name\n3,door\x1b\n", "length,name,room\n3,door,hall\x1b\n"):
            typed = parse_run(text)
            self.assertEqual((typed.entries, len(typed.problems)), ((), 1))
            self.assertIn("cannot be printed", typed.problems[0].reason)

    @given(st.text(max_size=200))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        lay_run(a_circuit(), parse_run(text).entries)
