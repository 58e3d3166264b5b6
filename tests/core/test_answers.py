"""What is answered of a search for a fault: sentence, suspects, the next measurement, the remedy."""

import random
import unittest
from dataclasses import replace
from importlib.resources import files

from lumbek.core.board.house import house_of_job
from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Took, begin
from lumbek.core.diagnosis.catalogue import Catalogue, UnknownTestError, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import CannotDiagnoseError, patient_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.diagnosis.remedy import remedy_of
from lumbek.core.diagnosis.verdict import accusation, is_explained, is_no_worse
from lumbek.core.model.reading import standing
from lumbek.core.model.terminals import one_way
from lumbek.core.study.door import study_of
from lumbek.exchange.job_file import read_job
from lumbek.practice.hidden import Meter, draw
from lumbek.simulated.house import Installed
from tests.support.houses import BS, SUPPLY, point, read, run, worked_ring
from tests.support.patients import ideal, patient, settled


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

    def at(self, at: str, *taken: Took) -> list[Took]:
        return [replace(took, at=at) for took in taken]

    def test_what_was_sound_before_a_cable_was_cut_is_left_out(self) -> None:
        """Tested in the morning; what is read at noon does not fit, and is looked into by itself."""
        chance = random.Random(3)
        circuit, document, _ = draw(chance, (8, 8), ("ring",))
        house, of, meter = Installed(document, chance), patient(circuit), Meter(chance, 0.0)
        catalogue = Catalogue(of)
        morning = self.at("2031-05-02T09:00", *(meter.read(house, catalogue.test(each)) for each in first_tests(of)))
        house.breaks("L4", "E")
        r2 = replace(meter.read(house, catalogue.test("read/r2")), at="2031-05-02T12:00")
        older = [took for took in morning if took.test != "read/r2"]
        self.assertEqual(len(older), len(morning) - 1)
        once = diagnosis_of(open_inquiry(of, [*older, r2]))
        # By one reading nothing is left out: it may be a slip.
        self.assertEqual((once.left_out, once.next and once.next.id), ((), "read/r2"))
        belief = open_inquiry(of, [*older, r2, r2])
        found = diagnosis_of(belief)
        self.assertEqual((found.state, found.explained, len(found.left_out)), ("looking", True, len(older)))
        self.assertIn("of how it was before r2 was read", found.sentence)
        while found.next is not None:
            test = catalogue.test(found.next.id)
            belief = go_on(belief, test, replace(meter.read(house, test), at="2031-05-02T12:30"))
            found = diagnosis_of(belief)
        self.assertEqual((found.state, found.standing), ("found", ("open/E/L4",)))
        self.assertEqual(len(found.left_out), len(older))

    def test_a_conductor_that_read_well_is_not_accused_of_hundreds_of_ohms(self) -> None:
        """What was read crossed says two cores are open, what was read from end to end that none is."""
        chance = random.Random(3)
        circuit, document, _ = draw(chance, (8, 8), ("ring",))
        house, of, meter = Installed(document, chance), patient(circuit), Meter(chance, 0.0)
        catalogue = Catalogue(of)
        sound = [meter.read(house, catalogue.test(f"read/{each}")) for each in ("r1", "rn", "r2")]
        house.breaks("L4", "E")
        house.breaks("L5", "N")
        crossed = [meter.read(house, catalogue.test(each)) for each in first_tests(of) if "/cross-" in each]
        found = diagnosis_of(open_inquiry(of, [*crossed, *sound, *sound]))
        self.assertEqual((found.state, found.explained, found.left_out), ("looking", False, ()))
        self.assertIn("explain these readings", found.sentence)
        named = [each for each in found.suspects[0].fails if f"{each.reading} ({each.read})" in found.sentence]
        self.assertTrue(named)

    def test_readings_of_one_moment_are_of_one_circuit(self) -> None:
        of = patient(worked_ring())
        ring = [took for took in ideal(of) if took.test != "read/r2"]
        open_r2 = Took("read/r2", 1999, True)
        for at in ("", "2031-05-02T09:00"):
            found = diagnosis_of(open_inquiry(of, self.at(at, *ring, open_r2, open_r2)))
            self.assertEqual((found.state, found.left_out), ("unexplained", ()))
            self.assertIn("r2 (open)", found.sentence)

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
        best = belief.likeliest
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

    def test_readings_come_in_the_order_they_were_taken(self) -> None:
        of = patient(run(5, 4))
        old, new = "2026-01-30T09:30:00Z", "2026-01-31T09:30:00Z"
        readings = (
            read("r1+r2", 0.1, "P1", at=old),
            read("r1+r2", 0.2, "P2", at=old),
            read("r1+r2", 0.11, "P1", at=new),
        )
        taken = [(took.test, took.value, took.at) for took in taken_of(of, standing(readings))]
        self.assertEqual(taken, [("read/r1+r2/P2", 0.2, old), ("read/r1+r2/P1", 0.11, new)])

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
