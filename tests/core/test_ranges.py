"""What is known only between two lengths, or by a resistance: one answer over all of it."""

import unittest
from collections.abc import Sequence
from itertools import product
from random import Random

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.verdict import _drop
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.study.door import study_of
from lumbek.core.study.lengths import settle
from tests.support.houses import BS, IEC, SUPPLY, check, judged, leg, run, study, with_spur, worked_ring
from tests.support.stated import a_device

RADIAL = {"device": a_device(rating_a=20)}


def ranged(circuit: Circuit, **ends: tuple[float, float]) -> Circuit:
    """Give legs a range: L2=(5, 9)."""
    legs = tuple(
        each.model_copy(update={"segments": (Segment(length_m=ends[each.id][0], length_to_m=ends[each.id][1]),)})
        if each.id in ends
        else each
        for each in circuit.legs
    )
    return circuit.model_copy(update={"legs": legs})


class SureDrops(unittest.TestCase):
    def told(self, circuit: Circuit) -> Verdict | None:
        """What is sure of the drops at any lengths of a circuit."""
        box = study_of(BS, SUPPLY, circuit).box
        assert box is not None
        return _drop(box)

    def test_what_is_bounded_is_told_for_runs_and_rings(self) -> None:
        """20 A over 5 to 90 m of 2.5 mm² loses 1.8 V at the least and 32.4 V at the most."""
        for most, verdict in ((6, Verdict.PASS), (90, Verdict.CANNOT_TELL)):
            self.assertEqual(self.told(ranged(run(5, loads={"P1": 20}, **RADIAL), L1=(5, most))), verdict)
        self.assertEqual(self.told(ranged(run(5, loads={"P1": 20}, **RADIAL), L1=(80, 90))), Verdict.FAIL)
        self.assertEqual(self.told(ranged(run(5, 5, back=5, loads={"P1": 10}), L1=(4, 6))), Verdict.PASS)

    def test_of_another_shape_nothing_is_told_here(self) -> None:
        ring = run(5, 5, 5, back=5, loads={"P1": 5})
        crossed = ring.model_copy(update={"legs": (*ring.legs, leg("X", "P1", "P3", 5))})
        self.assertIsNone(self.told(ranged(crossed, L1=(5, 6))))


class AtWhichLengths(unittest.TestCase):
    def test_the_greatest_lengths_are_not_told_and_others_are(self) -> None:
        """The loop is worst at the greatest lengths; one end of a ring carries most where the way back is short."""
        found = judged(ranged(run(10, 10, back=10, loads={"P1": 12, "P2": 12}), L1=(2, 10), L3=(2, 10)))
        named = {each.id: [step.sum for step in each.steps if step.text == "At these lengths"] for each in found.checks}
        self.assertEqual((named["zs"], named["ring-current"]), ([], ["P2 to the board 2 m"]))
        self.assertNotIn("", [sum_ for some in named.values() for sum_ in some])


class Variants(unittest.TestCase):
    def test_nothing_unknown_is_one_circuit_as_it_is(self) -> None:
        found = settle(BS, worked_ring())
        self.assertEqual((found.variants, found.assumptions), ((worked_ring(),), ()))

    def test_one_range_is_its_two_ends(self) -> None:
        found = settle(BS, ranged(run(5, 5, 5), L2=(4, 9)))
        self.assertEqual([variant.legs[1].length_m for variant in found.variants], [4, 9])
        self.assertEqual(found.assumptions, ("P1 to P2: 4 to 9 m",))

    def test_several_ranges_are_tried_each_against_the_others(self) -> None:
        found = settle(BS, ranged(run(5, 5, back=5), L1=(4, 9), L3=(2, 6)))
        pairs = {(variant.legs[0].length_m, variant.legs[2].length_m) for variant in found.variants}
        self.assertEqual(pairs, {(4, 2), (9, 2), (4, 6), (9, 6)})

    def test_very_many_ranges_keep_to_their_ends(self) -> None:
        circuit = ranged(run(*[5.0] * 14), **{f"L{index}": (4.0, 6.0) for index in range(1, 15)})
        self.assertEqual(len(settle(BS, circuit).variants), 2)

    def test_a_reading_is_expected_from_the_middle(self) -> None:
        circuit = ranged(run(5, 5), L2=(4, 9))
        self.assertEqual(settle(BS, circuit).middle.legs[1].length_m, 6.5)
        expected = study(settle(BS, circuit).middle).wires.cold.joined_ohm["P2"]
        self.assertAlmostEqual(expected, 11.5 * 19.51e-3)

    def test_a_range_beside_a_fixed_segment(self) -> None:
        segments = (Segment(length_m=3), Segment(length_m=2, length_to_m=5, method="103"))
        circuit = run(5, 5)
        two = circuit.legs[1].model_copy(update={"segments": segments})
        found = settle(BS, circuit.model_copy(update={"legs": (circuit.legs[0], two)}))
        self.assertEqual([variant.legs[1].length_m for variant in found.variants], [5, 8])


class Verdicts(unittest.TestCase):
    def test_a_ring_shares_worst_where_its_sides_are_unlike(self) -> None:
        even = run(10, 10, back=10, loads={"P1": 12, "P2": 12})
        found = check(judged(ranged(even, L1=(2, 10), L3=(2, 10))), "ring-current")
        worst = check(judged(run(2, 10, back=10, loads={"P1": 12, "P2": 12})), "ring-current")
        self.assertAlmostEqual(found.value, worst.value)
        self.assertGreater(found.value, check(judged(even), "ring-current").value)

    def test_the_figures_shown_are_those_of_the_greatest_lengths(self) -> None:
        circuit = ranged(run(5, 5, **RADIAL), L2=(5, 30))
        long = judged(run(5, 30, **RADIAL))
        self.assertEqual([each.zs_ohm for each in judged(circuit).points], [each.zs_ohm for each in long.points])

    @settings(max_examples=40)
    @given(st.floats(1, 60), st.floats(0, 60), st.floats(0, 1))
    def test_a_length_inside_never_fails_what_the_whole_range_passes(self, low, more, part) -> None:
        whole = judged(ranged(run(5, 5, **RADIAL), L2=(low, low + more)))
        inside = judged(run(5, low + more * part, **RADIAL))
        for one, other in zip(whole.checks, inside.checks, strict=True):
            if one.verdict is Verdict.PASS:
                self.assertEqual(other.verdict, Verdict.PASS, one.id)
            if one.verdict is Verdict.FAIL:
                self.assertEqual(other.verdict, Verdict.FAIL, one.id)


class Bounds(unittest.TestCase):
    @settings(max_examples=25)
    @given(
        st.lists(st.tuples(st.integers(2, 20), st.integers(0, 20)), min_size=3, max_size=4),
        st.lists(st.integers(1, 12), min_size=3, max_size=3),
    )
    def test_currents_of_a_ring_lie_between_those_of_all_its_corners(
        self, ends: list[tuple[int, int]], amps: list[int]
    ) -> None:
        """Each leg at its least or greatest length, every way: no current lies beyond the bounds, and both are met."""
        spans = [(least, least + more) for least, more in ends]
        loads = {f"P{at}": float(each) for at, each in enumerate(amps[: len(spans) - 1], start=1)}

        def ring(lengths: Sequence[float]) -> Circuit:
            return run(*lengths[:-1], back=lengths[-1], loads=loads)

        said = ranged(ring([least for least, _ in spans]), **{f"L{at}": span for at, span in enumerate(spans, start=1)})
        box = study_of(BS, SUPPLY, said).box
        if box is None:
            return
        (bounds,) = box.ring_currents_a()
        corners = []
        for lengths in product(*spans):
            flow = study(ring(lengths)).currents.flow
            assert flow is not None
            corners.append(flow.leg_a)
        for leg_id, bound in bounds.items():
            currents = [corner[leg_id] for corner in corners]
            self.assertAlmostEqual(bound.least, min(currents), places=6)
            self.assertAlmostEqual(bound.most, max(currents), places=6)

    @settings(max_examples=25)
    @given(
        st.lists(st.tuples(st.integers(2, 20), st.integers(0, 20)), min_size=3, max_size=4),
        st.lists(st.integers(1, 12), min_size=3, max_size=3),
        st.booleans(),
    )
    def test_drops_at_all_corners_lie_between_the_bounds(
        self, ends: list[tuple[int, int]], amps: list[int], is_ring: bool
    ) -> None:
        spans = [(least, least + more) for least, more in ends]
        loads = {f"P{at}": float(each) for at, each in enumerate(amps[: len(spans) - 1], start=1)}

        def laid(lengths: Sequence[float]) -> Circuit:
            """A ring has a spur of 4 m besides."""
            whole = run(*lengths[:-1], back=lengths[-1] if is_ring else None, loads=loads)
            return with_spur(whole, "P1", "S1", 4.0, loads={"S1": 6.0}) if is_ring else whole

        ranges = {f"L{at}": span for at, span in enumerate(spans[: None if is_ring else -1], start=1)}
        box = study_of(BS, SUPPLY, ranged(laid([least for least, _ in spans]), **ranges)).box
        if box is None:
            return
        (bounds,) = box.ring_drops_v() if is_ring else box.open_drops_v()
        for lengths in product(*spans):
            flow = study(laid(lengths)).currents.flow
            assert flow is not None
            self.assertEqual("S1" in bounds, is_ring)
            for point, bound in bounds.items():
                self.assertLessEqual(bound.least, flow.drop_v[point] + 1e-9)
                self.assertGreaterEqual(bound.most, flow.drop_v[point] - 1e-9)

    @settings(max_examples=30)
    @given(st.randoms(use_true_random=False))
    def test_what_is_sure_over_ranges_is_so_at_every_length_within(self, chance: Random) -> None:
        """Rings and radials, legs in insulation or not, loads anywhere: no pass that fails inside, no such failure."""
        points, is_ring = chance.randint(2, 4), chance.random() < 0.6
        spans = [
            (least, least + chance.choice([0, 1, 5, 15, 30]))
            for least in (chance.choice([1, 3, 8, 20, 30]) for _ in range(points + is_ring))
        ]
        loads = {f"P{at}": float(chance.choice([1, 3, 6, 10, 14, 20])) for at in range(1, points + 1)}
        methods = [chance.choice([None, None, "103", "A", "C"]) for _ in spans]
        device = a_device(rating_a=chance.choice([16, 20, 32]))

        def laid(*segments: Segment) -> Circuit:
            lengths = [each.length_m or 0.0 for each in segments]
            whole = run(*lengths[:points], back=lengths[points] if is_ring else None, loads=loads, device=device)
            legs = (
                leg.model_copy(update={"segments": (each,)}) for leg, each in zip(whole.legs, segments, strict=True)
            )
            return whole.model_copy(update={"legs": tuple(legs)})

        def between(least: float, most: float, method: str | None) -> Segment:
            return Segment(length_m=least, length_to_m=most if most > least else None, method=method)

        ranges = (between(*span, method) for span, method in zip(spans, methods, strict=True))
        whole = {each.id: each.verdict for each in judged(laid(*ranges)).checks}
        for _ in range(3):
            lengths = (chance.choice([least, most, chance.uniform(least, most)]) for least, most in spans)
            inside = (Segment(length_m=each, method=method) for each, method in zip(lengths, methods, strict=True))
            for one in judged(laid(*inside)).checks:
                self.assertFalse({whole[one.id], one.verdict} == {Verdict.PASS, Verdict.FAIL}, (one.id, one.answer))

    def test_a_leg_in_insulation_that_carries_most_fails_at_any_length(self) -> None:
        """A heavy load near one end of a ring, whose first leg carries least of all: it is that leg which is too thin.

        Reckoned for the leg at the other end, as it once was, it would pass.
        """
        heavy = run(2, 20, back=20, loads={"P1": 24.0, "P2": 4.0})
        first = Segment(length_m=2, length_to_m=3, method="103")
        legs = (heavy.legs[0].model_copy(update={"segments": (first,)}), *heavy.legs[1:])
        said = heavy.model_copy(update={"kind": "sockets", "legs": legs})
        self.assertEqual(check(judged(said), "ring-current").verdict, Verdict.FAIL)
        for metres in (2, 3):
            fixed = legs[0].model_copy(update={"segments": (Segment(length_m=metres, method="103"),)})
            one = said.model_copy(update={"legs": (fixed, *legs[1:])})
            self.assertEqual(check(judged(one), "ring-current").verdict, Verdict.FAIL)


class FromResistance(unittest.TestCase):
    def measured(self, r1_ohm: float, book=BS, **more: object) -> Circuit:
        circuit = run(5, None, **more)
        known = circuit.legs[1].model_copy(update={"measured_r1_ohm": r1_ohm})
        return circuit.model_copy(update={"legs": (circuit.legs[0], known)})

    def test_length_is_resistance_over_resistance_per_metre(self) -> None:
        for csa, each in ((1.0, 18.10), (1.5, 12.10), (2.5, 7.41), (10.0, 1.83)):
            circuit = self.measured(0.2, cable=Cable(csa_mm2=csa))
            self.assertAlmostEqual(judged(circuit).legs[1].length_m, 200 / each)

    def test_a_known_length_is_not_overruled(self) -> None:
        circuit = run(5, 7)
        both = circuit.legs[1].model_copy(update={"measured_r1_ohm": 0.5})
        found = judged(circuit.model_copy(update={"legs": (circuit.legs[0], both)}))
        self.assertEqual((found.legs[1].length_m, found.assumptions), (7, ()))

    def test_a_size_without_a_resistance_stays_unknown(self) -> None:
        circuit = self.measured(0.2, cable=Cable(csa_mm2=3.3))
        self.assertEqual(check(judged(circuit), "zs").verdict, Verdict.CANNOT_TELL)

    def test_it_holds_beside_a_range_and_in_the_other_book(self) -> None:
        circuit = ranged(self.measured(0.0741), L1=(3, 6))
        for book in (BS, IEC):
            found = judged(circuit, SUPPLY, book)
            self.assertEqual(len(found.assumptions), 2)
            self.assertAlmostEqual(found.points[1].r1_ohm, (6 + 10) * 7.41e-3)
