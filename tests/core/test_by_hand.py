"""The network against other ways of reaching the same figure: current dividers, moments, sums along a tree."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point
from lumbek.core.network.solver import Network
from tests.support.houses import SUPPLY, check, cut, fixed, judged, leg, run, study, with_spur
from tests.support.stated import a_circuit, a_device

LINE, CPC = 7.41e-3, 12.10e-3
HOT = 1.20
lengths = st.lists(st.floats(0.5, 30), min_size=1, max_size=8)
amps = st.lists(st.floats(0.1, 5), min_size=8, max_size=8)


class Rings(unittest.TestCase):
    @given(lengths, st.floats(0.5, 30))
    def test_every_reading_of_a_ring_in_closed_form(self, spec, back) -> None:
        ring = study(run(*spec, back=back)).wires.cold.ring
        whole = sum(spec) + back
        r1, r2 = LINE * whole, CPC * whole
        self.assertAlmostEqual(ring.r1_ohm, r1)
        self.assertAlmostEqual(ring.r2_ohm, r2)
        gone = 0.0
        for index, length in enumerate(spec):
            gone += length
            x = gone / whole
            point = f"P{index + 1}"
            # Out by the line one way and back by the other conductor the other way round: two ways in parallel.
            one, other = x * r1 + (1 - x) * r2, (1 - x) * r1 + x * r2
            self.assertAlmostEqual(ring.cross_le_ohm[point], one * other / (one + other))
            self.assertAlmostEqual(ring.cross_ln_ohm[point], r1 / 2)
            self.assertAlmostEqual(ring.own_ends_ln_ohm[point], x * (1 - x) * 2 * r1)

    @given(lengths, st.floats(0.5, 30))
    def test_r1_plus_r2_is_two_ways_in_parallel(self, spec, back) -> None:
        joined = study(run(*spec, back=back)).wires.cold.joined_ohm
        whole, gone = sum(spec) + back, 0.0
        for index, length in enumerate(spec):
            gone += length
            parallel = gone * (whole - gone) / whole * (LINE + CPC)
            self.assertAlmostEqual(joined[f"P{index + 1}"], parallel)

    @given(lengths, st.floats(0.5, 30), amps)
    def test_currents_by_moments_about_the_board(self, spec, back, loads) -> None:
        at = {f"P{index + 1}": loads[index] for index in range(len(spec))}
        flow = study(run(*spec, back=back, loads=at)).currents.flow
        whole, gone, first = sum(spec) + back, 0.0, 0.0
        for index, length in enumerate(spec):
            gone += length
            first += loads[index] * (whole - gone) / whole
        self.assertAlmostEqual(flow.leg_a["L1"], first, places=6)
        # Each point takes its own off; the drop grows by current and resistance of both conductors.
        carried, volts = first, 0.0
        for index, length in enumerate(spec):
            volts += carried * 2 * LINE * HOT * length
            self.assertAlmostEqual(flow.drop_v[f"P{index + 1}"], volts, places=6)
            carried -= loads[index]

    @given(st.lists(st.floats(1, 20), min_size=3, max_size=7), st.floats(1, 20), st.floats(0.5, 15))
    def test_a_spur_adds_its_own_length_to_the_point_it_leaves(self, spec, back, more) -> None:
        circuit = with_spur(run(*spec, back=back), "P2", "S1", more)
        cold = study(circuit).wires.cold
        self.assertAlmostEqual(cold.joined_ohm["S1"], cold.joined_ohm["P2"] + more * (LINE + CPC))
        self.assertAlmostEqual(cold.ring.cross_le_ohm["S1"], cold.ring.cross_le_ohm["P2"] + more * (LINE + CPC))

    @given(st.lists(st.floats(1, 20), min_size=2, max_size=6), st.floats(1, 20), st.integers(0, 6))
    def test_a_broken_line_leaves_one_way(self, spec, back, where) -> None:
        broken = where % (len(spec) + 1)
        as_found = cut((f"L{broken + 1}", "L"))
        cold = study(run(*spec, back=back), as_found=as_found).wires.cold
        whole, gone = sum(spec) + back, 0.0
        for index, length in enumerate(spec):
            gone += length
            line = gone if index < broken else whole - gone
            cpc = gone * (whole - gone) / whole
            self.assertAlmostEqual(cold.joined_ohm[f"P{index + 1}"], line * LINE + cpc * CPC)


class Trees(unittest.TestCase):
    @given(
        st.lists(st.tuples(st.integers(0, 20), st.floats(0.5, 20)), min_size=1, max_size=12),
        st.lists(st.floats(0.1, 2), min_size=12, max_size=12),
    )
    def test_drop_is_the_sum_along_the_way_of_what_lies_beyond(self, branches, loads) -> None:
        parent, legs, points = {}, [], []
        for index, (pick, length) in enumerate(branches):
            name = f"P{index + 1}"
            parent[name] = "board" if index == 0 else ["board", *parent][pick % (len(parent) + 1)]
            legs.append(leg(f"L{index + 1}", parent[name], name, length))
            points.append(Point(id=name, kind="fixed", loads=({"current_a": loads[index]},)))
        circuit = a_circuit(
            points=tuple(points), legs=tuple(legs), device=a_device(rating_a=32), kind="fixed-appliance"
        )
        carried = dict.fromkeys(parent, 0.0)
        for index, name in enumerate(parent):
            here = name
            while here != "board":
                carried[here] += loads[index]
                here = parent[here]
        flow = study(circuit).currents.flow
        for index, name in enumerate(parent):
            self.assertAlmostEqual(abs(flow.leg_a[f"L{index + 1}"]), carried[name], places=6)
            here, volts, metres = name, 0.0, 0.0
            while here != "board":
                length = branches[int(here[1:]) - 1][1]
                volts += 18 * carried[here] * length / 1000
                metres += length
                here = parent[here]
            self.assertAlmostEqual(flow.drop_v[name], volts, places=6)
            self.assertAlmostEqual(study(circuit).wires.cold.joined_ohm[name], metres * (LINE + CPC))


class AnyNetwork(unittest.TestCase):
    @given(
        st.integers(2, 9), st.lists(st.tuples(st.integers(0, 8), st.integers(0, 8), st.floats(0.01, 5)), max_size=20)
    )
    def test_resistances_by_least_squares_over_branches(self, size, extra) -> None:
        """Ohm's and Kirchhoff's laws as one overdetermined system, solved without any inverse of ours."""
        branches = [(node, node + 1, 1.0) for node in range(size - 1)]
        branches += [(a % size, b % size, ohm) for a, b, ohm in extra if a % size != b % size]
        network: Network[int] = Network()
        incidence = np.zeros((len(branches), size))
        for row, (a, b, ohm) in enumerate(branches):
            network.join(a, b, ohm)
            incidence[row, a], incidence[row, b] = 1, -1
        solved = network.solve()
        conductance = np.diag([1 / ohm for _, _, ohm in branches])
        laplacian = incidence.T @ conductance @ incidence
        for a in range(size):
            for b in range(a + 1, size):
                injected = np.zeros(size)
                injected[a], injected[b] = 1, -1
                volts, *_ = np.linalg.lstsq(laplacian, injected, rcond=None)
                self.assertAlmostEqual(solved.ohm_between(a, b), volts[a] - volts[b], places=7)


class Cases(unittest.TestCase):
    """Whole circuits worked out with a calculator from the tables."""

    def figures(self, circuit: Circuit, supply=SUPPLY) -> dict[str, tuple[float | None, str]]:
        return {each.id: (each.value, str(each.verdict)) for each in judged(circuit, supply).checks}

    def near(self, circuit: Circuit, **expected: float) -> None:
        found = self.figures(circuit)
        for key, value in expected.items():
            self.assertAlmostEqual(found[key.replace("_", "-")][0], value, delta=abs(value) * 1e-6, msg=key)

    def test_immersion_heater(self) -> None:
        ib = 3000 / 230
        self.near(
            fixed(16, 3000, 16, 2.5, kind="water-heater"),
            load=ib,
            cable=27,
            volt_drop=100 * 18 * ib * 16 / 1000 / 230,
            zs=0.21 + 16 * (LINE + CPC) * HOT,
        )

    def test_lighting_of_six_leds_and_a_lampholder(self) -> None:
        led, lamp = 10 / (230 * 0.9), 100 / 230
        circuit = run(9, 4, 4, 6, kind="lighting", device=a_device(rating_a=6), cable=Cable(csa_mm2=1))
        loads = (
            [{"power_w": 10, "power_factor": 0.9}] * 2,
            [{"power_w": 10, "power_factor": 0.9}] * 4,
            [{"power_w": 100}],
        )
        points = tuple(
            Point(id=f"P{index + 1}", kind="light", loads=tuple(loads[index]) if index < 3 else ())
            for index in range(4)
        )
        drop = 44 * (9 * (6 * led + lamp) + 4 * (4 * led + lamp) + 4 * lamp) / 1000
        self.near(
            circuit.model_copy(update={"points": points}),
            load=6 * led + lamp,
            cable=16,
            volt_drop=100 * drop / 230,
            zs=0.21 + 23 * 2 * 18.10e-3 * HOT,
        )

    def test_cooker_on_ten_square(self) -> None:
        ib = 10 + 0.3 * (14000 / 230 - 10)
        self.near(
            fixed(22, 14000, 32, 10, kind="cooker"),
            load=ib,
            cable=64,
            volt_drop=100 * 4.4 * ib * 22 / 1000 / 230,
            zs=0.21 + 22 * (1.83e-3 + 4.61e-3) * HOT,
        )

    def test_singles_in_conduit_with_a_cpc_as_large(self) -> None:
        circuit = fixed(18, 4600, 25, 4, kind="fixed-appliance", cable=Cable(type="single-core", csa_mm2=4), method="B")
        self.near(
            circuit, load=20, cable=32, volt_drop=100 * 11 * 20 * 18 / 1000 / 230, zs=0.21 + 18 * 2 * 4.61e-3 * HOT
        )

    def test_armoured_xlpe_takes_its_own_temperature(self) -> None:
        cable = Cable(type="armoured", cpc_by="core", insulation="xlpe90", csa_mm2=6)
        circuit = fixed(40, 5750, 32, 6, kind="outdoor", cable=cable, method="D")
        self.near(circuit, load=25, volt_drop=100 * 7.9 * 25 * 40 / 1000 / 230, zs=0.21 + 40 * 2 * 3.08e-3 * 1.28)

    def test_a_floor_of_sockets_on_a_radial(self) -> None:
        # 20 A at the far end, nothing left to spread: all of it over all of the run.
        circuit = run(12, 5, 5, 5, device=a_device(rating_a=20))
        self.near(
            circuit, load=20, cable=27, volt_drop=100 * 18 * 20 * 27 / 1000 / 230, zs=0.21 + 27 * (LINE + CPC) * HOT
        )

    def test_a_32_a_radial_spreads_twelve(self) -> None:
        circuit = run(10, 6, 4, device=a_device(rating_a=32), cable=Cable(csa_mm2=4))
        volts = 11 * (32 * 10 + 28 * 6 + 24 * 4) / 1000
        self.near(circuit, load=32, cable=37, volt_drop=100 * volts / 230, zs=0.21 + 20 * (4.61e-3 + CPC) * HOT)

    def test_conventional_loads_of_a_ring(self) -> None:
        circuit = run(10, 10, 10, back=10)
        flow = study(circuit).currents.flow
        # P2 lies farthest: 20 + 4 A there, 4 A at each of the others; by symmetry half goes each way.
        self.assertAlmostEqual(flow.leg_a["L1"], 16)
        self.assertAlmostEqual(flow.leg_a["L2"], 12)
        self.assertAlmostEqual(flow.drop_v["P2"], (16 * 10 + 12 * 10) * 2 * LINE * HOT)
        self.assertEqual(check(judged(circuit), "ring-current").verdict, "pass")

    def test_three_phase_load_by_line_to_line(self) -> None:
        cable = Cable(type="multicore", csa_mm2=4)
        circuit = fixed(25, 11000, 20, 4, kind="three-phase", cable=cable)
        ib = 11000 / (3 * 230)
        self.near(circuit, load=ib, volt_drop=100 * 9.5 * ib * 25 / 1000 / 400, zs=0.21 + 25 * 2 * 4.61e-3 * HOT)
