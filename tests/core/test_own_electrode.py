"""Electrodes of circuits' own as readings: what they are held to, and who hears of them."""

import unittest

from lumbek.core.board.house import House, house_of_job
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.testing.sheet import test_sheet
from tests.support.boards import board, circuit, group, way
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, read, study
from tests.support.stated import a_device, an_rcd

DECLARED = OwnEarth(electrode_ohm=60, electrode_origin="declared")


def shed(number: int = 1, own: OwnEarth | None = DECLARED, ma: float | None = 30) -> Circuit:
    device = a_device(rating_a=16, rcd=None if ma is None else an_rcd(rated_ma=ma))
    return circuit(number, "socket-twin", device=device, own_earth=own)


def job(readings: dict[int, tuple[Reading, ...]], *circuits: Circuit) -> Job:
    given = tuple(JobCircuit.of(each, readings.get(each.number, ()), f"C{each.number}") for each in circuits)
    ways = group("G", *(way(each.number) for each in circuits), ma=None)
    return Job(supply=SUPPLY, boards=(board(ways),), circuits=given)


def house(readings: dict[int, tuple[Reading, ...]], *circuits: Circuit) -> House:
    return house_of_job(job(readings, *circuits))


class Limits(unittest.TestCase):
    def item(self, design: Circuit, *readings: Reading, rulebook=BS):
        found = test_sheet(study(design, rulebook=rulebook), readings)
        return next((each for each in found.items if each.quantity == "own-electrode"), None)

    def test_ra_times_the_rated_residual_current_is_no_more_than_50_v(self) -> None:
        for ma, most in ((30, 1666), (100, 500), (300, 166)):
            for book in (BS, IEC):
                self.assertEqual(self.item(shed(ma=ma), rulebook=book).limit, f"{most}")
                for ohm, verdict in ((most, "pass"), (most + 1, "fail")):
                    found = self.item(shed(ma=ma), read("own-electrode", ohm), rulebook=book).check
                    self.assertEqual((found.verdict, found.clause.ref), (verdict, book.clause("test-electrode").ref))

    def test_what_is_beyond_the_display_fails_and_without_an_rcd_nothing_is_told(self) -> None:
        beyond = read("own-electrode", 2000).model_copy(update={"beyond": True})
        self.assertEqual(self.item(shed(), beyond).check.verdict, "fail")
        found = self.item(shed(ma=None), read("own-electrode", 60)).check
        self.assertEqual((found.verdict, found.missing), ("cannot-tell", ("rated residual current of the RCD",)))
        self.assertEqual(self.item(shed(ma=None)).limit, "")

    def test_one_that_may_not_stay_or_is_too_good_is_warned_of(self) -> None:
        tt = SUPPLY.model_copy(update={"earthing": "TT"})
        for ohm, words in ((201, "may not stay stable"), (200, ""), (1.1, ""), (1, "read alone"), (0, "read alone")):
            of_the_house = installation_sheet(BS, tt, (read("electrode", ohm),)).items
            both = (
                self.item(shed(), read("own-electrode", ohm)),
                next(each for each in of_the_house if each.quantity == "electrode"),
            )
            for found in both:
                self.assertIn(words, found.check.caution)
                self.assertEqual(bool(words), bool(found.check.caution))
                # No electrode has none.
                self.assertEqual(found.check.verdict, "pass" if ohm else "cannot-tell")
                self.assertEqual(found.check.missing, () if ohm else ("reading of the electrode alone",))

    def test_it_is_asked_of_nobody_on_the_earth_of_the_house(self) -> None:
        self.assertIsNone(self.item(shed(own=None)))
        self.assertFalse(self.item(shed()).beside)


class Heard(unittest.TestCase):
    def test_it_stands_for_what_was_declared_and_the_worst_of_what_was_not_counts(self) -> None:
        for own, ohm, stands in (
            (DECLARED, 64, 64),
            (DECLARED, 41, 41),
            (OwnEarth(), 64, 64),
            (OwnEarth(electrode_ohm=60), 41, 60),
            (OwnEarth(electrode_ohm=60, electrode_origin="measured"), 41, 60),
            (OwnEarth(electrode_ohm=60, electrode_origin="measured"), 75, 75),
        ):
            design = shed(own=own)
            placed = house({1: (read("own-electrode", ohm),)}, design).placed("C1", design)
            self.assertEqual(placed.own_earth, OwnEarth(electrode_ohm=stands, electrode_origin="measured"))
            # Its design stays what somebody said.
            self.assertEqual(design.own_earth, own)

    def test_what_tells_no_figure_changes_nothing(self) -> None:
        beyond = read("own-electrode", 2000).model_copy(update={"beyond": True})
        for readings in ((), (beyond,), (read("own-electrode", 0),), (read("own-electrode", 9), beyond)):
            self.assertEqual(house({1: readings}, shed()).placed("C1", shed()).own_earth, DECLARED)
        on_the_house = shed(own=None)
        placed = house({1: (read("own-electrode", 9),)}, on_the_house).placed("C1", on_the_house)
        self.assertIsNone(placed.own_earth)

    def test_zs_is_told_once_it_is_read(self) -> None:
        for readings, verdict in (((), "cannot-tell"), ((read("own-electrode", 64),), "pass")):
            (answer,) = answer_circuits(job({1: readings}, shed()))
            self.assertEqual(check(answer.result, "zs").verdict, verdict)
        (answer,) = answer_circuits(job({1: (read("own-electrode", 1700),)}, shed()))
        self.assertEqual(check(answer.result, "zs").verdict, "fail")

    def test_what_was_read_for_one_circuit_clears_no_other(self) -> None:
        first, second = answer_circuits(job({2: (read("own-electrode", 64),)}, shed(1), shed(2)))
        self.assertEqual([check(it.result, "zs").verdict for it in (first, second)], ["cannot-tell", "pass"])
        asked = [next(each for each in it.tests.items if each.quantity == "own-electrode") for it in (first, second)]
        self.assertEqual([each.is_done for each in asked], [False, True])

    def test_papers_have_it_as_it_was_read(self) -> None:
        paper = schedule_paper(gather(job({each: (read("own-electrode", 64),) for each in (1, 2)}, shed(1), shed(2))))
        facts = {fact.name: fact.value for block in paper.sections[0].blocks[:1] for fact in block.facts}
        self.assertEqual(facts["Electrode of circuits 1, 2"], "64 Ω")


class BesideZs(unittest.TestCase):
    def test_a_loop_under_its_own_electrode_has_another_way_back(self) -> None:
        for origin, ohm, told in (
            ("measured", 40, False),
            ("measured", 59, True),
            ("measured", 75, True),
            ("declared", 40, True),
        ):
            own = OwnEarth(electrode_ohm=60, electrode_origin=origin)
            design = fixed(20, 2000, 16, 2.5, kind="outdoor", own_earth=own)
            sheet = test_sheet(study(design), (read("zs", ohm, "P1"),))
            found = next(each for each in sheet.items if each.quantity == "zs").check
            with self.subTest(origin=origin, ohm=ohm):
                self.assertEqual(found.verdict, "pass" if told else "cannot-tell")
                self.assertEqual("not parted" in found.caution, not told)

    def test_a_loop_that_no_electrode_gives_is_doubted_where_none_was_read(self) -> None:
        """It passes, and leakage to a neighbour's earth or an unparted armour may be why."""
        design = fixed(20, 2000, 16, 2.5, kind="outdoor")
        unread = design.model_copy(update={"own_earth": OwnEarth()})
        tt = Supply(earthing="TT")
        for title, made, supply, ohm, told in (
            ("its own, unread", unread, SUPPLY, 1.0, True),
            ("its own, unread", unread, SUPPLY, 1.01, False),
            ("its own, declared", design.model_copy(update={"own_earth": DECLARED}), SUPPLY, 0.4, True),
            ("the house's, unread", design, tt, 0.4, True),
            ("the house's, read", design, tt.model_copy(update={"ze_ohm": 0.3, "ze_origin": "measured"}), 0.4, False),
            ("no electrode", design, SUPPLY, 0.4, False),
        ):
            device = made.device.model_copy(update={"rcd": an_rcd(rated_ma=30)})
            sheet = test_sheet(study(made.model_copy(update={"device": device}), supply), (read("zs", ohm, "P1"),))
            found = next(each for each in sheet.items if each.quantity == "zs").check
            with self.subTest(title, ohm=ohm):
                self.assertEqual(found.verdict, "pass")
                self.assertEqual("another earth may be joined" in found.caution, told, found.caution)
