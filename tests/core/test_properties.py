"""What must hold for every circuit, whatever its lengths, order and loads."""

import random
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.rulebooks import Rulebook
from tests.support.houses import BS, IEC, SUPPLY, judged, run, study, with_spur
from tests.support.stated import a_device

lengths = st.lists(st.floats(0.5, 40), min_size=2, max_size=8)
amps = st.floats(0.1, 13)


def worst_drop(circuit: Circuit) -> float:
    return max(study(circuit).currents.flow.drop_v.values())


class Properties(unittest.TestCase):
    @given(lengths, st.floats(0.5, 40), st.floats(0.1, 30), st.integers(0, 8), st.lists(amps, min_size=8, max_size=8))
    def test_more_length_never_lowers_zs_nor_the_worst_drop_of_a_radial(self, spec, back, more, at, loads) -> None:
        given_loads = {f"P{i + 1}": loads[i] for i in range(len(spec))}
        longer = [length + (more if index == at % len(spec) else 0) for index, length in enumerate(spec)]
        for closed in (None, back):
            before, after = run(*spec, back=closed), run(*longer, back=closed)
            for point, ohm in study(before).wires.cold.joined_ohm.items():
                self.assertGreaterEqual(study(after).wires.cold.joined_ohm[point], ohm - 1e-9)
        before = run(*spec, loads=given_loads)
        self.assertGreaterEqual(worst_drop(run(*longer, loads=given_loads)), worst_drop(before) - 1e-9)

    @given(lengths, st.floats(0.5, 40), st.floats(0.1, 30), st.integers(0, 8), st.lists(amps, min_size=8, max_size=8))
    def test_more_length_anywhere_in_a_ring_never_lowers_its_worst_drop(self, spec, back, more, at, loads) -> None:
        given_loads = {f"P{i + 1}": loads[i] for i in range(len(spec))}
        legs = [*spec, back]
        legs[at % len(legs)] += more
        before, after = run(*spec, back=back, loads=given_loads), run(*legs[:-1], back=legs[-1], loads=given_loads)
        self.assertGreaterEqual(worst_drop(after), worst_drop(before) - 1e-9)

    @given(lengths, st.floats(0.5, 40), st.lists(amps, min_size=8, max_size=8))
    def test_a_rings_legs_carry_its_loads_together(self, spec, back, loads) -> None:
        at = {f"P{i + 1}": loads[i] for i in range(len(spec))}
        flow = study(run(*spec, back=back, loads=at)).currents.flow
        first, last = flow.leg_a["L1"], flow.leg_a[f"L{len(spec) + 1}"]
        self.assertAlmostEqual(first - last, sum(at.values()), places=6)

    @given(
        st.lists(st.one_of(st.floats(0.5, 40), st.just(0.5)), min_size=1, max_size=8),
        st.one_of(st.floats(0.5, 60), st.just(400.0)),
        st.lists(amps, min_size=8, max_size=8),
        st.sampled_from([1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0]),
    )
    def test_closing_a_ring_never_makes_a_point_worse(self, spec, back, loads, csa) -> None:
        at, cable = {f"P{i + 1}": loads[i] for i in range(len(spec))}, Cable(csa_mm2=csa)
        open_run = study(run(*spec, loads=at, cable=cable))
        ring = study(run(*spec, back=back, loads=at, cable=cable))
        for point in at:
            self.assertLessEqual(ring.wires.cold.joined_ohm[point], open_run.wires.cold.joined_ohm[point] + 1e-9)
            self.assertLessEqual(ring.currents.flow.drop_v[point], open_run.currents.flow.drop_v[point] + 1e-9)

    @given(
        st.lists(st.one_of(st.floats(0.5, 40), st.just(5.0)), min_size=2, max_size=8),
        st.one_of(st.floats(0.5, 40), st.just(5.0)),
        st.booleans(),
        st.randoms(use_true_random=False),
    )
    def test_order_and_direction_of_drawing_do_not_matter(self, spec, back, closed, dice: random.Random) -> None:
        """Not for figures, nor for verdicts, nor for the place that is named, equal lengths and all."""
        circuit = with_spur(run(*spec, back=back if closed else None), "P1", "S1", 2.5)
        legs = [
            each.model_copy(update={"a": each.b, "b": each.a}) if dice.random() < 0.5 else each for each in circuit.legs
        ]
        points = list(circuit.points)
        dice.shuffle(legs)
        dice.shuffle(points)
        other = circuit.model_copy(update={"legs": tuple(legs), "points": tuple(points)})
        a, b = judged(circuit), judged(other)
        self.assertEqual((a.shape, a.verdict, a.tightest), (b.shape, b.verdict, b.tightest))
        figures = {each.point: each for each in b.points}
        for each in a.points:
            for figure in ("r1_plus_r2_ohm", "zs_ohm", "drop_v", "load_a", "margin"):
                self.assertAlmostEqual(getattr(each, figure), getattr(figures[each.point], figure), places=6)
        currents = {each.leg: abs(each.current_a) for each in b.legs}
        for each in a.legs:
            self.assertAlmostEqual(abs(each.current_a), currents[each.leg], places=6)
        for one, two in zip(a.checks, b.checks, strict=True):
            self.assertEqual((one.verdict, one.answer), (two.verdict, two.answer))
            # The same place by its id; a leg drawn the other way round is called by its ends the other way round.
            self.assertEqual(one.place and one.place.id, two.place and two.place.id, one.id)

    @given(lengths, st.sampled_from([1.0, 1.5, 2.5]), st.sampled_from([2.5, 4.0, 6.0]))
    def test_a_larger_cpc_never_raises_zs(self, spec, small, large) -> None:
        circuit = run(*spec)
        by_cpc = [
            study(circuit.model_copy(update={"cable": circuit.cable.model_copy(update={"cpc_mm2": cpc})}))
            for cpc in (small, large)
        ]
        for point in by_cpc[0].wires.hot_joined_ohm:
            self.assertLessEqual(by_cpc[1].wires.hot_joined_ohm[point], by_cpc[0].wires.hot_joined_ohm[point] + 1e-12)

    @given(lengths, st.floats(0.5, 60))
    def test_a_limit_is_met_only_by_the_unrounded_value(self, spec, back) -> None:
        for each in judged(run(*spec, back=back)).checks:
            if each.value is None or each.limit is None or each.verdict not in (Verdict.PASS, Verdict.FAIL):
                continue
            met = each.value <= each.limit if each.sense == "at most" else each.value >= each.limit
            if each.verdict is Verdict.PASS:
                self.assertTrue(met, each)

    @settings(max_examples=150)
    @given(
        st.integers(1, 7),
        st.lists(
            st.tuples(st.integers(0, 7), st.integers(0, 7), st.one_of(st.none(), st.floats(0.1, 90))), max_size=14
        ),
        st.sampled_from(["sockets", "lighting", "cooker", "outdoor", "alarms"]),
    )
    def test_any_graph_is_answered_and_never_breaks(self, size, edges, kind) -> None:
        names = ["board", *(f"P{i}" for i in range(1, size + 1))]
        legs = [
            {"id": f"L{i}", "a": names[a % len(names)], "b": names[b % len(names)], "segments": [{"length_m": length}]}
            for i, (a, b, length) in enumerate(edges)
            if a % len(names) != b % len(names)
        ]
        circuit = Circuit.model_validate({"kind": kind, "points": [{"id": n} for n in names[1:]], "legs": legs})
        result = judge_circuit(BS, SUPPLY, circuit)
        result.model_dump_json()
        walked = [step.leg for chain in result.shape.walk for step in chain.steps]
        self.assertEqual(len(walked), len(set(walked)))
        reached = study(circuit).graph.distance
        self.assertEqual(set(walked), {each.id for each in circuit.legs if each.a in reached})


class Surroundings(unittest.TestCase):
    """Where a leg lies: worse never helps, and how its length is cut up says nothing."""

    def drawn(self, chance: random.Random) -> Circuit:
        """A run of a few legs, each in surroundings of its own, loads at its points or none."""
        points, is_ring = chance.randint(2, 4), chance.random() < 0.5
        lengths = [float(chance.choice([1, 3, 5, 8, 12, 20, 30])) for _ in range(points + is_ring)]
        amps = {f"P{at}": float(chance.choice([1, 3, 6, 10, 14])) for at in range(1, points + 1)}
        whole = run(
            *lengths[:points],
            back=lengths[points] if is_ring else None,
            loads=amps if chance.random() < 0.7 else None,
            device=a_device(rating_a=chance.choice([6, 16, 20, 32])),
        )
        legs = []
        for leg in whole.legs:
            said = {
                "method": chance.choice([None, "A", "C", "103", "100"]),
                "ambient_c": chance.choice([None, 25.0, 35.0]),
                "grouped_circuits": chance.choice([1, 1, 2, 3]),
                "insulation_mm": chance.choice([0.0, 0.0, 50.0, 200.0]),
            }
            legs.append(leg.model_copy(update={"segments": (leg.segments[0].model_copy(update=said),)}))
        return whole.model_copy(update={"legs": tuple(legs)})

    def picked(self, chance: random.Random) -> tuple[Circuit, int, Segment]:
        """One of them, which of its legs is to be another, and that leg's segment."""
        circuit = self.drawn(chance)
        at = chance.randrange(len(circuit.legs))
        return circuit, at, circuit.legs[at].segments[0]

    def other(self, circuit: Circuit, at: int, *segments: Segment) -> Circuit:
        """The same with one leg made of these."""
        legs = list(circuit.legs)
        legs[at] = legs[at].model_copy(update={"segments": segments})
        return circuit.model_copy(update={"legs": tuple(legs)})

    @settings(max_examples=30)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_worse_surroundings_turn_no_failure_into_a_pass(self, chance: random.Random, book: Rulebook) -> None:
        circuit, at, segment = self.picked(chance)
        before = {each.id: each.verdict for each in judged(circuit, rulebook=book).checks}
        for worse in (
            {"ambient_c": (segment.ambient_c or 30.0) + 10},
            {"grouped_circuits": segment.grouped_circuits + 2},
            {"insulation_mm": segment.insulation_mm + 100},
        ):
            changed = self.other(circuit, at, segment.model_copy(update=worse))
            for each in judged(changed, rulebook=book).checks:
                turned = (before[each.id], each.verdict) == (Verdict.FAIL, Verdict.PASS)
                self.assertFalse(turned, (each.id, worse, each.answer))

    @settings(max_examples=30)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_a_length_in_two_halves_is_the_same_length(self, chance: random.Random, book: Rulebook) -> None:
        circuit, at, segment = self.picked(chance)
        half = segment.model_copy(update={"length_m": (segment.length_m or 0.0) / 2})
        for one, other in zip(
            judged(circuit, rulebook=book).checks,
            judged(self.other(circuit, at, half, half), rulebook=book).checks,
            strict=True,
        ):
            self.assertEqual((one.id, one.verdict), (other.id, other.verdict))
            if one.value is not None and other.value is not None:
                self.assertAlmostEqual(one.value, other.value, places=6, msg=one.id)
