"""Finding faults: readings foretold, suspects ranked, the next measurement, and when nobody is accused."""

import math
import random
import unittest
from dataclasses import replace
from importlib.resources import files
from itertools import pairwise
from typing import Any

import networkx
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.board.house import house_of_job
from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Belief, Took, begin
from lumbek.core.diagnosis.catalogue import Catalogue, UnknownTestError, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import CannotDiagnoseError, Patient, patient_of
from lumbek.core.diagnosis.predict import InsulationPaths, predict
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.diagnosis.remedy import remedy_of
from lumbek.core.diagnosis.scatter import Foretold as Foresaid
from lumbek.core.diagnosis.scatter import ReadOhms, Scatter
from lumbek.core.diagnosis.suspects import Hypothesis
from lumbek.core.diagnosis.verdict import accusation, is_explained, is_no_worse
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import standing
from lumbek.core.model.terminals import one_way
from lumbek.core.network.changed import OPEN_FROM_OHM
from lumbek.core.study.door import study_of
from lumbek.exchange.job_file import read_job
from lumbek.simulated.house import Installed, resistance
from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS
from tests.support.anew import read_anew
from tests.support.houses import BS, SUPPLY, point, read, run, with_spur, worked_ring
from tests.support.trials import Meter, draw
from tests.support.trials import run as trial


def patient(circuit: Circuit) -> Patient:
    return patient_of(study_of(BS, SUPPLY, circuit))


def ideal(of: Patient, installed: Installed | None = None) -> list[Took]:
    """What an ideal meter reads first on a sound circuit."""
    tests = [Catalogue(of).test(each) for each in first_tests(of)]
    low = [test for test in tests if not test.insulation]
    ohms = predict(of, [hypotheses[0] for suspect, hypotheses in all_suspects(of) if suspect.id == "sound"], low).ohm[0]
    taken = [Took(test.id, round(float(ohm), 2)) for test, ohm in zip(low, ohms, strict=True)]
    return [*taken, *(Took(test.id, 999.0, True) for test in tests if test.insulation)]


def settled(belief: Belief, house: Installed, meter: Meter) -> Belief:
    """What is believed once every reading that may be a slip was taken again."""
    for _ in range(6):
        if not belief.doubtful:
            break
        test = propose_tests(belief)[0].test
        belief = go_on(belief, test, meter.read(house, test))
    return belief


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


class TwoFaults(unittest.TestCase):
    """Two at once, followed by the proposals to their end."""

    def followed(self, seed: int, points: int, shape: str, *wrong: tuple[str, Any]) -> tuple[set[str], int]:
        """What is accused in the end, and after how many tests; `wrong` is what the simulator does, with what."""
        chance = random.Random(seed)
        circuit, document, _ = draw(chance, (points, points), (shape,))
        house = Installed(document, chance)
        for deed, how in wrong:
            getattr(house, deed)(*how)
        of, meter = patient(circuit), Meter(chance, 0.0)
        catalogue, count = Catalogue(of), 0
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        while count < 14 and (proposals := propose_tests(belief)):
            belief, count = go_on(belief, proposals[0].test, meter.read(house, proposals[0].test)), count + 1
        best = belief.suspects[next(iter(belief.by_suspect))]
        return set(best.parts or (best.id,)), count

    def test_both_legs_are_found_by_halves_though_few_of_a_kind_are_put_together_first(self) -> None:
        wrong = ("breaks", ("L9", "E")), ("loosens", (("L5", "N", "p5"), 14.0))
        accused, count = self.followed(21, 12, "ring", *wrong)
        self.assertEqual(accused, {"open/E/L9", "loose/N/L5"})
        self.assertLessEqual(count, 8)

    def test_what_each_explains_of_the_readings_counts_not_what_it_leaves(self) -> None:
        """A break of one core and a loose screw of another look more like one leg crossed than like either."""
        wrong = ("breaks", ("L8", "N")), ("loosens", (("L3", "E", "p3"), 14.0))
        self.assertEqual(self.followed(7, 16, "ring", *wrong)[0], {"open/N/L8", "loose/E/L3"})

    def test_a_wet_box_is_found_though_a_load_leaks_too(self) -> None:
        """Once the loads are out they stay out: what is split is the wiring."""
        wrong = ("leaves_in", ("p3", "N", "E", 4_000)), ("bridges", (("p8", "N"), ("p8", "E"), 9_000))
        self.assertEqual(self.followed(3, 9, "ring", *wrong)[0], {"insulation-point/NE/p8"})

    def test_a_load_left_in_and_one_that_leaks_make_a_way_from_neutral_to_earth(self) -> None:
        """Low between every two conductors, through both of them, and no third fault."""
        wrong = ("leaves_in", ("p2", "L", "N", 150)), ("leaves_in", ("p4", "L", "E", 20_000))
        accused, _ = self.followed(4, 5, "radial", *wrong)
        # From what leaks besides nobody can tell p4 and that load itself: once it is out, what is left is read again.
        self.assertIn("load-left-in/LN/p2", accused)
        self.assertTrue(all(part.startswith("load-") for part in accused), accused)

    def test_two_mixed_neutrals_are_not_one_between_them(self) -> None:
        # Which of the last two it is that ohms part is milliohms; that the first is one of them is sure.
        accused, _ = self.followed(6, 6, "radial", ("mixes", ("p2", 0.03)), ("mixes", ("p5", 0.03)))
        self.assertIn("mixed-neutral/NE/p2", accused)
        self.assertFalse({"mixed-neutral/NE/p3", "mixed-neutral/NE/p4"} & accused)

    def test_two_wet_boxes_are_not_the_cable_between_them(self) -> None:
        """Each half of the run reads low, and so the cable between looks like the one: by itself it is sound."""
        boxes = [("bridges", ((at, "L"), (at, "E"), 5_000)) for at in ("p5", "p7")]
        accused, _ = self.followed(8, 9, "radial", *boxes)
        self.assertIn("insulation-point/LE/p5", accused)
        self.assertFalse({"insulation-leg/LE/L6", "insulation-leg/LE/L7", "insulation-point/LE/p6"} & accused)

    def test_a_cable_is_read_by_itself_only_where_no_reading_singles_it_out(self) -> None:
        of = patient(run(5, 5, 5, 5))
        catalogue = Catalogue(of)
        sure = tuple(each for each in begin(of, []).hypotheses if each.suspect == "insulation-leg/LE/L3")

        def asked(*taken: tuple[str, float, bool]) -> list[str]:
            took = tuple((catalogue.test(test), Took(test, value, beyond)) for test, value, beyond in taken)
            return [each.test.id for each in propose_tests(replace(begin(of, []), hypotheses=sure, taken=took))]

        halves = ("ins/LE/split/P3/-", 0.1, False), ("ins/LE/out/P2/L3", 0.1, False)
        self.assertEqual(asked(*halves), ["ins/LE/alone/L3"])
        self.assertEqual(asked(*halves, ("ins/LE/split/P2/-", 999.0, True)), ["ins/LE/alone/L3"])
        self.assertEqual(asked(*halves, ("ins/LE/alone/L3", 0.1, False)), [])
        self.assertEqual(
            asked(("ins/LE/out/P2/L3", 0.1, False), ("ins/LE/out/P3/L4", 999.0, True)), ["ins/LE/alone/L3"]
        )

    def test_a_mixed_neutral_is_taken_apart_before_it_is_accused(self) -> None:
        of = patient(run(5, 5, 5))
        belief = begin(of, ideal(of))
        sure = tuple(each for each in belief.hypotheses if each.suspect == "mixed-neutral/NE/P3")
        (next_test,) = propose_tests(replace(belief, hypotheses=sure))
        self.assertEqual(next_test.test.id, "ins/NE/split/P3/-")


class Trials(unittest.TestCase):
    """Small circuits by the simulator, which knows nothing of the suspects: one of each kind of mishap."""

    def test_each_kind_is_found(self) -> None:
        # A leg of another size is no more than meter and lengths are off in circuits as small as these.
        for number, kind in enumerate(each for each in (*EVERYWHERE, *IN_RINGS) if each != "wrong drum"):
            ran = trial(4000 + number, 1, 0.10, 0.0, kind, (6, 9))
            with self.subTest(kind, said=ran.said):
                self.assertTrue(ran.inside)
                self.assertEqual(ran.place, 0)
                # Metal between two points of a ring is told from metal between their neighbours by milliohms only.
                self.assertLess(ran.tests, 15 if kind == "metal touching" else 9)

    def test_sound_circuits_are_accused_of_nothing(self) -> None:
        for seed, off, gain in ((1, 0.10, 0.0), (2, 0.10, 0.0), (3, 0.20, 0.0), (4, 0.20, 0.0), (5, 0.10, 0.05)):
            ran = trial(seed, 0, off, gain, points=(6, 12))
            self.assertFalse(ran.accused, ran.said)


class LoadsByTheirPlug(unittest.TestCase):
    def test_no_load_is_found_before_it_was_unplugged_and_read(self) -> None:
        for seed, pair, ohm in ((9, ("N", "E"), 40_000), (3, ("L", "N"), 60.0)):
            chance = random.Random(seed)
            circuit, document, _ = draw(chance, (4, 5), ("radial",))
            house, meter = Installed(document, chance), Meter(chance, 0.0)
            house.leaves_in("p3", *pair, ohm)
            of = patient(circuit)
            catalogue = Catalogue(of)
            belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
            asked = []
            while len(asked) < 14 and (proposals := propose_tests(belief)):
                asked.append(proposals[0].test)
                belief = go_on(belief, asked[-1], meter.read(house, asked[-1]))
            found = diagnosis_of(belief)
            self.assertEqual(found.state, "found", found.sentence)
            self.assertTrue(found.suspects[0].id.startswith("load-"), found.suspects[0].id)
            self.assertTrue(any("p3" in test.unplugged for test in asked))
            self.assertTrue(any("500 V" in step for test in asked for step in test.steps))


class Slips(unittest.TestCase):
    """One reading that went wrong on a circuit that is sound: it is asked again, and convicts nobody."""

    def trial(self, seed: int, slip: float | None, again: float | None = None) -> tuple[Belief, list[str]]:
        """What is believed at the end, and what was asked, with one reading off by so much, or open."""
        chance = random.Random(seed)
        circuit, document, _ = draw(chance, (5, 8))
        house, meter = Installed(document, chance), Meter(chance, 0.0)
        of = patient(circuit)
        catalogue = Catalogue(of)
        took = [meter.read(house, catalogue.test(each)) for each in first_tests(of)]
        at = chance.choice([at for at, each in enumerate(took) if not each.test.startswith("ins/")])
        value = took[at].value
        took[at] = Took(took[at].test, 1999, True) if slip is None else Took(took[at].test, round(value + slip, 2))
        belief, asked = open_inquiry(of, took), []
        while len(asked) < 6 and (proposals := propose_tests(belief)):
            test = proposals[0].test
            asked.append(test.id)
            seen = meter.read(house, test)
            if again is not None and test.id == took[at].test:
                seen = Took(test.id, round(value + again, 2))
            belief = go_on(belief, test, seen)
        return belief, [took[at].test, *asked]

    def test_a_slip_on_a_sound_circuit_is_read_again_and_convicts_nobody(self) -> None:
        asked = []
        for seed in range(4):
            for slip in (0.4, 1.5, None):
                belief, (slipped, *tests) = self.trial(seed, slip)
                found = diagnosis_of(belief)
                self.assertEqual((found.state, accusation(belief)), ("sound", None), (seed, slip))
                self.assertLessEqual(tests.count(slipped), 1)
                asked.append(len(tests))
        self.assertLess(sum(asked) / len(asked), 1.5)
        self.assertLessEqual(max(asked), 3)

    def test_what_is_read_twice_alike_is_no_slip(self) -> None:
        for seed in (0, 3, 5):
            belief, (slipped, *tests) = self.trial(seed, 1.5, again=1.5)
            self.assertIn(slipped, tests)
            self.assertEqual(tests.count(slipped), 1)
            self.assertNotEqual(diagnosis_of(belief).state, "sound")

    def test_it_is_said_in_words_before_it_is_asked(self) -> None:
        of = patient(worked_ring())
        took = ideal(of)
        at = next(at for at, each in enumerate(took) if each.test == "read/cross-le/P3")
        took[at] = Took(took[at].test, took[at].value + 2)
        found = diagnosis_of(open_inquiry(of, took))
        self.assertEqual((found.state, found.next.id), ("looking", "read/cross-le/P3"))
        self.assertIn("may be a slip", found.sentence)
        self.assertIn("Isolated and proved dead", found.next.steps[0])
        self.assertIsNone(found.remedy)

    def test_a_second_reading_counts_until_the_sheet_has_a_newer_one(self) -> None:
        of = patient(run(5, 4))
        first = read("r1+r2", 0.9, "P2")
        again = read("trace", 0.18, test="read/r1+r2/P2").model_copy(update={"at": "2030-01-01T00:00:00Z"})
        later = read("r1+r2", 0.18, "P2").model_copy(update={"at": "2031-01-01T00:00:00Z"})
        self.assertEqual(len(taken_of(of, standing((first, again)))), 2)
        self.assertEqual(len(taken_of(of, standing((first, again, later)))), 1)


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


class OpenedAnew(unittest.TestCase):
    def test_a_point_that_was_closed_up_costs_more_than_one_that_is_open(self) -> None:
        chance = random.Random(3)
        circuit, document, _ = draw(chance, (10, 10), ("ring",))
        house, meter = Installed(document, chance), Meter(chance, 0.0)
        house.breaks("L6", "N")
        of = patient(circuit)
        catalogue = Catalogue(of)
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        for place in ("p3", "p7"):
            test = catalogue.test(f"lead/L/{place}/a")
            belief = go_on(belief, test, meter.read(house, test))
        back = {each.test.place: each.back for each in propose_tests(belief) if each.test.place}
        self.assertEqual((back.pop("p3", 0.5), back.pop("p7", 0.0)), (0.5, 0.0))
        self.assertGreater(len(back), 3)
        self.assertEqual(set(back.values()), {0.0})
        for test_id, where in (
            ("ins/LN/split/p4/a", "p4"),
            ("ins/LN/out/p4/L4", "p4"),
            ("ins/LN/unplug/all", ""),
            ("far/NE/p2", "p2"),
            ("ends/L-N", ""),
        ):
            self.assertEqual(catalogue.test(test_id).place, where)


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


class Answers(unittest.TestCase):
    def test_a_sound_circuit_is_said_to_be_sound(self) -> None:
        for circuit in (worked_ring(), run(5, 4, 6)):
            of = patient(circuit)
            found = diagnosis_of(open_inquiry(of, ideal(of)))
            self.assertEqual((found.state, found.next), ("sound", None))
            self.assertIsNone(found.remedy)

    def test_an_open_neutral_of_a_ring_is_followed_to_its_leg(self) -> None:
        """Step 2 flat at double says that it is, and nothing of where: each measurement halves what is left."""
        chance = random.Random(3)
        circuit, document, _ = draw(chance, (8, 8), ("ring",))
        house = Installed(document, chance)
        house.breaks("L4", "N")
        of, meter = patient(circuit), Meter(chance, 0.005)
        catalogue = Catalogue(of)
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        found = diagnosis_of(belief)
        self.assertEqual((found.state, found.left), ("looking", 9))
        self.assertEqual({each.kind for each in found.along}, {"leg"})
        left = [found.left]
        while found.next is not None:
            test = catalogue.test(found.next.id)
            belief = go_on(belief, test, meter.read(house, test))
            found = diagnosis_of(belief)
            left.append(found.left)
        self.assertEqual(found.state, "found")
        self.assertEqual(found.standing, ("open/N/L4",))
        self.assertLessEqual(len(left), 6)
        self.assertEqual(left, sorted(left, reverse=True))
        self.assertIn("rn", found.remedy.again)
        self.assertIn("found by test", found.remedy.entry)
        explained = {each.reading for each in found.suspects[0].explains}
        self.assertIn("rn", explained)

    def test_what_a_suspect_fails_to_explain_is_named(self) -> None:
        of = patient(worked_ring())
        odd = [Took(took.test, 0.6) if took.test == "read/cross-ln/P3" else took for took in ideal(of)]
        found = diagnosis_of(open_inquiry(of, odd))
        self.assertEqual(found.suspects[0].id, "loose-accessory/N/P3")
        reading = next(each for each in found.suspects[0].explains if "P3" in each.reading)
        self.assertEqual(reading.read, "0.6 Ω")

    def test_readings_that_nothing_explains_accuse_nobody(self) -> None:
        of = patient(worked_ring())
        chance = random.Random(1)
        wild = [
            took if took.beyond else Took(took.test, round(took.value * chance.uniform(0.2, 5) + 0.3, 2))
            for took in ideal(of)
        ]
        belief = open_inquiry(of, wild)
        # Nothing is looked for anew by a reading that makes it no worse.
        self.assertEqual((is_explained(belief), is_no_worse(belief, belief)), (False, True))
        self.assertIsNone(accusation(belief))
        self.assertIn(diagnosis_of(belief).state, ("looking", "unexplained"))

    def test_two_faults_that_no_single_one_explains(self) -> None:
        chance = random.Random(2)
        circuit, document, _ = draw(chance, (8, 8), ("ring",))
        house = Installed(document, chance)
        house.breaks("L2", "L")
        house.wears_out("p6", "N", 4.0)
        of, meter = patient(circuit), Meter(chance, 0.0)
        catalogue = Catalogue(of)
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        belief = settled(belief, house, meter)
        best = belief.suspects[next(iter(belief.by_suspect))]
        self.assertEqual(set(best.parts), {"open/L/L2", "loose-accessory/N/p6"})
        self.assertIn("; and ", diagnosis_of(belief).suspects[0].title)

    def test_leads_that_were_not_nulled_are_the_meters_fault(self) -> None:
        of = patient(worked_ring())
        off = [took if took.beyond else Took(took.test, round(took.value + 0.25, 2)) for took in ideal(of)]
        found = diagnosis_of(open_inquiry(of, off))
        self.assertEqual((found.state, found.suspects[0].id), ("meter", "leads"))
        self.assertIsNone(accusation(open_inquiry(of, off)))

    def test_insulation_is_split_not_measured(self) -> None:
        """A path of kilohms is found by taking loads out and the run apart, and the load that has it is named."""
        chance = random.Random(9)
        circuit, document, _ = draw(chance, (7, 7), ("radial",))
        house = Installed(document, chance)
        house.leaves_in("p5", "N", "E", 40_000)
        of, meter = patient(circuit), Meter(chance, 0.0)
        catalogue = Catalogue(of)
        belief = open_inquiry(of, [meter.read(house, catalogue.test(each)) for each in first_tests(of)])
        asked = []
        while proposals := propose_tests(belief):
            asked.append(proposals[0].test.id)
            belief = go_on(belief, proposals[0].test, meter.read(house, proposals[0].test))
        self.assertEqual(next(iter(belief.by_suspect)), "load-fault/NE/p5")
        self.assertIn("ins/NE/unplug/all", asked)

    def test_unknown_lengths_are_taken_as_usual_and_may_be_far_off(self) -> None:
        known = patient(run(5, 5, 5))
        vague = patient(run(5, None, 5))
        self.assertEqual(vague.vague, frozenset({"L2"}))
        # A leg of 12 m instead: told from the drawing where its length is drawn, and not where nobody drew it.
        longer = ideal(patient(run(5, 12, 5)))
        self.assertNotEqual(next(iter(open_inquiry(known, longer).by_suspect)), "sound")
        self.assertEqual(next(iter(open_inquiry(vague, longer).by_suspect)), "sound")

    def test_what_cannot_be_looked_into_says_why(self) -> None:
        with self.assertRaises(CannotDiagnoseError):
            open_inquiry(patient(run()), [])
        of = patient(run(5, 4))
        for wrong in ("link/LN/P9/-", "link/LN/P1/a", "ends/L-N", "nonsense", "read/r1", "ins/LN/out/P1/L9", "link"):
            with self.assertRaises(UnknownTestError, msg=wrong):
                Catalogue(of).test(wrong)

    def test_a_light_behind_its_switch_is_read_with_it_on(self) -> None:
        switched = point("P2", kind="light", switches=(one_way("S"),))
        circuit = run(5, 4, 3)
        circuit = circuit.model_copy(update={"points": (circuit.points[0], switched, circuit.points[2])})
        of = patient(circuit)
        found = diagnosis_of(open_inquiry(of, ideal(of)))
        self.assertEqual(found.state, "sound")

    def test_lighting_with_its_boxes_as_they_are_wired(self) -> None:
        """A switch box has no neutral terminal to be read at, or to be crossed with; its cores to spare may be open."""
        house = files("lumbek.services") / "demo_data" / "signal_box.json"
        job = read_job(house.read_bytes())
        whole = house_of_job(job)
        stair = next(each for each in job.circuits if each.design.number == 11)
        of = patient_of(study_of(whole.rulebook, whole.supply, whole.effective(stair)))
        asked = first_tests(of)
        self.assertIn("read/r1+r2/P1", asked)
        self.assertNotIn("read/r1+rn/P1", asked)
        suspects = [suspect.id for suspect, _ in all_suspects(of)]
        self.assertIn("open-accessory/E/P1", suspects)
        self.assertNotIn("open-accessory/N/P1", suspects)
        self.assertTrue(any(each.startswith("open/S1/") for each in suspects))
        found = diagnosis_of(open_inquiry(of, ideal(of)))
        self.assertEqual(found.state, "sound")
        # The lamp at the end of the run has no cpc: its last reading is open, and the cpc is followed to its leg.
        last = asked[[each.startswith("read/r1+r2") for each in asked].index(True)]
        open_one = [Took(took.test, 1999, True) if took.test == last else took for took in ideal(of)]
        self.assertNotEqual(diagnosis_of(open_inquiry(of, open_one)).state, "sound")

    def test_readings_of_the_sheet_become_tests(self) -> None:
        of = patient(run(5, 4))
        readings = (
            read("r1+r2", 0.15, "P1"),
            read("insulation-le", 0.02),
            read("trace", 1999, beyond=True, test="link/LN/P2/-"),
            read("trace", 0.3, test="link/LN/P9/-"),
            read("zs", 0.4, "P1"),
        )
        taken = {took.test: took for took in taken_of(of, standing(readings))}
        self.assertEqual(set(taken), {"read/r1+r2/P1", "ins/live-E", "link/LN/P2/-"})
        self.assertTrue(taken["link/LN/P2/-"].is_open)

    def test_a_loop_read_live_counts_until_something_dead_is_read_after_it(self) -> None:
        of = patient_of(study_of(BS, SUPPLY.model_copy(update={"ze_origin": "measured"}), run(5, 4)))
        old, new = "2026-01-30T09:30:00Z", "2026-01-31T09:30:00Z"
        for at, dead, counts in ((new, old, True), (new, new, True), (old, new, False)):
            readings = (read("zs", 0.9, "P2", at=at), read("r1+r2", 0.15, "P2", at=dead))
            taken = [took.test for took in taken_of(of, standing(readings))]
            self.assertEqual("read/zs/P2" in taken, counts)
        # A loop that is too high is followed dead: nobody is sent to read it live again.
        high = begin(of, taken_of(of, standing((read("zs", 1.4, "P2"), read("r1+r2", 0.15, "P1")))))
        asked = [each.test.id for each in propose_tests(high)]
        self.assertTrue(asked)
        self.assertIn("read/r1+r2/P1", [took.test for _, took in high.taken])
        self.assertFalse([each for each in asked if each.startswith("read/zs/")])

    def test_every_suspect_has_something_to_do_about_it(self) -> None:
        for circuit in (worked_ring(), run(5, 4)):
            for suspect, hypotheses in all_suspects(patient(circuit)):
                self.assertTrue(hypotheses)
                self.assertAlmostEqual(sum(each.prior for each in hypotheses), 1.0)
                remedy = remedy_of(suspect)
                self.assertTrue(remedy.do or suspect.kind == "sound")
        total = sum(suspect.prior for suspect, _ in all_suspects(patient(worked_ring())))
        self.assertAlmostEqual(total, 1.0)

    def test_more_readings_never_leave_less_known_in_the_mean(self) -> None:
        of = patient(worked_ring())
        for test in propose_tests(begin(of, []))[:40]:
            self.assertGreaterEqual(test.bits, of.figures.worth_bits)


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
