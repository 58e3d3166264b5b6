"""A circuit that changed while it was tested: which of its readings are left out, and which never are."""

import random
import unittest
from dataclasses import replace

from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Took, begin
from lumbek.core.diagnosis.catalogue import Catalogue
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.since import since_it_changed
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.diagnosis.verdict import accusation, is_explained
from tests.support.houses import run
from tests.support.patients import ideal, patient

OPEN_R1, OPEN_R2 = (Took(f"read/{each}", 1999, True) for each in ("r1", "r2"))


def read_at(hour: int, *taken: Took) -> list[Took]:
    return [replace(took, at=f"2031-05-02T{hour:02d}:00") for took in taken]


class SinceItChanged(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.of = patient(run(9, 4.5, 6, 8, 5, back=11))
        cls.sound = [took for took in ideal(cls.of) if took.test not in ("read/r1", "read/r2")]
        cls.ends = [took for took in ideal(cls.of) if took.test in ("read/r1", "read/r2")]

    def left_out(self, *readings: Took) -> int | None:
        """How many are left out, the oldest first; None where nothing is."""
        found = since_it_changed(self.of, readings, open_inquiry)
        if found is None:
            return None
        tests = [test.id for test, _ in found.before]
        self.assertEqual(tests, [took.test for took in readings[: len(tests)]])
        return len(tests)

    def test_as_few_as_can_be_are_left_out(self) -> None:
        first, then, last = self.sound[:3], self.sound[3:6], self.sound[6:]
        # The change came late, and early.
        late = [*read_at(9, *first), *read_at(10, *then), *read_at(11, *last), *read_at(12, OPEN_R2, OPEN_R2)]
        self.assertEqual(self.left_out(*late), len(self.sound))
        early = [*read_at(9, *self.sound), *(each for hour in range(10, 14) for each in read_at(hour, OPEN_R2))]
        self.assertEqual(self.left_out(*early), len(self.sound))

    def test_of_one_moment_nothing_is_left_out(self) -> None:
        self.assertIsNone(self.left_out(*read_at(9, *self.sound, OPEN_R2, OPEN_R2)))

    def test_what_accused_stands_until_it_would_have_shown(self) -> None:
        accused = read_at(9, OPEN_R2, OPEN_R2, Took("leg/E/L3", 1999, True))
        # Put right, and all of it read again; a joint of some ohms as well, whatever a small one would hide.
        anew = read_at(10, *self.sound, *self.ends)
        self.assertEqual(self.left_out(*accused, *anew), len(accused))
        joint = [replace(took, value=took.value + 2.0) for took in self.ends if took.test == "read/r2"]
        self.assertEqual(self.left_out(*read_at(9, *joint, *joint), *anew), 2)
        # One reading may be a slip; insulation shows nothing of it; another fault since says nothing of the first.
        r2 = [took for took in self.ends if took.test == "read/r2"]
        insulation = [took for took in self.sound if took.test.startswith("ins/")]
        self.assertTrue(r2 and insulation)
        for these in (r2, insulation):
            self.assertIsNone(self.left_out(*accused, *read_at(10, *these)))
        # What is still a little high may be what is left of it.
        high, less = (replace(r2[0], value=r2[0].value + ohm) for ohm in (1.0, 0.15))
        self.assertIsNone(self.left_out(*read_at(9, high, high), *read_at(10, less, less)))
        # One cable of those that it may be in is whole.
        whole = Took("leg/E/L3", 0.05)
        self.assertIsNone(self.left_out(*read_at(9, OPEN_R2, OPEN_R2), *read_at(10, whole, whole)))
        self.assertIsNone(self.left_out(*read_at(9, OPEN_R2, OPEN_R2), *read_at(10, OPEN_R1, OPEN_R1)))

    def test_of_two_faults_one_may_have_been_left(self) -> None:
        legs = (Took("leg/N/L2", 1999, True), Took("leg/E/L5", 1999, True))
        accused = read_at(9, *(Took(f"read/{each}", 1999, True) for each in ("rn", "r2") * 2), *legs, *legs)
        pairs = accusation(open_inquiry(self.of, accused)) or []
        self.assertTrue([each for each in pairs if " + " in each])
        self.assertIsNone(self.left_out(*accused, *read_at(10, *self.sound, *self.ends)))

    def test_put_right_after_it_was_sound_and_then_at_fault(self) -> None:
        """In the morning all was read; at noon r2 is open; after it only what a repair asks for is read again."""
        noon = read_at(12, OPEN_R2, OPEN_R2, Took("leg/E/L3", 1999, True))
        crossed = [took for took in self.sound if took.test.startswith("read/cross-le")][2:]
        morning = read_at(9, *(took for took in self.sound if took not in crossed))
        readings = [*morning, *noon, *read_at(15, *crossed, *self.ends)]
        found = diagnosis_of(open_inquiry(self.of, readings))
        self.assertEqual((found.explained, len(found.left_out)), (True, len(morning) + len(noon)))
        self.assertEqual((found.suspects[0].id, found.remedy), ("sound", None))
        self.assertRegex(
            found.sentence, r"^The circuit has changed: .* Nothing wrong in what has been read; \d+ faults"
        )

    def test_what_led_to_a_fault_is_left_behind_once_it_is_put_right_and_read(self) -> None:
        """Of what was read on the way some always seems to speak for another fault."""
        noon = [OPEN_R2, OPEN_R2, Took("link/LE/P2/b", 1999, True)]
        led = [
            each for hour, took in enumerate([*noon, Took("leg/E/L3", 1999, True)], 11) for each in read_at(hour, took)
        ]
        readings = [*read_at(9, *self.sound), *led, *read_at(16, *self.ends), *read_at(17, *self.sound)]
        found = diagnosis_of(open_inquiry(self.of, readings))
        self.assertEqual((found.explained, found.suspects[0].id), (True, "sound"))
        self.assertGreaterEqual(len(found.left_out), len(self.sound) + len(noon))

    def test_what_was_noticed_is_never_left_out(self) -> None:
        dead = Took("seen/dead/P3", 1.0)
        readings = [*read_at(9, dead, *self.sound), *read_at(10, OPEN_R2, OPEN_R2)]
        found = open_inquiry(self.of, readings)
        self.assertEqual(len(found.before), len(self.sound))
        self.assertEqual([took.test for _, took in found.signs], ["seen/dead/P3"])

    def test_what_looks_sound_before_and_since_is_not_told_from_a_slip(self) -> None:
        twice = [replace(took, value=round(1.4 * took.value, 2)) for took in (*self.ends, *self.ends)]
        for these in (read_at(10, *twice), read_at(10, *self.ends)):
            belief = begin(self.of, these)
            self.assertTrue(is_explained(belief) and belief.likeliest.kind in NO_FAULT)
        self.assertFalse(is_explained(begin(self.of, [*self.sound, *twice])))
        self.assertIsNone(self.left_out(*read_at(9, *self.sound), *read_at(10, *twice)))

    def test_what_nothing_explained_before_is_not_left_out(self) -> None:
        chance = random.Random(1)
        crossed = [took for took in self.sound if took.test.startswith("read/cross")]
        wild = [replace(took, value=took.value + chance.choice((-0.05, 0.05))) for took in crossed]
        belief = begin(self.of, wild)
        self.assertEqual((is_explained(belief), belief.likeliest.kind), (False, "sound"))
        self.assertIsNone(self.left_out(*read_at(9, *wild), *read_at(10, OPEN_R2, OPEN_R2)))

    def test_what_was_left_out_comes_back_where_the_search_begins_anew(self) -> None:
        belief = open_inquiry(self.of, [*read_at(9, *self.sound), *read_at(10, OPEN_R2, OPEN_R2)])
        self.assertEqual(len(belief.before), len(self.sound))
        r2 = Catalogue(self.of).test("read/r2")
        for hour in (11, 12):
            belief = go_on(belief, r2, *read_at(hour, Took("read/r2", 5.0)))
        self.assertLessEqual(
            {took.test for took in self.sound}, {took.test for _, took in (*belief.before, *belief.taken)}
        )
        self.assertEqual(belief.before, ())


if __name__ == "__main__":
    unittest.main()
