"""What was noticed, and voltages, as evidence: held to where the simulator's house is live and where it is dead."""

import math
import random
import unittest

from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import UnknownTestError
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.noticed import SYMPTOMS, VOLTS, noticeable, sign_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.model.reading import standing
from lumbek.practice.hidden import draw
from lumbek.simulated.house import Installed
from tests.support.houses import read, run, worked_ring
from tests.support.patients import ideal, patient


def after(circuit, *said: str | tuple[str, float], readings: bool = False):
    """What is believed of a circuit when this was noticed, or read of it."""
    of = patient(circuit)
    took = [Took(*each) if isinstance(each, tuple) else Took(each, 1) for each in said]
    return open_inquiry(of, [*(ideal(of) if readings else []), *took])


def best(belief) -> set[str]:
    """The faults that stand beside the likeliest fault."""
    faults = {
        suspect: share for suspect, share in belief.by_suspect.items() if belief.suspects[suspect].kind != "sound"
    }
    return {each for each, share in faults.items() if share > 0.95 * max(faults.values())}


def is_live(house: Installed, point: str) -> bool:
    def ohm(core: str) -> float:
        return house.read({"function": "ohms", "probes": [[point, core], ["board", core]]})

    return all(math.isfinite(ohm(core)) for core in "LN")


class Symptoms(unittest.TestCase):
    def test_dead_from_a_break_on_and_alive_before_it(self) -> None:
        """In two dozen houses with a core cut, the leg it is in stands first by what is dead and what works alone."""
        for seed in range(24):
            chance = random.Random(seed)
            circuit, document, _ = draw(chance, (3, 6), ("radial",))
            house = Installed(document, chance)
            leg, core = chance.choice(document["legs"])["id"], chance.choice("LN")
            house.breaks(leg, core)
            said = [f"seen/{'works' if is_live(house, each) else 'dead'}/{each}" for each in document["points"]]
            self.assertIn(f"open/{core}/{leg}", best(after(circuit, *said)), (seed, leg, core, said))

    def test_each_narrows_to_what_would_show_it(self) -> None:
        five = run(5, 4, 6, 3, 7)
        for said, wanted in (
            ("seen/tingle/P3", {"open/E/L1", "open/E/L2", "open/E/L3"}),
            ("seen/warm/P2", {f"loose/{core}/{leg}" for core in "LN" for leg in ("L2", "L3")}),
            ("seen/trips-with/P5", {"load-fault/LE/P5", "load-fault/NE/P5"}),
            ("seen/dead/P2", {f"open/{core}/{leg}" for core in "LN" for leg in ("L1", "L2")}),
        ):
            self.assertEqual(best(after(five, said)), wanted, said)
        wet = {belief.split("/")[1] for belief in best(after(five, "seen/trips-wet"))}
        self.assertEqual(wet, {"LE", "NE"})
        at_once = {belief.split("/")[1] for belief in best(after(five, "seen/trips-at-once"))}
        self.assertEqual(at_once, {"LE"})

    def test_what_trips_at_once_is_what_a_device_of_30_ma_or_a_breaker_clears(self) -> None:
        """30 mA at 230 V is 7667 Ω: 1 kΩ to earth trips at once and 10 kΩ does not; 3 Ω trips a breaker, 30 Ω not."""
        of = patient(run(5, 4, 6))
        for said, pair, trips, holds in (
            ("seen/trips-at-once", "LE", 1000.0, 10000.0),
            ("seen/trips-at-once", "LN", 3.0, 30.0),
        ):
            belief = open_inquiry(of, [])
            sign = sign_of(of, said, 1)
            of_size = {
                each.changes[0].ohm: likely
                for each, likely in zip(belief.hypotheses, belief.of_sign(sign, belief.hypotheses), strict=True)
                if each.suspect == f"insulation-leg/{pair}/L2"
            }
            self.assertGreater(of_size[trips], 0.8)
            self.assertLess(of_size[holds], 0.1)

    def test_each_makes_sound_less_likely_and_working_makes_it_likelier(self) -> None:
        five = run(5, 4, 6)
        before = after(five).by_suspect["sound"]
        for kind, each in SYMPTOMS.items():
            share = after(five, f"seen/{kind}/P2" if each.at_point else f"seen/{kind}").by_suspect["sound"]
            (self.assertGreater if kind == "works" else self.assertLess)(share, before, kind)

    def test_a_load_that_is_in_is_no_fault_in_service(self) -> None:
        for said in ("seen/dead/P2", "seen/trips-at-once", "seen/trips-with/P2", "seen/trips-wet"):
            belief = after(run(5, 4, 6), said)
            self.assertLess(belief.by_suspect.get("load-left-in/LN/P2", 0.0), belief.by_suspect["sound"] / 2, said)

    def test_good_readings_clear_the_wiring_and_say_where_else_to_look(self) -> None:
        for circuit in (run(5, 4, 6), worked_ring()):
            found = diagnosis_of(after(circuit, "seen/warm/P2", readings=True))
            self.assertEqual(found.state, "sound")
            self.assertIn("Open the plate", found.sentence)
            self.assertNotIn("Open the plate", diagnosis_of(after(circuit, "seen/dead/P2", readings=True)).sentence)

    def test_a_measurement_goes_on_from_it(self) -> None:
        belief = after(run(5, 4, 6), "seen/dead/P3")
        found = diagnosis_of(belief)
        self.assertEqual((found.state, found.noticed[0].title), ("looking", "Dead"))
        self.assertIsNotNone(found.next)
        self.assertIn("Dead at P3", [each.reading for each in found.suspects[1].explains])
        self.assertIn("Dead at P3", [each.reading for each in found.suspects[0].fails])
        wild = [(test, Took(test.id, 77.0)) for test, _ in after(run(5, 4, 6), readings=True).taken]
        for test, took in wild[:4]:
            belief = go_on(belief, test, took)
        self.assertEqual(len(belief.signs), 1)


class Voltages(unittest.TestCase):
    def test_a_lost_neutral_shows_the_line_on_it(self) -> None:
        """Line to cpc all there, line to neutral nothing, neutral to cpc as the line: the neutral hangs on nothing."""
        belief = after(run(5, 4, 6), ("volt/LN/P3", 3), ("volt/LE/P3", 231), ("volt/NE/P3", 230))
        open_ = sum(share for each, share in belief.by_suspect.items() if each.startswith("open/"))
        of_neutral = sum(share for each, share in belief.by_suspect.items() if each.startswith("open/N"))
        self.assertGreater(of_neutral, 0.95 * open_)
        self.assertLess(belief.by_suspect.get("sound", 0.0), 0.01)

    def test_a_lost_line_shows_nothing(self) -> None:
        belief = after(run(5, 4, 6), ("volt/LN/P3", 0), ("volt/LE/P3", 0), ("volt/NE/P3", 0))
        self.assertGreater(belief.by_suspect["open/L/L1"], 10 * belief.by_suspect.get("open/N/L1", 0.0))
        self.assertGreater(belief.by_suspect["open/L/L1"], 10 * belief.by_suspect.get("open/E/L1", 0.0))

    def test_full_voltage_clears_and_less_of_it_points_to_a_contact(self) -> None:
        full = after(run(5, 4, 6), ("volt/LN/P3", 230), ("volt/LE/P3", 230), ("volt/NE/P3", 0))
        self.assertGreater(full.by_suspect["sound"], after(run(5, 4, 6)).by_suspect["sound"])
        for volts, is_full in ((195, False), (196, True), (264, True), (265, False)):
            belief = after(run(5, 4, 6), ("volt/LN/P3", volts))
            kinds = {belief.suspects[each].kind for each in best(belief)}
            self.assertEqual("loose" in kinds and belief.by_suspect["sound"] < 0.3, not is_full, volts)

    def test_few_volts_are_none(self) -> None:
        for volts, sound in ((24.9, True), (25, False)):
            belief = after(run(5, 4, 6), ("volt/NE/P3", volts))
            self.assertEqual(belief.by_suspect["sound"] > 0.5, sound, volts)


class Said(unittest.TestCase):
    def test_only_what_there_is(self) -> None:
        of = patient(run(5, 4))
        for wrong in (
            "seen/dead",
            "seen/dead/P9",
            "seen/trips-wet/P1",
            "seen/cold/P1",
            "volt/LN",
            "volt/LL/P1",
            "seen",
        ):
            with self.assertRaises(UnknownTestError):
                sign_of(of, wrong, 1)
        self.assertEqual(sign_of(of, "volt/LN/P1", 12).volts, 12)
        self.assertEqual(len(noticeable()), len(SYMPTOMS) + len(VOLTS))

    def test_of_a_point_that_is_gone_nothing_is_taken_and_what_is_taken_back_is_gone(self) -> None:
        of = patient(run(5, 4))
        said = [
            read("trace", value, test=test)
            for test, value in (("seen/dead/P1", 1), ("seen/dead/P9", 1), ("seen/dim/P2", 0))
        ]
        self.assertEqual([each.test for each in taken_of(of, standing(tuple(said)))], ["seen/dead/P1"])
