"""What readings prove of circuits whose lengths nobody knows, held to truth that is found otherwise.

Random circuits are made with lengths that only the test knows; a third have a bad joint. What is told of them may
leave things open, but never passes what fails or fails what is sound.
"""

import random
import unittest

import numpy as np
from scipy.optimize import linprog

from lumbek.core.checks.loop_by_evidence import _At
from lumbek.core.checks.ring_rule import _most_by_evidence
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import patient_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.evidence.given import LIVE, LOOP, GivenLeg, GivenReading
from lumbek.core.evidence.intervals import Interval
from lumbek.core.evidence.tree import tree_bounds
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.graver import UNEXPLAINED
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import standing
from lumbek.core.network.measure import measure
from lumbek.core.network.readings import crossed, end_to_end
from lumbek.core.protection.zs_limit import ZsLimit
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.testing.lengths import lengths_from_readings
from lumbek.core.testing.sheet import test_sheet
from lumbek.core.testing.taken import Taken
from tests.support.houses import BS, SUPPLY, check, leg, read, run, with_spur
from tests.support.stated import a_device

MEASURED = SUPPLY.model_copy(update={"ze_origin": "measured"})


def answers(circuit: Circuit, *readings: object, supply: object = MEASURED):
    return judge_studied(study_of(BS, supply, circuit, read=Read.of(readings)))


def zs(circuit: Circuit, *readings: object, supply: object = MEASURED):
    return check(answers(circuit, *readings, supply=supply), "zs")


def unknown(circuit: Circuit, legs: set[str]) -> Circuit:
    """The same with nobody knowing how long these legs are."""
    changed = tuple(leg(each.id, each.a, each.b, None) if each.id in legs else each for each in circuit.legs)
    return circuit.model_copy(update={"legs": changed})


class ByName(unittest.TestCase):
    """What is asked for by name."""

    def test_readings_that_bound_every_point_pass_and_none_waits_for_the_farthest_end(self) -> None:
        bare = run(None, None, None, state="as-found")
        open_one = zs(bare)
        self.assertEqual((open_one.verdict, open_one.missing[0]),
                         ("cannot-tell", "reading of R1+R2 at P3, which settles most"))  # fmt: skip
        self.assertEqual(open_one.missing_codes[0], "reading")
        found = answers(bare, read("r1+r2", 0.3, "P3"))
        for each in ("zs", "volt-drop", "withstand"):
            self.assertEqual(check(found, each).verdict, "pass", each)
        # 0.3 x 1.02 + 0.045 = 0.351; 0.21 + 0.351 x 1.2 = 0.6312.
        self.assertAlmostEqual(check(found, "zs").value, 0.21 + 1.2 * (0.3 * 1.02 + 0.045), places=9)
        there = zs(bare, read("r1+r2", 0.1, "P1"), read("r1+r2", 0.3, "P3"))
        self.assertIn("from R1+R2 read there", " ".join(step.text for step in there.steps) + there.steps[0].text)

    def test_a_size_whose_drop_is_not_listed_has_none_by_readings_either(self) -> None:
        thick = run(None, cable=Cable(type="multicore", csa_mm2=35), state="as-found")
        found = check(answers(thick, read("r1+r2", 0.3, "P1")), "volt-drop")
        self.assertEqual(found.verdict, "cannot-tell")
        thin = run(None, cable=Cable(type="multicore", csa_mm2=6), state="as-found")
        self.assertEqual(check(answers(thin, read("r1+r2", 0.05, "P1")), "volt-drop").verdict, "pass")

    def test_a_loop_read_live_is_made_hot_about_its_true_value(self) -> None:
        """0.21 Ω outside and 0.5 Ω of copper: read at 30 °C, 4 % more of it; hot with k = 1.2, 0.21 + 0.6 Ω."""
        hot = Interval(1.2, 1.2)
        for ambient_c in (20.0, 30.0):
            given = Read.of([read("zs", 0.21 + 0.5 * BS.temperature_factor(ambient_c), "P1")], ambient_c)
            found = study_of(BS, MEASURED, run(None), read=given).middle.evidence.read_loop_ohm("P1", hot)
            self.assertAlmostEqual((found.least + found.most) / 2, 0.81)
            self.assertLess(found.most - found.least, 0.25)

    def test_a_point_beyond_what_was_read_is_not_bounded(self) -> None:
        bare = run(None, None, None, state="as-found")
        found = zs(bare, read("r1+r2", 0.2, "P2"))
        self.assertEqual((found.verdict, found.missing),
                         ("cannot-tell", ("reading of R1+R2 at P3, which settles most",)))  # fmt: skip

    def test_a_load_near_one_end_of_a_ring_is_shared_as_its_loop_has_it(self) -> None:
        """By hand: 40 m round, a point at x reads 19.51 mΩ/m x (T - x) / T; the shorter side carries (T - x) / T.

        What is told of it is never less than that, and with readings to a digit not much more.
        """
        bare = run(None, None, state="as-found")
        ring = bare.model_copy(update={"legs": (*bare.legs, leg("L3", "P2", "board", None))})
        total = 40.0
        ends = [read("r1", round(total * 7.41e-3, 2)), read("r2", round(total * 12.1e-3, 2))]
        for x, y in ((4.0, 20.0), (8.0, 30.0), (16.0, 36.0)):
            loops = {"P1": x * (total - x) / total, "P2": y * (total - y) / total}
            readings = [*ends, *(read("r1+r2", round(19.51e-3 * m, 2), point) for point, m in loops.items())]
            evidence = study_of(BS, SUPPLY, ring, read=Read.of(readings)).middle.evidence
            for point, at in (("P1", x), ("P2", y)):
                share = max(at, total - at) / total
                told = evidence.far_share(point)
                self.assertGreaterEqual(told, share - 1e-9)
                self.assertLessEqual(told, min(1.0, share + 0.3))
        # Of a point that nobody has read all of it may go one way.
        self.assertEqual(study_of(BS, SUPPLY, ring, read=Read.of(ends)).middle.evidence.far_share("P9"), 1.0)

    def test_what_cable_alone_proves_of_a_loop(self) -> None:
        """By hand, 19.51 mΩ/m: as drawn and a hundredth; a quarter more where the drawing is shown to be a guess."""

        def proved(circuit: Circuit, *readings: object) -> dict[str, float]:
            return dict(study_of(BS, SUPPLY, circuit, read=Read.of(readings)).middle.evidence.proved_ohm)

        self.assertAlmostEqual(proved(run(10))["P1"], 10 * 19.51e-3 * 1.01)
        # 0.9 Ω fits nothing that is drawn: it may be a quarter longer, and no more is proved.
        self.assertAlmostEqual(proved(run(10), read("r1+r2", 0.9, "P1"))["P1"], 10 * 19.51e-3 * 1.25)
        ring = with_spur(run(10, 10, back=20), "P1", "S1", 4.0)
        quarter = 40 * 1.01 * 19.51e-3 / 4
        found = proved(ring)
        self.assertAlmostEqual(found["P1"], quarter)
        self.assertAlmostEqual(found["S1"], quarter + 4 * 1.01 * 19.51e-3)
        # What hangs at the board has no ring before it; r1 read says how long the ring is.
        board = with_spur(run(10, 10, back=20), "board", "S1", 4.0)
        self.assertAlmostEqual(proved(board)["S1"], 4 * 1.01 * 19.51e-3)
        whole = proved(ring, read("r1", 0.20))["P1"] / 19.51e-3 * 4
        self.assertGreater(whole, 0.20 / 7.41e-3)
        self.assertLess(whole, 0.26 / 7.41e-3)

    def test_loops_that_no_cable_explains_fail_whatever_rcd_stands_there(self) -> None:
        bare, short = run(None, None, None, state="as-found"), run(4, 4, 4)
        for value in (40.2, 2.0, 1.36):
            for circuit in (bare, short):
                found = zs(circuit, read("zs", value, "P3"))
                self.assertEqual(found.verdict, "fail", (value, found.answer))
                self.assertIn(UNEXPLAINED, found.answer)
        self.assertEqual(zs(short, read("r1+r2", 40, "P3")).verdict, "fail")

    def test_over_the_limit_an_rcd_serves_where_live_conductors_prove_the_cable(self) -> None:
        bare = run(None, None, None, state="as-found")
        long = zs(bare, read("zs", 1.5, "P3"), read("r1+rn", 1.0, "P3"))
        self.assertEqual(long.verdict, "pass", long.answer)
        self.assertIn("only the RCD disconnects", long.caution)
        self.assertEqual(zs(bare, read("zs", 1.5, "P3"), read("r1+rn", 0.5, "P3")).verdict, "fail")
        without = bare.model_copy(update={"device": a_device(standard="bs-en-60898", rcd=None)})
        self.assertEqual(zs(without, read("zs", 1.5, "P3"), read("r1+rn", 1.0, "P3")).verdict, "fail")
        # Drawn legs explain as well: 75 m of 2.5/1.5 is 1.46 Ω.
        self.assertEqual(zs(run(25, 25, 25), read("zs", 1.7, "P3")).verdict, "pass")

    def test_a_reading_within_the_meters_band_of_the_limit_settles_nothing(self) -> None:
        bare = run(None, state="as-found")
        for value, verdict in ((0.9, "pass"), (0.93, "cannot-tell"), (1.02, "cannot-tell"), (1.04, "fail")):
            self.assertEqual(zs(bare, read("r1+r2", value, "P1")).verdict, verdict, value)

    def test_a_loop_that_is_surely_over_is_explained_by_its_least(self) -> None:
        """What may be over needs cable for its most, what is over for its least: no more is sure of it."""
        limit = ZsLimit(ohm=1.0, steps=(), by_rcd=False, clause=BS.clause("zs"))
        for zs_ohm, explained in ((Interval(1.1, 1.5), True), (Interval(0.9, 1.5), False)):
            at = _At("P1", limit, zs_ohm, loop_ohm=Interval(0.6, 1.0), proved_ohm=0.7)
            self.assertEqual(at.is_explained, explained)

    def test_only_a_loop_that_no_cable_explains_is_asked_for_again(self) -> None:
        """A drawn cable of 250 m explains 4.8 Ω; where 15 m are drawn it is a joint, or a slip, and read again."""
        without = a_device(rcd=None)
        for circuit, explained in ((run(250, device=without), True), (run(15, None, device=without), False)):
            found = zs(circuit, read("r1+r2", 4.8, "P1"))
            self.assertEqual(found.verdict, Verdict.FAIL)
            self.assertEqual("again" in found.caution.lower(), not explained, found.caution)

    def test_metal_beside_the_cpc_lowers_zs_and_accuses_nobody(self) -> None:
        bare = run(None, None, state="as-found")
        found = zs(bare, read("r1+r2", 0.5, "P2"), read("zs", 0.3, "P2"))
        self.assertEqual(found.verdict, "pass", found.answer)

    def test_old_rings_with_unknown_legs(self) -> None:
        for metres in (62, 70, 84):
            part = metres / 4
            sound = run(part, part, part, back=part)
            taken = ring_readings(sound, points=("P1", "P3"))
            bare = unknown(sound.model_copy(update={"state": "as-found"}), {"L1", "L2", "L3"})
            found = answers(bare, *taken)
            for each in ("zs", "volt-drop", "withstand", "ring-current", "shape"):
                self.assertEqual(check(found, each).verdict, "pass", (metres, each, check(found, each).answer))
            self.assertEqual(zs(bare).missing[0], "reading of r1, end to end of the ring, which settles most")

    def test_the_currents_round_a_ring_are_not_told_by_nothing_or_by_what_does_not_fit(self) -> None:
        sound = run(9, 9, 9, back=9)
        bare = unknown(sound.model_copy(update={"state": "as-found"}), {"L1", "L2", "L3"})
        taken = ring_readings(sound, points=("P1", "P3"))
        # No cable reads 9 Ω crossed and 0.26 Ω from end to end.
        beside = (*taken, read("cross-le", 9, "P2"))
        for some, told in ((taken, "pass"), ((), "cannot-tell"), (beside, "cannot-tell")):
            self.assertEqual(check(answers(bare, *some), "ring-current").verdict, told)

    def test_what_was_read_of_a_neutral_does_not_judge_the_loop(self) -> None:
        sound = run(9, 9, 9, back=9)
        taken = [*ring_readings(sound), read("cross-ln", 0.9, "P2")]
        self.assertEqual(zs(sound, *taken).verdict, "pass")
        self.assertEqual(zs(unknown(sound, {"L2"}), *taken).verdict, "pass")

    def test_what_is_stated_of_a_ring_is_taken_where_it_is_and_not_spread_along_it(self) -> None:
        """Drawn, its legs carry and drop what they do; by its readings alone it is never said to be less."""
        chance = random.Random(5)
        rings = [run(27, 27, 27, back=27, loads=some) for some in ({}, {"P1": 30}, {"P2": 30})]
        # The far point on a spur that hangs near the board, and a load that is stated there.
        near = run(10, 25, 25, 25, back=25, loads={"P2": 12})
        rings += [with_spur(near, "P1", "S1", 40, loads=some) for some in (None, {"S1": 20})]
        for _ in range(30):
            lengths = [round(chance.uniform(2, 12), 1) for _ in range(chance.randint(3, 6))]
            some = {f"P{at}": round(chance.uniform(1, 25), 1) for at in range(1, len(lengths)) if chance.random() < 0.5}
            rings.append(run(*lengths, back=round(chance.uniform(2, 12), 1), loads=some))
        told = 0
        for ring in rings:
            known = study_of(BS, MEASURED, ring).middle
            # From end to end, and at each point with the ring closed, which tells where it is.
            joined = known.wires.cold.joined_ohm
            at_points = (read("r1+r2", round(joined[each.id], 2), each.id) for each in ring.points)
            taken = [*ring_readings(ring, points=(), factor=1.0), *at_points]
            bare = unknown(ring, {each.id for each in ring.legs})
            of = study_of(BS, MEASURED, bare, read=Read.of(taken)).middle
            carried = max(abs(known.currents.flow.leg_a[leg_id]) for leg_id in known.shape.ring_legs)
            self.assertGreaterEqual(_most_by_evidence(of, of.currents.demand)[0], carried - 0.02, known.currents.demand)
            by_readings, by_drawing = (check(answers(*each), "volt-drop") for each in ((bare, *taken), (ring,)))
            if by_readings.verdict is Verdict.PASS:
                told += 1
                self.assertGreaterEqual(by_readings.value, by_drawing.value - 0.01, known.currents.demand)
            elif by_readings.verdict is Verdict.FAIL:
                self.assertIs(by_drawing.verdict, Verdict.FAIL)
        self.assertGreater(told, 15)

    def test_of_a_ring_with_nothing_stated_half_of_what_is_not_far_goes_each_way(self) -> None:
        of = study_of(BS, MEASURED, run(27, 27, 27, back=27), read=Read.of([read("r1+r2", 0.53, "P2")])).middle
        most_a = _most_by_evidence(of, of.currents.demand)[0]
        self.assertAlmostEqual(most_a, 20 * of.evidence.far_share("P2") + 12 / 2)

    def test_of_readings_that_no_lengths_explain_the_worst_point_is_told(self) -> None:
        bare = run(None, None, None, state="as-found")
        for ohm, worst in (((3.0, 4.0, 0.2), "P2"), ((4.0, 3.0, 0.2), "P1")):
            found = zs(bare, *(read("r1+r2", value, f"P{at}") for at, value in enumerate(ohm, start=1)))
            self.assertEqual((found.verdict, found.place.id), ("fail", worst))

    def test_a_size_that_is_not_listed_is_told_of_the_core_that_has_it(self) -> None:
        for cable, size in ((Cable(csa_mm2=3.7, cpc_mm2=1.5), "3.7"), (Cable(csa_mm2=2.5, cpc_mm2=1.7), "1.7")):
            (missing,) = study_of(BS, MEASURED, run(5, cable=cable)).middle.wires.unknown_lengths
            self.assertIn(f"{size} mm² is not a listed size", missing)

    def test_a_feed_of_which_no_current_is_stated_may_drop_what_its_device_lets_through(self) -> None:
        """40 m of 10 mm²: 4.4 mV/A/m x 20 A are 1.5 %, and 63 A 4.8 %, before what the circuit drops itself."""
        for current, told in ((20, "pass"), (None, "cannot-tell"), (63, "fail")):
            mcb = Ahead(device=a_device(standard="bs-en-60898", rating_a=63, rcd=None))
            feed = Ahead(feed=Cable(type="multicore", csa_mm2=10), length_m=40, current_a=current)
            bare = run(None, loads={"P1": 16}, state="as-found", device=a_device(rating_a=16), ahead=(mcb, feed))
            found = check(answers(bare, read("r1+r2", 0.2, "P1")), "volt-drop")
            self.assertEqual(found.verdict, told, (current, found.answer))

    def test_a_fuse_needs_the_loop_to_tell_what_it_lets_through(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=30, rcd=None, breaking_capacity_ka=16)
        bare = run(None, None, state="as-found", device=fuse, cable=Cable(csa_mm2=4))
        self.assertEqual(check(answers(bare), "withstand").verdict, "cannot-tell")
        self.assertNotEqual(check(answers(bare, read("r1+r2", 0.2, "P2")), "withstand").verdict, "cannot-tell")

    def test_lengths_that_are_drawn_decide_as_before_where_readings_agree(self) -> None:
        drawn = run(25, 25)
        for each in ("zs", "volt-drop"):
            plain = check(answers(drawn), each)
            self.assertEqual(check(answers(drawn, read("r1+r2", 0.97, "P2")), each), plain)
        off = zs(drawn, read("r1+r2", 0.78, "P2"))
        self.assertEqual(off.verdict, "pass")
        self.assertIn("drawn lengths are off", off.caution)

    def test_tt_and_a_point_behind_switches(self) -> None:
        tt = MEASURED.model_copy(update={"earthing": "TT", "ze_ohm": 80})
        bare = run(None, None, state="as-found")
        self.assertEqual(zs(bare, supply=tt).verdict, "cannot-tell")
        self.assertEqual(zs(bare, read("r1+r2", 0.4, "P2"), supply=tt).verdict, "pass")

    def test_open_is_no_sound_circuit(self) -> None:
        bare = run(None, None, state="as-found")
        self.assertEqual(zs(bare, read("r1+r2", 1999, "P2", beyond=True)).verdict, "fail")


def ring_readings(circuit: Circuit, points: tuple[str, ...] | None = None, factor: float = 0.97):
    """What a ring reads, a little under its table as copper does, to two decimals."""
    study = study_of(BS, MEASURED, circuit).longest
    wired, ends = study.wires.wired, study.wires.ring_ends
    found = [
        read(quantity, round(measure(wired, end_to_end(ends, core)) * factor, 2))
        for quantity, core in (("r1", "L"), ("rn", "N"), ("r2", "E"))
    ]
    for each in points if points is not None else study.shape.ring_points:
        found.append(read("cross-ln", round(measure(wired, crossed(ends, "N", each)) * factor, 2), each))
        found.append(read("cross-le", round(measure(wired, crossed(ends, "E", each)) * factor, 2), each))
    return found


class OnTheSheet(unittest.TestCase):
    """What is said of readings as they come in."""

    def sheet(self, circuit: Circuit, *readings: object):
        return test_sheet(study_of(BS, MEASURED, circuit, read=Read.of(readings)).middle, tuple(readings))

    def item(self, circuit: Circuit, quantity: str, where: str | None, *readings: object):
        stages = self.sheet(circuit, *readings).stages
        return next(i for s in stages for i in s.items if (i.quantity, i.point) == (quantity, where))

    def test_zs_over_its_limit_fails_where_no_cable_explains_it(self) -> None:
        bare, short, long = run(None, None, state="as-found"), run(4, 4), run(40, 40)
        for circuit, value, verdict in (
            (bare, 40.2, "fail"), (bare, 1.36, "fail"), (short, 2.0, "fail"), (short, 1.36, "fail"),
            (long, 1.75, "pass"),
        ):  # fmt: skip
            found = self.item(circuit, "zs", "P2", read("zs", value, "P2")).check
            self.assertEqual(found.verdict, verdict, (circuit.legs, value))
        explained = self.item(bare, "zs", "P2", read("zs", 1.5, "P2"), read("r1+rn", 1.0, "P2")).check
        self.assertEqual(explained.verdict, "pass")
        self.assertIn("only the RCD", explained.caution)

    def test_the_daily_sums_need_no_length(self) -> None:
        bare = run(None, None, None, back=None, state="as-found")
        bare = bare.model_copy(update={"legs": (*bare.legs, leg("L4", "P3", "board", None))})
        taken = (read("r1", 0.6), read("rn", 0.6), read("r2", 1.0))
        self.assertEqual(self.item(bare, "rn", None, read("r1", 0.6)).expected.shown, "0.60")
        self.assertAlmostEqual(self.item(bare, "r2", None, read("r1", 0.6)).expected.value, 0.6 * 12.1 / 7.41)
        self.assertAlmostEqual(self.item(bare, "cross-ln", "P2", *taken).expected.value, 0.3)
        le = self.item(bare, "cross-le", "P2", *taken).expected
        self.assertAlmostEqual(le.value, 0.4)
        # Near the ends no less than r1 r2 / (r1 + r2).
        self.assertLess(le.low, 0.375 * 0.9)
        zs_there = self.item(bare, "zs", "P2", *taken, read("cross-le", 0.39, "P2")).expected
        self.assertAlmostEqual(zs_there.value, 0.21 + 0.39)

    def test_a_ring_reads_lower_near_its_ends(self) -> None:
        thin = run(None, None, None, None, cable=Cable(csa_mm2=4), state="as-found")
        thin = thin.model_copy(update={"legs": (*thin.legs, leg("L5", "P4", "board", None))})
        taken = [read("cross-le", each, at) for each, at in ((0.62, "P1"), (0.76, "P2"), (0.77, "P3"), (0.76, "P4"))]
        self.assertEqual(self.item(thin, "cross-le", "P1", *taken).check.verdict, "pass")
        high = [*taken[1:], read("cross-le", 0.95, "P1")]
        self.assertEqual(self.item(thin, "cross-le", "P1", *high).check.verdict, "cannot-tell")

    def lengths(self, circuit: Circuit, *readings: object):
        studied = study_of(BS, MEASURED, circuit, read=Read.of(readings))
        return lengths_from_readings(Taken(studied.middle, standing(tuple(readings))))

    def test_lengths_work_with_what_there_is_and_never_break(self) -> None:
        known = self.lengths(run(8), read("r1+r2", 40, "P1"))
        self.assertEqual((known.legs, known.commands), ((), ()))
        self.assertIn("no cable", known.steps[-1].text)
        (one,) = self.lengths(run(5, None), read("r1+r2", 0.2, "P2")).legs
        self.assertEqual(one.found_m, round(0.2 * 1000 / 19.51 - 5, 1))
        both = self.lengths(run(None, None), read("r1+r2", 0.2, "P2"))
        self.assertEqual(both.legs, ())
        self.assertIn(f"{0.2 * 1000 / 19.51:.1f} m", both.steps[-1].sum)
        ring = run(5, None, 5, back=5)
        (left,) = self.lengths(ring, read("r1", 0.2)).legs
        self.assertEqual((left.leg, left.found_m), ("L2", round(0.2 * 1000 / 7.41 - 15, 1)))
        self.assertEqual(self.lengths(ring, read("r1", 30)).legs, ())
        self.assertEqual(self.lengths(ring, read("r1", 0.05)).legs, ())

    def diagnosed(self, circuit: Circuit, *readings: object):
        patient = patient_of(study_of(BS, MEASURED, circuit, read=Read.of(readings)))
        return diagnosis_of(open_inquiry(patient, taken_of(patient, standing(tuple(readings)))))

    def test_sound_old_rings_are_not_accused_and_a_bad_joint_is(self) -> None:
        insulation = (read("insulation-ll", 200), read("insulation-le", 200))
        for metres in (62, 70, 84):
            sound = run(*[metres / 8] * 7, back=metres / 8)
            for gone in ({"L2", "L4", "L6"}, {each.id for each in sound.legs}):
                found = self.diagnosed(unknown(sound, gone), *ring_readings(sound), *insulation)
                self.assertEqual(found.state, "sound", (metres, gone, found.sentence))
                self.assertTrue(found.sentence.startswith("Nothing wrong"))
                bare = self.diagnosed(unknown(sound, gone), *ring_readings(sound))
                self.assertTrue(bare.sentence.startswith("Nothing wrong in what has been read"), bare.sentence)
        sound = run(*[9] * 7, back=9)
        taken = [read("r1", 1.4) if each.quantity == "r1" else each for each in ring_readings(sound, points=())]
        loose = self.diagnosed(unknown(sound, {"L2", "L4", "L6"}), *taken, *insulation)
        self.assertNotEqual(loose.state, "sound")

    def test_a_live_loop_is_evidence(self) -> None:
        sound = run(8, 8, 8)
        taken = [read("r1+r2", 0.15, "P1"), read("r1+r2", 0.31, "P2")]
        high = self.diagnosed(sound, *taken, read("zs", 2.4, "P3"))
        self.assertTrue(high.suspects[0].id != "sound" and "P3" in high.suspects[0].title, high.suspects[0].title)
        right = self.diagnosed(sound, *taken, read("zs", 0.68, "P3"))
        self.assertEqual(right.suspects[0].id, "sound")


class Trees(unittest.TestCase):
    """Bounds of trees held to a linear programme, which knows every leg."""

    def test_bounds_are_exact(self) -> None:
        rng = random.Random(20)
        for _ in range(150):
            count = rng.randint(1, 8)
            cores = (0.00741, 0.00741, 0.0121)
            legs, truth = [], {}
            for at in range(1, count + 1):
                near = "board" if at == 1 else rng.choice(["board", *(f"P{i}" for i in range(1, at))])
                metres, known = rng.uniform(1, 25), rng.random() < 0.4
                span = Interval(metres * 0.93, metres * 1.07) if known else Interval(0.0, 150.0)
                legs.append(GivenLeg(f"L{at}", near, f"P{at}", cores, span, known))
                truth[f"L{at}"] = metres
            readings: dict[str, list[GivenReading]] = {}
            for each in rng.sample(legs, rng.randint(0, count)):
                counts = rng.choice([LOOP, LIVE])
                per_m = cores[0] + (cores[2] if counts is LOOP else cores[1])
                ohm = per_m * sum(truth[one.id] for one in path(legs, each.far))
                room = ohm * 0.02 + 0.045
                readings.setdefault(each.far, []).append(
                    GivenReading(counts, Interval(max(0.0, ohm - room), ohm + room))
                )
            found = tree_bounds(legs, readings, "board", 1e6)
            self.assertIsNotNone(found)
            for each in legs:
                least, most = programme(legs, readings, each.far, cores)
                self.assertAlmostEqual(found[each.far].loop.least, least, places=6)
                # Where nothing bounds it each leg of unknown length is 150 m at most.
                self.assertAlmostEqual(found[each.far].loop.most, most, places=6)

    def test_what_nobody_knows_is_as_long_as_it_may_be_of_its_thinnest_cable(self) -> None:
        """By hand: 3 m of 2.5/1.5 mm² that are known, 150 m together of what is not, all of it the thinner one."""
        thick, thin = (0.00741, 0.00741, 0.0121), (0.0121, 0.0121, 0.0181)
        legs = [
            GivenLeg("L1", "board", "P1", thick, Interval(3, 3), True),
            GivenLeg("L2", "P1", "P2", thick, Interval(0, 150), False),
            GivenLeg("L3", "P2", "P3", thin, Interval(0, 150), False),
        ]
        found = tree_bounds(legs, {}, "board", 150)
        assert found is not None
        known = 3 * (thick[0] + thick[2])
        self.assertAlmostEqual(found["P1"].loop.most, known)
        self.assertAlmostEqual(found["P2"].loop.most, known + 150 * (thick[0] + thick[2]))
        self.assertAlmostEqual(found["P3"].loop.most, known + 150 * (thin[0] + thin[2]))

    def test_what_does_not_agree_is_told(self) -> None:
        cores = (0.00741, 0.00741, 0.0121)
        legs = [GivenLeg("L1", "board", "P1", cores, Interval(9, 10), True)]
        high = {"P1": [GivenReading(LOOP, Interval(0.3, 0.4))]}
        self.assertIsNone(tree_bounds(legs, high, "board", 150))
        two = [
            GivenLeg("L1", "board", "P1", cores, Interval(0, 150), False),
            GivenLeg("L2", "P1", "P2", cores, Interval(0, 150), False),
        ]
        back = {"P1": [GivenReading(LOOP, Interval(0.5, 0.6))], "P2": [GivenReading(LOOP, Interval(0.2, 0.3))]}
        self.assertIsNone(tree_bounds(two, back, "board", 150))


def path(legs: list[GivenLeg], place: str) -> list[GivenLeg]:
    by_far = {each.far: each for each in legs}
    found = []
    while place != "board":
        found.append(by_far[place])
        place = by_far[place].near
    return found


def programme(legs, readings, place, cores) -> tuple[float, float]:
    """Return the least and the greatest loop to a place over every leg's length (simplex)."""
    index = {each.id: at for at, each in enumerate(legs)}
    rows, limits = [], []
    for there, some in readings.items():
        for reading in some:
            row = np.zeros(len(legs))
            for each in path(legs, there):
                row[index[each.id]] = cores[0] + (cores[2] if reading.counts is LOOP else cores[1])
            rows += [row, -row]
            limits += [reading.ohm.most, -reading.ohm.least]
    cost = np.zeros(len(legs))
    for each in path(legs, place):
        cost[index[each.id]] = cores[0] + cores[2]
    spans = [each.length_m for each in legs]
    found = []
    for sign in (1, -1):
        done = linprog(sign * cost, A_ub=rows or None, b_ub=limits or None, bounds=spans, method="highs")
        found.append(sign * done.fun)
    return found[0], found[1]


class BeyondARing(unittest.TestCase):
    def test_line_to_neutral_at_a_spur_bounds_its_loop_by_the_sizes(self) -> None:
        """R1+Rn read as 0.43 Ω is no more than 0.64 Ω of loop, wherever on the ring the spur hangs."""
        ring = with_spur(run(9, 9, 9, 9, 9, 9, 9, back=9), "P4", "S0", 8.0)
        bare = unknown(ring.model_copy(update={"state": "as-found"}), {each.id for each in ring.legs})
        ends = [read(each, ohm) for each, ohm in (("r1", 0.68), ("rn", 0.69), ("r2", 1.17))]
        crossed_ = [read("cross-le", ohm, f"P{at}") for at, ohm in enumerate((0.46, 0.46, 0.47, 0.49, 0.47, 0.46), 1)]
        self.assertEqual(zs(bare, *ends, *crossed_).verdict, Verdict.CANNOT_TELL)
        self.assertEqual(zs(bare, *ends, *crossed_, read("r1+rn", 0.43, "S0")).verdict, Verdict.PASS)

    def test_what_crossed_readings_bound_beyond_a_ring_holds_the_truth_whatever_the_cpc(self) -> None:
        """Every leg unknown; crossed at the spur alone, or at its fellows too. What is allowed is no wide guess."""
        rng = random.Random(5)
        rooms = list[float]()
        for at in range(60):
            cable = Cable(csa_mm2=2.5, cpc_mm2=rng.choice((1.0, 1.5, 2.5)))
            *lengths, back = [rng.uniform(2, 14) for _ in range(5)]
            ring = run(*lengths, back=back, cable=cable, state="as-found")
            drawn = with_spur(ring, f"P{rng.randint(1, 4)}", "S0", rng.uniform(0.5, 9))
            taken = ring_readings(drawn, ("P1", "P2", "P3", "P4", "S0") if at % 2 else ("S0",))
            bare = unknown(drawn, {each.id for each in drawn.legs})
            bounds = study_of(BS, MEASURED, bare, read=Read.of(taken)).middle.evidence.bounds
            cold = study_of(BS, MEASURED, drawn).longest.wires.cold
            assert cold is not None
            truth, told = 0.97 * cold.joined_ohm["S0"], bounds["S0"].loop
            self.assertLessEqual(told.least, truth + 0.01, (at, told))
            self.assertGreaterEqual(told.most, truth - 0.01, (at, told))
            rooms.append(told.most / truth)
        self.assertLess(sum(rooms) / len(rooms), 1.6)


if __name__ == "__main__":
    unittest.main()
