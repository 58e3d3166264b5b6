"""Lighting as found: every fault named with its symptom, shown in a state, and put right with the fewest moves."""

import unittest
from itertools import pairwise

from lumbek.core.circuit.changes.boxes import AddCable, AddPlace, Connect, MarkCore, SameCable
from lumbek.core.circuit.commands import carry_out
from lumbek.core.circuit.edit import EditRefusedError, RemovePoint
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.switching.faces import faces_of, joined_circuits
from lumbek.core.switching.make_off import make_off
from lumbek.core.switching.mend import Mended, mend
from lumbek.core.switching.prove import Proof, prove
from lumbek.core.switching.unknown import loose_ends, next_test, worlds_of
from tests.support.houses import BS, SUPPLY
from tests.support.lighting import (
    as_found,
    control,
    core_in,
    crossed,
    light,
    lit,
    second_proof,
    stair,
    switch,
    ways,
    wired,
    with_point,
)


def found_stair(switches: str = "H M T", feed: str = "H", **wishes: object) -> Circuit:
    return as_found(wired(stair(feed, switches, **wishes)))


def proof_of(*circuits: Circuit) -> Proof:
    return prove(BS, {circuit.number: circuit for circuit in circuits})


def moved(circuit: Circuit, place: str, core: tuple[str, str], terminal: str | None = None) -> Circuit:
    command = Connect(point=place, leg=core[0], core=core[1], terminal=terminal)
    return carry_out(BS, circuit, (command,)).circuit


class Planted(unittest.TestCase):
    def mended(self, circuit: Circuit, ends: int) -> Mended:
        """Put it right, hold that to both provers, and to so many ends moved."""
        found = mend(BS, circuit)
        assert found is not None
        self.assertEqual(second_proof(found.design), [])
        self.assertEqual((len(found.moves), found.left), (ends, ()), [move.words for move in found.moves])
        return found

    def seen(self, circuit: Circuit, hazard: str) -> str:
        """Find a hazard with a symptom; return what it says."""
        proof = proof_of(circuit)
        self.assertIs(proof.verdict, Verdict.FAIL)
        found = next(each for each in proof.hazards if each.id == hazard)
        self.assertTrue(found.symptom, found.words)
        return found.words

    def test_what_works_needs_nothing(self) -> None:
        self.assertIsNone(mend(BS, found_stair()))

    def test_one_end_in_a_house_of_ten_switches(self) -> None:
        names = list("ABCDEFGHIJ")
        points = [*(switch(each) for each in names), *(light(each.lower()) for each in names)]
        routes = [f"{a}-{b} 2" for a, b in pairwise(names)]
        routes += [f"{each}-{each.lower()} 2" for each in names]
        controls = [control(each, each.lower(), each) for each in names]
        circuit = as_found(wired(lit("A", points, controls, ways(*routes))))
        self.assertEqual(proof_of(circuit).states, 1024)
        bad = moved(circuit, "G", core_in(circuit, "G", "1.L1"))
        found = self.mended(bad, 1)
        self.assertEqual(found.moves[0].place, "G")

    def test_common_and_a_strapper_crossed(self) -> None:
        circuit = found_stair()
        bad = crossed(circuit, "T", core_in(circuit, "T", "1.COM"), core_in(circuit, "T", "1.L2"))
        proof = proof_of(bad)
        hazard = next(each for each in proof.hazards if "in some positions" in each.words)
        self.assertIn("works only when another switch stands one way", hazard.symptom)
        # The state that is shown is one in which moving that switch does nothing.
        self.assertEqual({(stand.point, stand.switch) for stand in hazard.stands}, {(each, "1") for each in "HMT"})
        found = self.mended(bad, 2)
        self.assertEqual((found.exact, found.named), (True, ("COM and L2 crossed at T",)))

    def test_cpc_as_a_strapper(self) -> None:
        circuit = found_stair()
        cable = next(leg.id for leg in circuit.legs if {leg.a, leg.b} == {"H", "M"})
        bad = circuit
        for place in "HM":
            bad = crossed(bad, place, (cable, "E"), (cable, "S1"))
        self.assertIn("used as a conductor", self.seen(bad, "cpc-strapper"))
        found = self.mended(bad, 4)
        self.assertTrue(any("cpc" in words for words in found.named), found.named)

    def test_loop_cut(self) -> None:
        # Looped at the switches, the neutral to the light goes through a connector at the half landing.
        circuit = found_stair("H T")
        join = next(each for each in circuit.point("M").joins if not each.terminals and len(each.ends) == 2)
        bad = moved(circuit, "M", (join.ends[0].leg, join.ends[0].core))
        self.assertIs(proof_of(bad).verdict, Verdict.FAIL)
        found = self.mended(bad, 1)
        self.assertIn("left off at M", found.named[0])

    def test_neutral_through_the_switch(self) -> None:
        routes = ways("H-Z 3")
        circuit = as_found(wired(lit("H", [switch("H"), light("Z")], [control("Hall", "Z", "H")], routes)))
        h = circuit.point("H")
        neutral = next(join for join in h.joins if not join.terminals and len(join.ends) == 2)
        line, lamp = core_in(circuit, "H", "1.COM"), core_in(circuit, "H", "1.L1")
        bad = moved(circuit, "H", line)
        bad = carry_out(
            BS,
            bad,
            (Connect(point="H", leg=lamp[0], core=lamp[1], beside_leg=line[0], beside_core=line[1]),),
        ).circuit
        for end, terminal in zip(neutral.ends, ("1.COM", "1.L1"), strict=True):
            bad = moved(bad, "H", (end.leg, end.core), terminal)
        self.assertIn(
            "neutral goes through the switch", self.seen(bad, "switched-neutral") + proof_of(bad).hazards[-1].words
        )
        self.mended(bad, 4)

    def test_earth_left_off_a_metal_plate(self) -> None:
        circuit = with_point(found_stair("H T"), "T", plate=Plate(metal=True))
        earths = [end for join in circuit.point("T").joins if "E" in join.terminals for end in join.ends]
        bad = circuit
        for end in earths:
            bad = moved(bad, "T", (end.leg, end.core))
        self.assertIn("metal plate at T", self.seen(bad, "no-cpc"))
        self.mended(bad, len(earths))
        # Plastic and found old it is told, and no danger by itself.
        told = proof_of(with_point(bad, "T", plate=Plate(metal=False), class_ii=True))
        (hazard,) = [each for each in told.hazards if each.id == "no-cpc" and each.place and each.place.id == "T"]
        self.assertFalse(hazard.grave)
        # Of a plate that nobody has looked at, what is of class II needs none either.
        beside = proof_of(with_point(bad, "T", plate=Plate(), class_ii=True))
        self.assertNotIn("metal at T", str([check.missing for check in beside.checks]))
        self.assertIn(
            "metal at T", str([check.missing for check in proof_of(with_point(bad, "T", plate=Plate())).checks])
        )
        unseen = proof_of(with_point(bad, "T", plate=Plate()))
        reaches = next(check for check in unseen.checks if check.id == "cpc-reaches")
        self.assertEqual(
            reaches.verdict,
            Verdict.FAIL if any(h.grave and h.id == "no-cpc" for h in unseen.hazards) else Verdict.CANNOT_TELL,
        )

    def test_line_and_neutral_crossed_at_the_lamp(self) -> None:
        circuit = found_stair("H T")
        bad = crossed(circuit, "Z", core_in(circuit, "Z", "L"), core_in(circuit, "Z", "N"))
        self.assertIn("crossed at Z", self.seen(bad, "crossed"))
        self.mended(bad, 2)

    def test_line_on_the_neutral_in_one_position(self) -> None:
        circuit = found_stair("H T")
        neutral = next(join for join in circuit.point("M").joins if not join.terminals)
        strapper = core_in(circuit, "H", "1.L1")
        cable = next(leg.id for leg in circuit.legs if {leg.a, leg.b} == {"H", "M"})
        spot = next(end for join in circuit.point("H").joins for end in join.ends if (end.leg, end.core) == strapper)
        bad = carry_out(
            BS,
            circuit,
            (
                Connect(
                    point="M",
                    leg=cable,
                    core=spot.core,
                    beside_leg=neutral.ends[0].leg,
                    beside_core=neutral.ends[0].core,
                ),
            ),
        ).circuit
        short = next(each for each in proof_of(bad).hazards if each.id == "short")
        self.assertIn("some positions", short.words)
        self.assertTrue(short.stands)
        self.mended(bad, 1)

    def test_colours_without_a_sleeve_and_with_a_wrong_one(self) -> None:
        circuit = found_stair("H T")
        leg, core = core_in(circuit, "T", "1.L2")
        bare = carry_out(BS, circuit, (MarkCore(point="T", leg=leg, core=core, mark=None),)).circuit
        told = proof_of(bare)
        self.assertEqual(
            (told.verdict, [each.grave for each in told.hazards if each.id == "unmarked"]), (Verdict.PASS, [False])
        )
        # On new cable it is not left so.
        new = bare.model_copy(update={"legs": tuple(each.model_copy(update={"state": "new"}) for each in bare.legs)})
        self.assertIs(proof_of(new).verdict, Verdict.FAIL)
        wrong = carry_out(BS, circuit, (MarkCore(point="T", leg=leg, core=core, mark="neutral"),)).circuit
        self.assertIs(proof_of(wrong).verdict, Verdict.FAIL)

    def test_lamps_in_series_glow(self) -> None:
        points = [switch("H"), light("Y"), light("Z")]
        circuit = as_found(wired(lit("H", points, [control("Hall", "Y Z", "H")], ways("H-Y 3", "Y-Z 2"))))
        # The neutral goes on from lamp to lamp through the lamp, not beside it.
        leg = next(each.id for each in circuit.legs if {each.a, each.b} == {"Y", "Z"})
        first = next(each.id for each in circuit.legs if {each.a, each.b} == {"H", "Y"})
        y = circuit.point("Y")
        feed = next(end for join in y.joins if "N" in join.terminals for end in join.ends if end.leg == first)
        onward = next(end for join in y.joins if "L" in join.terminals for end in join.ends if end.leg == leg)
        bad = moved(circuit, "Y", (onward.leg, onward.core))
        bad = moved(bad, "Y", (feed.leg, feed.core))
        back = next(end for join in y.joins if "N" in join.terminals for end in join.ends if end.leg == leg)
        bad = carry_out(
            BS,
            bad,
            (
                Connect(point="Y", leg=back.leg, core=back.core, terminal="N"),
                Connect(point="Y", leg=onward.leg, core=onward.core, beside_leg=feed.leg, beside_core=feed.core),
            ),
        ).circuit
        self.assertTrue(
            any("series" in each.words for each in proof_of(bad).hazards),
            [each.words for each in proof_of(bad).hazards],
        )

    def test_a_crowded_terminal_a_shallow_box_and_a_mixed_plate(self) -> None:
        circuit = found_stair()
        shallow = with_point(circuit, "M", plate=Plate(box_mm=16))
        self.assertTrue(any(each.id == "shallow-box" for each in proof_of(shallow).hazards))
        mixed = with_point(circuit, "M", accessories=(*circuit.point("M").accessories, Accessory(gang=2)))
        self.assertTrue(any(each.id == "mixed-plate" for each in proof_of(mixed).hazards))
        ends = tuple(CoreEnd(leg=f"L{number}", core="L") for number in range(1, 6))
        legs = tuple(
            Leg(id=f"L{number}", a="board" if number == 1 else f"P{number}", b="H", segments=(Segment(length_m=2),))
            for number in range(1, 6)
        )
        points = [
            switch("H", state="as-found", accessories=(Accessory(),), joins=(Join(ends=ends, terminals=("1.COM",)),))
        ]
        points += [light(f"P{number}") for number in range(2, 6)]
        crowded = Circuit(points=tuple(points), legs=legs, cable=Cable(csa_mm2=1.5))
        self.assertIn("5 conductors", next(each.words for each in proof_of(crowded).hazards if each.id == "crowded"))
        thin = crowded.model_copy(update={"cable": Cable(csa_mm2=1.0)})
        self.assertIn(": 1 too many", next(each.words for each in proof_of(thin).hazards if each.id == "crowded"))

    def test_dimmer_and_peak(self) -> None:
        def dimmed(watts: float, most: float | None, least: float | None = None) -> Proof:
            dimmer = switch(
                "H", accessories=(Accessory(kind="dimmer", most_w=most, least_w=least, dims_by="trailing"),)
            )
            lamp = light("Z", loads=(Load(power_w=watts, inrush_a=25, dimmed_by="either"),))
            return proof_of(wired(lit("H", [dimmer, lamp], [control("Hall", "Z", "H")], ways("H-Z 3"))))

        self.assertIs(dimmed(50, 100).verdict, Verdict.PASS)
        self.assertTrue(any(each.id == "dimmer-over" for each in dimmed(51, 100).hazards))
        self.assertTrue(any(each.id == "dimmer-under" for each in dimmed(4, 100, 5).hazards))
        self.assertIs(next(c for c in dimmed(50, None).checks if c.id == "dimmers").verdict, Verdict.CANNOT_TELL)
        peak = next(check for check in dimmed(50, 100).checks if check.id == "inrush")
        # A breaker of 32 A, type B, may trip at once from 96 A.
        self.assertEqual((peak.verdict, peak.caution), (Verdict.PASS, ""))

    def test_dimmers_suit_lamps_by_their_kind(self) -> None:
        def dimmed(by: str | None, lamps: str | None) -> Check:
            gang = Accessory.model_validate({"kind": "dimmer", "most_w": 100, "dims_by": by})
            load = Load.model_validate({"power_w": 20, "dimmed_by": lamps})
            circuit = lit(
                "H",
                [switch("H", accessories=(gang,)), light("Z", loads=(load,))],
                [control("Hall", "Z", "H")],
                ways("H-Z 3"),
            )
            return next(check for check in proof_of(wired(circuit)).checks if check.id == "dimmers")

        suits = {("leading", "leading"), ("leading", "either"), ("trailing", "trailing"), ("trailing", "either")}
        suits |= {(each, each) for each in ("0-10", "push", "dali")}
        for by in ("leading", "trailing", "0-10", "push", "dali"):
            for lamps in ("none", "leading", "trailing", "either", "0-10", "push", "dali"):
                with self.subTest(by=by, lamps=lamps):
                    wanted = Verdict.PASS if (by, lamps) in suits else Verdict.FAIL
                    self.assertIs(dimmed(by, lamps).verdict, wanted)
        for by, lamps in ((None, "either"), ("trailing", None)):
            self.assertIs(dimmed(by, lamps).verdict, Verdict.CANNOT_TELL)

    def test_what_does_not_suit_a_dimmer_has_its_symptom(self) -> None:
        data = BS.switching
        self.assertEqual(len({each.otherwise for each in data.dimmed_by.values()}), len(data.dimmed_by) - 1)
        self.assertTrue(all(set(each.dims) <= set(data.dimmed_by) for each in data.dimming.values()))


class Borrowed(unittest.TestCase):
    def house(self) -> tuple[Circuit, Circuit]:
        """Hall and landing: the landing lamp is switched from the lower circuit, its neutral is the upper one's."""
        lower = as_found(wired(stair("H", "H T"))).model_copy(update={"number": 1})
        upper = Circuit(
            number=2,
            kind="lighting",
            points=(light("Y", class_ii=True), Point(id="J", kind="joint", class_ii=True)),
            legs=(
                Leg(id="L1", a="board", b="Y", segments=(Segment(length_m=5),)),
                Leg(id="L2", a="Y", b="J", segments=(Segment(length_m=2),)),
            ),
        )
        own = core_in(lower, "Z", "N")
        lower = moved(lower, "Z", own)
        kept = (join for join in lower.point("Z").joins if "N" not in join.terminals)
        stranger = Join(terminals=("N",), ends=(CoreEnd(leg="L2", core="N", circuit=2, at="J"),))
        return with_point(lower, "Z", joins=(*kept, stranger)), upper

    def test_it_is_found_with_its_symptom_and_its_currents(self) -> None:
        lower, upper = self.house()
        joined = joined_circuits({1: lower, 2: upper, 3: upper.model_copy(update={"number": 3})}, 1)
        self.assertEqual(set(joined), {1, 2})
        proof = prove(BS, joined)
        borrowed = next(each for each in proof.hazards if each.id == "borrowed-neutral")
        self.assertIn("line from circuit 1 and its neutral from circuit 2", borrowed.words)
        self.assertIn("RCD", borrowed.symptom)
        self.assertTrue(borrowed.stands)
        self.assertTrue(any(each.id == "not-cancelling" and each.grave for each in proof.hazards))
        # Each by itself the two are sound but for the lamp that lacks its neutral.
        self.assertTrue(any(each.id == "no-neutral" for each in prove(BS, {1: lower}).hazards))

    def test_its_own_neutral_goes_back_in(self) -> None:
        lower, _ = self.house()
        found = mend(BS, lower)
        assert found is not None
        self.assertEqual((len(found.moves), second_proof(found.design)), (1, []))
        self.assertIn("take out what belongs to circuit 2", found.changes[0])
        self.assertIn("borrows a neutral of circuit 2", found.named[0])

    def test_the_boxes_show_the_stranger(self) -> None:
        lower, upper = self.house()
        face = next(face for face in faces_of(BS, lower, {1: lower, 2: upper}) if face.place == "Z")
        self.assertTrue(any(cable.beyond == "circuit-2" for cable in face.cables))
        # Its core is told from one of the same name that belongs here.
        neutral = next(each for each in face.terminals if each.name == "N")
        self.assertEqual([(core.leg, core.colour) for core in neutral.cores], [("2:L2", "blue")])


class UnknownEnds(unittest.TestCase):
    def stubs(self) -> Circuit:
        circuit = Circuit(points=tuple(switch(each) for each in "HMT"), kind="lighting")
        for place, live in (("H", 2), ("H", 3), ("M", 3), ("M", 2), ("T", 3)):
            kind = "flat-three-core-and-earth" if live == 3 else "flat-twin-and-earth"
            circuit = carry_out(BS, circuit, (AddCable(point=place, cable=Cable(type=kind)),)).circuit
        return circuit

    def test_the_next_test_parts_the_worlds_most_evenly(self) -> None:
        circuit = self.stubs()
        ends = loose_ends(circuit)
        self.assertEqual(len(ends), 5)
        worlds = worlds_of(circuit, ends)
        # The two-cores are one cable; of three three-core ends two belong together: three ways.
        self.assertEqual(len(worlds), 3)
        test = next_test(BS, circuit)
        assert test is not None
        self.assertEqual((test.worlds, test.closed), (3, 1))
        self.assertIn("proved dead", test.words)
        answered = carry_out(BS, circuit, (SameCable(leg=test.join.leg, other=test.read.leg, same=False),)).circuit
        self.assertEqual(len(worlds_of(answered, loose_ends(answered))), 2)
        known = carry_out(BS, answered, (SameCable(leg="L1", other="L4", same=True),)).circuit
        self.assertEqual({(leg.a, leg.b) for leg in known.legs if leg.id == "L1"}, {("H", "M")})
        self.assertEqual(len(known.legs), 4)

    def test_what_cannot_be_one_cable_is_refused(self) -> None:
        for one, other in (("L1", "L2"), ("L2", "L4"), ("L1", "L1"), ("L9", "L1")):
            with self.assertRaises(EditRefusedError):
                carry_out(BS, self.stubs(), (SameCable(leg=one, other=other, same=True),))
        self.assertIsNone(next_test(BS, Circuit()))


class ByHand(unittest.TestCase):
    def test_a_box_shows_its_connectors_and_beside_them_what_is_left_off(self) -> None:
        circuit = found_stair("H T")
        wired_as = next(each for each in faces_of(BS, circuit) if each.place == "M")
        connectors = [len(each.cores) for each in wired_as.terminals if not each.name]
        self.assertTrue(connectors and set(connectors) == {2}, connectors)
        self.assertEqual(wired_as.off, ())
        join = next(each for each in circuit.point("M").joins if not each.terminals)
        off = moved(circuit, "M", (join.ends[0].leg, join.ends[0].core))
        face = next(each for each in faces_of(BS, off) if each.place == "M")
        # The other end of what was a connector is by itself too.
        self.assertEqual({(core.leg, core.core) for core in face.off}, {(each.leg, each.core) for each in join.ends})
        self.assertEqual(len([each for each in face.terminals if not each.name]), len(connectors) - 1)
        # A lamp's terminals are there with nothing in them; a switch has none for a neutral.
        bare = moved(circuit, "Z", core_in(circuit, "Z", "N"))
        names = {each.place: [one.name for one in each.terminals if one.name] for each in faces_of(BS, bare)}
        self.assertEqual((names["Z"], names["T"]), (["L", "N", "E"], ["1.COM", "1.L1", "1.L2", "E"]))

    def test_a_core_goes_into_a_terminal_beside_another_or_off(self) -> None:
        circuit = wired(stair("H", "H T"))
        leg, core = core_in(circuit, "T", "1.L1")
        off = moved(circuit, "T", (leg, core))
        self.assertIn(Join(ends=(CoreEnd(leg=leg, core=core),)), off.point("T").joins)
        back = moved(off, "T", (leg, core), "1.L1")
        self.assertEqual(core_in(back, "T", "1.L1"), (leg, core))
        for command in (
            Connect(point="T", leg=leg, core="S9"),
            Connect(point="X", leg=leg, core=core),
            Connect(point="T", leg=leg, core=core, beside_leg=leg, beside_core=core),
            Connect(point="T", leg=leg, core=core, beside_leg="L9", beside_core="L"),
            MarkCore(point="T", leg="L9", core="L", mark=None),
        ):
            with self.assertRaises(EditRefusedError):
                carry_out(BS, circuit, (command,))

    def test_plain_joins_are_said_before_one_of_them_moves(self) -> None:
        circuit = Circuit(
            points=(light("Y"), light("Z")), legs=(Leg(id="L1", a="board", b="Y"), Leg(id="L2", a="Y", b="Z"))
        )
        opened = moved(circuit, "Y", ("L2", "N"))
        self.assertEqual(
            {join.terminals: [(end.leg, end.core) for end in join.ends] for join in opened.point("Y").joins},
            {
                ("L",): [("L1", "L"), ("L2", "L")],
                ("N",): [("L1", "N")],
                ("E",): [("L1", "E"), ("L2", "E")],
                (): [("L2", "N")],
            },
        )

    def test_a_scheme_lets_go_of_places_that_are_gone(self) -> None:
        circuit = wired(stair("H", "H M T"))
        placed = carry_out(BS, circuit, (AddPlace(kind="light", name="Cupboard"),)).circuit
        self.assertEqual(placed.points[-1].name, "Cupboard")
        gone = carry_out(BS, circuit, (RemovePoint(point="Z"),)).circuit
        assert gone.scheme is not None
        self.assertEqual((gone.scheme.controls, [route.b for route in gone.scheme.routes]), ((), ["M", "T"]))


class OnTheCircuitPage(unittest.TestCase):
    def test_figures_go_down_the_drop_and_back(self) -> None:
        """R1+R2 of a light behind a switch drop: line down to the switch and back up, the cpc straight home."""
        circuit = wired(lit("Z", [switch("H"), light("Z")], [control("Hall", "Z", "H")], ways("Z-H 10")))
        result = judge_circuit(BS, SUPPLY, circuit)
        figures = {each.point: each for each in result.points}
        # 1 mm²: 18.1 mΩ/m, cpc 1 mm². Feed 6 m, drop 10 m.
        self.assertAlmostEqual(figures["Z"].r1_ohm or 0, 0.0181 * (6 + 20))
        self.assertAlmostEqual(figures["Z"].r2_ohm or 0, 0.0181 * 6)
        self.assertAlmostEqual(figures["Z"].r1_plus_r2_ohm or 0, 0.0181 * 32)
        self.assertAlmostEqual(figures["H"].r1_plus_r2_ohm or 0, 0.0181 * 32)
        amps = {leg.leg: leg.current_a for leg in result.legs}
        self.assertTrue(all(abs((each or 0) - 10 / 230) < 1e-6 for each in amps.values()), amps)
        plain = circuit.model_copy(
            update={
                "points": tuple(p.model_copy(update={"joins": (), "accessories": ()}) for p in circuit.points),
                "scheme": None,
            }
        )
        drop = {each.point: each.drop_v for each in judge_circuit(BS, SUPPLY, plain).points}
        # Down and back are both in the way, the neutral only in the feed: (6 + 20 + 6) / (6 + 6) of the plain light.
        self.assertAlmostEqual((figures["Z"].drop_v or 0) / (drop["Z"] or 1), 32 / 12)

    def test_a_line_that_is_cut_is_not_called_an_earth(self) -> None:
        circuit = wired(stair("H", "H T"))
        cut = moved(circuit, "H", core_in(circuit, "H", "1.COM"))
        zs = next(check for check in judge_circuit(BS, SUPPLY, cut).checks if check.id == "zs")
        self.assertEqual((zs.verdict, zs.answer), (Verdict.FAIL, "Open: the line does not reach it"))
        # Old cable without a cpc, its switches plastic: judged, and told which way is open.
        bare = as_found(circuit)
        none = {"cpc_by": "none"}
        legs = tuple(leg.model_copy(update={"cable": bare.cable_of(leg).model_copy(update=none)}) for leg in bare.legs)
        old = bare.model_copy(update={"legs": legs, "cable": bare.cable.model_copy(update=none)})
        self.assertIn("switching", {check.id for check in judge_circuit(BS, SUPPLY, old).checks})
        reaches = next(check for check in proof_of(old).checks if check.id == "cpc-reaches")
        self.assertEqual(reaches.verdict, Verdict.CANNOT_TELL)
        self.assertIs(next(c for c in proof_of(bare).checks if c.id == "cpc-reaches").verdict, Verdict.PASS)

    def test_what_a_proof_waits_for_has_a_code(self) -> None:
        bare = Circuit(
            points=(switch("H"), light("Z")), legs=(Leg(id="L1", a="board", b="H"), Leg(id="L2", a="H", b="Z"))
        )
        dimmer = switch("H", accessories=(Accessory(kind="dimmer"),))
        dimmed = wired(lit("H", [dimmer, light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3")))
        unseen = with_point(as_found(wired(stair("H", "H T"))), "T", joins=())
        codes = {
            code
            for circuit in (bare, stair("H", "H T"), dimmed, unseen)
            for check in proof_of(circuit).checks
            for code in check.missing_codes
        }
        self.assertLessEqual({"control", "wiring", "dimmer"}, codes)
        self.assertNotIn("other", codes)

    def test_nothing_wired_yet_is_no_fault(self) -> None:
        proof = proof_of(stair("H", "H T"))
        self.assertEqual((proof.verdict, proof.hazards), (Verdict.CANNOT_TELL, ()))
        self.assertIn("wiring of Z", next(check for check in proof.checks if check.id == "lights").missing)

    def test_two_way_is_read_with_the_light_on(self) -> None:
        for at in (0, 1):
            circuit = wired(stair("H", "H T"))
            turned = with_point(
                circuit, "T", accessories=(circuit.point("T").accessories[0].model_copy(update={"at": at}),)
            )
            result = judge_circuit(BS, SUPPLY, turned)
            self.assertAlmostEqual(next(each.r1_ohm or 0 for each in result.points if each.point == "Z"), 0.0181 * 17)
            self.assertIs(next(check for check in result.checks if check.id == "shape").verdict, Verdict.PASS)


class MakingOff(unittest.TestCase):
    def test_every_core_has_its_terminal_and_its_sleeve(self) -> None:
        circuit = wired(stair("H", "H M T"))
        sheet = make_off(BS, circuit)
        self.assertEqual([box.place for box in sheet.boxes], ["H", "M", "T", "Z"])
        told = {
            (core.leg, core.core, box.place) for box in sheet.boxes for each in box.terminals for core in each.cores
        }
        ends = {
            (leg.id, core, place)
            for leg in circuit.legs
            for core in circuit.cable_of(leg).core_names
            for place in (leg.a, leg.b)
            if place != "board"
        }
        self.assertEqual(told, ends)
        self.assertIn("intermediate switch", sheet.boxes[1].what)
        self.assertIn("Stair: Z from H, M, T", sheet.chart)
        parts = {part.what: part.count for part in sheet.parts}
        self.assertEqual((parts["two-way switch"], parts["intermediate switch"]), ("2", "1"))
        self.assertEqual(parts["3-core and earth, 1 mm²"], "9 m")
        marks = [end.marked for point in circuit.points for join in point.joins for end in join.ends if end.marked]
        self.assertEqual(
            (parts["brown sleeve or tape"], parts["blue sleeve or tape"]),
            (f"{marks.count('line')} ends", f"{marks.count('neutral')} ends"),
        )
        joints = [join for point in circuit.points for join in point.joins if not join.terminals and len(join.ends) > 1]
        for count in {len(join.ends) for join in joints}:
            self.assertEqual(parts[f"{count}-way connector"], str(sum(len(join.ends) == count for join in joints)))
        bare = sum(2 for leg in circuit.legs)
        self.assertEqual(parts["green-yellow sleeving for bare cpcs"], f"{bare} ends")
        bare = stair("H", "H T", ways("H-M 4", "M-T 5", "T-Z 2"), spare_core=True)
        spared = make_off(BS, wired(bare))
        self.assertGreaterEqual(sum(len(line.spare) for line in spared.cables), 3)
        self.assertEqual(next(line.used for line in spared.cables if line.leg == "L1"), ("brown", "blue"))

    def test_the_table_says_what_is_live_where(self) -> None:
        circuit = wired(stair("H", "H T"))
        proof = proof_of(circuit)
        (table,) = proof.tables
        part = {(each.point, each.leg, each.name): each.part for each in proof.where}
        self.assertEqual(
            [proof.fixed[str(part[place, "", name])] for place, name in (("H", "1.COM"), ("Z", "N"), ("T", "E"))],
            ["L", "N", "E"],
        )
        lamp = table.parts.index(part["Z", "", "L"])
        for stands, burns, live in zip(table.stands, table.lit, table.live, strict=True):
            self.assertEqual(live[lamp] == "L", burns == "1", stands)
            # One strapper is live in every state, the other is not.
            strappers = {part["H", "", "1.L1"], part["H", "", "1.L2"]}
            self.assertEqual(sum(live[table.parts.index(each)] == "L" for each in strappers), 1)
        # With its neutral left off a lamp passes the line on to it.
        cut = moved(circuit, "Z", core_in(circuit, "Z", "N"))
        proof = proof_of(cut)
        neutral = next(each.part for each in proof.where if each.point == "Z" and each.name == "N" and not each.leg)
        seen = {row[proof.tables[0].parts.index(neutral)] for row in proof.tables[0].live}
        self.assertEqual(seen, {"F", "."})

    def test_own_terms_of_north_america(self) -> None:
        sheet = make_off(BS, wired(stair("H", "H M T", colours="north-america")))
        self.assertEqual(sheet.boxes[1].what, "four-way switch")
        self.assertEqual(sheet.boxes[0].what, "three-way switch")
        self.assertIn("common", {each.terminal for each in sheet.boxes[0].terminals})
        gangs = [
            gang.words
            for face in faces_of(BS, wired(stair("H", "H M T", colours="north-america")))
            for gang in face.gangs
        ]
        self.assertEqual(gangs, ["three-way", "four-way", "three-way"])


if __name__ == "__main__":
    unittest.main()
