"""The nodal solver against laws it must obey whatever the network."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.network.solver import OPEN, Network

ohms = st.floats(0.001, 10)


def network(*branches: tuple[str, str, float]):
    net: Network[str] = Network()
    for a, b, ohm in branches:
        net.join(a, b, ohm)
    return net.solve()


class Solver(unittest.TestCase):
    @given(ohms, ohms)
    def test_series_and_parallel(self, r: float, s: float) -> None:
        series = network(("a", "b", r), ("b", "c", s))
        self.assertAlmostEqual(series.ohm_between("a", "c"), r + s)
        parallel = network(("a", "b", r), ("a", "b", s))
        self.assertAlmostEqual(parallel.ohm_between("a", "b"), r * s / (r + s))

    def test_balanced_bridge_carries_nothing_across(self) -> None:
        bridge = network(("a", "b", 1), ("b", "d", 2), ("a", "c", 3), ("c", "d", 6), ("b", "c", 5))
        self.assertAlmostEqual(bridge.ohm_between("a", "d"), 3 * 9 / 12)

    def test_open_between_parts_and_for_unknown_nodes(self) -> None:
        parts = network(("a", "b", 1), ("c", "d", 1))
        self.assertEqual(parts.ohm_between("a", "c"), OPEN)
        self.assertEqual(parts.ohm_between("a", "nowhere"), OPEN)

    def test_joined_at_the_far_end_adds_up(self) -> None:
        parts = network(("L0", "L1", 2), ("E0", "E1", 3))
        self.assertAlmostEqual(parts.ohm_between_when_joined("L0", "E0", "L1", "E1"), 5)
        self.assertAlmostEqual(parts.ohm_between_when_joined("L0", "E0", "E1", "L1"), 5)

    @given(ohms, ohms, ohms, ohms, ohms)
    def test_joining_inside_one_part_is_as_solving_afresh(self, r, s, t, u, v) -> None:
        branches = [("a", "b", r), ("b", "c", s), ("c", "d", t), ("d", "a", u), ("a", "c", v)]
        joined = network(*branches).ohm_between_when_joined("a", "c", "b", "d")
        merged = [(x.replace("d", "b"), y.replace("d", "b"), ohm) for x, y, ohm in branches]
        self.assertAlmostEqual(joined, network(*merged).ohm_between("a", "c"), places=6)

    @given(
        st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9), ohms), min_size=1, max_size=14),
        st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), max_size=5),
    )
    def test_nodes_made_one_are_as_solved_afresh(self, branches, pairs) -> None:
        """Within a part, between parts, the same twice: every reading is that of a new network."""
        first: Network[int] = Network()
        for node in range(10):
            first.node(node)
        for a, b, ohm in branches:
            if a != b:
                first.join(a, b, ohm)
        joined = first.solve().with_joined(pairs)
        for a, b in pairs:
            first.join(a, b, 0.0)
        fresh = first.solve()
        assert joined is not None
        amps = {node: float(node - 4) for node in range(10)}
        for a in range(10):
            for b in range(10):
                one, other = joined.ohm_between(a, b), fresh.ohm_between(a, b)
                self.assertTrue(one == other or abs(one - other) < 1e-9 * max(1.0, other), (a, b, one, other))
        volts, again = joined.potentials_v(amps), fresh.potentials_v(amps)
        for node in range(10):
            self.assertAlmostEqual(joined.potential_of(volts, node), fresh.potential_of(again, node), places=7)
        for one, other in zip(joined.branch_currents_a(volts), fresh.branch_currents_a(again), strict=True):
            self.assertAlmostEqual(one, other, places=6)

    @given(
        st.lists(st.tuples(st.integers(0, 4), st.integers(0, 4), ohms), min_size=4, max_size=9),
        st.lists(st.tuples(st.integers(5, 9), st.integers(5, 9), ohms), min_size=4, max_size=9),
        st.one_of(
            st.lists(st.tuples(st.integers(0, 4), st.integers(5, 9)), min_size=2, max_size=2),
            st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), min_size=1, max_size=3),
        ),
    )
    def test_across_two_links_is_as_with_the_links_made(self, one, other, links) -> None:
        """In two parts, linked twice, also at one node of a part: it reads as solved anew, or says it must be."""
        parts: Network[int] = Network()
        for node in range(10):
            parts.node(node)
        for a, b, ohm in [*one, *other]:
            if a != b:
                parts.join(a, b, ohm)
        pairs = [(a, b) for a in range(5) for b in range(5, 10)]
        apart = parts.solve()
        pairs = [(a, b) for a, b in pairs if all(apart.joined(x, y) for x, y in ((a, links[0][0]), (b, links[0][1])))]
        found = apart.ohms_across_two_links(links, pairs)
        for a, b in links:
            parts.join(a, b, 0.0)
        fresh = parts.solve()
        usual = len(links) == 2 and all(apart.joined(a, links[0][0]) and apart.joined(b, links[0][1]) for a, b in links)
        if found is None:
            self.assertFalse(usual and not apart.joined(*links[0]) and links[0] != links[1])
            return
        for (a, b), ohm in zip(pairs, found, strict=True):
            self.assertAlmostEqual(ohm, fresh.ohm_between(a, b), places=9)

    @given(st.lists(st.tuples(ohms, st.floats(-20, 20)), min_size=1, max_size=8))
    def test_currents_obey_kirchhoff(self, spec: list[tuple[float, float]]) -> None:
        net: Network[str] = Network()
        net.node("n0")
        for i, (ohm, _) in enumerate(spec):
            net.join(f"n{i}", f"n{i + 1}", ohm)
        net.join(f"n{len(spec)}", "n0", 1.0)
        solved = net.solve()
        injected = {f"n{i + 1}": amps for i, (_, amps) in enumerate(spec)}
        currents = solved.branch_currents_a(solved.potentials_v(injected))
        for i in range(1, len(spec) + 1):
            self.assertAlmostEqual(currents[i - 1] + injected[f"n{i}"], currents[i], places=6)

    def test_no_branch_without_resistance(self) -> None:
        for ohm in (-1.0, float("nan")):
            with self.assertRaises(ValueError):
                network(("a", "b", ohm))
