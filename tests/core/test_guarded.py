"""Limits, signs and choices that nothing had guarded: found by changing them one by one, unsafe side first."""

import re
import unittest

from lumbek.core.board.propose import propose_boards
from lumbek.core.board.ratings import least_poles, lines_of
from lumbek.core.board.trips import rcd_title
from lumbek.core.checks.drivers import drop_percent
from lumbek.core.checks.loop_limits import rcd_may_serve
from lumbek.core.choosing.device_tries import _fuse_tries
from lumbek.core.evidence.intervals import Interval, hull
from lumbek.core.items.drums import drums_for
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.point import Driver
from lumbek.core.model.supply import Service
from lumbek.core.protection.let_through import let_through
from lumbek.core.protection.zs_limit import rcd_limit
from lumbek.core.routes.pipes import runs_between
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.study.residual import rcds_of
from lumbek.core.testing.against import _ratio
from lumbek.core.testing.kinds import KINDS
from lumbek.core.testing.kinds.crossed import Crossed
from lumbek.core.testing.taken import Taken
from tests.support.boards import FOUR, asked, board, circuit, group, house, judged_house, way
from tests.support.houses import BS, SUPPLY, check, judged, read, run, study, with_spur, worked_ring
from tests.support.lighting import stair, wired
from tests.support.stated import a_device, an_rcd

PASS, FAIL, OPEN = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL


class Boards(unittest.TestCase):
    def test_how_much_of_the_fuse_is_drawn_is_a_part_of_it(self) -> None:
        room = judged_house([], circuit(1, "fixed", "Hall", 45, of="fixed-appliance", rating_a=50)).headroom
        self.assertEqual((room.limit_a, room.share), (80, 45 / 80))

    def test_what_may_be_added_adds_what_its_own_diversity_leaves(self) -> None:
        """By hand at 230 V: a hob of 31.30 A is 10 + 0.3 x 21.30, a heat pump of 15.22 A is 10 + 0.5 x 5.22."""
        room = judged_house([], circuit(1, "fixed", "Hall", 45, of="fixed-appliance", rating_a=50)).headroom
        then = {each.what.split(",")[0]: each.then_a for each in room.may_add}
        hob, pump = 45 + 10 + 0.3 * (7200 / 230 - 10), 45 + 10 + 0.5 * (3500 / 230 - 10)
        self.assertEqual(then["Vehicle charging"], "77.0")
        self.assertEqual(then["Instantaneous shower"], "86.4")
        self.assertEqual((then["Induction hob"], then["Heat pump"]), (f"{hob:.1f}", "57.7"))
        self.assertLess(pump, 57.7)

    def test_a_board_is_sure_up_to_the_least_of_its_ways(self) -> None:
        """One way opens alone at 2 kA, of the other nobody knows beyond 1.26 kA: no more than that is sure."""
        supply = SUPPLY.model_copy(update={"fault_current_ka": 2.0})
        small = circuit(5, "light", "Hall", 1, of="lighting", rating_a=6)
        large = circuit(6, "fixed", "Hall", 20, rating_a=32)
        result = judged_house([board(group("GA", way(5), way(6), ma=None))], small, large, supply=supply)
        self.assertEqual(asked(result, "selectivity-B1").answer, "Sure up to 1.26 kA of 2.00 kA")

    def test_lines_come_with_what_feeds_a_board(self) -> None:
        three = SUPPLY.model_copy(update={"phases": 3})

        def fed(**feeder: object) -> int:
            feed = circuit(9, "board", "Shed", None, **{"of": "distribution", **feeder})
            boards = [board(group("GA", way(9), ma=None)), board(board_id="B2", fed_by="C9")]
            found = house(boards, feed, supply=three)
            return lines_of(found, found.by_id["B2"])

        self.assertEqual(lines_of(house([board()]), board()), 1)
        self.assertEqual(lines_of(house([board()], supply=three), board()), 3)
        self.assertEqual((fed(), fed(of="three-phase")), (1, 3))
        round_cables = {cores: Cable(type="multicore", cores=cores, csa_mm2=6, cpc_by="core") for cores in (3, 4, 5)}
        self.assertEqual([fed(cable=cable) for cable in round_cables.values()], [1, 3, 3])
        beside = [board(), board(board_id="B2", beside="B1")]
        found = house(beside, supply=three)
        self.assertEqual(lines_of(found, found.by_id["B2"]), 3)

    def test_a_main_switch_has_the_poles_of_its_lines(self) -> None:
        three = {"phases": 3}
        for update, poles in (({}, 2), (three, 3), ({**three, "earthing": "TT"}, 4), ({"earthing": "TT"}, 2)):
            supply = SUPPLY.model_copy(update=update)
            self.assertEqual(least_poles(house([board()], supply=supply), board()), poles, update)

    def test_two_circuits_are_enough_for_two_groups_and_three_for_three(self) -> None:
        for many, layouts in ((1, 1), (2, 2), (3, 3), (4, 3)):
            some = FOUR[:many]
            found = propose_boards(house([board(group("GA", *(way(each.number) for each in some)))], *some))
            self.assertEqual(len(found.layouts), layouts, many)

    def test_groups_behind_two_or_three_rcds_are_called_and_counted_so(self) -> None:
        found = propose_boards(house([board(group("GA", *(way(each.number) for each in FOUR)))], *FOUR))
        one, two, three = found.layouts
        self.assertEqual([each.title.split()[0] for each in (two, three)], ["Two", "Three"])
        self.assertEqual([each.count.rccbs for each in (one, two, three)], [0, 2, 3])
        # Four circuits, a spare way for each group and another, and what each RCCB takes.
        for layout, groups in ((two, 2), (three, 3)):
            spare = sum(each.blank for each in layout.boards[0].ways)
            self.assertEqual(len(layout.boards[0].groups), groups)
            self.assertGreaterEqual(spare, 2)
            self.assertEqual(layout.count.ways, 4 + spare + 2 * groups)

    def test_a_delayed_rcd_is_called_so_and_no_other(self) -> None:
        slow = group("GA").model_copy(update={"rcd": Rcd(rated_ma=100, type="A", delayed=True)})
        self.assertEqual(rcd_title(slow), "RCCB 63 A 100 mA type A, delayed")
        self.assertEqual(rcd_title(group("GA")), "RCCB 63 A 30 mA type A")
        self.assertEqual((rcd_title(group("GA", ma=None)), rcd_title(group("GA", rcd="unknown"))), ("", "RCD not read"))


class BathRooms(unittest.TestCase):
    def told(self, *services: tuple[str, str]) -> tuple[Verdict, str]:
        """A light of a bath room with 30 mA, nothing bonded in the room; services by material and bond."""
        supply = SUPPLY.model_copy(
            update={"services": tuple(Service(what="water", material=a, bonded=b) for a, b in services)}
        )
        said = run(5).model_copy(update={"kind": "lighting"})
        surroundings = said.surroundings.model_copy(update={"bath_room": True, "supplementary_bonding": False})
        found = check(judged(said.model_copy(update={"surroundings": surroundings}), supply), "bath-bonding")
        return found.verdict, found.caution

    def test_one_service_that_nobody_has_looked_at_is_told_though_the_other_is_bonded(self) -> None:
        looked_at, unknown = ("metal", "yes"), ("metal", "unknown")
        sure = self.told(looked_at, looked_at)
        self.assertEqual(sure[0], PASS)
        self.assertNotIn("nobody has said", sure[1])
        for services in ((looked_at, unknown), (unknown, looked_at), (looked_at, ("unknown", "yes"))):
            verdict, caution = self.told(*services)
            self.assertEqual(verdict, PASS)
            self.assertIn("nobody has said", caution, services)
        self.assertEqual(self.told(looked_at, ("metal", "no"))[0], FAIL)
        self.assertNotIn("nobody has said", self.told(looked_at, ("plastic", "unknown"))[1])


class Working(unittest.TestCase):
    def test_each_line_of_a_shared_drop_multiplies_out_and_together_they_are_the_drop(self) -> None:
        found = check(judged(worked_ring()), "volt-drop")
        lines = [re.search(r"([\d.]+) A × ([\d.]+) Ω = ([\d.]+) V", step.sum) for step in found.steps]
        shared = [tuple(map(float, line.groups())) for line in lines if line]
        # Outwards to the worst point nothing flows back.
        self.assertFalse(any(step.sum.startswith(("-", "−")) for step in found.steps))
        self.assertGreater(len(shared), 1)
        for current, ohm, volts in shared:
            self.assertAlmostEqual(current * ohm, volts, delta=0.02)
        assert found.value is not None
        self.assertAlmostEqual(sum(volts for *_, volts in shared), found.value / 100 * 230, delta=0.05)

    def test_what_is_wanted_for_a_fault_current_is_asked_for_by_its_name(self) -> None:
        unknown = SUPPLY.model_copy(update={"fault_current_ka": None, "ze_ohm": None})
        found = check(judged(worked_ring(), unknown), "withstand")
        self.assertEqual((found.verdict, found.missing), (OPEN, ("prospective fault current of the supply",)))

    def test_nothing_that_disconnects_is_a_failure_only_where_it_is_sure(self) -> None:
        """On TT without an RCD nothing does; with one whose rating nobody read, nobody can tell."""
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 20.0})
        bare = worked_ring().model_copy(update={"device": worked_ring().device.model_copy(update={"rcd": None})})
        found = check(judged(bare, tt), "zs")
        self.assertEqual((found.verdict, found.answer, found.missing), (FAIL, "TT without an RCD", ()))


class Waiting(unittest.TestCase):
    def test_it_says_what_it_waits_for_and_how_much_more(self) -> None:
        question, some = Question("arc-fault", "Arcs", "Is it detected?", "afdd"), ("Ze", "lengths", "loads")
        said = [question.cannot_tell(BS, some[:count]).answer for count in (1, 2, 3)]
        self.assertEqual(said, ["Needs the Ze", "Needs the Ze, and 1 more", "Needs the Ze, and 2 more"])


class Evidence(unittest.TestCase):
    def test_the_hull_holds_all_of_them_and_no_more(self) -> None:
        some = (Interval(1.0, 3.0), Interval(2.0, 5.0), Interval(0.5, 1.0))
        self.assertEqual(hull(some), Interval(0.5, 5.0))
        self.assertEqual(hull(reversed(some)), Interval(0.5, 5.0))
        self.assertIsNone(hull(()))

    def test_points_near_the_ends_of_a_ring_read_lower_by_what_its_cpc_is_thinner(self) -> None:
        """By hand for 2.5/1.5 mm²: 7.41 and 12.1 mΩ/m, 1 - 4 x 7.41 x 12.1 / 19.51² = 0.0578."""
        taken = Taken(study(worked_ring()), {})
        by_core = {kind.other: kind for kind in KINDS.values() if isinstance(kind, Crossed)}
        self.assertAlmostEqual(by_core["E"]._lower_at_ends(taken), 1 - 4 * 7.41 * 12.1 / 19.51**2, places=4)
        self.assertAlmostEqual(by_core["N"]._lower_at_ends(taken), 0)
        # Of two cables the one whose cpc is the thinner beside its line: 4/1.5 mm² with 4.61 and 12.1 mΩ/m.
        ring = worked_ring()
        first = ring.legs[0].model_copy(update={"cable": Cable(csa_mm2=4, cpc_mm2=1.5)})
        mixed = Taken(study(ring.model_copy(update={"legs": (first, *ring.legs[1:])})), {})
        self.assertAlmostEqual(by_core["E"]._lower_at_ends(mixed), 1 - 4 * 4.61 * 12.1 / 16.71**2, places=4)
        # A line whose size is not listed tells nothing, whatever its cpc.
        odd = Taken(study(ring.model_copy(update={"cable": Cable(csa_mm2=3.7, cpc_mm2=1.5)})), {})
        self.assertEqual(by_core["E"]._lower_at_ends(odd), 0)

    def test_the_ratio_of_a_rings_ends_is_told_beyond_what_reading_it_leaves_open(self) -> None:
        """For 2.5/1.5 mm² it is 1.63; half of tolerance and of both contacts, as parts, are left open."""
        of, rules, r1 = study(worked_ring()), BS.data.testing, 0.40
        meant = 12.1 / 7.41
        told = []
        for hundredths in range(40, 121):
            r2 = hundredths / 100
            readings = {("r1", None): read("r1", r1), ("r2", None): read("r2", r2)}
            room = meant * (rules.length_tolerance + rules.contact_ohm / r1 + rules.contact_ohm / r2) / 2
            is_told = any(_ratio(Taken(of, readings)))
            self.assertEqual(is_told, abs(r2 / r1 - meant) > room, r2)
            told.append(is_told)
        self.assertEqual(set(told), {True, False})

    def test_among_switches_a_reading_tells_of_the_neutral_only_where_it_is_no_thinner_than_the_cpc(self) -> None:
        """Its neutral takes no longer way: with the line it reads no more than a cpc that is as thin, or thinner."""
        lights = wired(stair())
        for cpc_mm2, most in ((None, 0.453), (1.0, 0.453), (1.5, float("inf"))):
            legs = tuple(
                leg.model_copy(update={"cable": lights.cable_of(leg).model_copy(update={"cpc_mm2": cpc_mm2})})
                for leg in lights.legs
            )
            said = lights.model_copy(update={"legs": legs})
            evidence = study_of(BS, SUPPLY, said, read=Read.of([read("r1+r2", 0.4, "Z")])).middle.evidence
            self.assertFalse(evidence.can_tell)
            self.assertAlmostEqual(evidence.bounds["Z"].loop.most, 0.453)
            self.assertEqual(evidence.bounds["Z"].live.most, most, cpc_mm2)
            # One thin cpc among thick ones is not enough.
            mixed = said.model_copy(update={"legs": (lights.legs[0], *legs[1:])})
            other = study_of(BS, SUPPLY, mixed, read=Read.of([read("r1+r2", 0.4, "Z")])).middle.evidence
            self.assertEqual(other.bounds["Z"].live.most, most, cpc_mm2)

    def test_one_single_on_the_way_parts_line_and_neutral(self) -> None:
        whole = run(5, 5)
        single = Cable(type="flat-single-and-earth", csa_mm2=1.5)
        legs = (whole.legs[0].model_copy(update={"cable": single}), whole.legs[1])
        self.assertFalse(study(whole).wires.parted)
        self.assertTrue(study(whole.model_copy(update={"legs": legs})).wires.parted)


class ResidualCurrent(unittest.TestCase):
    def test_only_an_rcd_that_nobody_has_read_may_still_serve(self) -> None:
        def may(rcd: object, **more: object) -> bool:
            device = worked_ring().device.model_copy(update={"rcd": rcd})
            return rcd_may_serve(study(worked_ring().model_copy(update={"device": device, **more})))

        self.assertTrue(may(Rcd(rated_ma=None, type="A")))
        self.assertTrue(may("unknown"))
        self.assertFalse(may(Rcd(rated_ma=30, type="A")))
        self.assertFalse(may(None))

    def test_of_two_rcds_in_a_row_the_more_sensitive_sets_the_loop(self) -> None:
        of = study(worked_ring())
        slow, quick, unread = (Rcd(rated_ma=ma, type="A") for ma in (300, 30, None))
        for some, ohm in (((slow, quick), 50 / 0.03), ((quick, slow), 50 / 0.03), ((slow, unread), 50 / 0.3)):
            limit = rcd_limit(of, some, "zs-tt")
            assert limit is not None
            self.assertAlmostEqual(limit.ohm, ohm)
            self.assertTrue(limit.by_rcd)
        self.assertIsNone(rcd_limit(of, (unread,), "zs-tt"))

    def test_a_device_ahead_counts_where_it_has_an_rcd_or_is_one(self) -> None:
        rccb = {"standard": "bs-en-61008", "curve": None, "rating_a": 63, "breaking_capacity_ka": None}
        breaker = {"standard": "bs-en-60898", "rating_a": 40}
        for fields, counts in (
            ({**rccb, "rcd": an_rcd()}, 1),
            ({**rccb, "rcd": "unknown"}, 1),
            ({**breaker, "rcd": "unknown"}, 0),
            ({**breaker, "rcd": None}, 0),
        ):
            bare = worked_ring().device.model_copy(update={"rcd": None})
            said = worked_ring().model_copy(update={"ahead": (Ahead(device=a_device(**fields)),), "device": bare})
            self.assertEqual(len(rcds_of(said)), counts, fields)


class Drums(unittest.TestCase):
    def test_what_is_cut_to_nothing_takes_no_place(self) -> None:
        plan = drums_for([0, 40_000, -5, 0])
        assert plan is not None
        self.assertEqual([drum.cuts_mm for drum in plan.drums], [(40_000,)])
        none = drums_for([0])
        assert none is not None
        self.assertEqual((none.drums, none.bound_mm, none.is_proved), ((), 0, True))


class Offers(unittest.TestCase):
    def test_a_smaller_fuse_is_offered_for_a_fused_unit_and_for_nothing_else(self) -> None:
        for fuse_a, offered in ((13, [3, 5]), (None, [3, 5]), (5, [3]), (3, [])):
            ring = with_spur(run(9, 9, 9, back=9), "P2", "F1", 1, kind="fused-spur", fuse_a=fuse_a)
            tries = list(_fuse_tries(ring))
            self.assertEqual([each.design.point("F1").fuse_a for each in tries], offered)
            self.assertEqual([each.words for each in tries], [f"A {each} A fuse in F1" for each in offered])
            for each in tries:
                self.assertTrue(all(point.fuse_a is None for point in each.design.points if point.id != "F1"))
        self.assertEqual(list(_fuse_tries(worked_ring())), [])

    def test_the_reading_that_settles_most_is_of_a_point_that_nobody_read(self) -> None:
        bare = run(None, None, state="as-found")
        branch = bare.model_copy(update={"legs": (*bare.legs[:1], bare.legs[1].model_copy(update={"a": "board"}))})
        one = study_of(BS, SUPPLY, branch, read=Read.of([read("r1+r2", 0.2, "P1")])).middle.evidence
        self.assertEqual(one.next_reading(), "reading of R1+R2 at P2, which settles most")
        other = study_of(BS, SUPPLY, branch, read=Read.of([read("r1+r2", 0.2, "P2")])).middle.evidence
        self.assertEqual(other.next_reading(), "reading of R1+R2 at P1, which settles most")


class Fuses(unittest.TestCase):
    def test_a_fuse_that_is_not_listed_for_the_shorter_time_is_taken_as_its_smaller_kin(self) -> None:
        """Its current of 0.4 s is as much above that of 5 s as the largest smaller one's is, and only bounds."""
        seen = 0
        for standard, kind in BS.devices.items():
            if kind.curves or standard == "switch":
                continue
            listed = []
            for rating in sorted(kind.ratings_a):
                fuse = Device(standard=standard, curve=None, rating_a=rating, rcd=None)
                quick, slow = (BS.published_zs_ohm(fuse, time) for time in (0.4, 5.0))
                if quick is not None and slow is not None:
                    listed.append((rating, slow / quick))
                    continue
                least = BS.trip_current_a(fuse, 5.0)
                if least is None or BS.trip_current_a(fuse, 0.4) is not None:
                    continue
                ratio = max(listed)[1] if listed else 1.0
                found = let_through(BS, fuse, 6.0, None)
                assert found is not None
                self.assertAlmostEqual(found.a2s, (least * ratio) ** 2 * 0.4, msg=f"{standard} {rating}")
                self.assertTrue(found.bound)
                seen += ratio > 1
        self.assertGreater(seen, 0)


class WarmWays(unittest.TestCase):
    def test_a_full_way_is_warm_beside_another_on_either_side(self) -> None:
        """Ten amperes of ten are full, one is not."""

        def warm(*amps: float) -> list[bool]:
            some = [circuit(n, "fixed", "Hall", a, of="fixed-appliance", rating_a=10) for n, a in enumerate(amps, 1)]
            ways = (way(each.number) for each in some)
            (seen,) = judged_house([board(group("GA", *ways))], *some).boards
            return [each.is_warm for each in seen.groups[0].ways]

        self.assertEqual(warm(10, 10, 1), [True, True, False])
        self.assertEqual(warm(1, 10, 10), [False, True, True])
        self.assertEqual(warm(10, 1, 10), [False, False, False])
        self.assertEqual(warm(10), [False])


class Drivers(unittest.TestCase):
    def test_a_drop_needs_length_size_and_load_all_of_them(self) -> None:
        """By hand: 2 x 13.3 mΩ/m warm over 10 m, 60 W at 12 V."""
        whole = Driver(output_v=12, rated_w=75, load_w=60, run_m=10, csa_mm2=1.5)
        of = study(worked_ring())
        full = drop_percent(of, whole)
        cold, warm = BS.conductor_milliohm_per_m[1.5], BS.data.driver.warm
        self.assertAlmostEqual(full or 0, 100 * 2 * cold / 1000 * warm * 10 * 60 / 144)
        for gone in ("load_w", "run_m", "csa_mm2"):
            self.assertIsNone(drop_percent(of, whole.model_copy(update={gone: None})), gone)


class Pipes(unittest.TestCase):
    def test_a_pipe_runs_along_or_across_the_slab_and_never_aslant(self) -> None:
        for run_of in runs_between(0, (100, 200), (4000, 2600), 3):
            self.assertEqual((run_of.corners[0], run_of.corners[-1]), ((100, 200), (4000, 2600)))
            for (a, b), (c, d) in zip(run_of.corners, run_of.corners[1:], strict=False):
                self.assertTrue((a == c) != (b == d), run_of.corners)


if __name__ == "__main__":
    unittest.main()
