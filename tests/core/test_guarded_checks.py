"""What one circuit is asked: branches and choices that nothing had guarded, found by changing them one by one."""

import re
import unittest

from lumbek.core.board.enclosure import _finger_enters
from lumbek.core.checks.loop_by_evidence import hot_range
from lumbek.core.checks.rcd import rcd_words
from lumbek.core.checks.recorded import as_recorded
from lumbek.core.circuit.usual import usual_cable
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.circuit_figures import _least_iz
from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Rcd
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Driver, Load, Point
from lumbek.core.model.supply import Service
from lumbek.core.protection.let_through import let_through
from lumbek.core.study.door import study_of
from lumbek.core.study.lengths import settle
from lumbek.core.study.read import Read
from lumbek.core.testing.against import _since_last_visit
from lumbek.core.testing.sheet import earlier_of, has_own_rcd
from lumbek.core.testing.taken import Taken
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, leg, read, run, study, with_spur, worked_ring
from tests.support.stated import a_circuit, a_device, an_rcd

PASS, FAIL, OPEN, NONE = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL, Verdict.NOT_APPLICABLE
ARMOURED = Cable(type="armoured", insulation="xlpe90", cores=2, csa_mm2=4, cpc_by="armour")


class Drivers(unittest.TestCase):
    def told(self, **driver: object) -> tuple[Verdict, tuple[str, ...]]:
        whole = {"output_v": 24, "rated_w": 75, "load_w": 60, "run_m": 2, "csa_mm2": 1.5} | driver
        lights = run(5, kind="lighting")
        at = lights.points[0].model_copy(update={"kind": "driver", "driver": Driver(**whole)})
        found = check(judged(lights.model_copy(update={"points": (at,)})), "drivers")
        return found.verdict, found.missing

    def test_a_driver_of_no_known_rating_is_asked_for_it(self) -> None:
        verdict, missing = self.told(rated_w=None)
        self.assertEqual(verdict, OPEN)
        self.assertIn("rating of", missing[0])
        self.assertEqual(self.told(), (PASS, ()))

    def test_what_it_is_made_for_is_enough_and_a_watt_more_is_not(self) -> None:
        self.assertEqual(self.told(load_w=75)[0], PASS)
        self.assertEqual(self.told(load_w=75.1)[0], FAIL)

    def test_a_cable_of_no_known_size_is_asked_for_and_none_at_all_is_not(self) -> None:
        verdict, missing = self.told(csa_mm2=None)
        self.assertEqual((verdict, len(missing)), (OPEN, 1))
        self.assertIn("conductor behind", missing[0])
        self.assertEqual(self.told(csa_mm2=None, run_m=None), (PASS, ()))


class BathRooms(unittest.TestCase):
    def told(self, rcd: object, bonded: str, said: bool | None, fellow: str = "") -> tuple[Verdict, tuple[str, ...]]:
        supply = SUPPLY.model_copy(update={"services": (Service(what="water", material="metal", bonded=bonded),)})
        light = run(5, kind="lighting", device=a_device(rating_a=6, rcd=rcd))
        around = light.surroundings.model_copy(
            update={"bath_room": True, "supplementary_bonding": said, "bath_fellow": fellow}
        )
        found = check(judged(light.model_copy(update={"surroundings": around}), supply), "bath-bonding")
        return found.verdict, found.missing

    def test_it_fails_only_where_all_that_could_save_it_is_said(self) -> None:
        """Not bonded, and either no 30 mA, or a service without its bond, or a fellow that is not guarded."""
        self.assertEqual(self.told(None, "yes", False)[0], FAIL)
        self.assertEqual(self.told(an_rcd(), "no", False)[0], FAIL)
        self.assertEqual(self.told(an_rcd(), "yes", False, "Shower")[0], FAIL)
        self.assertEqual(self.told(an_rcd(), "yes", False)[0], PASS)

    def test_what_is_not_said_is_asked_for_and_nothing_else(self) -> None:
        bond = "whether the metal parts of the bath room are bonded to each other"
        self.assertEqual(self.told(None, "yes", None), (OPEN, (bond,)))
        self.assertEqual(self.told("unknown", "yes", None), (OPEN, (bond, "RCD of the circuit")))
        self.assertEqual(self.told("unknown", "yes", False), (OPEN, ("RCD of the circuit",)))
        self.assertEqual(self.told(an_rcd(), "no", None), (OPEN, (bond,)))

    def test_bonded_parts_need_nothing_else(self) -> None:
        self.assertEqual(self.told(None, "no", True, "Shower")[0], PASS)


class Outdoors(unittest.TestCase):
    def pme(self, kind: str, earthing: str = "TN-C-S", guard: bool | None = None, point: str = "fixed"):
        design = a_circuit(
            kind=kind,
            points=(Point(id="P1", kind=point, loads=(Load(current_a=10),)),),
            legs=(leg("L1", "board", "P1", 20),),
        )
        around = design.surroundings.model_copy(update={"lost_neutral_guard": guard})
        supply = SUPPLY.model_copy(update={"earthing": earthing})
        return check(judged(design.model_copy(update={"surroundings": around}), supply), "pme")

    def test_a_vehicle_wants_its_guard_wherever_it_is_charged(self) -> None:
        """The charging point decides, not the kind of its circuit."""
        for kind in ("vehicle-charging", "sockets", "outdoor"):
            self.assertEqual(self.pme(kind, point="charger").verdict, OPEN, kind)
            guarded = self.pme(kind, point="charger", guard=True)
            self.assertEqual((guarded.verdict, guarded.caution), (PASS, ""), kind)

    def test_what_else_is_outdoors_is_told_and_what_is_indoors_is_not_asked(self) -> None:
        found = self.pme("outdoor")
        self.assertEqual(found.verdict, PASS)
        self.assertIn("PME outdoors", found.caution)
        self.assertEqual(self.pme("sockets").verdict, NONE)
        self.assertEqual(self.pme("vehicle-charging", "TN-S", point="charger").verdict, NONE)


class Withstand(unittest.TestCase):
    def outbuilding(self, supply_earthing: str, own: bool, cable: Cable = ARMOURED):
        """A feed to an outbuilding, with an electrode of its own or the supply's earth."""
        earth = OwnEarth(electrode_ohm=80) if own else None
        design = fixed(20, 2000, 16, 4, kind="fixed-appliance", cable=cable, own_earth=earth)
        supply = SUPPLY.model_copy(update={"earthing": supply_earthing, "ze_ohm": 0.3})
        return check(judged(design, supply), "withstand")

    def test_behind_an_electrode_of_its_own_the_armour_still_sees_a_fault_of_the_house(self) -> None:
        self.assertEqual(self.outbuilding("TN-S", own=True).verdict, PASS)
        self.assertIn("mm²", self.outbuilding("TN-S", own=True).answer)
        plain = Cable(csa_mm2=4)
        self.assertEqual(self.outbuilding("TN-S", own=True, cable=plain).verdict, NONE)
        self.assertEqual(self.outbuilding("TN-S", own=False, cable=plain).verdict, PASS)

    def test_on_tt_no_fault_to_earth_is_great(self) -> None:
        for own in (True, False):
            self.assertEqual(self.outbuilding("TT", own=own).verdict, NONE)

    def test_of_two_feeds_the_one_that_surely_fails_is_shown_before_the_one_that_may(self) -> None:
        """A cpc that is too thin for certain, behind another whose device's energy is only bounded."""
        fuse = a_device(standard="bs88-3", curve=None, rating_a=63, rcd=None, breaking_capacity_ka=16)
        breaker = a_device(standard="bs-en-60898", rating_a=40, rcd=None)
        thin = Cable(type="single-core", csa_mm2=10, cpc_by="core", cpc_mm2=1)
        thick = Cable(type="single-core", csa_mm2=10, cpc_by="core", cpc_mm2=4)
        for one, other in ((thin, thick), (thick, thin), (thin, thin), (thick, thick)):
            feeds = (Ahead(device=fuse), Ahead(feed=one, length_m=30, name="First"),
                     Ahead(device=breaker), Ahead(feed=other, length_m=5, name="Second"))  # fmt: skip
            supply = SUPPLY.model_copy(update={"fault_current_ka": 3.0})
            found = check(judged(worked_ring().model_copy(update={"ahead": feeds}), supply), "feed-withstand")
            self.assertEqual(found.verdict is PASS, one is thick and other is thick, (one, other, found.answer))


class Altered(unittest.TestCase):
    def test_what_an_alteration_relies_on_stays_open_and_the_rest_does_not(self) -> None:
        """Loop, cable and RCD are relied on; volt drop and demand of what was there are nobody's to ask."""
        old = run(None, None, state="altered")
        new = old.legs[1].model_copy(update={"state": "new", "segments": (Segment(length_m=4),)})
        circuit = old.model_copy(
            update={
                "legs": (old.legs[0].model_copy(update={"state": "as-found"}), new),
                "points": (
                    old.points[0].model_copy(update={"state": "as-found"}),
                    old.points[1].model_copy(update={"state": "new"}),
                ),
            }
        )
        of = study(circuit)
        open_check = check(judged(run(None, None)), "zs").model_copy(update={"verdict": OPEN, "place": None})
        relied_on = {"zs": True, "overload": True, "rcd": True, "withstand": True, "breaking": circuit.device_new}
        for check_id, kept in {**relied_on, "volt-drop": False, "demand": False}.items():
            found = as_recorded(of, open_check.model_copy(update={"id": check_id}))
            self.assertEqual(found.verdict, OPEN if kept else NONE, check_id)
            self.assertEqual(bool(found.missing), kept and bool(open_check.missing), check_id)

    def test_a_cpc_that_is_all_as_found_is_not_asked_what_it_withstands(self) -> None:
        old = run(None, state="altered")
        legs = tuple(each.model_copy(update={"state": "as-found"}) for each in old.legs)
        of = study(old.model_copy(update={"legs": legs}))
        unsure = check(judged(run(None)), "zs").model_copy(update={"id": "withstand", "verdict": OPEN, "place": None})
        self.assertEqual(as_recorded(of, unsure).verdict, NONE)


class Alarms(unittest.TestCase):
    def test_only_alarms_are_silenced_by_a_shared_rcd(self) -> None:
        def caution(kind: str, shared: bool, rated_ma: float = 30) -> str:
            rcd = Rcd(rated_ma=rated_ma, type="A", shared=shared)
            return check(judged(run(5, kind=kind, device=a_device(rating_a=6, rcd=rcd))), "rcd").caution

        self.assertIn("silence", caution("alarms", shared=True))
        self.assertEqual(caution("alarms", shared=False), "")
        self.assertEqual(caution("lighting", shared=True), "")
        self.assertEqual(caution("alarms", shared=True, rated_ma=300), "")


class BathReasons(unittest.TestCase):
    def test_a_bath_room_is_one_reason_and_is_told_once(self) -> None:
        for kind in ("lighting", *(key for key, each in BS.kinds.items() if "bath" in each.rcd_for)):
            light = run(5, kind=kind)
            around = light.surroundings.model_copy(update={"bath_room": True, "concealed_shallow": False})
            found = check(judged(light.model_copy(update={"surroundings": around})), "rcd")
            named = [step.text for step in found.steps if "bath" in step.text]
            self.assertEqual(len(named), 1, (kind, named))


class InsteadOfTheBreaker(unittest.TestCase):
    def test_an_rcd_disconnects_where_the_loop_is_too_high_and_says_that_only_it_does(self) -> None:
        """On TN-S with 0.8 Ω outside 60 m are too much for a B32, which wants 1.37 Ω; for 30 mA 1667 Ω do."""
        long = run(60)
        supply = SUPPLY.model_copy(update={"ze_ohm": 0.8, "earthing": "TN-S"})
        with_rcd = check(judged(long, supply), "zs")
        self.assertEqual(with_rcd.verdict, PASS)
        self.assertIn("RCD", with_rcd.caution)
        bare = long.model_copy(update={"device": a_device(rcd=None)})
        self.assertEqual(check(judged(bare, supply), "zs").verdict, FAIL)
        unknown = long.model_copy(update={"device": a_device(standard="bs-en-61009", rcd="unknown")})
        found = check(judged(unknown, supply), "zs")
        self.assertEqual(found.verdict, OPEN)
        self.assertTrue(any("RCD" in each for each in found.missing), found.missing)


class SilentSockets(unittest.TestCase):
    def test_sockets_of_which_nothing_is_said_may_take_what_the_stated_loads_leave(self) -> None:
        """A ring on 32 A with 10 A stated at P1: 20 A far, the rest of 22 A evenly over the two silent points."""
        ring = run(10, 10, 10, back=10, loads={"P1": 10})
        demand = study(ring).currents.demand
        self.assertAlmostEqual(demand.at_points["P1"], 10)
        silent = [demand.at_points[point] for point in ("P2", "P3")]
        self.assertAlmostEqual(sum(silent), 22)
        self.assertTrue(all(each > 0 for each in silent), silent)
        self.assertAlmostEqual(min(silent), 1)
        self.assertAlmostEqual(demand.ib_a, 32)


class Figures(unittest.TestCase):
    def test_a_leg_of_which_one_part_is_not_known_has_no_capacity(self) -> None:
        parts = (Segment(length_m=3), Segment(length_m=3, method="101"))
        whole = run(6)
        known = whole.model_copy(update={"legs": (whole.legs[0].model_copy(update={"segments": parts}),)})
        of = study(known)
        found = [each.iz_a for each in of.capacities["L1"]]
        self.assertEqual(_least_iz(of, "L1"), min(iz for iz in found if iz is not None))
        self.assertLess(_least_iz(of, "L1") or 0, max(iz for iz in found if iz is not None))
        nobody = (parts[0], parts[1].model_copy(update={"method": "never"}))
        unknown = whole.model_copy(update={"legs": (whole.legs[0].model_copy(update={"segments": nobody}),)})
        of = study(unknown)
        self.assertIn(None, [each.iz_a for each in of.capacities["L1"]])
        self.assertIsNone(_least_iz(of, "L1"))

    def test_a_cable_without_an_earth_has_no_resistance_of_it(self) -> None:
        for cable in (Cable(csa_mm2=2.5, cpc_by="none"), Cable(type="armoured", csa_mm2=2.5, cores=2)):
            self.assertIsNone(BS.milliohm_per_m(cable, "E"), cable)
            self.assertAlmostEqual(BS.milliohm_per_m(cable, "L") or 0, 7.41)

    def test_factors_are_written_out_where_they_change_something(self) -> None:
        """Cc is 0.9 in the ground under BS 7671 and 1 under IEC 60364, where it is no step."""
        buried = {"type": "armoured", "insulation": "xlpe90", "csa_mm2": 4, "cpc_by": "armour"}
        for book, named in ((BS, True), (IEC, False)):
            ground = next(key for key, each in book.data.methods.items() if each.medium == "ground")
            of = study(run(20, cable=Cable(cores=2, **buried), method=ground), rulebook=book)
            (found,) = of.capacities["L1"]
            self.assertEqual(any("Cc" in step.text for step in found.working()), named, book.data.id)

    def test_a_small_fuse_pardons_its_own_cable_and_no_other(self) -> None:
        """1 mm² behind 3 A is told with a caution; the same beside it with no fuse fails."""
        thin = Cable(csa_mm2=1)
        ring = with_spur(run(9, 9, back=9), "P1", "F1", 1, kind="fused-spur", fuse_a=3)
        behind = leg("B1", "F1", "E1", 2, cable=thin)
        fused = ring.model_copy(update={"points": (*ring.points, Point(id="E1", kind="fixed")),
                                        "legs": (*ring.legs, behind)})  # fmt: skip
        found = check(judged(fused), "least-size")
        self.assertEqual(found.verdict, PASS)
        self.assertIn("1 mm² is thin", found.caution)
        beside = with_spur(fused, "P2", "S9", 2)
        legs = tuple(each.model_copy(update={"cable": thin}) if each.b == "S9" else each for each in beside.legs)
        self.assertEqual(check(judged(beside.model_copy(update={"legs": legs})), "least-size").verdict, FAIL)
        self.assertEqual(check(judged(ring), "least-size").caution, "")


class Shapes(unittest.TestCase):
    def test_a_ring_that_never_closed_is_suspected_where_any_of_its_cable_is_too_thin_for_a_radial(self) -> None:
        """On 32 A, 2.5 mm² carries 27 A: one leg of it is enough; all of 6 mm² is a radial. So is a run on 20 A."""
        thick = Cable(csa_mm2=6)
        whole = run(9, 9)
        one_thin = whole.model_copy(update={"legs": (whole.legs[0].model_copy(update={"cable": thick}), whole.legs[1])})
        for circuit, told in (
            (whole, True),
            (one_thin, True),
            (whole.model_copy(update={"cable": thick}), False),
            (whole.model_copy(update={"device": a_device(rating_a=20)}), False),
            (run(9, 9, back=9), False),
        ):
            self.assertEqual("never closed" in check(judged(circuit), "shape").caution, told, circuit.legs)

    def test_points_that_nothing_feeds_are_counted_and_named(self) -> None:
        whole = run(9, 9)
        lost = whole.model_copy(update={"legs": whole.legs[:1]})
        found = check(judged(lost), "shape")
        self.assertEqual((found.verdict, found.answer), (FAIL, "1 point not fed"))
        self.assertTrue(any("P2" in step.text for step in found.steps))
        self.assertNotIn("not fed", check(judged(whole), "shape").answer)

    def test_what_was_found_is_fed_by_something_and_is_asked(self) -> None:
        whole = run(9, 9, 9)
        lost = whole.model_copy(update={"legs": whole.legs[:1]})
        for states, verdict in (
            (("as-found", "as-found", "as-found"), OPEN),
            (("new", "as-found", "as-found"), OPEN),
            (("as-found", "new", "as-found"), FAIL),
            (("as-found", "as-found", "new"), FAIL),
        ):
            points = tuple(
                point.model_copy(update={"state": state}) for point, state in zip(lost.points, states, strict=True)
            )
            found = check(judged(lost.model_copy(update={"points": points})), "shape")
            self.assertEqual(found.verdict, verdict, states)
            if verdict == OPEN:
                self.assertEqual(found.missing, ("which cable feeds P2", "which cable feeds P3"))
                self.assertEqual(set(found.missing_codes), {"leg"})
        # A shape that is wrong whatever else is found stays so.
        ring = run(9, 9, back=9)
        loop = ring.model_copy(
            update={"legs": (*ring.legs[:2], ring.legs[2].model_copy(update={"a": "P2", "b": "P1"}))}
        )
        found = tuple(point.model_copy(update={"state": "as-found"}) for point in (*loop.points, lost.points[2]))
        self.assertEqual(check(judged(loop.model_copy(update={"points": found})), "shape").verdict, FAIL)


class Feeds(unittest.TestCase):
    def test_the_drop_of_a_feed_multiplies_out(self) -> None:
        """16 mm² at 2.8 mV/A/m: 2.8 x I x 12 m / 1000, and the loop of it as line and cpc hot."""
        feed = Ahead(feed=Cable(csa_mm2=16, cpc_mm2=16), length_m=12, current_a=40, name="To the studio")
        behind = judged(worked_ring().model_copy(update={"ahead": (feed,)}))
        (step,) = [each for each in check(behind, "volt-drop").steps if each.text.startswith("To the studio")]
        per_m, current, length, volts = (float(each) for each in re.findall(r"\d+\.?\d*", step.sum.replace("1000", "")))
        self.assertEqual((current, length), (40, 12))
        self.assertAlmostEqual(per_m, 2.8)
        self.assertAlmostEqual(volts, per_m * current * length / 1000, delta=0.006)
        alone = check(judged(worked_ring()), "volt-drop")
        self.assertGreater(check(behind, "volt-drop").value or 0, alone.value or 0)
        self.assertFalse(any(each.text.startswith("To the studio") for each in alone.steps))
        loop = next(each for each in check(behind, "zs").steps if each.text.startswith("Ze at the circuit"))
        origin, more, both = (float(each) for each in re.findall(r"\d+\.\d+", loop.sum))
        self.assertAlmostEqual(origin, 0.21, places=3)
        self.assertAlmostEqual(origin + more, both, delta=0.002)
        self.assertGreater(more, 0.02)

    def test_what_nobody_measured_outside_is_taken_by_the_earthing_and_told(self) -> None:
        for earthing, ohm in (("TN-C-S", 0.35), ("TN-S", 0.8)):
            supply = SUPPLY.model_copy(update={"ze_ohm": None, "earthing": earthing})
            found = check(judged(worked_ring(), supply), "zs")
            measured = check(judged(worked_ring()), "zs")
            self.assertAlmostEqual((found.value or 0) - (measured.value or 0), ohm - 0.21, places=6)
            self.assertIn(f"{ohm:g} Ω assumed", found.caution)
        nobody = SUPPLY.model_copy(update={"ze_ohm": None, "earthing": None})
        self.assertEqual(check(judged(worked_ring(), nobody), "zs").verdict, OPEN)


class Withheld(unittest.TestCase):
    def test_a_reading_beyond_the_meter_bounds_nothing(self) -> None:
        bare = run(None, None, state="as-found")
        for reading, counts in (
            (read("r1+r2", 0.3, "P1"), True),
            (read("r1+r2", 1999, "P1", beyond=True), False),
        ):
            found = study_of(BS, SUPPLY, bare, read=Read.of([reading])).middle.evidence
            self.assertEqual("P1" in found.bounds and found.bounds["P1"].loop.most < 1, counts, reading)


class InTheGround(unittest.TestCase):
    def iz(self, **laid: object) -> tuple[float, list[str]]:
        cable = Cable(type="armoured", insulation="xlpe90", csa_mm2=4, cores=2, cpc_by="armour")
        buried = run(20, cable=cable, method="D")
        segment = buried.legs[0].segments[0].model_copy(update=laid)
        legs = (buried.legs[0].model_copy(update={"segments": (segment,)}),)
        (found,) = study(buried.model_copy(update={"legs": legs})).capacities["L1"]
        assert found.iz_a is not None
        return found.iz_a, [step.text for step in found.working()]

    def test_a_depth_that_nobody_said_makes_no_cable_better(self) -> None:
        """It is taken as laid where the tables have it; deeper carries less, and shallower is no more."""
        unsaid, steps = self.iz()
        self.assertFalse(any("Cd" in each for each in steps), steps)
        deep, told = self.iz(depth_m=2.0)
        self.assertLess(deep, unsaid)
        self.assertTrue(any("Cd" in each for each in told), told)
        self.assertAlmostEqual(deep / unsaid, BS.depth_factor(2.0), places=6)

    def test_soil_that_dries_carries_less(self) -> None:
        self.assertLess(self.iz(soil_km_w=3.0)[0], self.iz(soil_km_w=2.5)[0] + 1e-9)
        self.assertLess(self.iz(soil_km_w=2.5)[0], self.iz(soil_km_w=1.0)[0])


class Fused(unittest.TestCase):
    def test_a_fuse_is_before_what_it_feeds_and_not_before_its_own_unit(self) -> None:
        ring = with_spur(run(9, 9, 9, back=9), "P2", "F1", 1, kind="fused-spur", fuse_a=3)
        beyond = with_spur(ring, "F1", "E1", 2)
        fused = study(beyond).fused
        self.assertIsNone(fused.before("F1"))
        behind = fused.before("E1")
        assert behind is not None
        self.assertEqual(behind.id, "F1")
        self.assertIsNone(fused.before("P1"))
        self.assertEqual(set(fused.legs), {leg_.id for leg_ in beyond.legs if leg_.b == "E1"})


class LetThrough(unittest.TestCase):
    def test_the_class_limit_counts_where_it_is_less_than_a_half_cycle(self) -> None:
        """B32 of class 3 up to 6 kA as the table has it, and I² x 10 ms at a small fault, which is less."""
        breaker = a_device(standard="bs-en-60898", rating_a=32, rcd=None)
        listed = BS.let_through_a2s(breaker, 6.0)
        assert listed is not None
        great, small = let_through(BS, breaker, 6.0, None), let_through(BS, breaker, 0.5, None)
        assert great is not None and small is not None
        self.assertEqual((great.a2s, great.bound), (listed[0], True))
        self.assertAlmostEqual(small.a2s, 500**2 * 0.01)
        self.assertIn("class 3", great.step.text.lower())
        self.assertIn(f"up to {listed[1]:g} kA", great.step.text)

    def test_its_makers_figure_goes_before_both(self) -> None:
        said = a_device(standard="bs-en-60898", rating_a=32, rcd=None, let_through_a2s=12_000)
        found = let_through(BS, said, 6.0, None)
        assert found is not None
        self.assertEqual((found.a2s, found.bound), (12_000, False))


class RcdWords(unittest.TestCase):
    def test_an_rcd_is_called_what_it_is(self) -> None:
        for rcd, words in (
            (Rcd(rated_ma=30, type="A"), "30 mA type A"),
            (Rcd(rated_ma=100, type="A", delayed=True), "100 mA type A, time-delayed"),
            (Rcd(rated_ma=None, type=None, shared=True), "RCD of unknown rating, shared"),
        ):
            self.assertEqual(rcd_words(rcd), words)


class Ranges(unittest.TestCase):
    def test_a_leg_of_a_range_and_of_what_nobody_knows_is_told_by_what_is_said(self) -> None:
        whole = run(6)
        parts = (Segment(length_m=3, length_to_m=5), Segment(length_m=2))
        said = whole.model_copy(update={"legs": (whole.legs[0].model_copy(update={"segments": parts}),)})
        self.assertTrue(any(each.endswith(": 5 to 7 m") for each in settle(BS, said).assumptions))
        self.assertEqual(settle(BS, whole).assumptions, ())


class Visits(unittest.TestCase):
    def told(self, before: dict[str, object], now: dict[str, object]) -> list[str]:
        of = study(worked_ring())
        first = read("r1+r2", point="P3", visit="V1", **before)
        later = read("r1+r2", point="P3", visit="V2", **now)
        taken = Taken(of, {first.key: later})
        return [each.answer for each in _since_last_visit(taken, (first, later))]

    def test_what_reads_otherwise_than_last_time_is_told(self) -> None:
        self.assertEqual(len(self.told({"value": 0.4}, {"value": 0.9})), 1)
        self.assertEqual(len(self.told({"value": 0.9}, {"value": 0.4})), 1)
        self.assertEqual(self.told({"value": 0.4}, {"value": 0.4}), [])

    def test_what_was_beyond_the_meter_is_compared_with_nothing(self) -> None:
        self.assertEqual(self.told({"value": 1999.0, "beyond": True}, {"value": 0.4}), [])
        self.assertEqual(self.told({"value": 0.4}, {"value": 1999.0, "beyond": True}), [])


class Sheets(unittest.TestCase):
    def test_of_three_readings_of_a_place_the_two_before_are_earlier(self) -> None:
        some = tuple(read("r1+r2", value, "P1") for value in (0.1, 0.2, 0.3))
        (kept,) = earlier_of((*some, read("r1+r2", 0.4, "P2"))).values()
        self.assertEqual([each.value for each in kept], [0.1, 0.2])


class Enclosures(unittest.TestCase):
    def test_a_finger_enters_by_what_is_said_and_not_by_what_is_left_out(self) -> None:
        for ip, enters in (("", False), ("IP0X", True), ("IP1X", True), ("IP2X", False), ("IP4X", False),
                           ("IPX4", False), ("IP20", False), ("IP10", True)):  # fmt: skip
            self.assertEqual(_finger_enters(ip), enters, ip)


class Unread(unittest.TestCase):
    """What nobody has read of a device, beside what somebody has."""

    def test_what_is_too_much_for_one_rcd_is_too_much_whatever_the_other_is_rated(self) -> None:
        ahead = (Ahead(device=a_device(standard="bs-en-61008", curve=None, rating_a=63, rcd=an_rcd(rated_ma=None))),)
        for leak, verdict in ((9.0, OPEN), (9.1, FAIL)):
            circuit = run(5, ahead=ahead, device=a_device(standard="bs-en-61009", rating_a=16, rcd=an_rcd()))
            load = Load(power_w=100, leakage_ma=leak)
            leaking = circuit.model_copy(update={"points": (circuit.points[0].model_copy(update={"loads": (load,)}),)})
            found = check(judged(leaking), "leakage")
            self.assertEqual(found.verdict, verdict, (leak, found.answer))

    def test_an_unknown_rcd_may_be_in_what_can_hold_one(self) -> None:
        for standard, own in (("bs-en-61009", True), ("bs-en-61008", True), ("bs-en-60898", False), ("bs3036", False)):
            curve = "B" if standard in ("bs-en-61009", "bs-en-60898") else None
            self.assertEqual(has_own_rcd(a_device(standard=standard, curve=curve, rcd="unknown")), own, standard)

    def test_a_circuit_of_three_lines_has_five_cores(self) -> None:
        self.assertEqual([usual_cable(BS, kind).cores for kind in ("three-phase", "cooker")], [5, 3])

    def test_the_loop_is_as_hot_as_its_line_and_its_cpc(self) -> None:
        cable = Cable(type="armoured", insulation="xlpe90", csa_mm2=4, cores=2, cpc_by="armour")
        hot = hot_range(study(run(5, cable=cable)))
        both = [BS.hot_factor(cable, core) for core in ("L", "E")]
        self.assertNotEqual(*both)
        self.assertEqual((hot.least, hot.most), (min(both), max(both)))


if __name__ == "__main__":
    unittest.main()
