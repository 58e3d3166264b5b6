"""The principles of docs/decisions.md on judging, each held on random circuits."""

import unittest
from itertools import product
from typing import get_args

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lumbek.core.judging.check import Check, Verdict, hold, worst_of
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.leg import Segment
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import show_held
from lumbek.core.study.door import study_of
from lumbek.core.study.lengths import settle
from tests.support.houses import BS, IEC, SUPPLY, check, run, worked_ring
from tests.support.random_jobs import designs, jobs
from tests.support.stated import a_device, an_rcd

some = settings(max_examples=35)
BOOKS = {BS.id: BS, IEC.id: IEC}
# By their ids, so that a falsifying example can be read.
books = st.sampled_from(sorted(BOOKS))
# What a kind of circuit may itself add: its usual device, its own reasons for an RCD, its conventional use.
KIND_MAY_ADD = {"usual", "rcd", "pme", "charging", "rcd-type", "phases"}
LAGGED = Segment(length_m=5, method="103")
PLAIN_KINDS = [kind for kind in get_args(CircuitKind) if kind not in ("three-phase", "vehicle-charging")]


def verdicts(result: CircuitResult) -> dict[str, Verdict]:
    return {each.id: each.verdict for each in result.checks}


class PointsDecide(unittest.TestCase):
    """1. Rules follow from what stands at the points, never from what the circuit is called."""

    @some
    @given(designs, books, st.sampled_from(PLAIN_KINDS), st.sampled_from(PLAIN_KINDS))
    def test_another_kind_judges_alike(self, design: Circuit, book: str, one: str, other: str) -> None:
        # A cooker's parts, alarms and what may be a feed are what only the kind can say.
        told = {"cooker", "alarms", "outdoor"}
        assume(not told & {one, other})
        first, second = (
            verdicts(judge_circuit(BOOKS[book], SUPPLY, design.model_copy(update={"kind": kind})))
            for kind in (one, other)
        )
        for key in first.keys() - KIND_MAY_ADD:
            self.assertEqual(first[key], second[key], key)

    @some
    @given(books, st.sampled_from(PLAIN_KINDS), st.sampled_from([6, 20, 32, 40, 63]))
    def test_a_socket_wants_its_protection_on_any_kind_and_device(self, book, kind, rating) -> None:
        bare = a_device(standard="bs-en-60898", rating_a=rating, rcd=None)
        found = judge_circuit(BOOKS[book], SUPPLY, run(5, kind=kind, device=bare))
        self.assertEqual(check(found, "rcd").verdict, Verdict.FAIL)


class NothingCredited(unittest.TestCase):
    """2. What was not said is unknown: leaving out can pass nothing that a worse answer would fail."""

    # What may be left out, with every answer that might be the true one.
    UNSAID = (
        (("device", "rcd"), "unknown", [None, an_rcd(), an_rcd(type="AC"), an_rcd(rated_ma=300, delayed=True)]),
        (("device", "breaking_capacity_ka"), None, [0.5, 6, 10]),
        (("surroundings", "concealed_shallow"), None, [True, False]),
        (("surroundings", "supplementary_bonding"), None, [True, False]),
        (("device", "bidirectional"), None, [True, False]),
    )

    def put(self, design: Circuit, path: tuple[str, str], value: object) -> Circuit:
        part, field = path
        return design.model_copy(update={part: getattr(design, part).model_copy(update={field: value})})

    @some
    @given(designs, books, st.sampled_from(UNSAID))
    def test_leaving_out_passes_only_what_every_answer_passes(self, design, book, case) -> None:
        path, unsaid, answers = case
        silent = verdicts(judge_circuit(BOOKS[book], SUPPLY, self.put(design, path, unsaid)))
        told = [verdicts(judge_circuit(BOOKS[book], SUPPLY, self.put(design, path, answer))) for answer in answers]
        for key, verdict in silent.items():
            if verdict is Verdict.PASS:
                self.assertNotIn(Verdict.FAIL, {each[key] for each in told}, (path, key))
            if verdict is Verdict.FAIL:
                self.assertNotIn(Verdict.PASS, {each[key] for each in told}, (path, key))

    @some
    @given(designs, books)
    def test_a_load_of_unknown_dc_passes_no_blind_rcd(self, design, book) -> None:
        rcd = an_rcd(type="AC")
        blind = design.model_copy(update={"device": a_device(rcd=rcd), "ahead": ()})
        silent = tuple(
            point.model_copy(update={"loads": tuple(load.model_copy(update={"dc": None}) for load in point.loads)})
            for point in blind.points
        )
        found = check(judge_circuit(BOOKS[book], SUPPLY, blind.model_copy(update={"points": silent})), "rcd-type")
        self.assertIn(found.verdict, (Verdict.FAIL, Verdict.CANNOT_TELL))

    def test_an_empty_file_passes_nothing_that_was_not_said(self) -> None:
        bare = {
            "points": [{"id": "P1"}],
            "legs": [{"id": "L1", "a": "board", "b": "P1", "segments": [{"length_m": 5}]}],
        }
        for book in (BS, IEC):
            found = verdicts(judge_circuit(book, Supply(), Circuit.model_validate(bare)))
            for key in ("rcd", "rcd-type", "breaking", "zs", "withstand"):
                self.assertEqual(found[key], Verdict.CANNOT_TELL, key)


class EveryConductor(unittest.TestCase):
    """3. Each leg, spur and feed has its own capacity and its own load; none hides behind another."""

    @given(st.integers(0, 8), st.sampled_from([1.0, 1.5]), st.booleans())
    def test_one_thin_leg_fails_the_run_wherever_it_is(self, pick: int, csa: float, ring: bool) -> None:
        whole = worked_ring() if ring else run(5, 4, 3, 6, device=a_device(rating_a=32), cable=Cable(csa_mm2=6))
        index = pick % len(whole.legs)
        thin = whole.legs[index].model_copy(update={"cable": Cable(csa_mm2=csa), "segments": (LAGGED,)})
        legs = (*whole.legs[:index], thin, *whole.legs[index + 1 :])
        found = check(judge_circuit(BS, SUPPLY, whole.model_copy(update={"legs": legs})), "cable")
        self.assertEqual((found.verdict, found.place.id), (Verdict.FAIL, thin.id))

    @given(st.integers(0, 8))
    def test_one_thin_cpc_is_found_wherever_it_is(self, pick: int) -> None:
        whole = worked_ring().model_copy(update={"device": a_device(let_through_a2s=16_000)})
        index = pick % len(whole.legs)
        thin = whole.legs[index].model_copy(update={"cable": Cable(csa_mm2=2.5, cpc_mm2=1.0)})
        legs = (*whole.legs[:index], thin, *whole.legs[index + 1 :])
        found = check(judge_circuit(BS, SUPPLY, whole.model_copy(update={"legs": legs})), "withstand")
        self.assertEqual((found.verdict, found.place.id), (Verdict.FAIL, thin.id))

    @some
    @given(designs, books)
    def test_nothing_draws_more_than_its_device(self, design, book) -> None:
        study = study_of(BOOKS[book], SUPPLY, design).longest
        found = verdicts(judge_circuit(BOOKS[book], SUPPLY, design))
        demand, device = study.currents.demand, study.ahead.protection
        if demand is not None and device is not None:
            over = hold(demand.ib_a, device.rating_a, "at most")[0] is Verdict.FAIL
            self.assertEqual(found["load"] is Verdict.FAIL, over)


class ShownAgainstTheUser(unittest.TestCase):
    """4. Rounded against the user; a failure never looks like its limit, and noise neither fails nor passes."""

    def sound(self, each: Check) -> None:
        if each.verdict is Verdict.FAIL and each.shown_value and each.shown_limit and each.sense:
            met = hold(each.value or 0.0, each.limit or 0.0, each.sense)[0] is Verdict.PASS
            if not met:
                self.assertNotEqual(float(each.shown_value), float(each.shown_limit), each)

    @some
    @given(jobs())
    def test_a_failure_never_looks_like_its_limit(self, job: Job) -> None:
        for circuit in job.circuits:
            for each in judge_circuit(BOOKS[job.rulebook], job.supply, circuit.design).checks:
                self.sound(each)

    @given(st.integers(1, 60), st.sampled_from([0.1, 0.2, 0.3, 0.4, 0.7, 1.1]))
    def test_sums_of_decimals_equal_what_they_are(self, count: int, each: float) -> None:
        total, limit = sum([each] * count), round(count * each, 6)
        for sense in ("at most", "at least"):
            self.assertEqual(hold(total, limit, sense), (Verdict.PASS, 0.0))
        self.assertEqual(hold(total * (1 + 1e-8), limit, "at most")[0], Verdict.FAIL)
        self.assertEqual(hold(total * (1 - 1e-8), limit, "at least")[0], Verdict.FAIL)
        self.assertEqual(float(show_held(total, limit, "at most", True, 2)[0]), limit)


class WholeBox(unittest.TestCase):
    """5. A range of lengths is judged over every length in it."""

    def ranged(self, design: Circuit, spread: list[float]) -> Circuit:
        legs = tuple(
            leg.model_copy(
                update={"segments": (Segment(length_m=leg.length_m, length_to_m=leg.length_m * (1 + more)),)}
            )
            for leg, more in zip(design.legs, spread, strict=False)
        )
        return design.model_copy(update={"legs": (*legs, *design.legs[len(legs) :])})

    def at(self, design: Circuit, parts: list[float]) -> Circuit:
        legs = []
        for leg, part in zip(design.legs, parts, strict=False):
            segment = leg.segments[0]
            low, high = segment.length_m, segment.length_to_m
            legs.append(leg.model_copy(update={"segments": (Segment(length_m=low + part * (high - low)),)}))
        return design.model_copy(update={"legs": (*legs, *design.legs[len(legs) :])})

    fractions = st.lists(st.floats(0, 1), min_size=10, max_size=10)

    @settings(max_examples=20)
    @given(
        st.dictionaries(st.sampled_from([f"P{i}" for i in range(1, 8)] + ["S1"]), st.floats(0.5, 13), max_size=5),
        st.lists(st.floats(0, 4), min_size=10, max_size=10),
        fractions,
    )
    def test_what_a_ring_passes_or_fails_it_does_at_every_length(self, loads, spread, parts) -> None:
        self.hold_everywhere(self.ranged(worked_ring(loads or None), spread), parts)

    @some
    @given(
        st.lists(st.floats(1, 25), min_size=2, max_size=5), st.lists(st.floats(0, 3), min_size=5, max_size=5), fractions
    )
    def test_so_does_an_open_run(self, lengths, spread, parts) -> None:
        self.hold_everywhere(self.ranged(run(*lengths, device=a_device(rating_a=20)), spread), parts)

    def hold_everywhere(self, whole: Circuit, parts: list[float]) -> None:
        assume(settle(BS, whole).ranged)
        over, inside = (verdicts(judge_circuit(BS, SUPPLY, each)) for each in (whole, self.at(whole, parts)))
        for key, verdict in over.items():
            if verdict in (Verdict.PASS, Verdict.FAIL):
                self.assertEqual(inside[key], verdict, key)

    def test_the_corner_that_single_lengths_miss(self) -> None:
        """No single leg at its end finds what the first leg carries where two are short and three are long."""
        ring = run(4, 4, 6, 8, back=3, loads={"P1": 13, "P2": 0.01, "P3": 10, "P4": 7}, method="100")
        whole = self.ranged(ring, [1, 1, 3, 3, 3])
        tried = {check(judge_circuit(BS, SUPPLY, each), "ring-current").verdict for each in settle(BS, whole).variants}
        corners = [
            check(judge_circuit(BS, SUPPLY, self.at(whole, list(parts))), "ring-current").verdict
            for parts in product((0.0, 1.0), repeat=5)
        ]
        found = check(judge_circuit(BS, SUPPLY, whole), "ring-current").verdict
        self.assertEqual((tried, worst_of(corners), found), ({Verdict.PASS}, Verdict.FAIL, Verdict.CANNOT_TELL))


class TheWhole(unittest.TestCase):
    def test_a_job_is_as_its_worst(self) -> None:
        circuit = JobCircuit(design=worked_ring())
        self.assertEqual(worst_of([Verdict.PASS, Verdict.CANNOT_TELL, Verdict.FAIL]), Verdict.FAIL)
        self.assertEqual(worst_of([Verdict.PASS, Verdict.CANNOT_TELL]), Verdict.CANNOT_TELL)
        self.assertEqual(worst_of([]), Verdict.NOT_APPLICABLE)
        self.assertEqual(JobCircuit.of(circuit.design, ()).former_readings, ())


if __name__ == "__main__":
    unittest.main()
