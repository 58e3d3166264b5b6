"""Singles: line and neutral that go separate ways, and two-plate looping."""

import random
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.circuit.graph import graph_of
from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import Catalogue, Test, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import predict
from lumbek.core.diagnosis.suspects import Hypothesis
from lumbek.core.diagnosis.verdict import accusation
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import Link, Output, Wishes
from lumbek.core.model.supply import Supply
from lumbek.core.network.changed import OPEN_FROM_OHM
from lumbek.core.study.door import study_of
from lumbek.core.switching.colours import colour_of
from lumbek.core.switching.make_off import make_off
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import with_ends
from lumbek.core.switching.plan import SwitchingPlan, plan
from lumbek.core.switching.prove import prove
from lumbek.core.switching.quick import Layout
from lumbek.core.switching.states import Lamp, States
from tests.support.houses import BS, IEC
from tests.support.lighting import as_found, control, light, lit, second_proof, switch

SUPPLY = Supply(ze_ohm=0.3, ze_origin="measured", fault_current_ka=1.0, earthing="TN-C-S")
DEVICE = Device(rating_a=6, curve="B", breaking_capacity_ka=6, rcd=Rcd(rated_ma=30, type="A"))
FLAT = Cable(type="flat-single-and-earth", csa_mm2=1.0)


def single(name: str, a: str, b: str, carries: str, metres: float | None = 5.0, **more: object) -> Leg:
    cable = Cable.model_validate({**FLAT.model_dump(), "alone": carries, **more})
    return Leg(id=name, a=a, b=b, cable=cable, segments=(Segment(length_m=metres),))


def hall(*legs: Leg) -> Circuit:
    """A light with line by its own single and neutral by another."""
    return Circuit(number=3, kind="lighting", device=DEVICE, cable=FLAT, points=(light("Z"), light("Y")), legs=legs)


def found(circuit: Circuit, check: str) -> Check:
    return next(each for each in judge_circuit(BS, SUPPLY, circuit).checks if each.id == check)


class SeparateWays(unittest.TestCase):
    def test_figures_are_those_of_the_ways_that_each_conductor_takes(self) -> None:
        # 18.1 mΩ/m: line 12 m, neutral 5 m, cpc by both in parallel.
        circuit = hall(
            single("L1", "board", "Y", "L", 8.0),
            single("L2", "Y", "Z", "L", 4.0),
            single("L3", "board", "Z", "N", 5.0),
            single("L4", "Z", "Y", "N", 4.0),
        )
        result = judge_circuit(BS, SUPPLY, circuit)
        at = next(each for each in result.points if each.point == "Z")
        self.assertAlmostEqual(at.r1_ohm or 0, 0.0181 * 12)
        self.assertAlmostEqual(at.rn_ohm or 0, 0.0181 * 5)
        # Two 4 m cpcs side by side, then with 8 m in series, beside 5 m.
        self.assertAlmostEqual((at.r1_plus_r2_ohm or 0) - (at.r1_ohm or 0), 0.0181 * (10 * 5 / 15))
        load = 10 / 230
        self.assertAlmostEqual(at.drop_v or 0, (22 * 8 * 2 * load + 22 * 4 * load + 22 * 5 * 2 * load) / 1000)
        carried = {leg.leg: abs(leg.current_a or 0) for leg in result.legs}
        self.assertAlmostEqual(carried["L3"], 2 * load)
        self.assertAlmostEqual(carried["L4"], load)
        self.assertEqual(result.shape.kind, "branched-radial")
        self.assertIs(found(circuit, "separate-ways").verdict, Verdict.PASS)
        self.assertIs(found(circuit, "volt-drop").verdict, Verdict.PASS)

    def test_a_load_without_its_neutral_or_line_fails(self) -> None:
        line_only = hall(single("L1", "board", "Z", "L"), single("L2", "Z", "Y", "L"), single("L3", "board", "Y", "N"))
        check = found(line_only, "separate-ways")
        self.assertEqual((check.verdict, check.answer), (Verdict.FAIL, "No neutral comes to Z"))
        neutral_only = hall(single("L1", "board", "Z", "N"))
        self.assertIn("No line comes to Z", found(neutral_only, "separate-ways").answer)

    def test_one_conductor_by_itself_in_steel_fails(self) -> None:
        steel = {"type": "single-core", "cpc_by": "conduit", "conduit": "20-heavy"}
        circuit = hall(
            single("L1", "board", "Z", "L", **steel),
            single("L2", "board", "Z", "N"),
            single("L3", "Z", "Y", "L"),
            single("L4", "Z", "Y", "N"),
        )
        check = found(circuit, "separate-ways")
        self.assertEqual((check.verdict, check.place.id if check.place else ""), (Verdict.FAIL, "L1"))

    def test_what_goes_together_is_not_asked(self) -> None:
        self.assertIs(
            found(hall().model_copy(update={"cable": Cable()}), "separate-ways").verdict, Verdict.NOT_APPLICABLE
        )

    def test_only_a_single_goes_alone(self) -> None:
        with self.assertRaisesRegex(ValueError, "alone"):
            Cable(type="flat-twin-and-earth", alone="N")

    def test_a_sum_of_legs_proves_nothing_of_them(self) -> None:
        circuit = hall(single("L1", "board", "Z", "L"), single("L2", "board", "Z", "N"))
        study = study_of(BS, SUPPLY, circuit).longest
        self.assertFalse(study.evidence.is_plain)

    def test_what_the_board_reaches_by_another_way_is_not_behind_a_fuse(self) -> None:
        fuse = Point(id="F", name="F", kind="fused-spur", fuse_a=3)
        legs = (single("L1", "board", "F", "L"), single("L2", "F", "Z", "L"), single("L3", "board", "Z", "N"))
        circuit = hall().model_copy(update={"points": (fuse, light("Z")), "legs": legs})
        self.assertEqual(graph_of(circuit).beyond("F"), frozenset())
        both = circuit.model_copy(update={"legs": legs[:2]})
        self.assertEqual(graph_of(both).beyond("F"), {"L2"})

    def test_colours_say_which_conductor_a_single_is(self) -> None:
        for colours, line, neutral in (("harmonised", "brown", "blue"), ("uk-before-2004", "red", "black")):
            each = Cable.model_validate({**FLAT.model_dump(), "colours": colours})
            self.assertEqual(colour_of(BS, each, "L"), line)
            self.assertEqual(colour_of(BS, each.model_copy(update={"alone": "N"}), "N"), neutral)

    @settings(max_examples=20)
    @given(st.lists(st.floats(0.5, 40), min_size=2, max_size=6))
    def test_singles_side_by_side_are_as_a_cable_of_both(self, metres: list[float]) -> None:
        points = tuple(
            Point(id=f"P{at}", name="x", kind="light", loads=(Load(power_w=40),)) for at in range(len(metres))
        )
        ways = [("board" if at == 0 else f"P{at - 1}", f"P{at}") for at in range(len(metres))]
        whole = Circuit(
            kind="lighting",
            device=DEVICE,
            cable=Cable(csa_mm2=1.0),
            points=points,
            legs=tuple(
                Leg(id=f"L{at}", a=a, b=b, segments=(Segment(length_m=length),))
                for at, ((a, b), length) in enumerate(zip(ways, metres, strict=True))
            ),
        )
        halves = [
            single(f"L{at}{core}", a, b, core, length, **({"cpc_by": "none"} if core == "N" else {}))
            for at, ((a, b), length) in enumerate(zip(ways, metres, strict=True))
            for core in "LN"
        ]
        parted = whole.model_copy(update={"legs": tuple(halves)})
        for one, other in zip(
            judge_circuit(BS, SUPPLY, whole).points, judge_circuit(BS, SUPPLY, parted).points, strict=True
        ):
            self.assertAlmostEqual(one.r1_plus_r2_ohm or 0, other.r1_plus_r2_ohm or 0)
            self.assertAlmostEqual(one.drop_v or 0, other.drop_v or 0)
            self.assertAlmostEqual(one.zs_ohm or 0, other.zs_ohm or 0)


def house(cable: Cable = FLAT, feed: str = "board", **wishes: object) -> Circuit:
    """Two rooms, one light each, and a landing with a light from two places, the plate of one with two gangs."""
    points = [switch(each) for each in "ABCD"] + [light(each) for each in "WXYZ"]
    controls = [control("Kiln", "W", "A"), control("Store", "X Y", "B"), control("Landing", "Z", "C D B2")]
    circuit = lit(feed, points, controls, (), school="two-plate", **wishes)
    fed = tuple(leg.model_copy(update={"cable": Cable(csa_mm2=1.5, cpc_by="core")}) for leg in circuit.legs)
    return circuit.model_copy(update={"cable": cable, "device": DEVICE, "legs": fed})


def planned(circuit: Circuit, book=BS) -> SwitchingPlan:
    assert circuit.scheme is not None
    return plan(book, circuit, circuit.scheme)


class TwoPlates(unittest.TestCase):
    def test_every_way_of_it_is_proved_by_both_provers(self) -> None:
        conduit = Cable(type="single-core", csa_mm2=1.5)
        steel = Cable(type="single-core", csa_mm2=1.5, cpc_by="conduit", conduit="20-heavy")
        for book in (BS, IEC):
            for cable in (FLAT, conduit, steel):
                for colours in ("harmonised", "uk-before-2004"):
                    for feed in ("board", "A"):
                        with self.subTest(book=book.id, cable=cable.type, by=cable.cpc_by, colours=colours, feed=feed):
                            best = planned(house(cable, feed, colours=colours), book).best
                            assert best is not None
                            self.assertEqual(second_proof(best.design), [])
                            proof = prove(book, {3: best.design})
                            self.assertEqual(
                                [each.words for each in proof.hazards if each.grave and each.id != "not-cancelling"], []
                            )

    def test_no_neutral_comes_to_a_switch_and_no_joint_lies_at_a_light(self) -> None:
        best = planned(house()).best
        assert best is not None
        for place in "ABCD":
            cables = [best.design.cable_of(leg).lone for leg in best.design.legs if place in (leg.a, leg.b)]
            self.assertEqual(set(cables), {"L"})
        self.assertTrue(all(join.terminals for point in best.design.points for join in point.joins))

    def test_singles_of_one_run_lie_in_one_conduit_and_flat_ones_are_a_cable_each(self) -> None:
        flat, conduit = planned(house()).best, planned(house(Cable(type="single-core", csa_mm2=1.5))).best
        assert flat is not None and conduit is not None
        between = [leg for leg in flat.design.legs if {leg.a, leg.b} == {"D", "B"}]
        self.assertEqual(len(between), 2)
        (one,) = [leg for leg in conduit.design.legs if {leg.a, leg.b} == {"D", "B"}]
        self.assertEqual(len(conduit.design.cable_of(one).live_cores), 2)
        self.assertEqual(flat.cores_m, conduit.cores_m)

    def test_lengths_that_are_known_are_kept(self) -> None:
        circuit = house()
        found = planned(circuit)
        self.assertIn("of unknown length", found.assumptions[0])
        assert circuit.scheme is not None and found.best is not None
        ways = {frozenset((run.a, run.b)) for run in found.best.runs}
        routes = tuple({"a": a, "b": b, "length_m": 3.0} for a, b in map(sorted, ways))
        known = circuit.scheme.model_validate({**circuit.scheme.model_dump(), "routes": routes})
        again = planned(circuit.model_copy(update={"scheme": known}))
        assert again.best is not None
        self.assertEqual(again.assumptions, ())
        self.assertAlmostEqual(again.best.cores_m, 3.0 * sum(run.used for run in again.best.runs))
        self.assertAlmostEqual(again.best.cable_m, round(again.best.cores_m * BS.switching.single_price, 2))

    def test_what_asks_for_a_neutral_beside_the_line_is_sent_to_another_school(self) -> None:
        circuit = house()
        scheme = circuit.scheme
        assert scheme is not None
        linked = scheme.model_copy(update={"links": (Link(id="I", ends=(Output(point="W"), Output(point="X"))),)})
        # One among others is enough.
        plain = next(each for each in scheme.controls if each.outputs[0].point != "W")
        sensed = scheme.model_copy(update={"controls": (plain, control("Kiln", "W", sensor="A"))})
        bare = house(feed="A")
        bare = bare.model_copy(update={"legs": (single("L1", "board", "A", "L"),)})
        self.assertIn("No neutral comes to A", planned(bare).problems[0])
        for each in (linked, sensed):
            self.assertTrue(plan(BS, circuit, each).problems)
        best = planned(circuit).best
        assert best is not None
        self.assertIn("bench", planned(as_found(best.design)).problems[0])

    def test_the_sheet_names_singles_and_counts_the_reels(self) -> None:
        best, drawn = planned(house()).best, planned(house(Cable(type="single-core", csa_mm2=1.5))).best
        assert best is not None and drawn is not None
        sheet = make_off(BS, best.design)
        parts = {part.what: part.count for part in sheet.parts}
        self.assertIn("single and earth, 1 mm²", parts)
        singles = sum(1 for leg in best.design.legs)
        self.assertEqual(parts["green-yellow sleeving for bare cpcs"], f"{2 * singles} ends")
        reels = {part.what for part in make_off(BS, drawn.design).parts if part.what.startswith("single,")}
        self.assertIn("single, 1.5 mm², green-yellow", reels)
        self.assertIn("single, 1.5 mm², brown", reels)

    def test_it_is_a_school_like_the_others(self) -> None:
        self.assertEqual(Wishes(school="two-plate").school, "two-plate")

    def test_what_is_fed_on_from_a_light_keeps_its_line_in_every_school(self) -> None:
        for school in ("at-switch", "at-light", "two-plate"):
            circuit = lit("H", [switch("H"), light("Z"), light("Y")], [control("A", "Z", "H")], (), school=school)
            on = Leg(id="L9", a="Z", b="Y", segments=(Segment(length_m=2),))
            circuit = circuit.model_copy(update={"legs": (*circuit.legs, on)})
            best = planned(circuit).best
            assert best is not None
            with self.subTest(school):
                states = States({3: best.design})
                _, burns = states.lit(Lamp(3, "Y"))
                self.assertTrue(burns.all())
                self.assertEqual(second_proof(best.design), [])


class FoundWrong(unittest.TestCase):
    def test_an_end_in_the_wrong_terminal_is_put_right_in_one_move(self) -> None:
        best = planned(house(feed="A")).best
        assert best is not None
        pick = random.Random(11)
        tried = 0
        for _ in range(12):
            layout = Layout(as_found(best.design))
            at = list(layout.at)
            end = pick.choice([end for end in range(len(at)) if layout.options(end)])
            at[end] = pick.choice(layout.options(end))
            wrong = with_ends(layout.circuit, layout, at, {})
            if not second_proof(wrong):
                continue
            tried += 1
            found = mend(BS, wrong)
            assert found is not None
            self.assertEqual((len(found.moves), second_proof(found.design)), (1, []))
        self.assertGreater(tried, 5)

    def test_a_break_in_the_neutral_single_is_found_in_it(self) -> None:
        circuit = hall(
            single("L1", "board", "Y", "L", 9.0),
            single("L2", "Y", "Z", "L", 4.0),
            single("L3", "board", "Z", "N", 6.0),
            single("L4", "Z", "Y", "N", 4.0),
        )
        of = Patient(study_of(BS, SUPPLY, circuit).middle)
        catalogue = Catalogue(of)
        tests = [catalogue.test(each) for each in first_tests(of)]
        suspects = dict(all_suspects(of))
        broken = next(found for suspect, found in suspects.items() if suspect.id == "open/N/L4")[0]

        def taken(each: Hypothesis, test: Test) -> Took:
            if test.insulation:
                return Took(test.id, 999.0, True)
            ohm = float(predict(of, [each], [test]).ohm[0, 0])
            return Took(test.id, 1999.0, True) if ohm > OPEN_FROM_OHM else Took(test.id, round(ohm, 2))

        sound = open_inquiry(of, [taken(Hypothesis("sound", 1.0), test) for test in tests])
        self.assertEqual(diagnosis_of(sound).state, "sound")
        belief = open_inquiry(of, [taken(broken, test) for test in tests])
        for _ in range(8):
            proposals = propose_tests(belief)
            if not proposals:
                break
            belief = go_on(belief, proposals[0].test, taken(broken, proposals[0].test))
        self.assertEqual(diagnosis_of(belief).state, "found")
        self.assertIn("open/N/L4", accusation(belief) or [])
