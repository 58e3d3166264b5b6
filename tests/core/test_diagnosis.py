"""Finding faults: readings foretold, suspects weighed, circuits as installed, and the simulator."""

import math
import random
import unittest
from dataclasses import replace
from itertools import pairwise

import networkx
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import begin
from lumbek.core.diagnosis.catalogue import Catalogue, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.predict import InsulationPaths, predict
from lumbek.core.diagnosis.scatter import Foretold as Foresaid
from lumbek.core.diagnosis.scatter import ReadOhms, Scatter
from lumbek.core.diagnosis.suspects import Hypothesis
from lumbek.core.diagnosis.verdict import accusation
from lumbek.core.network.changed import OPEN_FROM_OHM
from lumbek.practice.hidden import Meter, draw
from lumbek.simulated.house import Installed, resistance
from tests.support.anew import read_anew
from tests.support.houses import run, with_spur, worked_ring
from tests.support.patients import patient, settled


class Foretold(unittest.TestCase):
    def test_every_hypothesis_reads_as_its_network_solved_anew(self) -> None:
        """Woodbury's identity against a network put together for each: rings, runs, spurs; links, leads, ends out."""
        for circuit in (with_spur(worked_ring(), "P2", "P8", 3), run(5, 4, 6, 3)):
            of = patient(circuit)
            more = ["flat/LN/P2", "leg/N/L2", "lead/E/P3/-"]
            if of.ring:
                more = [
                    "link/LN/P3/a",
                    "link/LE/P2/b",
                    "lead/N/P2/b",
                    "ends/L-N",
                    "far/NE/P2",
                    "flat/LN/P3",
                    "leg/N/L1",
                ]
            tests = [Catalogue(of).test(each) for each in (*first_tests(of), *more)]
            low = [test for test in tests if not test.insulation]
            every = [each for _, some in all_suspects(of) for each in some if not each.tails]
            some = random.Random(5).sample(every, 160)
            found = predict(of, some, low).ohm
            for row, each in enumerate(some):
                for told, anew, test in zip(found[row], read_anew(of, each, low), low, strict=True):
                    said = f"{each} {test.id}: {told} {anew}"
                    if anew > OPEN_FROM_OHM or told > OPEN_FROM_OHM:
                        self.assertTrue(anew > OPEN_FROM_OHM and told > OPEN_FROM_OHM, said)
                    else:
                        # The leak between parts takes a hundred-thousandth off each ohm.
                        self.assertLess(abs(told - anew), 1e-6 + anew * (1e-5 + anew * 1.1e-5), said)

    def test_how_a_reading_goes_with_each_length(self) -> None:
        """dR/dr = i²: lengthening one leg by a thousandth changes each reading by what is foretold."""
        circuit = worked_ring()
        of = patient(circuit)
        tests = [Catalogue(of).test(each) for each in first_tests(of) if not each.startswith("ins")]
        sound = [hypotheses[0] for suspect, hypotheses in all_suspects(of) if suspect.id == "sound"]
        told = predict(of, sound, tests)
        for at, leg_id in enumerate(of.legs):
            legs = tuple(
                each.model_copy(
                    update={"segments": (each.segments[0].model_copy(update={"length_m": each.length_m * 1.001}),)}
                )
                if each.id == leg_id
                else each
                for each in circuit.legs
            )
            longer = predict(patient(circuit.model_copy(update={"legs": legs})), sound, tests).ohm[0]
            np.testing.assert_allclose((longer - told.ohm[0]) * 1000, told.by_leg[0, :, at], atol=2e-4)

    def test_a_high_resistance_explains_no_reading_that_is_low(self) -> None:
        """Noise goes with what was read: 2 % of the 45 Ω a suspect might be would excuse 1 Ω everywhere."""
        circuit, document, _ = draw(random.Random(4), (12, 12), ("radial",))
        installed = Installed(document, random.Random(4))
        installed.bridges(("board", "E"), ("p10", "E"), 0.02)
        installed.wears_out("p1", "E", 0.87)
        of = patient(circuit)
        meter = Meter(random.Random(5), 0.0)
        took = [meter.read(installed, Catalogue(of).test(each)) for each in first_tests(of)]
        belief = begin(of, took)
        loose = replace(belief, hypotheses=tuple(each for each in belief.hypotheses if each.suspect == "loose/E/L1"))
        self.assertGreater(loose.surprise().min(), 20)
        accused = accusation(settled(open_inquiry(of, took), installed, meter)) or [""]
        self.assertEqual(accused[0], "parallel-earth/board/p10 + loose-accessory/E/p1")

    def test_a_loose_accessory_adds_to_its_own_readings_only(self) -> None:
        of = patient(worked_ring())
        tests = [
            Catalogue(of).test(each) for each in ("read/cross-ln/P3", "read/cross-ln/P4", "read/cross-le/P3", "read/rn")
        ]
        loose = {suspect.id: some for suspect, some in all_suspects(of)}["loose-accessory/N/P3"][3]
        sound = [some[0] for suspect, some in all_suspects(of) if suspect.id == "sound"]
        off = predict(of, [loose], tests).ohm[0] - predict(of, sound, tests).ohm[0]
        np.testing.assert_allclose(off, [loose.tails[0][1], 0, 0, 0], atol=1e-9)


class Weighed(unittest.TestCase):
    """How likely readings are, against a Gaussian written out, and the bound that spares the exact figure."""

    def setUp(self) -> None:
        chance = random.Random(11)
        circuit, document, _ = draw(chance, (6, 6), ("ring",))
        house = Installed(document, chance)
        house.breaks("L3", "N")
        of, meter = patient(circuit), Meter(chance, 0.01)
        tests = [test for each in first_tests(of) if not (test := Catalogue(of).test(each)).insulation]
        took = [meter.read(house, test) for test in tests]
        self.figures = of.figures
        self.read = ReadOhms(
            np.array([each.value for each in took]),
            np.array([each.is_open for each in took]),
            np.zeros(len(took), dtype=np.bool_),
        )
        every = [each for _, some in all_suspects(of) for each in some]
        true = [each for each in every if each.suspect == "open/N/L3"]
        every = [*true, *random.Random(3).sample(every, 300 - len(true))]
        self.foretold = Foresaid(of, every, predict(of, every, tests))
        self.blind = Foresaid(of, every, predict(of, every, tests, currents=False))
        self.scatter = Scatter(self.foretold, self.read)
        self.ways = self.scatter.ln_ways(self.read)

    def test_it_is_the_density_of_a_gaussian_with_that_covariance(self) -> None:
        finite = ~self.foretold.open & ~self.read.is_open
        wrong = (self.foretold.open != self.read.is_open).sum(axis=1)
        rows = [at for at in range(300) if finite[at].sum() > 3 and self.ways[at, 0] > -300][:20]
        self.assertGreater(len(rows), 5)
        for at in rows:
            some, shared = finite[at], self.scatter.shared[at]
            covariance = (shared @ shared.T + np.diag(self.scatter.alone[at]))[np.ix_(some, some)]
            off = (self.read.ohm - self.foretold.ohm[at])[some]
            sign, ln_det = np.linalg.slogdet(2 * np.pi * covariance)
            said = -0.5 * (off @ np.linalg.solve(covariance, off) + ln_det) + wrong[at] * np.log(self.figures.misread)
            said += np.log1p(-self.figures.slip * len(self.read.ohm))
            self.assertEqual(sign, 1)
            self.assertAlmostEqual(self.ways[at, 0], said, places=6)

    def test_nothing_is_likelier_than_it_could_be_at_best(self) -> None:
        slipped = self.read.ohm.copy()
        slipped[3] += 5.0
        for taken in (self.read, replace(self.read, ohm=slipped)):
            at_most, about = self.blind.ln_at_best(taken)
            exact = np.logaddexp.reduce(Scatter(self.foretold, taken).ln_ways(taken), axis=1)
            self.assertTrue((exact <= at_most + 1e-9).all(), (exact - at_most).max())
            self.assertTrue((about <= at_most).all())
            self.assertTrue((at_most < exact.max() - 18).any())

    def test_no_reading_varies_more_than_is_taken_for_the_bound(self) -> None:
        square = self.blind._off(self.read)
        some = square > 0
        taken = (self.read.ohm - self.blind.ohm)[some] ** 2 / square[some]
        size = ((self.foretold.predicted.slope * self.foretold.cell[:, None]) ** 2)[some]
        varies = ((self.scatter.shared**2).sum(axis=2) + self.scatter.alone)[some]
        self.assertTrue((varies <= taken * (1 + 1e-9)).all())
        # Of many of them it is the fault's size that is known worst.
        self.assertGreater((size > 0.5 * varies).sum(), 20)


class InARow(unittest.TestCase):
    def test_two_paths_by_a_third_conductor_are_a_way(self) -> None:
        of = patient(run(5, 5, 5))
        some = {suspect.id: hypotheses for suspect, hypotheses in all_suspects(of)}
        load, leak = some["load-left-in/LN/P1"][0].changes[0], some["load-fault/LE/P3"][0].changes[0]
        both = InsulationPaths(of, [Hypothesis("both", 1.0, (load, leak)), Hypothesis("leak", 1.0, (leak,))])

        def seen(test: str) -> list[float]:
            return both.seen_ohm(Catalogue(of).test(test)).tolist()

        self.assertAlmostEqual(seen("ins/NE")[0], load.ohm + leak.ohm, places=3)
        self.assertEqual(seen("ins/NE")[1], math.inf)
        self.assertEqual(seen("ins/NE/unplug/P1"), [math.inf, math.inf])
        self.assertAlmostEqual(seen("ins/LN")[0], load.ohm, places=3)


class Unseen(unittest.TestCase):
    def diagnosis(self, legs: list[float]):
        chance = random.Random(5)
        circuit = run(*legs)
        document = {
            "ring": None,
            "points": [each.id for each in circuit.points],
            "legs": [
                {"id": leg.id, "a": leg.a, "b": leg.b, "length_m": leg.length_m, "line_mm2": 2.5, "cpc_mm2": 1.5}
                for leg in circuit.legs
            ],
        }
        house, meter = Installed(document, chance, 0.0), Meter(chance, 0.0)
        of = patient(circuit)
        catalogue = Catalogue(of)
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        while proposals := propose_tests(belief):
            belief = go_on(belief, proposals[0].test, meter.read(house, proposals[0].test))
        return diagnosis_of(belief)

    def test_where_a_cable_of_another_size_would_hide_it_is_told(self) -> None:
        short, long = self.diagnosis([2.0, 2.0, 2.0]), self.diagnosis([60.0])
        self.assertEqual((short.state, long.state), ("sound", "sound"))
        self.assertIn("3 cables would hide in the length", short.unseen)
        self.assertEqual(long.unseen, "")


class EndsOfRings(unittest.TestCase):
    def test_a_point_beside_the_board_that_is_a_spur_and_a_spur_off_a_spur(self) -> None:
        """The board's leg goes to the next point, or the one after it, and the first hangs off that."""
        for seed, count in ((0, 1), (3, 1), (4, 2), (6, 2)):
            chance = random.Random(seed)
            circuit, document, _ = draw(chance, (7, 9), ("ring",))
            house, meter = Installed(document, chance), Meter(chance, 0.0)
            points, legs = document["points"], [each["id"] for each in document["legs"]]
            if seed % 2:
                points, legs = points[::-1], legs[::-1]
            house.moves_end(legs[0], points[0], points[count])
            of = patient(circuit)
            belief = open_inquiry(of, [meter.read(house, Catalogue(of).test(each)) for each in first_tests(of)])
            for _ in range(8):
                proposals = propose_tests(belief)
                if not proposals:
                    break
                belief = go_on(belief, proposals[0].test, meter.read(house, proposals[0].test))
            self.assertEqual(accusation(belief), [f"not-as-drawn/{points[count]}/{points[count - 1]}/{count}"], seed)

    def test_an_open_end_of_a_ring_may_be_in_another_device(self) -> None:
        of = patient(worked_ring())
        titles = {suspect.id: suspect.title for suspect, _ in all_suspects(of)}
        first, last = of.ring
        self.assertIn("another ring", titles[f"open/L/{first}"])
        self.assertIn("another ring", titles[f"open/E/{last}"])
        self.assertNotIn("another ring", titles["open/L/L3"])


class Simulator(unittest.TestCase):
    """The simulator's own network against a library's resistance distance."""

    @settings(max_examples=40)
    @given(st.integers(0, 10_000))
    def test_resistance_between_two_places(self, seed: int) -> None:
        chance = random.Random(seed)
        count = chance.randint(3, 9)
        names = [(str(each),) for each in range(count)]
        wires = [(a, b, chance.uniform(0.01, 9)) for a, b in pairwise(names)]
        wires += [(*chance.sample(names, 2), chance.uniform(0.01, 9)) for _ in range(chance.randint(0, 6))]
        graph = networkx.Graph()
        for a, b, ohm in wires:
            siemens = 1 / ohm + (graph[a][b]["weight"] if graph.has_edge(a, b) else 0)
            graph.add_edge(a, b, weight=siemens)
        meant = networkx.resistance_distance(graph, names[0], names[-1], weight="weight", invert_weight=False)
        self.assertAlmostEqual(resistance(wires, names[0], names[-1]), meant, places=6)
        self.assertEqual(resistance(wires, names[0], ("elsewhere",)), math.inf)
