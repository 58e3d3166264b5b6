"""Two faults at once, loads by their plug, slips, and what a point that was closed up costs."""

import random
import unittest
from dataclasses import replace
from typing import Any

from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Belief, Took, begin
from lumbek.core.diagnosis.catalogue import Catalogue, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.diagnosis.suspects import Hypothesis
from lumbek.core.diagnosis.verdict import accusation
from lumbek.core.model.reading import standing
from lumbek.practice.hidden import Meter, draw
from lumbek.simulated.house import Installed
from tests.support.houses import read, run, worked_ring
from tests.support.patients import ideal, patient


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
        best = belief.likeliest
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

    def test_every_core_of_a_cut_is_read_and_a_crossed_cable_by_one_of_its_own(self) -> None:
        of = patient(run(5, 5, 5, 5))
        catalogue = Catalogue(of)

        def asked(suspect: str, *taken: tuple[str, float, bool]) -> list[str]:
            belief = begin(of, [])
            sure = tuple(each for each in belief.hypotheses if each.suspect == suspect)
            took = tuple((catalogue.test(test), Took(test, value, beyond)) for test, value, beyond in taken)
            return [each.test.id for each in propose_tests(replace(belief, hypotheses=sure[:1], taken=took))]

        told, first = ("lead/L/P3/-", 1999.0, True), ("leg/L/L3", 1999.0, True)
        self.assertEqual(asked("cut/LE/L3", told), ["leg/L/L3"])
        self.assertEqual(asked("cut/LE/L3", told, first), ["leg/E/L3"])
        self.assertEqual(asked("cut/LE/L3", told, first, ("leg/E/L3", 1999.0, True)), [])
        self.assertEqual(asked("crossed-leg/NE/L3", ("lead/N/P3/-", 1999.0, True)), ["leg/N/L3"])
        # By the sheet alone it is where the readings change: nothing was told from afar.
        self.assertEqual(asked("cut/LE/L3", ("read/r1+r2/P3", 1999.0, True)), [])

    def test_a_load_beside_another_fault_is_unplugged_alone(self) -> None:
        of = patient(run(5, 5, 5, 5))
        catalogue, belief = Catalogue(of), begin(of, [])
        parts = "open/N/L2", "load-left-in/LN/P3"
        both = [next(each for each in belief.hypotheses if each.suspect == part) for part in parts]
        pair = replace(belief.suspects[parts[0]], id="pair", kind="pair", parts=parts)
        one = Hypothesis("pair", 1.0, (*both[0].changes, *both[1].changes))
        leg = (catalogue.test("leg/N/L2"), Took("leg/N/L2", 1999.0, True))

        def asked(hypothesis: Hypothesis, *tests: str) -> list[str]:
            took = tuple((catalogue.test(each), Took(each, 0.1)) for each in tests)
            known = replace(belief, suspects={**belief.suspects, "pair": pair}, hypotheses=(hypothesis,))
            return [
                each.test.id
                for each in propose_tests(replace(known, taken=took if hypothesis is both[1] else (leg, *took)))
            ]

        self.assertEqual(asked(one, "ins/LN/unplug/all"), ["ins/LN/unplug/P3"])
        self.assertEqual(asked(one, "ins/LN/unplug/P3"), [])
        # By itself it has been out with the others; out for another pair of conductors is not out.
        self.assertEqual(asked(both[1], "ins/LN/unplug/all"), [])
        self.assertEqual(asked(both[1], "ins/NE/unplug/all"), ["ins/LN/unplug/P3"])

    def test_a_mixed_neutral_is_taken_apart_before_it_is_accused(self) -> None:
        of = patient(run(5, 5, 5))
        belief = begin(of, ideal(of))
        sure = tuple(each for each in belief.hypotheses if each.suspect == "mixed-neutral/NE/P3")
        (next_test,) = propose_tests(replace(belief, hypotheses=sure))
        self.assertEqual(next_test.test.id, "ins/NE/split/P3/-")


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
