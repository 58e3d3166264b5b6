"""Everything with terminals is in the proof: isolators, fused units, sensors, links of alarms, sleeves on a cpc."""

import random
import unittest
from itertools import product

import networkx as nx

from lumbek.core.circuit.changes.legs import SetLeg
from lumbek.core.circuit.commands import carry_out
from lumbek.core.judging.check import Verdict
from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load, Point
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.switching.faces import faces_of
from lumbek.core.switching.make_off import make_off
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import with_ends
from lumbek.core.switching.prove import holds, prove
from lumbek.core.switching.quick import Layout
from tests.support.houses import BS
from tests.support.lighting import as_found, control, core_in, crossed, light, lit, stair, switch, ways, wired
from tests.support.lit_rooms import alarms, bath, porch


def rejoined(circuit: Circuit, place: str, change) -> Circuit:
    """The circuit with the joins of one place changed."""
    points = [
        point.model_copy(update={"joins": tuple(change(list(point.joins)))}) if point.id == place else point
        for point in circuit.points
    ]
    return Circuit.model_validate(circuit.model_copy(update={"points": tuple(points)}).model_dump())


def moved(circuit: Circuit, place: str, end: tuple[str, str], to: str | None) -> Circuit:
    """The circuit with one core end put into another terminal of its box, or left off."""

    def change(joins: list[Join]) -> list[Join]:
        taken = None
        rest = []
        for join in joins:
            mine = [each for each in join.ends if (each.leg, each.core) == end]
            taken = mine[0] if mine else taken
            rest.append(join.model_copy(update={"ends": tuple(each for each in join.ends if each not in mine)}))
        kept = [join for join in rest if join.ends or join.terminals]
        if to is None:
            return [*kept, Join(ends=(taken,))]
        if all(to not in join.terminals for join in kept):
            return [*kept, Join(ends=(taken,), terminals=(to,))]
        return [
            join.model_copy(update={"ends": (*join.ends, taken)}) if to in join.terminals else join for join in kept
        ]

    return rejoined(circuit, place, change)


def kinds(circuit: Circuit) -> set[str]:
    return {hazard.id for hazard in holds(BS, {3: circuit})[1] if hazard.grave}


class Isolators(unittest.TestCase):
    def test_as_planned_each_breaks_what_is_behind_it(self) -> None:
        for circuit in (bath(), porch(), alarms()):
            self.assertEqual(holds(BS, {3: circuit})[0], Verdict.PASS)

    def test_each_pole_that_is_passed_by(self) -> None:
        """What goes on is put in before the pole instead of beyond it: the fan works, and cannot be isolated."""
        good = bath()
        for pole in "LSN":
            end = core_in(good, "I", f"1.{pole}O")
            bad = moved(good, "I", end, f"1.{pole}I")
            self.assertIn("not-isolated", kinds(bad), pole)

            # And with a wire from one side to the other, the terminals both in use.
            def joined(joins: list[Join], pole: str = pole) -> list[Join]:
                both = [join for join in joins if {f"1.{pole}I", f"1.{pole}O"} & set(join.terminals)]
                rest = [join for join in joins if join not in both]
                return [*rest, Join(ends=both[0].ends + both[1].ends, terminals=both[0].terminals + both[1].terminals)]

            self.assertIn("not-isolated", kinds(rejoined(good, "I", joined)), pole)

    def test_a_fuse_that_is_passed_by_or_in_the_neutral(self) -> None:
        good = bath()
        bad = moved(good, "U", core_in(good, "U", "1.LO"), "1.LI")
        self.assertIn("not-isolated", kinds(bad))
        swapped = good
        for side in "IO":
            line, neutral = (core_in(good, "U", f"1.{pole}{side}") for pole in "LN")
            swapped = crossed(swapped, "U", line, neutral)
        found = [each for each in holds(BS, {3: swapped})[1] if each.id == "not-isolated"]
        self.assertTrue(any("in the neutral" in each.words for each in found), found)

    def test_the_switched_line_of_a_fan_past_its_isolator(self) -> None:
        good = bath()
        bad = moved(good, "I", core_in(good, "I", "1.SO"), "1.SI")
        words = [each.words for each in holds(BS, {3: bad})[1] if each.id == "not-isolated"]
        self.assertTrue(any("switched line does not go through" in each for each in words), words)

    def test_the_state_shown_has_the_hazard_in_it(self) -> None:
        good = bath()
        bad = moved(good, "I", core_in(good, "I", "1.LO"), "1.LI")
        for hazard in holds(BS, {3: bad})[1]:
            for stand in hazard.stands:
                if stand.point == "I":
                    self.assertEqual(stand.position, 1, hazard.words)

    def test_put_right_with_the_isolator_kept(self) -> None:
        good = bath()
        for place, pole in (("I", "L"), ("I", "S"), ("I", "N"), ("U", "L")):
            bad = moved(good, place, core_in(good, place, f"1.{pole}O"), f"1.{pole}I")
            found = mend(BS, bad)
            self.assertIsNotNone(found)
            self.assertEqual((found.exact, len(found.moves)), (True, 1), (place, pole))
            self.assertEqual(holds(BS, {3: found.design})[0], Verdict.PASS)


class Sensors(unittest.TestCase):
    def test_without_a_neutral_or_a_line_it_is_dead(self) -> None:
        good = porch()
        self.assertIn("sensor-supply", kinds(moved(good, "S", core_in(good, "S", "1.N"), None)))
        turned = crossed(good, "S", core_in(good, "S", "1.N"), core_in(good, "S", "1.L"))
        self.assertIn("sensor-supply", kinds(turned))

    def test_its_neutral_goes_back_in(self) -> None:
        good = porch()
        found = mend(BS, moved(good, "S", core_in(good, "S", "1.N"), None))
        self.assertEqual(len(found.moves), 1)
        self.assertEqual(holds(BS, {3: found.design})[0], Verdict.PASS)


class Links(unittest.TestCase):
    def test_each_alarm_sounds_the_others(self) -> None:
        good = alarms()
        end = core_in(good, "C", "I")
        self.assertEqual(kinds(moved(good, "C", end, None)), {"not-linked"})
        self.assertIn(
            "link-live", kinds(moved(good, "C", end, "L")) | kinds(moved(moved(good, "C", end, "L"), "C", end, "I"))
        )
        crossed_ = crossed(good, "B", core_in(good, "B", "I"), core_in(good, "B", "L"))
        self.assertTrue({"link-live", "not-linked"} & kinds(crossed_))

    def test_a_cpc_is_no_interlink(self) -> None:
        good = alarms()
        leg, core = core_in(good, "C", "I")
        bad = good
        for place in "BC":
            bad = moved(bad, place, (leg, core), None)
            bad = moved(bad, place, (leg, "E"), "I")
        self.assertIn("cpc-link", kinds(bad) - {"no-cpc"})

    def test_it_is_put_back(self) -> None:
        good = alarms()
        found = mend(BS, moved(good, "C", core_in(good, "C", "I"), None))
        self.assertEqual(len(found.moves), 1)


class Sleeves(unittest.TestCase):
    def test_a_live_coloured_core_used_as_cpc_wants_its_sleeve(self) -> None:
        good = alarms()
        leg, core = core_in(good, "C", "I")
        bad = moved(moved(good, "B", (leg, core), "E"), "C", (leg, core), "E")
        words = [each.words for each in prove(BS, {3: bad}).hazards if each.id == "unmarked"]
        self.assertEqual(len(words), 2)
        self.assertTrue(any("is earth and says line" in each for each in words), words)


# A second prover for terminals: joins as a graph, every position of everything, isolators too.


def unsafe(circuit: Circuit) -> bool:
    """Whether something past an isolator that is off is joined to line or neutral, or a load behind it keeps one."""
    copper = nx.Graph()
    for place, joins in ((each.id, each.joins) for each in circuit.points):
        for at, join in enumerate(joins):
            hub = ("join", place, at)
            copper.add_edges_from((hub, ("end", place, end.leg, end.core)) for end in join.ends)
            copper.add_edges_from((hub, ("terminal", place, name)) for name in join.terminals)
    for leg in circuit.legs:
        for core in circuit.cable_of(leg).core_names:
            if leg.a == "board" and core in "LNE":
                copper.add_edge(("terminal", "board", core), ("end", leg.b, leg.id, core))
            else:
                copper.add_edge(("end", leg.a, leg.id, core), ("end", leg.b, leg.id, core))
    gangs = [(point.id, gang) for point in circuit.points for gang in point.accessories]
    apart = [at for at, (_, gang) in enumerate(gangs) if gang.kind in ("isolator-3", "fused-unit", "double-pole")]
    for state in product((0, 1), repeat=len(gangs)):
        now = copper.copy()
        for (place, gang), at in zip(gangs, state, strict=True):
            for pair in gang.switch.positions[at]:
                now.add_edge(("terminal", place, pair.a), ("terminal", place, pair.b))
        supply = set()
        for name in "LN":
            if ("terminal", "board", name) in now:
                supply |= nx.node_connected_component(now, ("terminal", "board", name))
        for at in apart:
            place, gang = gangs[at]
            if state[at] == 0 or any(state[other] for other in apart if other != at):
                continue
            if any(("terminal", place, f"{gang.gang}.{pole}O") in supply for pole in "LSN"):
                return True
    return False


class AgainstASecondProver(unittest.TestCase):
    def test_no_damage_past_an_isolator_is_proved_safe(self) -> None:
        rng = random.Random(4)
        bad = 0
        for _ in range(120):
            circuit = bath()
            for _ in range(rng.randint(1, 2)):
                place = rng.choice("IUF")
                point = circuit.point(place)
                ends = [(each.leg, each.core) for join in point.joins for each in join.ends if each.core != "E"]
                terminals = [name for join in point.joins for name in join.terminals if name != "E"]
                circuit = moved(circuit, place, rng.choice(ends), rng.choice(terminals))
            if unsafe(circuit):
                bad += 1
                self.assertEqual(holds(BS, {3: circuit})[0], Verdict.FAIL)
        self.assertGreater(bad, 20)


class Strangers(unittest.TestCase):
    def test_another_circuits_end_comes_out_and_nothing_else_moves(self) -> None:
        good = wired(lit("H", [switch("H"), light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3")))
        stranger = CoreEnd(leg="L1", core="N", circuit=7, at="P1")

        def joined(joins: list[Join]) -> list[Join]:
            return [
                join.model_copy(update={"ends": (*join.ends, stranger)}) if "N" in join.terminals else join
                for join in joins
            ]

        found = mend(BS, rejoined(good, "Z", joined))
        self.assertEqual((found.exact, found.moves, len(found.changes)), (True, (), 1))
        self.assertIn("circuit 7", found.changes[0])
        self.assertEqual(holds(BS, {3: found.design})[0], Verdict.PASS)
        self.assertIsNone(mend(BS, good))


class LeastRepairs(unittest.TestCase):
    """Walls with up to three ends moved at random: never more moves than were made, and no fewer do."""

    def damaged(self, rng: random.Random) -> Layout:
        good = rng.choice(
            (
                wired(stair("H", "H T")),
                wired(stair("H", "H M T")),
                wired(lit("H", [switch("H"), light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3"))),
                bath(),
            )
        )
        layout = Layout(as_found(good))
        at = list(layout.at)
        for end in rng.sample(range(len(at)), self.count):
            at[end] = rng.choice(layout.options(end) or [at[end]])
        return Layout(with_ends(layout.circuit, layout, at, {}))

    def test_no_more_than_were_made_and_nothing_left(self) -> None:
        rng = random.Random(12)
        for self.count in (1, 2, 3) * 12:
            layout = self.damaged(rng)
            if layout.works(layout.at):
                continue
            found = mend(BS, layout.circuit)
            self.assertIsNotNone(found)
            self.assertTrue(found.exact)
            self.assertLessEqual(len(found.moves), self.count, [each.words for each in found.moves])
            self.assertEqual(found.left, ())

    def test_as_few_as_trying_everything(self) -> None:
        rng = random.Random(13)
        for self.count in (1, 2) * 4:
            layout = self.damaged(rng)
            if layout.works(layout.at):
                continue
            each = [(end, join) for end in range(len(layout.ends)) for join in layout.options(end)]
            one = any(layout.works([*layout.at[:end], join, *layout.at[end + 1 :]]) for end, join in each)
            self.assertEqual(len(mend(BS, layout.circuit).moves), 1 if one else 2)

    def test_two_that_were_together_meet_in_a_new_connector(self) -> None:
        layout = Layout(as_found(wired(stair("H", "H T"))))
        middle = next(
            join
            for join, (place, names) in enumerate(layout.joins)
            if place == "M" and not names and layout.at.count(join) == 2
        )
        ends = [end for end, join in enumerate(layout.at) if join == middle]
        others = [join for join in layout.options(ends[0]) if join in layout.at and join != middle]
        at = list(layout.at)
        at[ends[0]], at[ends[1]] = others[0], others[1]
        apart = Layout(with_ends(layout.circuit, layout, at, {}))
        if not apart.works(apart.at):
            found = mend(BS, apart.circuit)
            self.assertEqual((found.exact, found.left), (True, ()))
            self.assertLessEqual(len(found.moves), 2)


class NamesOfCables(unittest.TestCase):
    def test_two_like_cables_between_the_same_boxes_are_told_apart(self) -> None:
        circuit = wired(stair("H", "H M T", neutral_at_switches=True))
        legs = [leg for leg in circuit.legs if {leg.a, leg.b} == {"H", "M"}]
        if len(legs) < 2:
            cable = legs[0].model_copy(update={"id": "X9"})
            circuit = circuit.model_copy(update={"legs": (*circuit.legs, cable)})
            legs = [leg for leg in circuit.legs if {leg.a, leg.b} == {"H", "M"}]
        names = {circuit.far_title(leg, "H") for leg in legs}
        self.assertEqual(names, {"M, cable A", "M, cable B"})
        sheet = make_off(BS, circuit)
        box = next(each for each in sheet.boxes if each.place == "H")
        self.assertEqual(len({each.words for each in box.cables}), len(box.cables))
        self.assertEqual(len({each.words for each in sheet.cables}), len(sheet.cables))
        face = next(each for each in faces_of(BS, circuit) if each.place == "M")
        self.assertEqual(len({each.to for each in face.cables}), len(face.cables))
        marked = carry_out(BS, circuit, (SetLeg(leg=legs[0].id, mark="white sheath"),)).circuit
        self.assertEqual(marked.far_title(marked.leg(legs[0].id), "M"), "H, cable A (white sheath)")
        alone = marked.leg("L1")
        self.assertEqual(marked.far_title(alone, "H"), "the board")

    def test_what_is_to_be_done_names_the_cable(self) -> None:
        good = bath()
        self.assertTrue(
            all(
                "cable to" in each.words
                for each in mend(BS, moved(good, "I", core_in(good, "I", "1.LO"), "1.LI")).moves
            )
        )


class PoleByPole(unittest.TestCase):
    def words(self, circuit: Circuit) -> list[str]:
        return [each.words for each in holds(BS, {3: circuit})[1] if each.id in ("not-isolated", "not-linked")]

    def test_a_wire_past_a_pole_is_named_with_the_isolator_off(self) -> None:
        for pole, joined_to in (("L", "line"), ("S", "line"), ("N", "neutral")):

            def joined(joins: list[Join], pole: str = pole) -> list[Join]:
                both = [join for join in joins if {f"1.{pole}I", f"1.{pole}O"} & set(join.terminals)]
                rest = [join for join in joins if join not in both]
                return [*rest, Join(ends=both[0].ends + both[1].ends, terminals=both[0].terminals + both[1].terminals)]

            words = self.words(rejoined(bath(), "I", joined))
            self.assertTrue(any(f"is joined to the {joined_to} with it off" in each for each in words), (pole, words))

    def test_a_switched_line_beside_a_double_pole_isolator_stays_live(self) -> None:
        good = bath()

        def beside(joins: list[Join]) -> list[Join]:
            third = [join for join in joins if {"1.SI", "1.SO"} & set(join.terminals)]
            return [*(join for join in joins if join not in third), Join(ends=third[0].ends + third[1].ends)]

        points = [
            point.model_copy(
                update={"accessories": (Accessory(kind="double-pole"),), "joins": tuple(beside(list(point.joins)))}
            )
            if point.id == "I"
            else point
            for point in good.points
        ]
        bad = Circuit.model_validate(good.model_copy(update={"points": tuple(points)}).model_dump())
        words = self.words(bad)
        self.assertTrue(any("Fan keeps a live line" in each for each in words), words)

    def test_a_neutral_beside_its_isolator_stays_there_with_it_off(self) -> None:
        """The pole has a conductor on both sides, and the fan's own neutral is joined ahead of it."""

        def ahead(joins: list[Join]) -> list[Join]:
            held = {name: join for join in joins for name in join.terminals}
            cores = {name: held[f"1.{name}"].ends for name in ("NI", "NO", "SI", "SO")}
            rest = [join for join in joins if not {f"1.{name}" for name in cores} & set(join.terminals)]
            return [
                *rest,
                Join(ends=cores["NI"] + cores["NO"], terminals=("1.NI",)),
                Join(ends=cores["SO"], terminals=("1.NO",)),
                Join(ends=cores["SI"]),
            ]

        self.assertNotIn("neutral", str(self.words(bath())))
        words = self.words(rejoined(bath(), "I", ahead))
        self.assertTrue(any("Fan keeps its neutral with" in each for each in words), words)

    def test_a_third_pole_may_be_to_spare_but_not_half_wired(self) -> None:
        fan = Point(id="F", name="Fan", kind="fixed", loads=(Load(name="Motor", power_w=20),))
        isolator = Point(id="I", name="Isolator", kind="switch", accessories=(Accessory(kind="isolator-3"),))
        points = [switch("H"), isolator, fan]
        spare = wired(lit("H", points, [control("Fan", "F", "H")], ways("H-I 2", "I-F 1")))
        terminals = {name for join in spare.point("I").joins for name in join.terminals if join.ends}
        if "1.SI" not in terminals:
            self.assertEqual(self.words(spare), [])
        half = moved(bath(), "I", core_in(bath(), "I", "1.SO"), None)
        self.assertTrue(any("switched line does not go through" in each for each in self.words(half)))

    def test_a_pole_in_another_conductor_is_named_each_of_the_three(self) -> None:
        """Off, what is behind it stays on: the pole of the switched line in the neutral, or the line's."""
        for one, other in (("1.SI", "1.NI"), ("1.LI", "1.NI")):
            words = self.words(crossed(bath(), "I", core_in(bath(), "I", one), core_in(bath(), "I", other)))
            for pole in (one, other):
                called = {"L": "line", "S": "switched line", "N": "neutral"}[pole[2]]
                other_is = "line" if pole[2] == "N" else "neutral"
                self.assertTrue(
                    any(f"The {called} pole" in each and f"is in the {other_is}" in each for each in words),
                    (pole, words),
                )
        self.assertEqual(self.words(bath()), [])

    def test_alarms_that_are_all_apart_are_all_named(self) -> None:
        bad = alarms()
        for place in "ABC":
            while any("I" in join.terminals and join.ends for join in bad.point(place).joins):
                bad = moved(bad, place, core_in(bad, place, "I"), None)
        self.assertEqual(len(self.words(bad)), 3)
