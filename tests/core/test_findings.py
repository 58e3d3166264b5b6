"""Findings of old houses: offered by what is known, coded as an assessor would, kept with what was said before."""

import unittest
from itertools import combinations
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from lumbek.core.documents.gathered import gather
from lumbek.core.inspection.accessories import samples_of
from lumbek.core.inspection.codes import coded, gravest_part
from lumbek.core.inspection.kinds import finding_kinds, suggest
from lumbek.core.inspection.offers import offers_of
from lumbek.core.inspection.outcome import outcome_of
from lumbek.core.inspection.sample import still_faulty, wanted
from lumbek.core.inspection.standing import standing_of
from lumbek.core.inspection.walk import TOPICS, area_kinds, walk_of
from lumbek.core.judging.check import Verdict
from lumbek.core.model.inspection import InspectionMade, TurnsOn
from lumbek.core.switching.prove import answers_of
from tests.core.test_assessor import PME, RCD, TT, fuse, load, mcb, radial, ring
from tests.support.houses import BS
from tests.support.inspected import inspected, kept, offered
from tests.support.lighting import as_found, core_in, crossed, stair, wired
from tests.support.street import HOUSES, street


def answered(**said: str) -> list[TurnsOn]:
    return [TurnsOn.model_validate({"id": key.replace("_", "-"), "answer": value}) for key, value in said.items()]


class Codes(unittest.TestCase):
    """The usual code of what is found, and what it turns on."""

    def test_the_table_of_usual_codes(self) -> None:
        for kind, said, code in (
            ("live-parts", {}, "C1"),
            ("metal-live", {}, "C1"),
            ("supply-reversed", {}, "C1"),
            ("no-earthing", {}, "C1"),
            ("no-earthing", {"metal": "yes"}, "C1"),
            ("no-earthing", {"metal": "no"}, "C2"),
            ("main-bonding", {}, "C2"),
            ("main-bonding", {"insulated": "yes"}, "none"),
            ("bonding-small", {}, "C3"),
            ("bonding-small", {"heat": "no"}, "none"),
            ("bonding-small", {"heat": "yes"}, "C2"),
            ("no-cpc", {}, "C2"),
            ("no-cpc-lighting", {}, "C2"),
            ("no-cpc-lighting", {"class_i": "yes"}, "C2"),
            ("no-cpc-lighting", {"class_i": "no"}, "C3"),
            ("disconnection", {}, "C2"),
            ("rcd-fails", {}, "C2"),
            ("rcd-fails", {"relied": "no"}, "C3"),
            ("no-30ma", {}, "C3"),
            ("no-30ma", {"outdoors": "yes"}, "C2"),
            ("bath-no-30ma", {}, "C2"),
            ("bath-no-30ma", {"bonded": "yes"}, "C3"),
            ("socket-near-bath", {}, "C2"),
            ("socket-near-bath", {"shaver": "yes"}, "none"),
            ("zone-ip", {}, "C2"),
            ("zone-ip", {"outside": "yes"}, "none"),
            ("zone-ip", {"outside": "no", "water": "yes"}, "C1"),
            ("rcd-ac", {}, "C3"),
            ("rcd-ac", {"blinds": "yes"}, "C2"),
            ("no-surge", {"declined": "yes"}, "none"),
            ("no-arc-fault", {}, "C3"),
            ("board-burns", {"heat": "yes"}, "C2"),
            ("board-burns", {"heat": "no", "way_out": "yes"}, "C3"),
            ("board-burns", {"heat": "no", "way_out": "no"}, "none"),
            ("board-open", {"finger": "yes"}, "C1"),
            ("board-open", {"finger": "no", "top": "yes"}, "C3"),
            ("board-open", {"finger": "no", "top": "no"}, "C2"),
            ("device-too-large", {}, "C2"),
            ("device-too-large", {"ring": "yes"}, "none"),
            ("ring-open", {}, "C2"),
            ("shared-neutral", {}, "C2"),
            ("pole-in-neutral", {}, "C2"),
            ("pole-in-neutral", {"shell": "yes"}, "C1"),
            ("cpc-live", {}, "C2"),
            ("cpc-live", {"touched": "yes"}, "C1"),
            ("insulation-low", {}, "C2"),
            ("insulation-falling", {}, "FI"),
            ("unexplained", {}, "FI"),
            ("not-found", {}, "FI"),
            ("damage", {}, "C2"),
            ("damage", {"live": "yes"}, "C1"),
            ("joints-open", {}, "C2"),
            ("joints-open", {"sound": "yes"}, "C3"),
            ("falls-in-fire", {}, "C3"),
            ("falls-in-fire", {"block": "yes"}, "C2"),
            ("intake", {}, "FI"),
            ("intake", {"damaged": "yes"}, "C2"),
            ("notice", {}, "C3"),
            ("chart", {}, "C3"),
            ("chart", {"misleads": "yes"}, "C2"),
            ("old-sound", {}, "none"),
            ("sleeve", {}, "C3"),
        ):
            with self.subTest(kind, **said):
                self.assertEqual(suggest(kind, answered(**said)).code, code)

    def test_every_departure_of_what_exists_has_a_usual_code(self) -> None:
        """Over a street of houses: what nobody has given a code would be listed, and come to nothing."""
        for number in HOUSES:
            gathered = gather(street(number))
            found = [] if any(board.state == "new" for board in gathered.house.boards) else [*gathered.shared.checks]
            for circuit, answer in zip(gathered.job.circuits, gathered.answers, strict=True):
                parts = (*circuit.design.points, *circuit.design.legs)
                if circuit.design.state == "as-found" and all(part.state == "as-found" for part in parts):
                    found += answer.result.checks
            uncoded = {check.id for check in found if check.verdict is Verdict.FAIL and not check.code}
            self.assertEqual(uncoded, set(), number)

    def test_what_nobody_answered_is_open_and_asked_once(self) -> None:
        self.assertEqual([each.id for each in suggest("bonding-small").open], ["heat"])
        self.assertEqual([each.id for each in suggest("zone-ip", answered(water="yes")).open], ["outside"])
        self.assertEqual(suggest("zone-ip", answered(outside="no", water="no")).open, ())
        self.assertEqual([each.id for each in finding_kinds()["board-burns"].questions], ["heat", "way-out"])

    def test_every_item_leads_to_sorts_of_finding_that_there_are(self) -> None:
        for area in area_kinds().values():
            for item in area.items:
                self.assertLessEqual(set(item.kinds), set(finding_kinds()), item.id)
                self.assertIn(item.topic, TOPICS)
        for kind in finding_kinds().values():
            self.assertEqual(set(kind.clauses), {"bs7671", "iec60364"})


class RealHouses(unittest.TestCase):
    """What old houses offer, each circuit and reading as somebody would enter it, with the code an assessor gives."""

    def case(
        self, title: str, circuit: dict[str, Any], kind: str, code: str, supply: dict[str, Any] = PME, **more: Any
    ):
        with self.subTest(title):
            found = offered(inspected(circuit, supply=supply, **more))
            self.assertIn(kind, found, list(found))
            self.assertEqual(found[kind].suggestion.code, code, found[kind].suggestion)
            self.assertTrue(found[kind].seen and found[kind].where)

    def test_designs(self) -> None:
        old = {"device": mcb(6), "kind": "lighting", "csa": 1, "cable": {"cpc_by": "none"}}
        lights = {"kind": "light", "loads": [load(40)]}
        self.case(
            "1962 lighting without cpc, nobody has looked at its fittings",
            radial(lights, **old),
            "no-cpc-lighting",
            "C2",
        )
        plastic = {**lights, "class_ii": True}
        self.case("the same, every fitting class II", radial(plastic, **old), "no-cpc-lighting", "C3")
        bare = radial("socket-twin", device=mcb(16), cable={"cpc_by": "none"})
        self.case("a socket without cpc", bare, "no-cpc", "C2")
        self.case("sockets upstairs without an RCD", radial("socket-twin", device=mcb(16)), "no-30ma", "C3")
        outdoor = radial("socket-twin", device=mcb(16), kind="outdoor")
        self.case("a socket for the garden without an RCD", outdoor, "no-30ma", "C2")
        self.case("TT and no RCD", radial("socket-twin", device=mcb(16)), "disconnection", "C2", TT)
        self.case("a 40 A breaker on 2.5 mm²", radial("socket-twin", device=mcb(40)), "device-too-large", "C2")
        wired = fuse("bs3036", 30)
        self.case("a rewireable fuse of 30 A on 2.5 mm²", radial("socket-twin", device=wired), "device-too-large", "C2")
        bath = {"kind": "fixed", "zone": "1", "ip": "IP20", "loads": [load(100)], "at": {"room": "bath"}}
        wet = {"surroundings": {"bath_room": True, "supplementary_bonding": False}}
        self.case("a heater of IP20 in zone 1", radial(bath, device=mcb(16), **wet), "zone-ip", "C2")
        self.case("the bath room without RCD or bonding", radial(bath, device=mcb(16), **wet), "bath-no-30ma", "C2")

    def test_readings(self) -> None:
        sound = radial("socket-twin", "socket-twin", device=mcb(16, rcd=RCD))
        for title, reading, kind, code in (
            ("0.4 MΩ", {"quantity": "insulation-le", "value": 0.4}, "insulation-low", "C2"),
            ("1.6 MΩ", {"quantity": "insulation-le", "value": 1.6}, "insulation-falling", "FI"),
            ("polarity wrong", {"quantity": "polarity", "correct": False}, "pole-in-neutral", "C2"),
            ("an RCD that takes 480 ms", {"quantity": "rcd-trip", "value": 480}, "rcd-fails", "C2"),
            ("its button does nothing", {"quantity": "rcd-button", "correct": False}, "rcd-fails", "C2"),
            ("not dead with its breaker off", {"quantity": "isolation", "correct": False}, "not-found", "FI"),
        ):
            self.case(title, {**sound, "readings": [reading]}, kind, code)
        open_ring = {**ring("socket-twin", "socket-twin", "socket-twin", device=mcb(32)), "readings": [
            {"quantity": "r1", "value": 0.42}, {"quantity": "rn", "value": 999, "beyond": True},
        ]}  # fmt: skip
        self.case("a ring whose neutral is open", open_ring, "ring-open", "C2")

    def test_the_supply(self) -> None:
        bare = {**PME, "services": [{"what": "gas", "material": "metal", "bonded": "no"}]}
        self.case("gas not bonded", radial("socket-twin"), "main-bonding", "C2", bare)
        thin = {**PME, "earthing_conductor_mm2": 4, "tails": {"csa_mm2": 16, "length_m": 2}}
        self.case("an earthing conductor of 4 mm²", radial("socket-twin"), "bonding-small", "C3", thin)
        wrong = ({"quantity": "supply-polarity", "correct": False, "by": "Kit Marlow", "at": "2026-05-04T12:00:00Z"},)
        self.case("supply reversed", radial("socket-twin"), "supply-reversed", "C1", readings=wrong)

    def test_what_was_found_is_offered_where_it_was_found(self) -> None:
        fault = {"id": "f1", "by": "Kit", "at": "2026-05-04T12:00:00Z", "kind": "fault", "title": "Loose neutral at P2"}
        traced = {**fault, "id": "f2", "kind": "traced", "title": "Board traced", "lines": [
            {"name": "Hall socket", "belongs_to": "7"}, {"name": "Cupboard light", "why": "goes dead with nothing"},
        ]}  # fmt: skip
        house = inspected(radial("socket-twin"), supply=PME, found=({**fault, "circuit": 1}, traced))
        found = offered(house)
        self.assertEqual(found["Loose neutral at P2"].spot.circuit, "C1")
        self.assertEqual(found["Loose neutral at P2"].suggestion.code, "")
        self.assertIn("Cupboard light", found["not-found"].seen)

    def test_what_is_switched_has_the_code_of_what_is_wrong_with_it(self) -> None:
        """A light that does not go as meant is no danger; a switch in the neutral is, and is named before it."""
        good = as_found(wired(stair("H", "H T"))).model_copy(update={"state": "as-found"})
        two_way = crossed(good, "T", core_in(good, "T", "1.COM"), core_in(good, "T", "1.L2"))
        lamp = crossed(good, "Z", core_in(good, "Z", "L"), core_in(good, "Z", "N"))
        both = crossed(two_way, "Z", core_in(good, "Z", "L"), core_in(good, "Z", "N"))
        for design, code, seen in ((two_way, "C3", "Z"), (lamp, "C2", "neutral"), (both, "C2", "neutral")):
            found = offered(inspected(design, supply=PME))["Switching"]
            self.assertEqual(found.suggestion.code, code, found.seen)
            self.assertIn(seen, found.seen)
            # Of a new circuit it is no finding, fails as well, and the gravest is named.
            new = inspected(design.model_copy(update={"state": "new"}), supply=PME)
            (check,) = [each for each in new.answers[0].result.checks if each.id == "switching"]
            self.assertEqual((check.verdict, check.code), (Verdict.FAIL, ""))
            self.assertIn(seen, check.answer)
        self.assertNotIn("Switching", offered(inspected(good, supply=PME)))

    def test_every_question_of_the_proof_has_a_code(self) -> None:
        found = wired(stair("H", "H T"))
        for each in answers_of(BS, {found.number: found}):
            failed = each.check.model_copy(update={"verdict": Verdict.FAIL})
            part = gravest_part("switching", [failed])
            self.assertIn(part.code, ("C2", "C3"), part.id)
            self.assertNotEqual(part.code_why, coded(failed.model_copy(update={"id": "switching"})).code_why, part.id)

    def test_new_work_that_fails_is_no_finding(self) -> None:
        new = {
            **radial("socket-twin", device=mcb(40)),
            "state": "new",
            "readings": [{"quantity": "polarity", "correct": False}],
        }
        self.assertEqual(offered(inspected(new, supply=PME)), {})

    def test_a_new_board_beside_an_old_one_is_no_finding(self) -> None:
        plastic = {"enclosure": {"material": "plastic"}, "main": None, "groups": [{"id": "G1", "ways": []}]}
        old = {**plastic, "id": "B1", "name": "Old", "state": "as-found"}
        new = {**plastic, "id": "B2", "name": "New", "groups": [{"id": "G2", "ways": []}]}
        keys = [each.key for each in offers_of(inspected(radial("socket-twin"), supply=PME, boards=(old, new)))]
        self.assertIn("boards/B1/main-B1/other", keys)
        self.assertFalse([each for each in keys if "B2" in each], keys)

    def test_one_matter_is_offered_once_by_all_that_shows_it(self) -> None:
        low = [{"quantity": quantity, "value": 0.3} for quantity in ("insulation-ll", "insulation-le")]
        found = offered(inspected({**radial("socket-twin", device=mcb(16, rcd=RCD)), "readings": low}, supply=PME))
        self.assertEqual(list(found), ["insulation-low"])
        self.assertEqual(len(found["insulation-low"].because), 2)


class Standing(unittest.TestCase):
    SAID: dict[str, Any] = {"record": "finding", "finding": "f1", "seen": "Cracked plate", "kind": "damage"}

    def test_a_correction_keeps_what_was_said_before(self) -> None:
        found = standing_of(
            kept(self.SAID | {"code": "C1"}, self.SAID | {"code": "C2", "seen": "Cracked, nothing bare"})
        )
        mine = found.findings["f1"]
        self.assertEqual((mine.said.code, mine.earlier[0].code, mine.earlier[0].seen), ("C2", "C1", "Cracked plate"))
        self.assertEqual(mine.first.by, "Robin Ash")

    def test_a_departure_says_why(self) -> None:
        for code, suggested in (("C3", "C2"), ("C1", "C2"), ("none", "C3")):
            with self.assertRaisesRegex(ValidationError, "departs"):
                kept(self.SAID | {"code": code, "suggested": suggested})
        kept(self.SAID | {"code": "C2", "suggested": "C2"}, self.SAID | {"code": "C2"}, self.SAID | {"suggested": "C2"})
        kept(self.SAID | {"code": "C3", "suggested": "C2", "departs": "Out of reach behind the boiler"})

    def test_a_danger_waits_until_it_is_dealt_with(self) -> None:
        danger = self.SAID | {"code": "C1"}
        told = {"told": "Mrs Lock", "told_at": "2026-05-04T12:10:00Z"}
        for dealt, waits in (
            (None, True),
            ({"made_safe": "Circuit off and locked"}, True),
            (told, True),
            ({"made_safe": "Circuit off and locked", "told": "Mrs Lock"}, True),
            ({"made_safe": "Circuit off and locked", **told}, False),
            ({"refused": True, **told}, False),
        ):
            found = standing_of(kept(danger if dealt is None else danger | {"danger": dealt, "status": "made-safe"}))
            self.assertEqual(bool(found.dangers), waits, dealt)

    def test_the_outcome_is_by_the_codes(self) -> None:
        for codes, word in (
            (("C3", "none"), "satisfactory"),
            ((), "satisfactory"),
            (("C3", ""), "open"),
            (("C1",), "unsatisfactory"),
            (("C2", "C3"), "unsatisfactory"),
            (("FI", ""), "unsatisfactory"),
        ):
            records = kept(*(self.SAID | {"finding": f"f{at}", "code": code} for at, code in enumerate(codes)))
            self.assertEqual(outcome_of(standing_of(records).coded).word, word, codes)
        outside = kept(self.SAID | {"code": "C2", "status": "outside"})
        self.assertEqual(outcome_of(standing_of(outside).findings.values()).word, "satisfactory")
        done = kept(self.SAID | {"code": "C2", "status": "done"})
        self.assertEqual(outcome_of(standing_of(done).coded).word, "unsatisfactory")

    def test_only_what_particulars_name_is_changed(self) -> None:
        first = {"record": "particulars", "reason": "Sale", "occupier": "Lock"}
        found = standing_of(kept(first, {"record": "particulars", "reason": "Letting"})).particulars
        self.assertEqual((found.reason, found.occupier), ("Letting", "Lock"))

    def test_a_task_that_is_done_is_proved(self) -> None:
        task = {"record": "task", "task": "t1", "findings": ["f1"], "what": "New plate"}
        for more, field in (({"status": "done"}, "proof"), ({"status": "agreed"}, "agreed_by")):
            with self.assertRaisesRegex(ValidationError, field):
                InspectionMade.model_validate({"said": task | more})

    def test_an_item_that_was_not_looked_at_says_why(self) -> None:
        for outcome in ("limited", "not-verified"):
            with self.assertRaisesRegex(ValidationError, "why"):
                kept({"record": "items", "area": "loft", "lines": [{"item": "loft-joints", "outcome": outcome}]})


class Walk(unittest.TestCase):
    def test_places_items_and_what_the_model_knows(self) -> None:
        bath = {"kind": "fixed", "zone": "1", "ip": "IP45", "at": {"room": "bath"}}
        rooms = ({"id": "hall", "name": "Hall"}, {"id": "bath", "name": "Bath"})
        house = inspected(radial(bath), supply=PME, rooms=rooms)
        said = standing_of(
            kept({"record": "items", "area": "intake", "lines": [{"item": "meter", "outcome": "sound"}]})
        )
        areas = {area.key: area for area in walk_of(house, said)}
        self.assertEqual(
            list(areas)[:1] + list(areas)[2:],
            ["intake", "circuits", "room:hall", "room:bath", "bath:bath", "loft", "special"],
        )
        intake = {item.kind.id: item for item in areas["intake"].items}
        self.assertEqual(intake["bonding"].model.outcome, "sound")
        self.assertIsNone(intake["cut-out"].model)
        self.assertEqual(len(areas["intake"].open), len(areas["intake"].items) - 1)
        bare = {**PME, "services": [{"what": "gas", "material": "metal", "bonded": "no"}]}
        intake = {item.kind.id: item for item in walk_of(inspected(supply=bare), said)[0].items}
        self.assertEqual(intake["bonding"].model.outcome, "finding")
        # A source that is drawn is known of, named; where none is drawn nobody knows that there is none.
        charger = {"kind": "charger", "name": "Drive"}
        for points, words in (((charger,), "Drawn: Drive"), (({"kind": "socket-twin"},), "")):
            intake = {item.kind.id: item for item in walk_of(inspected(radial(*points), supply=PME), said)[0].items}
            model = intake["sources"].model
            self.assertEqual("" if model is None else model.words, words)
        # What was not said is not sound.
        intake = {item.kind.id: item for item in walk_of(inspected(), said)[0].items}
        self.assertIsNone(intake["earthing"].model)


class Samples(unittest.TestCase):
    def test_against_every_subset(self) -> None:
        for total, opened in ((5, 2), (7, 3), (8, 4), (9, 2), (6, 6)):
            for faulty in range(opened + 1):
                most = faulty
                for bad in range(faulty, total - opened + faulty + 1):
                    sets = [sum(one < bad for one in some) for some in combinations(range(total), opened)]
                    if sum(found <= faulty for found in sets) / len(sets) > 0.05:
                        most = bad
                self.assertEqual(still_faulty(total, opened, faulty), most - faulty, (total, opened, faulty))

    def test_worked(self) -> None:
        # 40 of a kind, 8 opened, all sound: up to 11 of the others may still be faulty.
        self.assertEqual(still_faulty(40, 8, 0), 11)
        # One of twenty, 19 faulty: exactly 5 %, and that is not more.
        self.assertEqual(still_faulty(20, 1, 0), 18)
        self.assertEqual(still_faulty(40, 0, 0), 40)
        self.assertEqual(still_faulty(40, 40, 3), 0)
        with self.assertRaises(ValueError):
            still_faulty(4, 5, 0)

    @given(st.integers(1, 60), st.data())
    def test_a_larger_sample_never_proves_less(self, total: int, data: st.DataObject) -> None:
        opened = data.draw(st.integers(0, total - 1))
        self.assertGreaterEqual(still_faulty(total, opened, 0), still_faulty(total, opened + 1, 0))

    def test_a_fault_enlarges_the_sample(self) -> None:
        self.assertEqual([wanted(40, 4, 0), wanted(40, 4, 1), wanted(40, 8, 1), wanted(3, 2, 0)], [4, 8, 40, 2])

    def test_of_a_house_spread_over_circuits_and_rooms(self) -> None:
        rooms = ["hall", "hall", "kitchen", "kitchen"]
        circuits = [
            radial(*({"kind": "socket-twin", "at": {"room": room}} for room in rooms * 3), device=mcb(16))
            for _ in range(2)
        ]
        house = inspected(*circuits, supply=PME)
        (sockets,) = samples_of(house, standing_of(()))
        self.assertEqual((sockets.total, sockets.wanted, sockets.opened), (24, 3, 0))
        chosen = [(each.circuit, each.room) for each in sockets.next]
        self.assertEqual(chosen[:2], [("C1", "hall"), ("C2", "kitchen")])
        bad = standing_of(kept({"record": "opened", "circuit": "C1", "point": "P1", "sound": False}))
        (sockets,) = samples_of(house, bad)
        self.assertEqual((sockets.opened, sockets.faulty, sockets.wanted, len(sockets.next)), (1, 1, 6, 5))
        self.assertIn("1 of 24 opened, 1 faulty", sockets.proves)
        # What is never opened for itself, and what is new, is not sampled.
        joint = radial({"kind": "joint", "at": {"room": "hall"}})
        self.assertEqual([each.total for each in samples_of(inspected(*circuits, joint), standing_of(()))], [24])
        new = {**circuits[0], "state": "new"}
        self.assertEqual(samples_of(inspected(new, supply=PME), standing_of(())), ())


if __name__ == "__main__":
    unittest.main()
