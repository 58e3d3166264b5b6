"""Recognising what a circuit is, and changing it."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.circuit.edit import (
    AddPoint,
    AddSpur,
    EditRefusedError,
    InsertPoint,
    JoinPoints,
    MovePoint,
    RemoveLeg,
    RemovePoint,
    apply_edit,
)
from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.shape import recognise
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from tests.support.houses import check, judged, leg, run, with_spur, worked_ring
from tests.support.stated import a_circuit


def shape(circuit: Circuit):
    return recognise(graph_of(circuit))


def plus_leg(circuit: Circuit, a: str, b: str) -> Circuit:
    return circuit.model_copy(update={"legs": (*circuit.legs, leg(f"X{len(circuit.legs)}", a, b, 4))})


class Recognised(unittest.TestCase):
    def test_each_shape(self) -> None:
        ring = run(5, 5, 5, back=5)
        two = plus_leg(plus_leg(with_spur(ring, "board", "Q1", 3), "Q1", "board"), "P1", "P2")
        cases = {
            "empty": a_circuit(),
            "radial": run(5, 5),
            "branched-radial": with_spur(run(5, 5), "P1", "Q1", 2),
            "ring": ring,
            "ring-with-spurs": worked_ring(),
            "loop-off-the-board": plus_leg(run(5, 5, 5), "P3", "P1"),
            "bridged-ring": plus_leg(ring, "P1", "P3"),
            "two-rings": plus_leg(with_spur(ring, "board", "Q1", 3), "Q1", "board"),
            "two-rings-joined": plus_leg(two, "Q1", "P3"),
        }
        foreign = ring.legs[-1].model_copy(update={"other_way": 7})
        cases["ends-on-two-devices"] = ring.model_copy(update={"legs": (*ring.legs[:-1], foreign)})
        for kind, circuit in cases.items():
            self.assertEqual(shape(circuit).kind, kind)

    def test_a_spur_hangs_where_it_leaves_the_ring_however_far_it_goes_on(self) -> None:
        found = shape(with_spur(with_spur(worked_ring(), "S1", "S2", 2), "board", "Q1", 3))
        self.assertEqual([found.hangs_at(point) for point in ("P2", "S1", "S2", "Q1")], ["P2", "P4", "P4", "board"])

    def test_mistakes_fail_and_say_what_mends_them(self) -> None:
        ring = run(5, 5, 5, back=5)
        foreign = ring.legs[-1].model_copy(update={"other_way": 7})
        for circuit, words in (
            (plus_leg(ring, "P1", "P3"), "Take out the cable"),
            (ring.model_copy(update={"legs": (*ring.legs[:-1], foreign)}), "lock both devices off"),
        ):
            found = check(judged(circuit), "shape")
            self.assertEqual(found.verdict, "fail")
            self.assertTrue(any(words in step.text for step in found.steps))
        chained = check(judged(with_spur(worked_ring(), "S1", "S2", 2)), "spurs")
        self.assertIn("spur from a spur", chained.answer)

    def test_one_point_ring_is_a_ring(self) -> None:
        self.assertEqual(shape(run(5, back=6)).kind, "ring")

    def test_detached_points_are_named_and_fail(self) -> None:
        lost = run(5, 5).model_copy(update={"legs": run(5, 5).legs[:1]})
        self.assertEqual(shape(lost).detached, ("P2",))
        self.assertEqual(check(judged(lost), "shape").verdict, "fail")

    def test_a_ring_loses_its_standing_when_cut(self) -> None:
        cut = apply_edit(worked_ring(), RemoveLeg(leg="L4")).circuit
        self.assertEqual(shape(cut).kind, "branched-radial")


class Edits(unittest.TestCase):
    def test_insert_keeps_the_length_and_the_ring(self) -> None:
        edited = apply_edit(worked_ring(), InsertPoint(leg="L1"))
        self.assertEqual(shape(edited.circuit).ring_points[:2], (edited.focus, "P1"))
        self.assertAlmostEqual(sum(each.length_m or 0 for each in edited.circuit.legs), 57.5)

    def test_add_on_a_ring_stays_on_the_ring_and_on_a_run_goes_on(self) -> None:
        on_ring = apply_edit(worked_ring(), AddPoint(after="P2"))
        self.assertEqual(shape(on_ring.circuit).ring_points[2], on_ring.focus)
        at_end = apply_edit(run(5), AddPoint(after="P1", length_m=3))
        self.assertEqual(at_end.circuit.legs[-1].length_m, 3)

    def test_move_takes_the_point_out_of_one_leg_and_into_another(self) -> None:
        moved = apply_edit(worked_ring(), MovePoint(point="P2", into_leg="L7")).circuit
        self.assertEqual(shape(moved).ring_points, ("P1", "P3", "P4", "P5", "P6", "P2", "P7"))

    def test_take_out_joins_the_run_again(self) -> None:
        out = apply_edit(worked_ring(), RemovePoint(point="P2")).circuit
        joined = next(each for each in out.legs if {each.a, each.b} == {"P1", "P3"})
        self.assertEqual(joined.length_m, 10.5)

    def test_unlike_segments_stay_apart(self) -> None:
        circuit = run(5, 6)
        lofty = circuit.legs[1].model_copy(update={"segments": (Segment(length_m=6, method="101"),)})
        circuit = circuit.model_copy(update={"legs": (circuit.legs[0], lofty)})
        out = apply_edit(apply_edit(circuit, AddPoint(after="P2")).circuit, RemovePoint(point="P1")).circuit
        self.assertEqual([each.method for each in out.legs[0].segments], [None, "101"])

    def test_refusals_say_why(self) -> None:
        ring = worked_ring()
        for edit, words in (
            (RemovePoint(point="P4"), "joins 3 cables"),
            (RemovePoint(point="board"), "stays"),
            (RemovePoint(point="P99"), "no point"),
            (InsertPoint(leg="L99"), "no cable"),
            (MovePoint(point="P1", into_leg="L1"), "already"),
            (JoinPoints(a="P1", b="P1"), "two different"),
        ):
            with self.assertRaisesRegex(EditRefusedError, words):
                apply_edit(ring, edit)

    @given(st.lists(st.tuples(st.integers(0, 5), st.integers(0, 30)), max_size=25))
    def test_any_row_of_edits_leaves_a_circuit_that_can_be_judged(self, ops) -> None:
        circuit = run(5, 4, back=3)
        for op, pick in ops:
            points = ["board", *(each.id for each in circuit.points)]
            legs = [each.id for each in circuit.legs] or ["L1"]
            a, b, on = points[pick % len(points)], points[(pick + 1) % len(points)], legs[pick % len(legs)]
            edit = (
                AddPoint(after=a),
                AddSpur(off=a, length_m=2),
                InsertPoint(leg=on),
                MovePoint(point=a, into_leg=on),
                RemovePoint(point=a),
                JoinPoints(a=a, b=b),
            )[op]
            try:
                circuit = apply_edit(circuit, edit).circuit
            except EditRefusedError:
                continue
            judged(circuit)
