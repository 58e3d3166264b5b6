"""Small named changes: what they set, what follows from a choice, and what they leave alone."""

import unittest

from pydantic import TypeAdapter, ValidationError

from lumbek.core.circuit.commands import Command, carry_out
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.core.survey.commands import JobCommand, carry_out_on_job
from tests.support.houses import BS, SUPPLY, run
from tests.support.stated import a_circuit, a_device

COMMANDS = TypeAdapter(tuple[Command, ...])
JOB_COMMANDS = TypeAdapter(tuple[JobCommand, ...])


def after(circuit: Circuit, *commands: dict, rulebook=BS) -> Circuit:
    return carry_out(rulebook, circuit, COMMANDS.validate_python(commands)).circuit


class Follows(unittest.TestCase):
    def test_only_what_is_named_changes(self) -> None:
        circuit = run(5, notes="kept", reason="because")
        found = after(circuit, {"op": "circuit", "name": "Renamed"})
        self.assertEqual(found, circuit.model_copy(update={"name": "Renamed"}))
        cleared = after(circuit, {"op": "circuit", "reason": ""})
        self.assertEqual((cleared.reason, cleared.notes), ("", "kept"))

    def test_another_kind_brings_its_usual_only_while_nothing_is_drawn(self) -> None:
        empty = after(a_circuit(), {"op": "circuit", "kind": "shower"})
        self.assertEqual((empty.device.rating_a, empty.cable.csa_mm2), (45, 10))
        drawn = after(run(5), {"op": "circuit", "kind": "shower"})
        self.assertEqual((drawn.kind, drawn.device.rating_a, drawn.cable.csa_mm2), ("shower", 32, 2.5))

    def test_another_standard_takes_its_nearest_rating_and_what_it_can_have(self) -> None:
        fuse = after(run(5, device=a_device(rating_a=40)), {"op": "device", "standard": "bs88-3"}).device
        self.assertEqual((fuse.rating_a, fuse.curve, fuse.rcd, fuse.breaking_capacity_ka), (45, None, None, 31.5))
        back = after(run(5, device=fuse), {"op": "device", "standard": "bs-en-61009"}).device
        self.assertEqual((back.rating_a, back.curve, back.rcd.rated_ma), (45, "B", 30))
        chosen = after(run(5), {"op": "device", "standard": "bs3036", "rating_a": 15}).device
        self.assertEqual((chosen.standard, chosen.rating_a), ("bs3036", 15))

    def test_an_rcd_preset_keeps_its_type_and_another_standard_what_is_shared(self) -> None:
        found = after(run(5), {"op": "device", "rcd_type": "F"}, {"op": "device", "rcd": "delayed"}).device.rcd
        self.assertEqual((found.type, found.rated_ma, found.delayed, found.shared), ("F", 100, True, True))
        shared = after(run(5), {"op": "device", "rcd": "shared"}, {"op": "device", "standard": "bs-en-60898"})
        self.assertTrue(shared.device.rcd.shared)
        self.assertIsNone(after(run(5), {"op": "device", "rcd": "none"}, {"op": "device", "rcd_type": "B"}).device.rcd)
        # A new one is of the usual type; of what one as found has in it nobody has read the type.
        for state, kind in (("new", "A"), ("as-found", None)):
            bare = after(run(5, state=state), {"op": "device", "rcd": "none"})
            own = after(bare, {"op": "device", "rcd": "own"}).device.rcd
            self.assertEqual((own.rated_ma, own.type), (30, kind), state)

    def test_another_cable_is_laid_by_a_method_it_has_and_has_its_own_cpc(self) -> None:
        buried = after(run(5, method="101"), {"op": "cable", "type": "armoured"})
        self.assertIn(buried.method, BS.data.cables["armoured"].methods)
        kept = after(run(5, method="C"), {"op": "cable", "type": "multicore"})
        self.assertEqual(kept.method, "C")
        size = after(run(5), {"op": "cable", "cpc_mm2": 4}, {"op": "cable", "csa_mm2": 4}).cable
        self.assertEqual((size.csa_mm2, size.cpc_mm2), (4, None))
        xlpe = after(
            run(5), {"op": "cable", "type": "armoured", "insulation": "xlpe90"}, {"op": "cable", "type": "flex"}
        )
        self.assertIn(xlpe.cable.insulation, BS.data.cables["flex"].insulations)

    def test_of_its_own_electrode_what_is_said_changes_and_no_more(self) -> None:
        typed = {"op": "earth", "own_earth": {"electrode_ohm": 70}}
        chosen = {"op": "earth", "own_earth": {"electrode_origin": "declared"}}
        for first, then in ((typed, chosen), (chosen, typed)):
            own = after(run(5), first, then).own_earth
            self.assertEqual((own.electrode_ohm, own.electrode_origin), (70, "declared"))
        self.assertIsNone(after(run(5), typed).own_earth.electrode_origin)
        self.assertIsNone(after(run(5), typed, {"op": "earth", "own_earth": None}).own_earth)
        blank = after(run(5), typed, {"op": "earth", "own_earth": {"electrode_ohm": None}}).own_earth
        self.assertIsNone(blank.electrode_ohm)

    def test_a_leg_of_its_own_cable(self) -> None:
        own = after(run(5, 5), {"op": "own-cable", "leg": "L2", "own": True})
        self.assertEqual(own.legs[1].cable, own.cable)
        other = after(own, {"op": "cable", "leg": "L2", "type": "armoured"})
        self.assertEqual((other.cable.type, other.legs[1].cable.type), ("flat-twin-and-earth", "armoured"))
        again = after(other, {"op": "own-cable", "leg": "L2", "own": False})
        self.assertEqual((again.legs[1].cable, again.legs[1].segments[0].method), (None, None))

    def test_segments(self) -> None:
        grouped = {"op": "segment", "leg": "L1", "grouped_circuits": 4, "lightly_loaded": 3}
        fewer = after(run(5), grouped, {"op": "segment", "leg": "L1", "grouped_circuits": 2})
        self.assertEqual(fewer.legs[0].segments[0].lightly_loaded, 1)
        ranged = {"op": "segment", "leg": "L1", "length_to_m": 9}
        self.assertEqual(after(run(5), ranged).legs[0].segments[0].length_to_m, 9)
        anew = after(run(5), ranged, {"op": "segment", "leg": "L1", "length_m": 20})
        self.assertIsNone(anew.legs[0].segments[0].length_to_m)
        self.assertIsNone(after(run(5), {"op": "segment", "leg": "L1", "method": "C"}).legs[0].segments[0].method)
        two = after(run(5), {"op": "add-segment", "leg": "L1"})
        self.assertEqual(after(two, {"op": "drop-segment", "leg": "L1", "index": 0}).legs[0].length_m, None)

    def test_points_and_loads(self) -> None:
        spur = after(run(5), {"op": "point", "point": "P1", "kind": "fused-spur"})
        self.assertEqual(spur.point("P1").fuse_a, 13)
        three = after(run(5), {"op": "point", "point": "P1", "kind": "fused-spur", "fuse_a": 3})
        self.assertEqual(three.point("P1").fuse_a, 3)
        self.assertIsNone(after(three, {"op": "point", "point": "P1", "kind": "fixed"}).point("P1").fuse_a)
        loaded = after(
            run(5),
            {"op": "add-load", "point": "P1", "appliance": "kettle"},
            {"op": "add-load", "point": "P1", "power_w": 60},
            {"op": "load", "point": "P1", "index": 1, "name": "lamp"},
            {"op": "drop-load", "point": "P1", "index": 0},
        )
        self.assertEqual([(load.name, load.power_w) for load in loaded.point("P1").loads], [("lamp", 60)])
        with self.assertRaisesRegex(ValidationError, "either current_a or power_w"):
            after(run(5), {"op": "add-load", "point": "P1"})

    def test_commands_go_one_after_another_and_say_where_the_eye_goes(self) -> None:
        found = carry_out(
            BS,
            a_circuit(),
            COMMANDS.validate_python([{"op": "add", "after": "board"}, {"op": "add", "after": "P1", "length_m": 4}]),
        )
        self.assertEqual((len(found.circuit.points), found.focus), (2, "P2"))


class OnJobs(unittest.TestCase):
    def changed(self, *commands: dict) -> tuple[JobHead, Supply]:
        return carry_out_on_job(JobHead(client="Wren"), SUPPLY, JOB_COMMANDS.validate_python(commands))

    def test_each_sets_its_own(self) -> None:
        head, supply = self.changed(
            {"op": "head", "name": "New"},
            {"op": "supply", "ze_ohm": None, "board": "stair"},
            {"op": "main-fuse", "rating_a": 60},
            {"op": "tails", "length_m": 4},
            {"op": "add-service", "what": "gas"},
            {"op": "service", "index": 1, "material": "metal", "bonded": "yes", "bonding_mm2": 10},
            {"op": "drop-service", "index": 0},
        )
        self.assertEqual((head.name, head.client), ("New", "Wren"))
        self.assertEqual((supply.ze_ohm, supply.board, supply.earthing), (None, "stair", "TN-C-S"))
        self.assertEqual((supply.main_fuse.rating_a, supply.main_fuse.standard), (60, "bs88-3"))
        self.assertEqual((supply.tails.length_m, supply.tails.csa_mm2), (4, 25))
        self.assertEqual([(each.what, each.bonding_mm2) for each in supply.services], [("gas", 10)])

    def test_what_is_not_there_is_told(self) -> None:
        with self.assertRaisesRegex(EditRefusedError, "no service 4"):
            self.changed({"op": "drop-service", "index": 3})
        with self.assertRaises(ValidationError):
            self.changed({"op": "supply", "fault_current_ka": 1000})
