"""What each finding at the intake decides, under both rulebooks."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.supply import MainFuse, Service, Supply, Tails
from lumbek.core.survey.judgement import judge_supply
from tests.support.houses import BS, IEC, SUPPLY


def finding(key: str, book=BS, **changes: object) -> Check:
    survey = judge_supply(book, SUPPLY.model_copy(update=changes))
    return next(each for each in survey.checks if each.id == key)


class WhatIsAgreed(unittest.TestCase):
    def test_surge_protection_may_be_declined_only_where_the_risk_is_the_owners(self) -> None:
        for higher, verdict in ((False, "pass"), (True, "fail")):
            found = finding("surge", surge_protection="declined", higher_risk=higher)
            self.assertEqual(found.verdict, verdict)
        self.assertEqual(finding("surge", surge_protection="fitted", higher_risk=True).verdict, "pass")

    def test_the_greater_fault_current_counts_and_a_disagreement_is_named(self) -> None:
        for ze, value, words in ((0.21, 230 / 0.21 / 1000, ""), (0.18, 230 / 0.18 / 1000, "disagree"), (0.5, 1.0, "")):
            found = finding("fault-current", ze_ohm=ze, fault_current_ka=1.0)
            self.assertAlmostEqual(found.value, value)
            self.assertEqual("disagree" in found.caution, bool(words), ze)


class Earth(unittest.TestCase):
    def test_each_system_says_what_it_decides(self) -> None:
        for system, words in (("TN-S", "published limits"), ("TN-C-S", "PME"), ("TT", "electrode")):
            found = finding("earthing", earthing=system)
            self.assertEqual(found.verdict, Verdict.PASS)
            self.assertIn(words, found.steps[0].text + found.answer)
        self.assertEqual(finding("earthing", earthing=None).missing, ("earthing system",))

    def test_ze_against_what_such_a_supply_gives(self) -> None:
        for system, ohm, verdict in (
            ("TN-S", 0.80, "pass"),
            ("TN-S", 0.801, "fail"),
            ("TN-C-S", 0.35, "pass"),
            ("TN-C-S", 0.36, "fail"),
            ("TT", 1666.0, "pass"),
            ("TT", 1667.0, "fail"),
        ):
            found = finding("ze", earthing=system, ze_ohm=ohm, ze_origin="measured")
            self.assertEqual(found.verdict, verdict, (system, ohm))
        self.assertEqual(finding("ze", earthing="TT", ze_ohm=50.0).verdict, "cannot-tell")
        self.assertIn("ask the distributor", finding("ze", ze_ohm=0.5).steps[-1].text)

    def test_a_high_electrode_may_not_stay_stable(self) -> None:
        for ohm, words in ((200.0, ""), (201.0, "may not stay stable")):
            found = finding("ze", earthing="TT", ze_ohm=ohm, ze_origin="measured")
            self.assertIn(words, found.caution)
            self.assertEqual(bool(words), bool(found.caution))

    def test_what_is_assumed_until_it_is_measured(self) -> None:
        self.assertIn("0.35 Ω is assumed", finding("ze", ze_ohm=None).steps[0].text)
        self.assertIn("Nothing may be assumed", finding("ze", IEC, ze_ohm=None).steps[0].text)
        self.assertEqual(finding("ze", IEC, ze_ohm=2.0).verdict, Verdict.PASS)
        # What is low for one earthing system is high for another.
        unknown = finding("ze", IEC, earthing=None, ze_ohm=57.8)
        self.assertEqual((unknown.verdict, unknown.missing), ("cannot-tell", ("earthing system",)))

    def test_earthing_conductor_follows_the_tails(self) -> None:
        for csa, tails, verdict in ((16, 25, "pass"), (10, 25, "fail"), (10, 10, "pass"), (16, 50, "fail")):
            found = finding("earthing-conductor", earthing_conductor_mm2=csa, tails=Tails(csa_mm2=tails))
            self.assertEqual(found.verdict, verdict, (csa, tails))
        both = finding("earthing-conductor", earthing_conductor_mm2=None, tails=Tails())
        self.assertEqual(len(both.missing), 2)


class Fault(unittest.TestCase):
    def test_devices_follow_the_fault_current(self) -> None:
        for ka, words in ((1.1, "break 6 kA"), (6.0, "break 6 kA"), (6.1, "break 10 kA"), (12.0, "back-up fuse")):
            self.assertIn(words, finding("fault-current", fault_current_ka=ka).steps[0].text)
        self.assertIn("Over 10 kA", finding("fault-current", fault_current_ka=12.0).caution)

    def test_ze_gives_the_earth_fault_current(self) -> None:
        found = finding("fault-current", ze_ohm=0.23, fault_current_ka=1.4)
        self.assertEqual(found.steps[1].sum, "230 V / 0.23 Ω / 1000 = 1.00 kA")
        self.assertEqual(len(finding("fault-current", earthing="TT", ze_ohm=20.0).steps), 1)

    def test_unmeasured(self) -> None:
        for book, words in ((BS, "Up to 16 kA"), (IEC, "As declared")):
            found = finding("fault-current", book, fault_current_ka=None)
            self.assertEqual(found.verdict, Verdict.CANNOT_TELL)
            self.assertIn(words, found.steps[0].text)


class Intake(unittest.TestCase):
    def test_the_main_fuse_says_what_the_house_may_draw(self) -> None:
        self.assertIn("18.4 kVA", finding("main-fuse").steps[0].sum)
        three = finding("main-fuse", phases=3, main_fuse=MainFuse(standard="bs88-3", rating_a=63))
        self.assertIn("43.5 kVA", three.steps[0].sum)
        self.assertEqual(finding("main-fuse", main_fuse=MainFuse()).verdict, Verdict.CANNOT_TELL)

    def test_tails_carry_the_main_fuse(self) -> None:
        for csa, fuse, verdict in ((25, 100, "pass"), (16, 100, "fail"), (16, 80, "pass"), (10, 80, "fail")):
            fuse_of = MainFuse(standard="bs88-3", rating_a=fuse)
            found = finding("tails", tails=Tails(csa_mm2=csa, length_m=2), main_fuse=fuse_of)
            self.assertEqual(found.verdict, verdict, (csa, fuse))

    def test_long_tails_want_a_device_of_their_own(self) -> None:
        for length, own, verdict in ((3, False, "pass"), (3.1, False, "fail"), (9, True, "pass")):
            found = finding("tails", tails=Tails(csa_mm2=25, length_m=length, own_device=own))
            self.assertEqual(found.verdict, verdict, (length, own))
        self.assertIn("Length", finding("tails", tails=Tails(csa_mm2=25)).caution)

    def test_tails_of_an_odd_size_or_none(self) -> None:
        self.assertEqual(finding("tails", tails=Tails(csa_mm2=22)).missing, ("a listed size",))
        self.assertEqual(len(finding("tails", tails=Tails(), main_fuse=MainFuse()).missing), 2)

    def test_surges(self) -> None:
        for state, verdict in (("fitted", "pass"), ("declined", "pass"), ("unknown", "cannot-tell")):
            self.assertEqual(finding("surge", surge_protection=state).verdict, verdict)
        self.assertIn("owner accepts", finding("surge", surge_protection="declined").caution)


class Bonding(unittest.TestCase):
    def of(self, book=BS, earthing: str = "TN-C-S", **service: object) -> Check:
        return finding("bonding-0", book, earthing=earthing, services=(Service(**service),))

    def test_only_what_brings_in_a_potential(self) -> None:
        self.assertEqual(self.of(material="plastic", bonded="no").verdict, Verdict.PASS)
        self.assertEqual(self.of(material="unknown").missing, ("material where it enters",))
        self.assertEqual(self.of(material="metal").missing, ("whether it is bonded",))
        self.assertEqual(self.of(material="metal", bonded="yes").missing, ("size of the bonding conductor",))
        self.assertIn("needs 10 mm²", self.of(material="metal", bonded="no").answer)

    def test_size_by_system_and_book(self) -> None:
        for book, system, csa, verdict in (
            (BS, "TN-C-S", 6, "fail"),
            (BS, "TN-C-S", 10, "pass"),
            (BS, "TN-S", 10, "pass"),
            (BS, "TN-S", 6, "fail"),
            (IEC, "TN-C-S", 10, "pass"),
            (IEC, "TT", 6, "fail"),
        ):
            found = self.of(book, system, material="metal", bonded="yes", bonding_mm2=csa)
            self.assertEqual(found.verdict, verdict, (book.id, system, csa))

    def test_where_it_is_connected(self) -> None:
        late = self.of(material="metal", bonded="yes", bonding_mm2=10, within_600mm=False)
        self.assertEqual(late.verdict, Verdict.PASS)
        self.assertIn("600 mm", late.caution)

    def test_every_service_is_found_by_its_name(self) -> None:
        services = tuple(Service(what=what) for what in ("water", "gas", "oil", "steel", "lightning", "other"))
        survey = judge_supply(BS, SUPPLY.model_copy(update={"services": services}))
        names = [each.title for each in survey.checks if each.id.startswith("bonding-")]
        self.assertEqual(len(set(names)), 6)
        none = judge_supply(BS, SUPPLY.model_copy(update={"services": ()}))
        self.assertEqual(none.checks[-1].missing, ("incoming services",))


class Whole(unittest.TestCase):
    def test_one_failure_fails_it_and_one_unknown_leaves_it_open(self) -> None:
        self.assertEqual(judge_supply(BS, SUPPLY).verdict, Verdict.PASS)
        self.assertEqual(judge_supply(BS, SUPPLY.model_copy(update={"ze_ohm": 3.0})).verdict, Verdict.FAIL)
        self.assertEqual(judge_supply(BS, SUPPLY.model_copy(update={"ze_ohm": None})).verdict, Verdict.CANNOT_TELL)

    @given(
        st.sampled_from([None, "TN-S", "TN-C-S", "TT"]),
        st.one_of(st.none(), st.just(0.0), st.floats(1e-9, 2000)),
        st.one_of(st.none(), st.floats(0.1, 50)),
        st.one_of(st.none(), st.sampled_from([6, 10, 16, 25, 35])),
        st.one_of(st.none(), st.sampled_from([60, 80, 100])),
    )
    def test_any_supply_is_answered(self, earthing, ze, fault, tails, fuse) -> None:
        supply = Supply(
            earthing=earthing,
            ze_ohm=ze,
            fault_current_ka=fault,
            tails=Tails(csa_mm2=tails),
            main_fuse=MainFuse(standard="bs88-3", rating_a=fuse),
        )
        for book in (BS, IEC):
            for each in judge_supply(book, supply).checks:
                self.assertEqual(bool(each.missing), each.verdict is Verdict.CANNOT_TELL, each.id)
                self.assertTrue(each.answer and each.clause.ref)
