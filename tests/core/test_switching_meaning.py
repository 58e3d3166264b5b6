"""What a lamp may be meant to do: several sensors, switches before them, receivers, a master, what holds it on."""

import random
import unittest
from itertools import product

from lumbek.core.judging.check import Verdict
from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import Control, GangAt, Scheme
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.switching.make_off import make_off
from lumbek.core.switching.meaning import Meaning, meaning_of
from lumbek.core.switching.mend import mend
from lumbek.core.switching.plan import plan
from lumbek.core.switching.prove import prove
from lumbek.core.switching.quick import Layout
from tests.support.houses import BS
from tests.support.lighting import as_found, chooser, control, second_proof, wired
from tests.support.lit_rooms import YARDS, cores_moved, kiln_room, yard


# A loop of cables hums, whatever it does to the lights.
def proved(circuit: Circuit) -> list[str]:
    return [
        hazard.words for hazard in prove(BS, {3: circuit}).hazards if hazard.grave and hazard.id != "not-cancelling"
    ]


class Planned(unittest.TestCase):
    def test_each_kind_is_wired_as_both_provers_have_it(self) -> None:
        for name, which in YARDS.items():
            with self.subTest(name):
                circuit = wired(yard(which))
                self.assertEqual((second_proof(circuit), proved(circuit)), ([], []))
                self.assertTrue(Layout(circuit).works(Layout(circuit).at))

    def test_the_cores_counted_are_those_that_are_wired(self) -> None:
        for name, which in YARDS.items():
            with self.subTest(name):
                circuit = yard(which)
                found = chooser(circuit)
                best = found.best()
                assert best is not None
                done = wired(circuit)
                for route, cores in zip(best.tree.routes, best.cores, strict=True):
                    here = [leg for leg in done.legs if {leg.a, leg.b} == {route.a, route.b}]
                    used = 0
                    for leg, core in product(here, ("L", "N", "S1")):
                        if core not in done.cable_of(leg).live_cores:
                            continue
                        joins = (join for point in done.points if point.id == leg.a for join in point.joins)
                        mine = next(join for join in joins if CoreEnd(leg=leg.id, core=core) in _plain(join))
                        used += bool(mine.terminals) or len(mine.ends) > 1
                    self.assertEqual(used, int(cores), (route.a, route.b))

    def test_a_switch_before_a_sensor_takes_its_switched_line_there(self) -> None:
        # Line at A; on to the sensor goes the switched line and the neutral, and no line.
        best = chooser(yard(YARDS["a switch before a sensor"])).best()
        assert best is not None
        runs = {route.b: int(cores) for route, cores in zip(best.tree.routes, best.cores, strict=True)}
        self.assertEqual((runs["B"], runs["P"], runs["Q"], runs["Y"]), (2, 2, 2, 2))
        beside = chooser(yard(control("Yard", "Y", "A", sensor="P"))).best()
        assert beside is not None
        self.assertEqual(int(beside.cores[0]), 3)

    def test_a_receiver_stays_one_and_says_what_is_lost_together(self) -> None:
        circuit = yard(control("Yard", "Y Z", sensor="P"))
        points = tuple(
            point.model_copy(update={"accessories": (Accessory(kind="receiver"),)}) if point.id == "P" else point
            for point in circuit.points
        )
        done = wired(circuit.model_copy(update={"points": points}))
        self.assertEqual(done.point("P").accessories[0].kind, "receiver")
        self.assertEqual(proved(done), [])
        check = next(each for each in prove(BS, {3: done}).checks if each.id == "sensors")
        self.assertIn("Y and Z", check.caution)
        alone = wired(yard(control("Yard", "Y", sensor="P")))
        self.assertEqual(next(each for each in prove(BS, {3: alone}).checks if each.id == "sensors").caution, "")

    def test_a_master_is_wired_on_the_bench(self) -> None:
        circuit = yard(control("Yard", "Y", "A", master={"point": "B", "gang": 1}))
        assert circuit.scheme is not None
        self.assertIn("bench", plan(BS, circuit, circuit.scheme).problems[0])


def _plain(join: Join) -> list[CoreEnd]:
    return [end.model_copy(update={"marked": None}) for end in join.ends]


class Damaged(unittest.TestCase):
    def test_no_damage_that_shows_is_proved_safe(self) -> None:
        pick = random.Random(29)
        shown = 0
        for name, which in YARDS.items():
            circuit = wired(yard(which))
            for _ in range(25):
                other, _ = cores_moved(circuit, pick, 1)
                if second_proof(other):
                    shown += 1
                    with self.subTest(name):
                        self.assertTrue(proved(other))
        self.assertGreater(shown, 60)

    def test_put_right_in_no_more_moves_than_were_made(self) -> None:
        pick = random.Random(31)
        for name, which in YARDS.items():
            circuit = as_found(wired(yard(which)))
            for count in (1, 2):
                other, _ = cores_moved(circuit, pick, count)
                if not second_proof(other):
                    continue
                with self.subTest(name, moves=count):
                    found = mend(BS, other)
                    assert found is not None
                    self.assertLessEqual(len(found.moves), count)
                    self.assertEqual(second_proof(found.design), [])


class Master(unittest.TestCase):
    def test_a_master_and_what_holds_on_are_proved(self) -> None:
        circuit = kiln_room()
        self.assertEqual((second_proof(circuit), proved(circuit)), ([], []))
        self.assertIs(prove(BS, {3: circuit}).verdict, Verdict.PASS)
        self.assertTrue(Layout(circuit).works(Layout(circuit).at))
        self.assertIn("First: Y from A, held on at H, master at M", make_off(BS, circuit).chart)

    def test_a_light_past_its_master_is_told_with_a_state_that_shows_it(self) -> None:
        circuit = _rejoined(kiln_room(), "M", {"L6:L": "1.COM"})
        proof = prove(BS, {3: circuit})
        told = next(each for each in proof.hazards if each.id == "not-as-meant")
        self.assertEqual(told.words, "Y burns with the master at M off")
        self.assertTrue(second_proof(circuit))
        # It is all that is wrong with it, and the state shown has the master off. What comes back through A lights Z.
        of_y = [each.words for each in proof.hazards if each.id == "not-as-meant" and "Y" in each.words]
        self.assertEqual(of_y, [told.words])
        self.assertEqual({each.point: each.position for each in told.stands}["M"], 1)

    def test_what_does_not_hold_on_is_told(self) -> None:
        circuit = _rejoined(kiln_room(), "H", {"L5:L": None})
        self.assertIn("H does not hold Y on", proved(circuit))

    def test_it_is_put_right(self) -> None:
        circuit = as_found(_rejoined(kiln_room(), "M", {"L6:L": "1.COM"}))
        found = mend(BS, circuit)
        assert found is not None
        self.assertEqual(len(found.moves), 1)
        self.assertEqual(second_proof(found.design), [])


def _rejoined(circuit: Circuit, place: str, to: dict[str, str | None]) -> Circuit:
    """The circuit with core ends of a box moved into other terminals, or left off."""
    given = circuit.model_dump()
    point = next(each for each in given["points"] if each["id"] == place)
    for name, terminal in to.items():
        leg, core = name.split(":")
        moved = next(end for join in point["joins"] for end in join["ends"] if (end["leg"], end["core"]) == (leg, core))
        for join in point["joins"]:
            join["ends"] = [end for end in join["ends"] if end is not moved]
        target = next((join for join in point["joins"] if terminal in join["terminals"]), None)
        if target is None:
            point["joins"] = [*point["joins"], {"ends": [moved], "terminals": []}]
        else:
            target["ends"].append(moved)
    return Circuit.model_validate(given)


class Meant(unittest.TestCase):
    def test_when_a_lamp_is_to_burn(self) -> None:
        each = Meaning(("a", "b"), ("s",), True, "m", ("h",))
        for a, b, s, m, h in product((False, True), repeat=5):
            moved = {"a": a, "b": b, "s": s, "m": m, "h": h}
            wanted = (not m) and ((not h) or (not s and not (a ^ b)))
            self.assertEqual(each.wanted(moved, (False, False, False), True), wanted, moved)
        self.assertEqual(len(list(each.signs())), 8)
        self.assertTrue(Meaning().is_fixed)
        self.assertTrue(Meaning().wanted({}, (False, False), True))

    def test_what_cannot_be_meant_says_why(self) -> None:
        for more, why in (
            ({"sensors_behind": True}, "takes a switch, and a sensor"),
            ({"holds": [{"point": "H", "gang": 1}]}, "on for good"),
        ):
            with self.assertRaisesRegex(ValueError, why):
                control("Yard", "Y", **more)
        with self.assertRaisesRegex(ValueError, "switches"):
            control("Yard", "Y", "A", sensor="A")
        with self.assertRaisesRegex(ValueError, "switches in two"):
            Scheme(controls=(control("One", "Y", "A"), control("Two", "Z", "A")))

    def test_a_control_of_before_has_its_sensor_still(self) -> None:
        old = {"id": "S1", "outputs": [{"point": "Y"}], "sensor": {"point": "P", "gang": 2}}
        self.assertEqual(Control.model_validate(old).sensors, (GangAt(point="P", gang=2),))
        self.assertEqual(Control.model_validate({**old, "sensor": None}).sensors, ())

    def test_places_that_are_gone_leave_what_can_still_be_meant(self) -> None:
        scheme = Scheme(controls=(control("Yard", "Y", "A", sensor="P", sensors_behind=True),))
        (left,) = scheme.only(frozenset({"Y", "P"})).controls
        self.assertEqual((left.gangs, left.sensors_behind), ((), False))
        self.assertEqual(meaning_of(left, lambda gang: gang.point).sensors, ("P",))


class InAMoment(unittest.TestCase):
    def test_without_time_the_first_usual_wiring_is_shown_and_not_called_least(self) -> None:
        pick = random.Random(7)
        circuit = as_found(wired(yard(YARDS["two-way beside a sensor"])))
        other = circuit
        while not second_proof(other):
            other, _ = cores_moved(circuit, pick, 3)
        found = mend(BS, other, lambda: False, lambda: False)
        assert found is not None
        self.assertFalse(found.exact)
        self.assertFalse(found.tried)
        self.assertEqual(second_proof(found.design), [])
        least = mend(BS, other)
        assert least is not None
        self.assertLessEqual(len(least.moves), len(found.moves))
