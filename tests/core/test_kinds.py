"""Each kind of circuit: what it usually is, what it brings along, what it asks for."""

import unittest

from lumbek.core.choices import choices
from lumbek.core.circuit.edit import AddPoint, apply_edit
from lumbek.core.circuit.usual import departures, next_point, usual_circuit, usual_point
from lumbek.core.judging.check import Verdict
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.places import Spot
from lumbek.core.model.point import Load, Point
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, leg, run
from tests.support.stated import a_device, an_rcd

BOOKS = (BS, IEC)
GUARDED = Surroundings(concealed_shallow=True, lost_neutral_guard=True)


def begun(book, kind: str, length_m: float = 8) -> Circuit:
    """A circuit of a kind as it is usually begun, with its first point."""
    circuit = usual_circuit(book, kind)
    return apply_edit(circuit, AddPoint(after="board", length_m=length_m), next_point(book, circuit)).circuit


class AsUsual(unittest.TestCase):
    def test_every_kind_complies_as_it_is_usually_begun(self) -> None:
        for book in BOOKS:
            for kind in book.kinds:
                circuit = begun(book, kind)
                if kind == "vehicle-charging":
                    circuit = circuit.model_copy(update={"surroundings": GUARDED})
                if kind == "sockets" and book is BS:
                    # Usually a ring there: it has to come back.
                    circuit = circuit.model_copy(update={"legs": (*circuit.legs, leg("L2", "P1", "board", 9))})
                supply = SUPPLY.model_copy(update={"phases": book.kinds[kind].phases})
                result = judged(circuit, supply, book)
                wrong = [(each.title, each.answer) for each in result.checks if each.verdict is Verdict.FAIL]
                self.assertEqual((kind, wrong), (kind, []))
                self.assertEqual((kind, result.verdict), (kind, Verdict.PASS))

    def test_what_is_usual_departs_from_nothing(self) -> None:
        for book in BOOKS:
            for kind in book.kinds:
                self.assertEqual(departures(book, begun(book, kind)), [], kind)
                self.assertEqual(check(judged(begun(book, kind), rulebook=book), "usual").answer, "As usual")

    def test_a_rulebook_may_have_its_own_practice(self) -> None:
        usual = {book.id: usual_circuit(book, "sockets").device.rating_a for book in BOOKS}
        self.assertEqual(usual, {"bs7671": 32, "iec60364": 16})
        self.assertEqual(departures(IEC, run(5, device=a_device(rating_a=16))), [])
        self.assertEqual({usual_circuit(IEC, kind).cable.type for kind in IEC.kinds}, {"multicore", "armoured"})

    def test_usual_pairs_are_listed_ratings_and_sizes(self) -> None:
        for book in BOOKS:
            for kind, rules in book.kinds.items():
                device, cable = usual_circuit(book, kind).device, usual_circuit(book, kind).cable
                for pair in rules.usual:
                    listed = [*book.devices[device.standard].ratings_a, *book.data.ring.ratings_a]
                    self.assertIn(pair.rating_a, listed, kind)
                    self.assertIn(pair.csa_mm2, book.conductor_milliohm_per_m, kind)
                self.assertIn(usual_circuit(book, kind).method, book.data.cables[cable.type].methods)
                self.assertTrue(rules.load is None or rules.load in book.appliances)

    def test_choices_offer_them(self) -> None:
        for book in BOOKS:
            for offered in choices(book).kinds:
                circuit = usual_circuit(book, offered.id)
                self.assertEqual((offered.device, offered.cable), (circuit.device, circuit.cable))
                self.assertTrue(offered.loads and offered.special)


class Loads(unittest.TestCase):
    def test_the_usual_load_goes_with_the_first_point_only(self) -> None:
        circuit = begun(BS, "cooker")
        self.assertEqual(circuit.points[0].loads[0].name, "Range cooker")
        self.assertEqual(usual_point(BS, circuit).loads, ())
        self.assertAlmostEqual(judged(circuit).ib_a, 10 + 0.3 * (10500 / 230 - 10))

    def test_alarms_load_every_point(self) -> None:
        circuit = begun(BS, "alarms")
        self.assertEqual(next_point(BS, circuit).loads, circuit.points[0].loads)
        self.assertEqual(circuit.cable.type, "flat-three-core-and-earth")

    def test_after_a_switch_comes_what_the_circuit_is_for(self) -> None:
        switch = Point(id="P1", kind="cord-switch", at=Spot(room="landing"))
        circuit = usual_circuit(BS, "shower").model_copy(
            update={"points": (switch,), "legs": (leg("L1", "board", "P1", 4),)}
        )
        offered = next_point(BS, circuit)
        self.assertEqual((offered.kind, offered.at.room), ("fixed", "landing"))
        self.assertEqual(offered.loads[0].power_w, 9500)

    def test_another_like_the_last_where_that_was_not_the_usual(self) -> None:
        circuit = run(5, 5).model_copy(update={"points": (*run(5).points, Point(id="P2", kind="socket-single"))})
        self.assertEqual(next_point(BS, circuit).kind, "socket-single")

    def test_a_boiler_hangs_on_a_fused_spur(self) -> None:
        circuit = begun(BS, "boiler")
        self.assertEqual((circuit.points[0].kind, circuit.points[0].fuse_a), ("fused-spur", 3))
        self.assertEqual(check(judged(circuit), "fuses").verdict, Verdict.PASS)
        plain = fixed(5, 200, 6, 1.5, kind="boiler")
        self.assertIn("No fused spur of 3 A", check(judged(plain), "usual").caution)


class Departing(unittest.TestCase):
    def test_a_departure_wants_a_reason_and_is_never_failed(self) -> None:
        odd = fixed(5, 2000, 25, 4, kind="water-heater")
        found = check(judged(odd), "usual")
        self.assertEqual(found.verdict, Verdict.PASS)
        self.assertIn("25 A with 4 mm²; usual for immersion heater", found.caution)
        said = check(judged(odd.model_copy(update={"reason": "An old 5 kW heater"})), "usual")
        self.assertEqual((said.caution, said.answer), ("", "Departs, with a reason"))
        self.assertTrue(any(step.sum == "An old 5 kW heater" for step in said.steps))

    def test_thicker_than_usual_needs_no_excuse_thinner_does(self) -> None:
        self.assertEqual(departures(BS, fixed(5, 2000, 16, 6, kind="water-heater")), [])
        self.assertEqual(len(departures(BS, fixed(5, 2000, 16, 1.5, kind="water-heater"))), 1)

    def test_nothing_else_on_a_circuit_that_is_for_one(self) -> None:
        two = run(5, 5, kind="shower", device=a_device(rating_a=45))
        found = departures(BS, two.model_copy(update={"cable": usual_circuit(BS, "shower").cable}))
        self.assertIn("2 points", found[0])

    def test_a_radial_for_more_floor_than_guidance_has(self) -> None:
        for rating, area, words in ((20, 60, "50 m²"), (20, 50, ""), (32, 80, "75 m²"), (16, 500, "")):
            circuit = run(5, device=a_device(rating_a=rating), surroundings=Surroundings(floor_area_m2=area))
            cable = circuit.cable.model_copy(update={"csa_mm2": 4})
            found = check(judged(circuit.model_copy(update={"cable": cable})), "usual").caution
            self.assertIn(words, found)
            self.assertEqual(bool(found), bool(words))

    def test_an_open_run_on_a_rings_device_looks_like_a_ring_that_never_closed(self) -> None:
        self.assertIn("never closed", check(judged(run(5, 5)), "shape").caution)
        self.assertEqual(check(judged(run(5, 5, back=5)), "shape").caution, "")
        thick = run(5, 5).cable.model_copy(update={"csa_mm2": 6})
        self.assertEqual(check(judged(run(5, 5, cable=thick)), "shape").caution, "")


class SpecialRules(unittest.TestCase):
    def test_kinds_that_always_want_30_ma(self) -> None:
        bare = a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        dry = Surroundings(concealed_shallow=False)
        for kind in ("shower", "floor-heating", "vehicle-charging"):
            for book in BOOKS:
                circuit = fixed(5, 1500, 16, 2.5, kind=kind, device=bare, surroundings=dry)
                self.assertEqual(check(judged(circuit, rulebook=book), "rcd").verdict, Verdict.FAIL, kind)

    def test_alarms_behind_a_shared_rcd_are_pointed_out(self) -> None:
        shared = a_device(standard="bs-en-60898", rating_a=6, rcd=an_rcd(shared=True))
        circuit = begun(BS, "alarms")
        self.assertEqual(check(judged(circuit), "rcd").caution, "")
        found = check(judged(circuit.model_copy(update={"device": shared})), "rcd")
        self.assertIn("silence the alarms", found.caution)

    def test_arc_detection_is_required_in_one_book_only(self) -> None:
        risk = SUPPLY.model_copy(update={"higher_risk": True})
        self.assertEqual(check(judged(run(5), risk), "arc-fault").verdict, Verdict.FAIL)
        self.assertEqual(check(judged(run(5), risk, IEC), "arc-fault").verdict, Verdict.NOT_APPLICABLE)

    def test_charging_on_pme_wants_a_guard_or_an_electrode(self) -> None:
        circuit = begun(BS, "vehicle-charging")
        self.assertIn("lost neutral", check(judged(circuit), "pme").missing[0])
        for change, verdict in (
            ({"surroundings": GUARDED}, Verdict.PASS),
            ({"own_earth": OwnEarth(electrode_ohm=60)}, Verdict.NOT_APPLICABLE),
        ):
            self.assertEqual(check(judged(circuit.model_copy(update=change)), "pme").verdict, verdict)
        tn_s = SUPPLY.model_copy(update={"earthing": "TN-S"})
        self.assertEqual(check(judged(circuit, tn_s), "pme").verdict, Verdict.NOT_APPLICABLE)
        self.assertEqual(check(judged(circuit, rulebook=IEC), "pme").verdict, Verdict.NOT_APPLICABLE)
        unknown = SUPPLY.model_copy(update={"earthing": None})
        self.assertEqual(check(judged(circuit, unknown), "pme").missing, ("earthing system of the supply",))

    def test_a_pme_earth_outdoors_is_thought_about(self) -> None:
        self.assertIn("Think before", check(judged(begun(BS, "outdoor")), "pme").caution)
        self.assertEqual(check(judged(begun(BS, "cooker")), "pme").verdict, Verdict.NOT_APPLICABLE)


class RcdType(unittest.TestCase):
    def of(self, rcd_type: str, kind: str = "fixed-appliance", loads: tuple[Load, ...] = ()) -> Verdict:
        device = a_device(rating_a=32, rcd=an_rcd(type=rcd_type))
        circuit = fixed(5, 1000, 32, 6, kind=kind, device=device)
        point = circuit.points[0].model_copy(update={"loads": loads})
        return check(judged(circuit.model_copy(update={"points": (point,)})), "rcd-type").verdict

    def test_without_loads_type_a_will_do_and_ac_cannot_be_told(self) -> None:
        self.assertEqual([self.of(each) for each in ("A", "F", "B")], [Verdict.PASS] * 3)
        self.assertEqual(self.of("AC"), Verdict.CANNOT_TELL)

    def test_charging_without_stated_detection(self) -> None:
        plain = Load(current_a=32)
        for loads in ((), (plain,)):
            self.assertEqual(self.of("A", "vehicle-charging", loads), Verdict.CANNOT_TELL)
            self.assertEqual(self.of("B", "vehicle-charging", loads), Verdict.PASS)
            # No type below A sees a fault beside smooth d.c., whatever the equipment turns out to be.
            self.assertEqual(self.of("AC", "vehicle-charging", loads), Verdict.FAIL)

    def test_charging_with_it_or_known_to_be_without(self) -> None:
        detects, smooth = Load(current_a=32, dc="smooth-6ma"), Load(current_a=32, dc="smooth")
        self.assertEqual(self.of("A", "vehicle-charging", (detects,)), Verdict.PASS)
        self.assertEqual(self.of("A", "vehicle-charging", (smooth,)), Verdict.FAIL)
        self.assertEqual(self.of("B", "vehicle-charging", (smooth,)), Verdict.PASS)
