"""The network expanded from joins: plain ones, those that are said, contacts, several circuits, and megohms."""

import dataclasses
import random
import unittest
from fractions import Fraction

import networkx as nx
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lumbek.core.circuit.edit import InsertPoint, RemovePoint, apply_edit
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import Point
from lumbek.core.model.terminals import CoreEnd, Join, intermediate, one_way, two_way
from lumbek.core.network.measure import Measurement, Wired, measure, measure_at
from lumbek.core.network.readings import crossed, fault_loop, own_ends, r1_plus_r2
from lumbek.core.network.readings import one_way as one_core
from lumbek.core.network.solver import OPEN, SMALL, WIDE, Network
from lumbek.core.network.wiring import IN_SERVICE, CoreAt, Setup, expand, expand_together, loose, node
from lumbek.core.study.resistance import core_ohm
from tests.support.houses import BS, cut, leg, run, study, with_spur, worked_ring
from tests.support.stated import a_circuit

LINE, CPC = 7.41e-3, 12.10e-3
T3 = Cable(type="flat-three-core-and-earth", csa_mm2=1.5)


def end(leg_id: str, core: str, **of: object) -> CoreEnd:
    return CoreEnd(leg=leg_id, core=core, **of)


def wired(circuit: Circuit) -> Wired:
    return study(circuit).wires.wired


def ohm(circuit: Circuit, a, b, setup: Setup = IN_SERVICE, linked=None) -> float:
    return measure(wired(circuit), Measurement("resistance", (a, b), setup, linked))


def with_point(circuit: Circuit, point_id: str, **changes: object) -> Circuit:
    points = [
        {**point.model_dump(), **changes} if point.id == point_id else point.model_dump() for point in circuit.points
    ]
    return Circuit.model_validate({**circuit.model_dump(), "points": points})


class Oracle(unittest.TestCase):
    """Against the resistance distance of a graph library, which knows nothing of ours."""

    @settings(max_examples=60)
    @given(st.integers(3, 70), st.integers(0, 30), st.randoms(use_true_random=False))
    def test_any_network(self, size: int, more: int, dice: random.Random) -> None:
        graph, net = nx.Graph(), Network()
        pairs = [(i, dice.randrange(i)) for i in range(1, size)]
        pairs += [tuple(dice.sample(range(size), 2)) for _ in range(more)]
        for a, b in pairs:
            r = dice.uniform(0.001, 5)
            net.join(a, b, r)
            g = 1 / r + (graph[a][b]["g"] if graph.has_edge(a, b) else 0)
            graph.add_edge(a, b, g=g)
        solved = net.solve()
        a = dice.randrange(size)
        for b, wanted in nx.resistance_distance(graph, a, weight="g", invert_weight=False).items():
            self.assertAlmostEqual(solved.ohm_between(a, b), wanted, delta=1e-9 * max(1, wanted))
        self.assertGreater(70, SMALL)  # both ways of inverting are tried

    def test_the_worked_ring_conductor_by_conductor(self) -> None:
        ring = worked_ring()
        for core, each in (("L", LINE), ("N", LINE), ("E", CPC)):
            graph = nx.Graph()
            for run_leg in ring.legs:
                graph.add_edge(run_leg.a, run_leg.b, r=run_leg.length_m * each)
            for point in ring.points:
                wanted = nx.resistance_distance(graph, BOARD, point.id, weight="r")
                self.assertAlmostEqual(ohm(ring, node(core, BOARD), node(core, point.id)), wanted, places=9)


class Megohms(unittest.TestCase):
    """Insulation beside copper keeps nine digits, whatever the ratio."""

    @settings(max_examples=40)
    @given(
        st.lists(st.floats(1e-4, 1), min_size=2, max_size=12),
        st.lists(st.floats(1e3, 1e10), min_size=1, max_size=6),
        st.randoms(use_true_random=False),
    )
    def test_against_exact_fractions(self, copper: list[float], leaks: list[float], dice: random.Random) -> None:
        net, branches = Network(), []
        for side in ("L", "E"):
            for i, r in enumerate(copper):
                branches.append(((side, i), (side, i + 1), r))
        for r in leaks:
            branches.append((("L", dice.randrange(len(copper) + 1)), ("E", dice.randrange(len(copper) + 1)), r))
        for a, b, r in branches:
            net.join(a, b, r)
        found = net.solve().ohm_between(("L", 0), ("E", 0))
        wanted = exactly(branches, ("L", 0), ("E", 0))
        self.assertLess(abs(found - wanted) / wanted, 1e-9)

    def test_a_leak_far_down_a_run_reads_as_itself(self) -> None:
        circuit = run(20, 20, 20)
        leak = Setup(bridges=((node("L", "P3"), node("E", "P3"), 2e6),))
        reading = ohm(circuit, node("L", BOARD), node("E", BOARD), leak)
        self.assertAlmostEqual(reading, 2e6 + 60 * (LINE + CPC), delta=2e6 * 1e-12)
        self.assertGreater(2e6 / (20 * LINE), WIDE)
        # Linked at the far end the copper takes over, and the leak is hardly there.
        linked = ohm(circuit, node("L", BOARD), node("E", BOARD), leak, (node("L", "P3"), node("E", "P3")))
        self.assertAlmostEqual(linked, 60 * (LINE + CPC), places=9)


def exactly(branches, a, b) -> float:
    """The resistance between two nodes in exact fractions, by taking nodes out one after another."""
    g: dict = {}
    for x, y, r in branches:
        if x != y:
            for p, q in ((x, y), (y, x)):
                g.setdefault(p, {})[q] = g.get(p, {}).get(q, 0) + 1 / Fraction(r)
    for out in [each for each in g if each not in (a, b)]:
        around = g.pop(out)
        total = sum(around.values())
        for p in around:
            del g[p][out]
            for q in around:
                if p != q:
                    g[p][q] = g[p].get(q, 0) + around[p] * around[q] / total
    return float(1 / g[a][b])


class Merged(unittest.TestCase):
    def test_no_resistance_makes_two_nodes_one(self) -> None:
        net = Network()
        for a, b, r in (("a", "b", 1), ("b", "c", 0), ("c", "d", 2), ("d", "e", 0), ("e", "c", 0)):
            net.join(a, b, r)
        solved = net.solve()
        self.assertAlmostEqual(solved.ohm_between("a", "e"), 1)
        self.assertEqual(solved.ohm_between("b", "d"), 0)

    def test_the_current_through_what_is_left_is_right(self) -> None:
        net = Network()
        net.join("board", "a", 2)
        net.join("a", "b", 0)
        net.join("b", "c", 3)
        solved = net.solve()
        volts = solved.potentials_v({"c": -5})
        self.assertAlmostEqual(solved.potential_of(volts, "c"), -25)
        np.testing.assert_allclose(solved.branch_currents_a(volts), [5, 5])


class Said(unittest.TestCase):
    """What is joined otherwise shows alike in Zs, in readings and in loads."""

    def test_plain_joins_said_out_loud_change_nothing(self) -> None:
        plain = worked_ring()
        said = plain
        for point in plain.points:
            here = [each.id for each in plain.legs if point.id in (each.a, each.b)]
            joins = [
                Join(ends=[end(leg_id, core) for leg_id in here], terminals=(core,)).model_dump()
                for core in ("L", "N", "E")
            ]
            said = with_point(said, point.id, joins=joins)
        for point in plain.points:
            a, b = (measure(wired(each), r1_plus_r2(point.id)) for each in (plain, said))
            self.assertAlmostEqual(a, b, places=12)

    def test_a_cpc_left_off_opens_everything_behind_it(self) -> None:
        circuit = with_point(run(5, 5), "P1", joins=[Join(ends=[end("L2", "E")]).model_dump()])
        found = study(circuit)
        self.assertAlmostEqual(found.wires.cold.joined_ohm["P1"], 5 * (LINE + CPC))
        self.assertEqual(found.wires.cold.joined_ohm["P2"], OPEN)
        self.assertEqual(found.currents.flow.drop_v.keys(), {"P1", "P2"})

    def test_line_and_neutral_crossed_at_a_point_read_as_each_other(self) -> None:
        joins = [
            Join(ends=[end("L1", "L"), end("L2", "N")], terminals=("L",)).model_dump(),
            Join(ends=[end("L1", "N"), end("L2", "L")], terminals=("N",)).model_dump(),
        ]
        crossed = with_point(run(4, 6), "P1", joins=joins)
        self.assertEqual(ohm(crossed, node("L", BOARD), node("L", "P2")), OPEN)
        self.assertAlmostEqual(ohm(crossed, node("L", BOARD), node("N", "P2")), 10 * LINE)

    def test_the_spare_core_of_three_leads_nowhere_until_it_is_joined(self) -> None:
        plain = run(5, 5, cable=T3)
        each = BS.milliohm_per_m(T3, "L") / 1000
        self.assertEqual(T3.core_names, ("L", "N", "E", "S1"))
        self.assertEqual(ohm(plain, node("L", BOARD), loose(CoreAt("L1", "S1", "P1"))), OPEN)
        strapped = with_point(plain, "P1", joins=[Join(ends=[end("L1", "S1"), end("L2", "L")]).model_dump()])
        strapped = strapped.model_copy(update={"board_joins": (Join(ends=(end("L1", "S1"),), terminals=("L",)),)})
        self.assertAlmostEqual(ohm(strapped, node("L", BOARD), node("L", "P2")), 10 * each)
        self.assertAlmostEqual(ohm(strapped, node("L", BOARD), node("L", "P1")), 5 * each)

    def test_a_shape_that_cannot_be_is_refused_by_name(self) -> None:
        for joins, words in (
            ([Join(ends=[end("L9", "L")])], "leg L9 does not end at 'P1'"),
            ([Join(ends=[end("L1", "S1")])], "leg L1 has no core S1; it has L, N, E"),
            ([Join(ends=[end("L1", "L")]), Join(ends=[end("L1", "L")])], "used twice"),
        ):
            with self.assertRaisesRegex(ValidationError, words):
                with_point(run(5, 5), "P1", joins=[each.model_dump() for each in joins])
        with self.assertRaisesRegex(ValidationError, "circuit and point together"):
            end("L1", "L", circuit=3)
        with self.assertRaisesRegex(ValidationError, "at least one core end"):
            Join()

    def test_edits_take_what_is_joined_along(self) -> None:
        off = with_point(run(5, 5), "P2", joins=[Join(ends=[end("L2", "E")]).model_dump()])
        broken_in = apply_edit(off, InsertPoint(leg="L2")).circuit
        self.assertEqual(broken_in.point("P2").joins[0].ends[0].leg, "L3")
        self.assertEqual(study(broken_in).wires.cold.joined_ohm["P2"], OPEN)
        out_again = apply_edit(broken_in, RemovePoint(point="P3")).circuit
        self.assertEqual(out_again.point("P2").joins[0].ends[0].leg, "L2")
        self.assertEqual(apply_edit(off, RemovePoint(point="P1")).circuit.point("P2").joins[0].ends[0].leg, "L1")


class Contacts(unittest.TestCase):
    def through_a_switch(self) -> Circuit:
        """Board to switch to light: the line through the switch's contact."""
        joins = [
            Join(ends=(end("L1", "L"),), terminals=("COM",)),
            Join(ends=(end("L2", "L"),), terminals=("L1",)),
        ]
        switch = Point(id="P1", kind="switch", joins=tuple(joins), switches=(one_way("S"),))
        legs = (leg("L1", BOARD, "P1", 6), leg("L2", "P1", "P2", 4))
        return a_circuit(kind="lighting", points=(switch, Point(id="P2", kind="light")), legs=legs)

    def test_zs_and_drop_go_through_the_contact_as_the_test_asks(self) -> None:
        circuit = self.through_a_switch()
        found = study(circuit)
        self.assertAlmostEqual(found.wires.cold.joined_ohm["P2"], 10 * (LINE + CPC))
        self.assertIn("P2", found.currents.flow.drop_v)
        opened = Setup(positions=frozenset({((0, "P1", "S"), 1)}))
        self.assertEqual(measure(found.wires.wired, r1_plus_r2("P2", opened)), OPEN)
        self.assertAlmostEqual(measure(found.wires.wired, r1_plus_r2("P1", opened)), OPEN)

    def test_two_way_and_intermediate_join_what_they_say(self) -> None:
        pairs = [[(pair.a, pair.b) for pair in position] for position in two_way("S").positions]
        self.assertEqual(pairs, [[("COM", "L1")], [("COM", "L2")]])
        crossed = [(pair.a, pair.b) for pair in intermediate("S").positions[1]]
        self.assertEqual(crossed, [("L1", "L4"), ("L2", "L3")])

    def test_a_loop_counts_what_lies_outside(self) -> None:
        inside = wired(run(10))
        outside = Wired(inside.wiring, inside.ohms, outside_ohm=0.35)
        self.assertAlmostEqual(measure(outside, fault_loop("P1")), 0.35 + 10 * (LINE + CPC))
        self.assertAlmostEqual(measure(outside, r1_plus_r2("P1")), 10 * (LINE + CPC))


class Everywhere(unittest.TestCase):
    """What is read at all points at once is what is read at each by itself."""

    @given(
        st.lists(st.floats(0.5, 40), min_size=3, max_size=7),
        st.integers(1, 3),
        st.sampled_from(
            [IN_SERVICE, Setup(broken=frozenset({(0, "L2", "E")})), Setup(broken=frozenset({(0, "L1", "N")}))]
        ),
        st.sampled_from([0.0, 0.35]),
    )
    def test_any_ring(self, lengths: list[float], spur_at: int, found: Setup, outside: float) -> None:
        circuit = with_spur(run(*lengths, back=7), f"P{spur_at}", "S1", 4)
        ends, points = ("L1", circuit.legs[len(lengths)].id), [point.id for point in circuit.points]
        readings = {
            "r1": lambda at: one_core("L", at, found),
            "r1+r2": lambda at: r1_plus_r2(at, found),
            "zs": lambda at: fault_loop(at, found),
            "cross-ln": lambda at: crossed(ends, "N", at, found),
            "cross-le": lambda at: crossed(ends, "E", at, found),
            "own ends": lambda at: own_ends(ends, at, found),
        }
        for name, how in readings.items():
            here = dataclasses.replace(wired(circuit), outside_ohm=outside, _solved={})
            there = dataclasses.replace(here, _solved={})
            together = measure_at(here, how(points[0]), points[0], points)
            for point, ohm_there in zip(points, together, strict=True):
                alone = measure(there, how(point))
                self.assertTrue(alone == ohm_there or abs(alone - ohm_there) < 1e-9, (name, point, alone, ohm_there))

    def test_nothing_to_read(self) -> None:
        self.assertEqual(measure_at(wired(run(5)), r1_plus_r2("P1"), "P1", []), [])


class Shared(unittest.TestCase):
    """Circuits that are joined alike share what follows from it, and nothing else."""

    def test_whatever_their_lengths_and_cables(self) -> None:
        one, other = study(run(5, 6, back=7)), study(run(9, 2, back=3, cable=Cable(csa_mm2=4)))
        self.assertIs(one.graph, other.graph)
        self.assertIs(one.shape, other.shape)
        self.assertIs(one.wires.wiring, other.wires.wiring)
        for each in (one, other, one):
            total = sum(core_ohm(BS, each.circuit.cable, "L", leg.length_m) for leg in each.circuit.legs)
            self.assertAlmostEqual(each.wires.cold.ring.r1_ohm, total)

    def test_not_what_is_joined_otherwise(self) -> None:
        plain = run(5, 6, back=7)
        elsewhere = plain.model_copy(
            update={"legs": (*plain.legs[:-1], plain.legs[-1].model_copy(update={"other_way": 7}))}
        )
        self.assertEqual(study(elsewhere).shape.kind, "ends-on-two-devices")
        self.assertEqual(study(elsewhere.model_copy(update={"number": 7})).shape.kind, "ring")
        crossed_over = [
            {"ends": [{"leg": "L1", "core": "L"}, {"leg": "L2", "core": "N"}]},
            {"ends": [{"leg": "L1", "core": "N"}, {"leg": "L2", "core": "L"}]},
        ]
        at_board = plain.model_copy(update={"board_joins": (Join(ends=(end("L1", "E"),), terminals=("N",)),)})
        lead = node("N", BOARD), node("E", "P1")
        self.assertEqual(ohm(plain, *lead), OPEN)
        self.assertAlmostEqual(ohm(at_board, *lead), 5 * CPC)
        switched = with_point(plain, "P1", switches=[one_way("S", "L", "E")])
        self.assertEqual(list(study(switched).wires.wiring.contacts), [(0, "P1", "S")])
        said = with_point(plain, "P1", joins=crossed_over)
        self.assertIsNot(study(said).wires.wiring, study(plain).wires.wiring)
        self.assertIsNot(study(said).graph, study(plain).graph)

    def test_a_core_without_resistance_is_one_node(self) -> None:
        wires = study(run(5, 6)).wires
        ohms = wires.wiring.ohms(wires.cores_ohm)
        ohms[wires.wiring.branches.index((0, "L1", "L"))] = 0.0
        solved = wires.wiring.solve(ohms)
        self.assertEqual(solved.ohm_between(node("L", BOARD), node("L", "P1")), 0)
        self.assertAlmostEqual(solved.ohm_between(node("L", BOARD), node("L", "P2")), 6 * LINE)


class Together(unittest.TestCase):
    """Several circuits of one board: they share its bars, and what is joined by mistake."""

    def network(self, circuits: dict[int, Circuit]) -> Wired:
        wiring = expand_together(circuits)
        ohms = [
            core_ohm(
                BS, circuits[number].cable, core, next(x for x in circuits[number].legs if x.id == leg_id).length_m
            )
            for number, leg_id, core in wiring.branches
        ]
        return Wired(wiring, np.array(ohms))

    def test_they_share_neutral_and_earth_and_each_line_is_behind_its_device(self) -> None:
        found = self.network({3: run(5), 7: run(8)})
        across = Measurement("resistance", (node("N", "P1", 3), node("N", "P1", 7)))
        self.assertAlmostEqual(measure(found, across), 13 * LINE)
        lines = Measurement("resistance", (node("L", "P1", 3), node("L", "P1", 7)))
        self.assertAlmostEqual(measure(found, lines), 13 * LINE)
        self.assertEqual(measure(found, lines._replace(setup=Setup(off=frozenset({7})))), OPEN)

    def test_a_borrowed_neutral_shows(self) -> None:
        borrowed = Join(ends=(end("L1", "N", circuit=7, at="P1"),), terminals=("N",))
        lender = run(5, 5)
        lamp = with_point(lender, "P2", joins=[borrowed.model_dump(), Join(ends=[end("L2", "N")]).model_dump()])
        found = self.network({3: lamp, 7: run(8)})
        neutral = Measurement("resistance", (node("N", BOARD), node("N", "P2", 3)))
        self.assertAlmostEqual(measure(found, neutral), 8 * LINE)
        alone = expand(lamp, lamp.legs)
        apart = Wired(alone, alone.ohms(study(lamp).wires.cores_ohm))
        self.assertEqual(measure(apart, Measurement("resistance", (node("N", BOARD), node("N", "P2")))), OPEN)


class Breaks(unittest.TestCase):
    def test_a_break_is_a_setup_like_any_other(self) -> None:
        found = study(run(5, 5, back=5), as_found=cut(("L1", "E")))
        self.assertAlmostEqual(found.wires.cold.r2_ohm["P1"], 10 * CPC)
        self.assertEqual(found.wires.cold.ring.r2_ohm, OPEN)
