"""Planning lighting: the gallery, the least cable against trying everything, walls that hold too little."""

import random
import unittest

import numpy as np

from lumbek.core.circuit.changes.boxes import AddCable
from lumbek.core.circuit.changes.lighting import LoopAt
from lumbek.core.circuit.commands import carry_out
from lumbek.core.circuit.routes import in_school, routes_of, school_routes
from lumbek.core.judging.check import Verdict
from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import BarredWay, Link, Output, Route, RouteCable, Scheme
from lumbek.core.switching.choose import feeding_on
from lumbek.core.switching.faces import faces_of
from lumbek.core.switching.nets import Net, nets_of
from lumbek.core.switching.packing import flows_of, into_cores, shared_out
from lumbek.core.switching.plan import _beside, plan
from lumbek.core.switching.prove import holds, prove
from lumbek.core.switching.wire import wire
from tests.support.houses import BS
from tests.support.lighting import (
    as_found,
    chooser,
    control,
    every_way,
    least_by_trying,
    light,
    lit,
    random_scheme,
    second_proof,
    stair,
    switch,
    ways,
    wired,
)

PRICES = {2: 1.0, 3: 1.45}


class Gallery(unittest.TestCase):
    """What electricians wire every week, proved over all states by two provers that share nothing."""

    def proved(self, circuit: Circuit, lamps: int | None = None) -> Circuit:
        verdict, hazards = holds(BS, {3: circuit})
        grave = [hazard.words for hazard in hazards if hazard.grave]
        self.assertEqual((verdict, grave), (Verdict.PASS, []))
        self.assertEqual(second_proof(circuit), [])
        if lamps is not None:
            self.assertEqual(len(prove(BS, {3: circuit}).lamps), lamps)
        return circuit

    def test_one_way_in_each_school(self) -> None:
        for school in ("at-light", "at-switch", "at-joint"):
            points = [switch("H"), light("Z"), Point(id="J", kind="joint")]
            circuit = lit("board", points, [control("Hall", "Z", "H")], (), school=school)
            scheme = circuit.scheme
            assert scheme is not None
            routes = school_routes(school, scheme, ["J"])
            found = self.proved(
                wired(circuit.model_copy(update={"scheme": scheme.model_copy(update={"routes": routes})})), 1
            )
            cores = sorted(len(found.cable_of(leg).core_names) - 1 for leg in found.legs)
            self.assertEqual(cores, [2, 2, 2] if school == "at-joint" else [2, 2], school)
            # Looped at the light, the switch drop is line and switched line: its blue is sleeved at both ends.
            drop = [leg for leg in found.legs if {leg.a, leg.b} == {"H", "Z"}]
            marks = [end for point in found.points for join in point.joins for end in join.ends if end.marked == "line"]
            self.assertEqual(
                (len(drop), len(marks)), {"at-light": (1, 2), "at-switch": (1, 0), "at-joint": (0, 2)}[school]
            )
            # Whoever opens a box is shown the sleeve there, and on no other core.
            shown = [core for face in faces_of(BS, found) for each in face.terminals for core in each.cores]
            self.assertEqual([core.sleeve for core in shown if core.mark], ["brown"] * len(marks))
            self.assertEqual({core.sleeve for core in shown if not core.mark}, {""})

    def test_two_way_from_every_feed_in_both_methods(self) -> None:
        for feed in "HTZ":
            methods = set()
            for chosen in every_way(stair(feed)):
                methods |= {option.method for option in chosen.options}
                self.proved(wire(BS, chooser(stair(feed)), chosen))
            self.assertEqual(methods, {"commons-at-ends", "commons-joined"}, feed)

    def test_three_and_four_places_in_any_order(self) -> None:
        points = [switch(each) for each in "HMTU"] + [light("Z")]
        routes = ways("H-M 3", "M-T 4", "T-U 2", "M-Z 3")
        for switches in ("H M T", "T H M", "H M T U", "U M H T"):
            circuit = lit("M", points, [control("Landing", "Z", switches)], routes)
            count = 0
            for chosen in every_way(circuit):
                self.proved(wire(BS, chooser(circuit), chosen))
                count += 1
            self.assertGreater(count, 6, switches)

    def test_light_first_middle_and_last_in_north_american_colours(self) -> None:
        runs = {"first": ways("Z-H 4", "H-T 5"), "middle": ways("H-Z 4", "Z-T 5"), "last": ways("H-T 4", "T-Z 5")}
        for where, routes in runs.items():
            feed = "Z" if where == "first" else "H"
            circuit = lit(
                feed,
                [switch("H"), switch("T"), light("Z")],
                [control("Hall", "Z", "H T")],
                routes,
                colours="north-america",
            )
            found = self.proved(wired(circuit))
            ends = [end for point in found.points for join in point.joins for end in join.ends]
            # Black and red are hot as they are; a white that is no neutral is marked, at both its ends.
            self.assertTrue(all(end.marked in (None, "line") for end in ends if end.core != "N"))
            self.assertEqual(len([end for end in ends if end.marked == "line"]) % 2, 0)

    def test_two_two_cores_instead_of_a_three_core(self) -> None:
        routes = ways("H-T 5", "T-Z 2", closed=("H-T",), HT=(2, 2))
        circuit = lit("H", [switch("H"), switch("T"), light("Z")], [control("Hall", "Z", "H T")], routes)
        found = self.proved(wired(circuit))
        self.assertEqual(sum(1 for leg in found.legs if {leg.a, leg.b} == {"H", "T"}), 2)
        self.assertEqual({leg.state for leg in found.legs if {leg.a, leg.b} == {"H", "T"}}, {"as-found"})

    def test_a_light_added_at_a_switch_with_and_without_a_neutral(self) -> None:
        for neutral, cores in ((False, 2), (True, 3)):
            circuit = lit(
                "Z",
                [switch("H"), light("Z")],
                [control("Hall", "Z", "H")],
                ways("Z-H 3"),
                neutral_at_switches=neutral,
            )
            found = wired(circuit)
            (drop,) = [leg for leg in found.legs if "H" in (leg.a, leg.b)]
            self.assertEqual(len(found.cable_of(drop).core_names) - 1, cores)
            more = lit(
                "Z",
                [switch("H"), light("Z"), light("Y")],
                [control("Hall", "Z Y", "H")],
                ways("Z-H 3", "H-Y 2"),
                neutral_at_switches=neutral,
            )
            self.proved(wired(more), 2)

    def test_timer_fan_with_isolator_follows_the_light(self) -> None:
        fan = Point(
            id="F",
            name="Fan",
            kind="fixed",
            loads=(Load(name="Motor", power_w=20, line="L"), Load(name="Run-on", current_a=0, line="S")),
        )
        isolator = Point(id="I", name="Isolator", kind="switch", accessories=(Accessory(kind="isolator-3"),))
        outputs = (Output(point="Z"), Output(point="F", line="S"))
        light_and_fan = control("Bath", "Z", "H").model_copy(update={"outputs": outputs})
        always = control("Fan", "F").model_copy(update={"id": "fan"})
        points = [switch("H"), light("Z"), isolator, fan]
        circuit = lit("H", points, [light_and_fan, always], ways("H-Z 3", "Z-I 2", "I-F 1"))
        found = self.proved(wired(circuit), 3)
        legs = {frozenset((leg.a, leg.b)): len(found.cable_of(leg).core_names) - 1 for leg in found.legs}
        self.assertEqual(legs[frozenset("IF")], 3)
        sides = {name: join for join in found.point("I").joins for name in join.terminals}
        runs = {leg.id: {leg.a, leg.b} for leg in found.legs}
        for pole in "LSN":
            # What comes from the feed is on the supply side, what goes to the fan beyond.
            self.assertEqual([runs[end.leg] for end in sides[f"1.{pole}I"].ends], [{"Z", "I"}])
            self.assertEqual([runs[end.leg] for end in sides[f"1.{pole}O"].ends], [{"I", "F"}])
        held = set(sides)
        self.assertLessEqual({"1.LI", "1.LO", "1.SI", "1.SO", "1.NI", "1.NO"}, held)
        # With its fuse where the feed comes in, the light is behind it too: switched off there, all is dead.
        fused = Point(id="U", name="Fuse", kind="fused-spur", fuse_a=3, accessories=(Accessory(kind="fused-unit"),))
        routes = ways("U-H 1", "H-Z 3", "Z-I 2", "I-F 1")
        behind = self.proved(wired(lit("U", [fused, *points], [light_and_fan, always], routes)), 3)
        incoming = next(join for join in behind.point("U").joins if "1.LI" in join.terminals)
        self.assertEqual([end.leg for end in incoming.ends], ["L1"])
        off = behind.model_copy(
            update={
                "points": tuple(
                    point.model_copy(update={"accessories": (point.accessories[0].model_copy(update={"at": 1}),)})
                    if point.id == "U"
                    else point
                    for point in behind.points
                )
            }
        )
        table = prove(BS, {3: off}).tables
        column = [(each.point, each.switch) for each in table[0].switches].index(("U", "1"))
        for stands, burns in zip(table[0].stands, table[0].lit, strict=True):
            if stands[column] == 1:
                self.assertEqual(set(burns), {"0"})

    def test_sensor_with_a_switch_that_holds_it_on(self) -> None:
        circuit = lit(
            "H", [switch("H"), switch("S"), light("Z")], [control("Porch", "Z", "H", "S")], ways("H-S 3", "S-Z 1")
        )
        found = self.proved(wired(circuit), 1)
        self.assertEqual([each.kind for each in found.point("S").accessories], ["sensor"])
        alone = lit(
            "H", [switch("H"), switch("S"), light("Z")], [control("Porch", "Z", "", "S")], ways("H-S 3", "S-Z 1")
        )
        self.proved(wired(alone), 1)

    def test_a_dimmer_stays_at_an_end_of_the_row(self) -> None:
        dimmer = switch("M", accessories=(Accessory(kind="dimmer-two-way", most_w=100, dims_by="trailing"),))
        circuit = lit(
            "H",
            [switch("H"), dimmer, switch("T"), light("Z", loads=(Load(power_w=10, dimmed_by="either"),))],
            [control("Hall", "Z", "H M T")],
            ways("H-M 4", "M-T 5", "T-Z 2"),
        )
        found = self.proved(wired(circuit))
        self.assertEqual(found.point("M").accessories[0].kind, "dimmer-two-way")
        self.assertEqual(sorted(found.point(each).accessories[0].kind for each in "HT"), ["intermediate", "two-way"])
        two = [switch(each, accessories=(Accessory(kind="dimmer-two-way"),)) for each in "HT"]
        refused = plan(
            BS, *_planned(lit("H", [*two, light("Z")], [control("Hall", "Z", "H T")], ways("H-T 4", "T-Z 2")))
        )
        self.assertIn("one to a set", refused.problems[0])

    def test_a_two_way_does_as_a_one_way(self) -> None:
        two_way = switch("H", accessories=(Accessory(kind="two-way"),))
        found = self.proved(wired(lit("H", [two_way, light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3"))))
        self.assertEqual(found.point("H").accessories[0].kind, "two-way")

    def test_what_is_in_the_wall_is_used_and_what_is_not_needed_stays_there(self) -> None:
        done = as_found(wired(stair("H", "H M T")))
        spare = carry_out(BS, done, (AddCable(point="H", to="M", cable=Cable(csa_mm2=1, cpc_by="core")),)).circuit
        again = self.proved(wired(spare.model_copy(update={"scheme": _drawn_scheme(spare)})))
        self.assertEqual({leg.id for leg in again.legs}, {leg.id for leg in spare.legs})
        self.assertEqual({leg.state for leg in again.legs}, {"as-found"})
        cable = spare.legs[-1].id
        left = next(
            join for join in again.point("H").joins if any(end.leg == cable for end in join.ends if end.core == "L")
        )
        self.assertEqual((left.terminals, len(left.ends)), ((), 1))
        # What is new and is no longer needed goes.
        fewer = stair("H", "H T")
        replanned = wired(wired(stair("H", "H M T")).model_copy(update={"scheme": fewer.scheme}))
        self.assertEqual(len(replanned.legs), 4)

    def test_ceiling_fan_and_its_light_apart(self) -> None:
        loads = (Load(name="Light", power_w=20), Load(name="Fan", power_w=60, line="F"))
        fan = light("C", loads=loads)
        fan_only = control("Fan", "C", "H2").model_copy(update={"outputs": (Output(point="C", line="F"),)})
        circuit = lit("H", [switch("H"), fan], [control("Light", "C", "H"), fan_only], ways("H-C 4"))
        found = self.proved(wired(circuit), 2)
        self.assertEqual([len(found.cable_of(leg).core_names) - 1 for leg in found.legs if "C" in (leg.a, leg.b)], [3])

    def test_three_gangs_at_one_place(self) -> None:
        points = [switch("H"), light("X"), light("Y"), light("Z")]
        controls = [control("One", "X", "H"), control("Two", "Y", "H2"), control("Three", "Z", "H3")]
        found = self.proved(wired(lit("H", points, controls, ways("H-X 3", "X-Y 2", "Y-Z 2"))), 3)
        self.assertEqual([each.gang for each in found.point("H").accessories], [1, 2, 3])

    def test_alarms_linked_and_fed_for_good(self) -> None:
        heads = [light(each) for each in "ABC"]
        circuit = lit("A", heads, [control("Alarms", "A B C")], ways("A-B 4", "B-C 4"))
        scheme = circuit.scheme
        assert scheme is not None
        link = Link(id="I", name="interlink", ends=tuple(Output(point=each, line="I") for each in "ABC"))
        found = self.proved(
            wired(circuit.model_copy(update={"scheme": scheme.model_copy(update={"links": (link,)})})), 3
        )
        self.assertEqual({len(found.cable_of(leg).core_names) - 1 for leg in found.legs if leg.id != "L1"}, {3})

    def test_singles_and_round_cable_go_on_as_they_are(self) -> None:
        for kind in ("single-core", "multicore"):
            circuit = stair("H", "H M T").model_copy(update={"cable": Cable(type=kind, csa_mm2=1.5, cpc_by="core")})
            found = self.proved(wired(circuit))
            self.assertEqual({found.cable_of(leg).type for leg in found.legs}, {kind})
            self.assertEqual(sorted(found.cable_of(leg).cores for leg in found.legs), [3, 3, 4, 4])

    def test_old_colours_meet_new_ones(self) -> None:
        routes = ways("H-M 4", "M-T 5", "T-Z 2", closed=("H-M",), HM=(3,))
        old = tuple(
            route.model_copy(
                update={"cables": tuple(each.model_copy(update={"colours": "uk-before-2004"}) for each in route.cables)}
            )
            for route in routes
        )
        found = wired(stair("H", "H M T", old))
        marks = next(check for check in prove(BS, {3: found}).checks if check.id == "marks")
        self.assertEqual((marks.verdict, "notice" in marks.caution), (Verdict.PASS, True))


def _drawn_scheme(circuit: Circuit) -> Scheme:
    """The scheme of a circuit with its routes as they are drawn."""
    assert circuit.scheme is not None
    bare = circuit.scheme.model_copy(update={"routes": ()})
    return bare.model_copy(update={"routes": routes_of(circuit, bare)})


def _planned(circuit: Circuit) -> tuple[Circuit, Scheme]:
    assert circuit.scheme is not None
    return circuit, circuit.scheme


class Least(unittest.TestCase):
    def test_a_graph_with_a_loop_takes_its_best_tree(self) -> None:
        points = [switch("H"), switch("T"), light("Z")]
        loop = ways("H-T 9", "H-Z 2", "Z-T 2")
        both = chooser(lit("H", points, [control("Hall", "Z", "H T")], loop)).best()
        assert both is not None
        opened = [
            least_by_trying(lit("H", points, [control("Hall", "Z", "H T")], (*loop[:at], *loop[at + 1 :])), PRICES)
            for at in range(3)
        ]
        self.assertAlmostEqual(both.price.cable_m, min(opened))

    def test_another_school_has_other_runs_and_keeps_what_was_found(self) -> None:
        circuit = wired(
            lit("H", [switch("H"), switch("T"), light("Z")], [control("Hall", "Z", "H T")], ways("H-T 5", "T-Z 2"))
        )
        command = LoopAt(school="at-light")
        scheme = carry_out(BS, circuit, (command,)).circuit.scheme
        assert scheme is not None
        self.assertEqual([(each.a + each.b, each.length_m) for each in scheme.routes], [("HZ", None), ("HT", 5)])
        found = carry_out(BS, as_found(circuit), (command,)).circuit.scheme
        assert found is not None
        self.assertEqual({(each.a + each.b, len(each.cables)) for each in found.routes}, {("HT", 1), ("TZ", 1)})

    def test_the_next_best_is_another_order_or_method_and_costs_no_less(self) -> None:
        found = plan(BS, *_planned(stair("Z", "H M T")))
        assert found.best is not None and found.next_best is not None
        self.assertGreaterEqual(
            (found.next_best.cable_m, found.next_best.cores_m), (found.best.cable_m, found.best.cores_m)
        )
        label = [(each.method, each.order) for each in found.best.controls]
        self.assertNotEqual(label, [(each.method, each.order) for each in found.next_best.controls])
        self.assertEqual(second_proof(found.next_best.design), [])
        self.assertTrue(found.why and found.next_words)

    def test_what_the_next_best_costs_beside_it_is_said_to_the_centimetre(self) -> None:
        (best, *_) = every_way(stair())

        def beside(cable_m: float, cores_m: float) -> str:
            price = best.price
            more = price._replace(cable_m=price.cable_m + cable_m, cores_m=price.cores_m + cores_m)
            return _beside(best, best._replace(price=more))

        self.assertEqual(beside(1.236, 0), "costs 1.24 m more")
        self.assertEqual(beside(1e-9, 2.347), "the same cable, 2.35 m more of cores used")
        self.assertEqual((beside(0, 1e-9), beside(0, 0)), ("costs the same",) * 2)

    def test_a_place_that_feeds_something_else_on_is_not_the_one_the_supply_comes_to(self) -> None:
        design = wired(stair("H", "H T"))
        fed = Leg(id="L90", a="X", b="H", segments=(Segment(length_m=3),))
        on = Leg(id="L91", a="T", b="X", segments=(Segment(length_m=3),))
        lone = Leg(id="L92", a="X", b="W", segments=(Segment(length_m=3),))
        assert design.scheme is not None
        for legs, found in (((fed,), ()), ((on,), ("T",)), ((fed, on, lone), ("T",))):
            more = design.model_copy(update={"legs": (*design.legs, *legs)})
            self.assertEqual(feeding_on(more, design.scheme), found)

    def test_what_is_wished_costs_its_cores(self) -> None:
        plain = plan(BS, *_planned(stair("H", "H T")))
        for wish, more in (("neutral_at_switches", False), ("spare_core", True), ("one_cable", False)):
            wished = plan(BS, *_planned(stair("H", "H T", **{wish: True})))
            assert wished.best is not None and plain.best is not None
            self.assertEqual(wished.best.cable_m > plain.best.cable_m, more, wish)
            self.assertEqual(second_proof(wished.best.design), [])
        spare = plan(BS, *_planned(stair("H", "H T", spare_core=True)))
        assert spare.best is not None
        for run in spare.best.runs:
            self.assertGreater(sum(run.new) + sum(run.kept), run.used)

    def test_a_plate_of_several_gangs_holds_no_intermediate_unless_it_is_a_grid(self) -> None:
        def planned(grid: bool) -> list[str]:
            middle = switch("M", plate=Plate(grid=grid))
            points = [switch("H"), middle, switch("T"), light("Z"), light("Y")]
            controls = [control("Stair", "Z", "H M T"), control("Landing", "Y", "M2")]
            circuit = lit("H", points, controls, ways("H-M 4", "M-T 5", "T-Z 2", "M-Y 2"))
            found = plan(BS, *_planned(circuit)).best
            assert found is not None
            return [each.kind for each in found.design.point("M").accessories]

        self.assertEqual(planned(grid=False)[0], "two-way")
        self.assertEqual(planned(grid=True)[0], "intermediate")

    def test_routes_come_from_the_drawing_and_from_the_school(self) -> None:
        done = as_found(wired(stair("H", "H M T")))
        assert done.scheme is not None
        drawn = routes_of(done, Scheme(feed="H", controls=done.scheme.controls))
        self.assertEqual(
            {(route.a + route.b, route.closed) for route in drawn}, {("HM", True), ("MT", True), ("TZ", True)}
        )
        bare = Scheme(feed="board", controls=done.scheme.controls)
        self.assertEqual(
            [route.a + "-" + route.b for route in school_routes("at-light", bare)], ["board-Z", "Z-H", "H-M", "M-T"]
        )


class Packing(unittest.TestCase):
    def test_what_flows_out_in_a_run_comes_back_in_it(self) -> None:
        chance = random.Random(17)
        for circuit in (*(random_scheme(chance) for _ in range(40)), stair("Z", "H M T"), stair("M", "T H")):
            found = chooser(circuit)
            best = found.best()
            assert best is not None and circuit.scheme is not None
            nets = nets_of(circuit.scheme, best, found.neutral_at(best.tree), found.through)
            flows = flows_of(circuit.scheme, best, nets)
            self.assertTrue((flows.sum(axis=1) == 0).all())
            self.assertTrue(flows.any())

    def test_conductors_that_cancel_go_into_one_cable(self) -> None:
        nets = [Net(name, "strapper", (), "S") for name in "abcd"]
        for pairs in (((0, 1), (2, 3)), ((0, 2), (1, 3)), ((0, 3), (1, 2))):
            flows = np.zeros((2, 4), np.int16)
            for state, (out, back) in enumerate(pairs):
                flows[state, out], flows[state, back] = 1, -1
            self.assertEqual(
                {frozenset(cable) for cable in shared_out(flows, (2, 2), nets)}, set(map(frozenset, pairs))
            )
        # A pair of which either carries what comes back by the third needs all three together.
        three = np.array([[1, 0, -1, 0], [0, 1, -1, 0]], np.int16)
        self.assertEqual(shared_out(three, (3, 2), nets)[0], (0, 1, 2))
        with self.assertRaises(ValueError):
            shared_out(three, (2, 1), nets)

    def test_fewest_sleeves_and_the_line_first(self) -> None:
        scheme = BS.switching.schemes["harmonised"]
        nets = [Net("n", "neutral", ()), Net("s", "switched", ()), Net("l", "line", ())]
        self.assertEqual(into_cores(nets[:1] + nets[2:], ["brown", "blue"], scheme), (1, 0))
        # In a three-core no core is blue: the neutral is sleeved, and one of the others.
        self.assertEqual(into_cores(nets, ["brown", "black", "grey"], scheme), (2, 1, 0))
        self.assertEqual(into_cores(nets[1:2], ["brown", "blue"], scheme), (0, None))


class TooLittle(unittest.TestCase):
    def test_what_is_missing_is_told_exactly(self) -> None:
        # Switch and lamp at both ends, the feed in the middle: with 2 + 3 cores it cannot be, with 3 + 3 it can.
        points = [switch("H"), switch("F"), switch("T"), light("Z")]

        def planned(one: int, other: int):
            routes = ways("H-F 4", "F-T 4", "T-Z 1", closed=("H-F", "F-T"), HF=(one,), FT=(other,))
            return plan(BS, *_planned(lit("F", points, [control("Hall", "Z", "H T")], routes)))

        self.assertIsNotNone(planned(3, 3).best)
        short = planned(2, 3)
        self.assertIsNone(short.best)
        self.assertEqual([(each.holds, each.needs) for each in short.missing], [(2, 3)])
        self.assertIn("1 missing", short.missing[0].words)
        kinds = {each.kind for each in short.alternatives}
        self.assertIn("radio", kinds)
        for other in short.alternatives:
            self.assertEqual(second_proof(other.plan.design), [], other.words)

    def test_the_fewest_missing_are_those_of_trying_everything(self) -> None:
        chance = random.Random(91)
        short = 0
        for _ in range(60):
            circuit = random_scheme(chance)
            assert circuit.scheme is not None
            walls, held = [], {}
            for route in circuit.scheme.routes:
                cables = tuple(RouteCable(live=chance.choice((2, 3))) for _ in range(chance.randint(1, 2)))
                walls.append(route.model_copy(update={"closed": True, "cables": cables}))
                held["".join(sorted((route.a, route.b)))] = sum(cable.live for cable in cables)
            tight = circuit.model_copy(update={"scheme": circuit.scheme.model_copy(update={"routes": tuple(walls)})})
            missing = least_by_trying(circuit, PRICES, held)
            best = chooser(tight).best()
            self.assertEqual(best is None, missing > 0)
            if best is None:
                found = chooser(tight).shortage()
                self.assertEqual(sum(each.needs - each.holds for each in found), missing)
                short += 1
        self.assertGreater(short, 5)

    def test_many_ways_of_running_cable_are_bounded_and_said(self) -> None:
        names = "ABCDEFGH"
        every = tuple(Route(a=a, b=b, length_m=3) for at, a in enumerate(names) for b in names[at + 1 :])
        points = [*(switch(each) for each in names[:-1]), light("H")]
        found = plan(BS, *_planned(lit("A", points, [control("Hall", "H", " ".join(names[:6]))], every)))
        assert found.best is not None
        self.assertIn("ways of running cable were compared", " ".join(found.assumptions))
        self.assertEqual(second_proof(found.best.design), [])

    def test_an_intermediate_on_a_drop_needs_four_cores_and_a_two_way_three(self) -> None:
        points = [switch(each) for each in "HMT"] + [light("Z"), Point(id="J", name="J", kind="joint")]
        routes = ways("H-J 2", "J-T 2", "J-M 3", "T-Z 1", closed=("J-M",), JM=(3,))
        found = plan(BS, *_planned(lit("H", points, [control("Hall", "Z", "H M T")], routes)))
        assert found.best is not None
        self.assertEqual(found.best.design.point("M").accessories[0].kind, "two-way")
        held = plan(
            BS,
            *_planned(
                lit(
                    "H",
                    [*points[:1], switch("M", accessories=()), *points[2:]],
                    [control("Hall", "Z", "H M T")],
                    ways("H-J 2", "J-T 2", "J-M 3", "T-Z 1", closed=("J-M", "H-J"), JM=(2,), HJ=(3,)),
                )
            ),
        )
        self.assertIsNone(held.best)

    def test_another_feed_is_offered_where_it_helps(self) -> None:
        routes = ways("H-T 5", "T-Z 2", closed=("H-T", "T-Z"), HT=(3,), TZ=(2,))
        found = plan(
            BS,
            *_planned(
                lit(
                    "H",
                    [switch("H"), switch("T"), light("Z")],
                    [control("Hall", "Z", "H T")],
                    routes,
                    neutral_at_switches=True,
                )
            ),
        )
        if found.best is None:
            self.assertTrue({"feed", "wish"} & {each.kind for each in found.alternatives})
        tight = ways("H-T 5", "T-Z 2", closed=("H-T", "T-Z"), HT=(2,), TZ=(3,))
        other = plan(
            BS, *_planned(lit("H", [switch("H"), switch("T"), light("Z")], [control("Hall", "Z", "H T")], tight))
        )
        self.assertIsNone(other.best)
        self.assertEqual([(each.a + each.b, each.needs - each.holds) for each in other.missing], [("HT", 1)])

    def test_places_that_no_route_reaches_and_nothing_to_switch_are_told(self) -> None:
        cut = lit("H", [switch("H"), switch("T"), light("Z")], [control("Hall", "Z", "H T")], (Route(a="H", b="T"),))
        found = plan(BS, *_planned(cut))
        # The school's own ways join what is left.
        self.assertIsNotNone(found.best)
        self.assertTrue(found.assumptions)
        nothing = plan(BS, *_planned(lit("H", [switch("H")], [], ())))
        self.assertEqual(nothing.problems, ("Say first what switches what.",))


class Barred(unittest.TestCase):
    def test_a_light_with_its_pull_cord_beside_it_needs_no_run(self) -> None:
        """Everything in one place: the way of wiring it has joints and no cable, for one control as for two."""
        one, fan = control("Light", "A", "A"), control("Fan", "A", "A2", outputs=[{"point": "A", "line": "L2"}])
        for controls in ([one], [one, fan]):
            found = chooser(lit("A", [light("A")], controls, ())).best()
            assert found is not None
            self.assertEqual((len(found.options), found.tree.routes), (len(controls), ()))

    def test_a_way_that_was_taken_off_stays_off(self) -> None:
        for routes in ((), ways("H-M 4", "M-T 5", "T-Z 2", "M-Z 9")):
            circuit = lit("H", [*(switch(each) for each in "HMT"), light("Z")], [control("S", "Z", "H T")], routes)
            assert circuit.scheme is not None
            off = circuit.scheme.model_copy(
                update={"barred": (BarredWay(a="Z", b="T"),), "routes": routes[:2] + routes[3:]}
            )
            found = routes_of(circuit, off)
            self.assertNotIn({"T", "Z"}, [{route.a, route.b} for route in found])
        again = in_school(circuit, off, "at-switch")
        self.assertNotIn({"T", "Z"}, [{route.a, route.b} for route in again.routes])
        planned = plan(
            BS, circuit, again.model_copy(update={"barred": (BarredWay(a="Z", b="T"), BarredWay(a="M", b="Z"))})
        )
        self.assertIn("No route leads to", planned.problems[0])
        self.assertEqual(off.only(frozenset("HMT")).barred, ())
