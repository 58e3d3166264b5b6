"""Points that people have: isolators, hidden joints, drivers, ready-made ones, and what is left in the wall."""

import unittest

from pydantic import ValidationError

from lumbek.core.circuit.changes.points import MakeReady, SetPoint
from lumbek.core.circuit.changes.remains import DropRemains, LeaveDead, SetRemains
from lumbek.core.circuit.commands import carry_out
from lumbek.core.circuit.edit import EditRefusedError, RemovePoint
from lumbek.core.circuit.laying import lay_run
from lumbek.core.circuit.ready_points import READY, ready_point
from lumbek.core.circuit.usual import usual_circuit, usual_point
from lumbek.core.judging.check import Verdict
from lumbek.core.model.point import Driver, Point
from lumbek.exchange.typed_run import parse_run
from tests.support.houses import BS, IEC, check, judged, run, worked_ring

P, F, C, N = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL, Verdict.NOT_APPLICABLE


def with_point(circuit, point_id: str, **changes):
    return carry_out(BS, circuit, (SetPoint(point=point_id, **changes),)).circuit


def typed(text: str, kind: str = "sockets"):
    def usual(circuit, ready):
        return ready_point(BS, ready) if ready else usual_point(BS, circuit)

    return lay_run(usual_circuit(BS, kind), parse_run(text).entries, usual)


class Joints(unittest.TestCase):
    def test_out_of_reach_it_must_be_made_for_it(self) -> None:
        joint = with_point(run(5, 5), "P1", kind="joint")
        for reached, free, verdict in (
            *((None, None, N), (False, False, F), (False, True, P), (False, None, C)),
            *((True, None, P), (True, False, P), (None, True, P), (None, False, C)),
        ):
            said = with_point(joint, "P1", reached=reached, maintenance_free=free)
            self.assertEqual(check(judged(said), "joints").verdict, verdict, (reached, free))
        hidden = with_point(joint, "P1", reached=False, maintenance_free=True)
        self.assertIn("MF", check(judged(hidden), "joints").caution)

    def test_one_that_is_said_leaves_another_open(self) -> None:
        two = with_point(with_point(run(5, 5, 5), "P1", kind="joint", reached=False), "P2", kind="blank", reached=True)
        found = check(judged(two), "joints")
        self.assertEqual((found.verdict, len(found.missing)), (C, 1))

    def test_a_joint_made_something_else_is_asked_no_more(self) -> None:
        joint = with_point(run(5, 5), "P1", kind="joint", reached=False, maintenance_free=False)
        socket = with_point(joint, "P1", kind="socket-twin")
        self.assertIsNone(socket.point("P1").reached)
        self.assertEqual(check(judged(socket), "joints").verdict, N)
        with self.assertRaises(ValidationError):
            Point(id="P1", kind="light", reached=True)


class Drivers(unittest.TestCase):
    def judge(self, book=BS, **driver):
        point = with_point(run(5), "P1", kind="driver")
        said = with_point(point, "P1", driver=Driver(**driver))
        return check(judged(said, rulebook=book), "drivers")

    def test_by_hand(self) -> None:
        """60 W at 24 V is 2.5 A; 4 m of 1.5 mm² there and back is 8 x 12.1 mΩ, warm 0.116 Ω: 0.29 V of 24, 1.21 %."""
        for book in (BS, IEC):
            good = self.judge(book, rated_w=60, load_w=60, run_m=4, csa_mm2=1.5)
            self.assertEqual(good.verdict, P)
            self.assertIn("1.2 %", " ".join(step.sum for step in good.steps))
        self.assertEqual(self.judge(rated_w=60, load_w=60.1).verdict, F)
        self.assertEqual(self.judge(rated_w=60, load_w=60).verdict, P)

    def test_its_cable_loses_no_more_than_a_twentieth(self) -> None:
        """At 12 V and 60 W it is 5 A: 5 % is 0.6 V, 0.12 Ω, 4.13 m of 1.5 mm² at 14.52 mΩ a metre each way."""
        at = {"output_v": 12, "rated_w": 75, "load_w": 60, "csa_mm2": 1.5}
        self.assertEqual(self.judge(**at, run_m=4.13).verdict, P)
        self.assertEqual(self.judge(**at, run_m=4.14).verdict, F)

    def test_what_is_missing_is_asked_for(self) -> None:
        self.assertEqual(self.judge().verdict, N)
        self.assertEqual(self.judge(load_w=20).verdict, C)
        self.assertEqual(self.judge(load_w=20, rated_w=30, run_m=3).missing, ("the conductor behind P1 in mm²",))


class Ready(unittest.TestCase):
    def test_each_is_put_in_with_a_word(self) -> None:
        for word, kind, fuse, load in (
            ("extractor", "fused-spur", 3, "Extractor fan"),
            ("plinth heater", "fused-spur", 13, "Plinth heater"),
            ("towel rail", "fused-spur", 3, "Towel rail"),
            ("microwave", "socket-single", None, "Microwave oven"),
            ("CO alarm", "fixed", None, "Carbon monoxide alarm"),
        ):
            point = typed(f"4m {word}").points[0]
            self.assertEqual((point.kind, point.fuse_a, point.loads[0].name), (kind, fuse, load), word)

    def test_another_word_says_what_it_is(self) -> None:
        self.assertEqual(typed("4m twin microwave").points[0].loads, ())
        self.assertEqual(typed("4m cooker switch", "cooker").points[0].kind, "cooker-switch")
        self.assertEqual(typed("4m isolator, 2m fixed oven", "cooker").points[0].kind, "isolator")

    def test_a_point_is_made_one(self) -> None:
        for name, ready in READY.items():
            point = carry_out(BS, run(5), (MakeReady(point="P1", ready=name),)).circuit.point("P1")
            self.assertEqual((point.kind, point.fuse_a, len(point.loads)), (ready.kind, ready.fuse_a, 1))
        with self.assertRaises(EditRefusedError):
            carry_out(BS, run(5), (MakeReady(point="P1", ready="sauna"),))

    def test_an_isolator_draws_nothing_and_stands_in_no_zone(self) -> None:
        for kind in ("isolator", "cooker-switch"):
            circuit = with_point(run(5, 5, loads={"P2": 10}), "P1", kind=kind)
            self.assertEqual(judged(circuit).ib_a, 10.0)
            self.assertEqual(check(judged(with_point(circuit, "P1", zone="2")), "bath").verdict, F)


class Remaining(unittest.TestCase):
    def test_a_leg_left_dead_stays_on_the_drawing(self) -> None:
        cut = carry_out(BS, run(5, 7), (LeaveDead(leg="L2"),)).circuit
        self.assertEqual([each.id for each in cut.points], ["P1"])
        left = cut.remains[0]
        self.assertEqual((left.at, left.to, left.length_m, left.csa_mm2, left.safe), ("P1", "P2", 7, 2.5, None))

    def test_a_point_that_is_fed_from_elsewhere_stays(self) -> None:
        ring = worked_ring()
        cut = carry_out(BS, ring, (LeaveDead(leg=ring.legs[2].id),)).circuit
        self.assertEqual(len(cut.points), len(ring.points))
        self.assertEqual(len(cut.remains), 1)

    def test_dead_until_both_ends_are_safe(self) -> None:
        cut = carry_out(BS, run(5, 7), (LeaveDead(leg="L2"),)).circuit
        for safe, verdict in ((None, C), (False, F), (True, P)):
            said = carry_out(BS, cut, (SetRemains(index=0, safe=safe),)).circuit
            self.assertEqual(check(judged(said), "dead-cable").verdict, verdict)
        pulled = carry_out(BS, cut, (SetRemains(index=0, left="cut-out"),)).circuit
        self.assertEqual(check(judged(pulled), "dead-cable").verdict, N)
        self.assertEqual(carry_out(BS, cut, (DropRemains(index=0),)).circuit.remains, ())
        with self.assertRaises(EditRefusedError):
            carry_out(BS, cut, (SetRemains(index=1, safe=True),))

    def test_what_it_hung_on_may_go(self) -> None:
        cut = carry_out(BS, run(5, 7), (LeaveDead(leg="L2"),)).circuit
        gone = carry_out(BS, cut, (RemovePoint(point="P1"),)).circuit
        self.assertIn("a point that is gone", check(judged(gone), "dead-cable").missing[0])
