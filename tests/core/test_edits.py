"""Edits keep what is known: lengths, ranges, measured resistances, segments, names and loads."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lumbek.core.circuit.edit import (
    AddPoint,
    AddSpur,
    EditRefusedError,
    InsertPoint,
    JoinPoints,
    MovePoint,
    NewPoint,
    RemoveLeg,
    RemovePoint,
    apply_edit,
)
from lumbek.core.circuit.laying import lay_run, lay_through
from lumbek.core.circuit.usual import usual_circuit, usual_point
from lumbek.core.model.circuit import MOST_POINTS, Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.model.places import Spot
from lumbek.core.model.point import Load
from lumbek.exchange.typed_run import OFFERED_WORDS, parse_run
from tests.support.houses import BS, judged, run, study, worked_ring
from tests.support.stated import a_circuit


def total(circuit: Circuit) -> float:
    return sum(each.length_m or 0.0 for each in circuit.legs)


def with_leg(circuit: Circuit, index: int, **changes: object) -> Circuit:
    legs = list(circuit.legs)
    legs[index] = legs[index].model_copy(update=changes)
    return circuit.model_copy(update={"legs": tuple(legs)})


class Splitting(unittest.TestCase):
    def test_a_known_length_is_halved(self) -> None:
        circuit = apply_edit(run(10, 6), InsertPoint(leg="L1")).circuit
        self.assertEqual([each.length_m for each in circuit.legs], [5, 5, 6])

    def test_a_range_is_halved_at_both_ends(self) -> None:
        ranged = with_leg(run(10, 6), 1, segments=(Segment(length_m=6, length_to_m=9),))
        circuit = apply_edit(ranged, InsertPoint(leg="L2")).circuit
        ends = [(each.segments[0].length_m, each.segments[0].length_to_m) for each in circuit.legs[1:]]
        self.assertEqual(ends, [(3, 4.5), (3, 4.5)])

    def test_a_measured_resistance_is_halved_and_not_doubled(self) -> None:
        measured = with_leg(run(10, None), 1, measured_r1_ohm=0.0741)
        split = apply_edit(measured, InsertPoint(leg="L2")).circuit
        self.assertEqual([each.measured_r1_ohm for each in split.legs], [None, 0.03705, 0.03705])
        lengths = [each.length_m for each in judged(split).legs]
        self.assertAlmostEqual(sum(lengths[1:]), 10)

    def test_where_it_is_broken_in_a_leg_of_segments_cannot_be_known(self) -> None:
        segments = (Segment(length_m=4), Segment(length_m=6, method="101"))
        circuit = apply_edit(with_leg(run(10), 0, segments=segments), InsertPoint(leg="L1")).circuit
        self.assertEqual(circuit.legs[0].segments, segments)
        self.assertIsNone(circuit.legs[1].length_m)

    def test_both_halves_keep_cable_and_state(self) -> None:
        cable = run(1).cable.model_copy(update={"csa_mm2": 4})
        circuit = apply_edit(with_leg(run(10), 0, cable=cable, state="as-found"), InsertPoint(leg="L1")).circuit
        self.assertEqual({(each.cable, each.state) for each in circuit.legs}, {(cable, "as-found")})


class TakingOut(unittest.TestCase):
    def test_two_legs_become_one_as_long(self) -> None:
        circuit = apply_edit(run(10, 6, 3), RemovePoint(point="P2")).circuit
        self.assertEqual([each.length_m for each in circuit.legs], [10, 9])

    def test_ranges_add_up(self) -> None:
        circuit = with_leg(run(10, 6), 1, segments=(Segment(length_m=6, length_to_m=9),))
        out = apply_edit(apply_edit(circuit, AddPoint(after="P2", length_m=2)).circuit, RemovePoint(point="P1")).circuit
        self.assertEqual((out.legs[0].segments[0].length_m, out.legs[0].segments[0].length_to_m), (16, 19))

    def test_measured_resistances_add_up(self) -> None:
        circuit = with_leg(with_leg(run(None, None), 0, measured_r1_ohm=0.1), 1, measured_r1_ohm=0.2)
        out = apply_edit(apply_edit(circuit, AddPoint(after="P2")).circuit, RemovePoint(point="P1")).circuit
        self.assertAlmostEqual(out.legs[0].measured_r1_ohm, 0.3)
        self.assertIsNone(out.legs[0].length_m)

    def test_an_unknown_half_leaves_the_whole_unknown(self) -> None:
        out = apply_edit(run(10, None, 3), RemovePoint(point="P2")).circuit
        self.assertIsNone(out.legs[1].length_m)

    def test_the_last_point_goes_with_its_leg(self) -> None:
        out = apply_edit(run(10, 6), RemovePoint(point="P2"))
        self.assertEqual((len(out.circuit.legs), out.focus), (1, "P1"))

    def test_both_legs_from_one_place_leave_nothing_to_join(self) -> None:
        out = apply_edit(run(10, back=6), RemovePoint(point="P1"))
        self.assertEqual((out.circuit.legs, out.focus), ((), "board"))


class Adding(unittest.TestCase):
    def test_a_point_of_which_nothing_is_said_is_the_usual_one(self) -> None:
        usual = NewPoint(kind="light", at=Spot(room="hall"), loads=(Load(power_w=10),))
        for edit in (AddPoint(after="P1"), AddSpur(off="P1"), InsertPoint(leg="L1")):
            point = apply_edit(run(5), edit, usual).circuit.points[-1]
            self.assertEqual((point.kind, point.at.room, point.loads), ("light", "hall", usual.loads))
        said = AddPoint(after="P1", point=NewPoint(kind="joint", name="Box"))
        self.assertEqual(apply_edit(run(5), said, usual).circuit.points[-1].name, "Box")

    def test_names_of_points_and_legs_never_come_twice(self) -> None:
        circuit = apply_edit(run(5, 5), RemovePoint(point="P1")).circuit
        for _ in range(3):
            circuit = apply_edit(circuit, AddPoint(after="P2")).circuit
        self.assertEqual(len({each.id for each in circuit.points}), len(circuit.points))
        self.assertEqual(len({each.id for each in circuit.legs}), len(circuit.legs))

    def test_no_more_points_than_a_circuit_may_have(self) -> None:
        full = run(*[1.0] * MOST_POINTS)
        with self.assertRaises(ValidationError):
            apply_edit(full, AddPoint(after="P1"))

    def test_joining_and_cutting_again(self) -> None:
        closed = apply_edit(run(5, 5), JoinPoints(a="P2", b="board", length_m=7)).circuit
        self.assertEqual(judged(closed).shape.kind, "ring")
        self.assertEqual(apply_edit(closed, RemoveLeg(leg="L3")).circuit, run(5, 5))


class Kept(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.lists(st.tuples(st.integers(0, 2), st.integers(0, 40), st.integers(0, 40)), max_size=15))
    def test_breaking_moving_and_taking_out_inside_a_ring_keep_its_length(self, ops) -> None:
        circuit = worked_ring({"P1": 3, "P5": 4})
        before, loads = total(circuit), sorted(str(each.loads) for each in circuit.points if each.loads)
        for op, a, b in ops:
            ring = study(circuit).shape
            leg, point = ring.ring_legs[a % len(ring.ring_legs)], ring.ring_points[b % len(ring.ring_points)]
            busy = len([each for each in circuit.legs if point in (each.a, each.b)]) > 2
            if op == 2 and (len(ring.ring_points) < 3 or circuit.point(point).loads):
                continue
            edit = (InsertPoint(leg=leg), MovePoint(point=point, into_leg=leg), RemovePoint(point=point))[op]
            if busy and op:
                with self.assertRaises(EditRefusedError):
                    apply_edit(circuit, edit)
                continue
            try:
                circuit = apply_edit(circuit, edit).circuit
            except EditRefusedError:
                continue
            self.assertAlmostEqual(total(circuit), before, places=6)
            self.assertTrue(study(circuit).shape.is_ring)
        self.assertEqual(sorted(str(each.loads) for each in circuit.points if each.loads), loads)


class Through(unittest.TestCase):
    """A ring as it was found, extended: a leg broken and taken through new points and back."""

    def through(self, circuit: Circuit, leg: str, text: str) -> Circuit:
        return lay_through(circuit, leg, parse_run(text).entries)

    def test_the_leg_goes_and_new_cable_comes_in_its_place(self) -> None:
        found = worked_ring()
        found = found.model_copy(update={"legs": tuple(x.model_copy(update={"state": "as-found"}) for x in found.legs)})
        circuit = self.through(found, "L3", "4m Loft: shelf, 3m desk single, back 6m")
        self.assertEqual(judged(circuit).shape.ring_points[:5], ("P1", "P2", "P8", "P9", "P3"))
        self.assertAlmostEqual(total(circuit), total(found) - 6 + 13)
        self.assertNotIn("L3", [each.id for each in circuit.legs])
        self.assertEqual([each.state for each in circuit.legs].count("new"), 3)
        self.assertEqual([each.at.room for each in circuit.points[-2:]], ["loft", "loft"])

    def test_a_spur_on_the_way_and_a_length_back_not_known(self) -> None:
        circuit = self.through(worked_ring(), "L3", "4m shelf, spur 2m lamp")
        result = judged(circuit)
        self.assertEqual(result.shape.kind, "ring-with-spurs")
        self.assertIsNone(circuit.legs[-1].length_m)
        zs = next(each for each in result.checks if each.id == "zs")
        self.assertEqual(
            zs.missing, ("reading of r1, end to end of the ring, which settles most", "length of shelf to P3")
        )

    def test_a_leg_of_an_open_run_too_whichever_way_it_was_drawn(self) -> None:
        circuit = run(5, 6)
        turned = with_leg(circuit, 1, a="P2", b="P1")
        for each in (circuit, turned):
            laid = self.through(each, "L2", "3m new, back 2m")
            chain = judged(laid).shape.walk[0]
            self.assertEqual([step.point for step in chain.steps], ["P1", "P3", "P2"])
            self.assertAlmostEqual(total(laid), 10)

    def test_refusals_say_why(self) -> None:
        for leg, text, words in (
            ("L99", "3m a", "no cable L99"),
            ("L3", "back 3m", "no new point"),
            ("L3", "spur 3m a", "no new"),
        ):
            with self.assertRaisesRegex(EditRefusedError, words):
                self.through(worked_ring(), leg, text)


class TypedRuns(unittest.TestCase):
    def laid(self, text: str, kind: str = "sockets") -> Circuit:
        typed = parse_run(text)
        self.assertEqual(typed.problems, ())
        return lay_run(usual_circuit(BS, kind), typed.entries, lambda circuit, _: usual_point(BS, circuit))

    def test_points_are_the_kinds_own_unless_said(self) -> None:
        lights = self.laid("8m Hall: door, 3m stair, 4m cord", "lighting")
        self.assertEqual([each.kind for each in lights.points], ["light", "light", "cord-switch"])
        alarms = self.laid("8m landing, 3m hall", "alarms")
        self.assertTrue(all(each.loads for each in alarms.points))
        cooker = self.laid("9m Kitchen: control, 2m range", "cooker")
        self.assertEqual([each.kind for each in cooker.points], ["control-with-socket", "fixed"])

    def test_the_load_goes_to_the_first_that_draws(self) -> None:
        shower = self.laid("5m cord, 2m over the tray", "shower")
        self.assertEqual([len(each.loads) for each in shower.points], [0, 1])

    def test_a_second_run_goes_on_from_the_first(self) -> None:
        circuit = self.laid("5m Den: door, 4m window")
        again = lay_run(circuit, parse_run("3m shelf, back 9m").entries)
        self.assertEqual(judged(again).shape.kind, "ring")
        self.assertEqual({each.at.room for each in again.points}, {"den"})
        self.assertAlmostEqual(total(again), 21)

    def test_ways_of_writing_a_length(self) -> None:
        for text, length in (
            ("9m a", 9),
            ("9 m a", 9),
            ("9.5 a", 9.5),
            ("9,5m a", 9.5),
            ("9 metres a", 9),
            ("? a", None),
        ):
            self.assertEqual(parse_run(text).entries[0].length_m, length, text)

    def test_every_word_offered_while_typing_is_understood(self) -> None:
        kinds = [parse_run(f"9m {word}").entries[0].kind for word in OFFERED_WORDS[:-2]]
        self.assertEqual(len(set(kinds) - {None}), len(kinds))
        self.assertTrue(parse_run(f"{OFFERED_WORDS[-2]} 9m seat").entries[0].spur)
        self.assertTrue(parse_run(f"{OFFERED_WORDS[-1]} 9m").entries[0].back)

    def test_what_cannot_be_a_length(self) -> None:
        for text in ("0m a", "501m a", "a twin", "m twin"):
            self.assertEqual(len(parse_run(text).problems), 1, text)
            self.assertEqual(parse_run(text).entries, ())

    @given(st.lists(st.tuples(st.floats(0.1, 500), st.sampled_from(["twin", "single", "joint", "fixed"])), max_size=20))
    def test_whatever_is_typed_is_laid_in_that_order(self, entries) -> None:
        text = ", ".join(f"{length:.2f}m {kind}" for length, kind in entries)
        circuit = lay_run(a_circuit(), parse_run(text).entries)
        self.assertEqual([each.length_m for each in circuit.legs], [round(length, 2) for length, _ in entries])
        words = {"socket-twin": "twin", "socket-single": "single", "joint": "joint", "fixed": "fixed"}
        self.assertEqual([words[each.kind] for each in circuit.points], [kind for _, kind in entries])
