"""Everyday circuits of real houses, old ones too, each with the verdict that an assessor would give.

A case is a job file as somebody would write it. Each names the check that it is about, the verdict, and where it
matters the verdict on the whole circuit.
"""

import unittest
from typing import Any

from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from tests.support.houses import BS, IEC, check

P, F, C, N = "pass", "fail", "cannot-tell", "not-applicable"

PME = {
    "earthing": "TN-C-S",
    "ze_ohm": 0.25,
    "ze_origin": "measured",
    "fault_current_ka": 1.0,
    "main_fuse": {"standard": "bs88-3", "rating_a": 80},
    "services": [{"what": "water", "material": "metal", "bonded": "yes", "bonding_mm2": 10}],
}
TT = {**PME, "earthing": "TT", "ze_ohm": 80}
RCD = {"rated_ma": 30, "type": "A"}
SLOW = {"rated_ma": 100, "type": "A", "delayed": True}


def rcbo(rating: float = 32, curve: str = "B", **more: Any) -> dict[str, Any]:
    return {"curve": curve, "rating_a": rating, "breaking_capacity_ka": 6, "rcd": RCD, **more}


def mcb(rating: float = 32, curve: str = "B", **more: Any) -> dict[str, Any]:
    return {**rcbo(rating, curve), "standard": "bs-en-60898", "rcd": None, **more}


def fuse(standard: str, rating: float, **more: Any) -> dict[str, Any]:
    return {
        "standard": standard, "curve": None, "rating_a": rating, "breaking_capacity_ka": 31.5, "rcd": None, **more
    }  # fmt: skip


def load(watts: float, **more: Any) -> dict[str, Any]:
    return {"power_w": watts, "dc": "none", **more}


def radial(*kinds: str | dict[str, Any], length: float = 5, csa: float = 2.5, **more: Any) -> dict[str, Any]:
    """A run through points, each a kind or a point; its cable is flat twin, clipped, unless said."""
    points = [{"id": f"P{i}", **({"kind": each} if isinstance(each, str) else each)} for i, each in enumerate(kinds, 1)]
    ends = ["board", *(point["id"] for point in points)]
    legs = [
        {"id": f"L{i}", "a": ends[i - 1], "b": ends[i], "segments": [{"length_m": length}]} for i in range(1, len(ends))
    ]
    surroundings = {"concealed_shallow": False, "bath_room": False, **more.pop("surroundings", {})}
    cable = {"csa_mm2": csa, **more.pop("cable", {})}
    return {"device": rcbo(), "cable": cable, "points": points, "legs": legs, "surroundings": surroundings, **more}


def ring(*kinds: str | dict[str, Any], spurs: dict[str, list[Any]] | None = None, **more: Any) -> dict[str, Any]:
    """The same brought back to the board; `spurs` are more points off one of it, each off the one before."""
    found = radial(*kinds, **more)
    found["legs"].append(
        {"id": "back", "a": found["points"][-1]["id"], "b": "board", "segments": [{"length_m": 8}]}
    )  # fmt: skip
    for off, hung in (spurs or {}).items():
        for count, each in enumerate(hung, 1):
            point = {"id": f"{off}S{count}", **({"kind": each} if isinstance(each, str) else each)}
            start = off if count == 1 else f"{off}S{count - 1}"
            found["points"].append(point)
            found["legs"].append({"id": f"{off}s{count}", "a": start, "b": point["id"], "segments": [{"length_m": 3}]})
    return found


def swa(csa: float, **more: Any) -> dict[str, Any]:
    return {"type": "armoured", "insulation": "xlpe90", "csa_mm2": csa, "cpc_by": "armour", "cores": 3, **more}


TWIN = ("socket-twin",) * 4


class Cases(unittest.TestCase):
    """A case is a circuit, the check that it is about, and its verdict."""

    def judge(self, circuit: dict[str, Any], supply: dict[str, Any], iec: bool) -> CircuitResult:
        book = IEC if iec else BS
        return judge_circuit(book, Supply.model_validate(supply), Circuit.model_validate(circuit))

    def case(
        self,
        title: str,
        circuit: dict[str, Any],
        about: str,
        verdict: str,
        supply: dict[str, Any] = PME,
        whole: str = "",
        iec: bool = False,
        says: str = "",
    ) -> None:
        with self.subTest(title):
            result = self.judge(circuit, supply, iec)
            found = check(result, about)
            wrong = [(each.id, each.verdict.value, each.answer, each.missing) for each in result.checks]
            details = [each for each in wrong if each[1] in (F, C)]
            self.assertEqual(found.verdict.value, verdict, f"{found.answer} {found.missing}")
            if whole:
                self.assertEqual(result.verdict.value, whole, details)
            if says:
                words = " ".join(
                    [
                        found.answer,
                        found.caution,
                        found.code,
                        *found.missing,
                        *(f"{step.text} {step.sum}" for step in found.steps),
                    ]
                )
                self.assertIn(says, words)


class Assessed(Cases):
    def test_sound_circuits_pass_whole(self) -> None:
        self.case("a ring", ring(*TWIN), "ring-rule", P, whole=P)
        self.case("a ring with spurs", ring(*TWIN, spurs={"P2": ["socket-twin"]}), "spurs", P, whole=P)
        self.case("a 20 A radial", radial(*TWIN, device=rcbo(20)), "cable", P, whole=P)
        self.case("lights", radial("switch", "light", "light", device=rcbo(6), csa=1), "least-size", P, whole=P)
        cooker = radial("control-with-socket", {"kind": "fixed", "loads": [load(10500, diversity="cooker")]}, csa=6)
        self.case("a cooker with a socket", cooker, "load", P, whole=P)
        heater = radial({"kind": "fixed", "loads": [load(3000)]}, device=mcb(16))
        self.case("an immersion heater on a plain breaker, clipped to the surface", heater, "rcd", N, whole=P)
        self.case("the same ring on TT", ring(*TWIN), "zs", P, TT, whole=P)

    def test_buried_cables_carry_less_behind_every_device(self) -> None:
        # 46 A x 0.9 = 41.4 A by the 70 °C column of 4D4A.
        buried = {"method": "D", "cable": swa(6)}
        fixed = {"kind": "fixed"}
        self.case("40 A", radial(fixed, device=mcb(40), **buried), "cable", P)
        self.case("45 A", radial(fixed, device=mcb(45), **buried), "cable", F)
        pvc = {"method": "D", "cable": swa(6, insulation="pvc70")}
        self.case("32 A rewirable: 46 x 0.725 x 0.9", radial(fixed, device=fuse("bs3036", 30), **pvc), "cable", P)
        self.case("45 A rewirable", radial(fixed, device=fuse("bs3036", 45), **pvc), "cable", F)
        four = radial(fixed, device=mcb(32), **buried)
        four["legs"][0]["segments"][0]["grouped_circuits"] = 3
        self.case("three side by side: 41.4 x 0.65", four, "cable", F, says="Cg")
        four["legs"][0]["segments"][0]["spacing"] = "0.25 m"
        self.case("the same spaced out: 41.4 x 0.80", four, "cable", P)

    def test_iec_fuses_are_held_to_what_melts_them(self) -> None:
        nym = {"type": "multicore", "csa_mm2": 2.5}
        # C: 27 A; gG 25 A needs 25 x 1.6 / 1.45 = 27.6 A.
        gg = {"kind": "fixed"}
        self.case("gG 25 A on 2.5", radial(gg, device=fuse("bs88-2", 25), cable=nym), "cable", F, iec=True, says="I2")
        self.case("gG 20 A on 2.5", radial(gg, device=fuse("bs88-2", 20), cable=nym), "cable", P, iec=True)
        self.case("the same 25 A in Britain", radial(gg, device=fuse("bs88-2", 25), cable={"csa_mm2": 2.5}), "cable", P)

    def test_a_socket_brings_its_rules_wherever_it_hangs(self) -> None:
        self.case(
            "in a cooker's control unit on 40 A",
            radial("control-with-socket", "fixed", csa=10, device=mcb(40)), "rcd", F
        )  # fmt: skip
        self.case(
            "in a cooker's control unit on 32 A",
            radial("control-with-socket", "fixed", csa=6, device=mcb(32), kind="cooker"), "rcd", F
        )  # fmt: skip
        garden = {"kind": "outdoor", "cable": swa(4), "method": "D"}
        self.case("in the garden, no RCD", radial("socket-single", device=mcb(16), **garden), "rcd", F)
        self.case("in the garden, S-type", radial("socket-single", device=rcbo(16, rcd=SLOW), **garden), "rcd", F)
        self.case("in the garden", radial("socket-single", device=rcbo(16), **garden), "rcd", P)
        # 0.4 s: at 40 A type C 0.55 Ω, which 0.25 + 0.31 is over; at 5 s a 40 A fuse would have more.
        far = radial("socket-single", device=fuse("bs88-2", 32), csa=4, kind="outdoor", length=50)
        self.case("0.4 s for a socket on a feed", far, "zs", F, says="0.4 s")
        self.case("higher risk, no arc-fault detection", radial("fixed", "socket-twin", device=rcbo(20)),
                  "arc-fault", F, {**PME, "higher_risk": True})  # fmt: skip
        blind = rcbo(20, rcd={"rated_ma": 30, "type": "AC"})
        self.case("type AC ahead of sockets", radial(*TWIN, device=blind), "rcd-type", F)
        heater = {"kind": "fixed", "loads": [load(3000)]}
        self.case("type AC for a heater known to give none", radial(heater, device=blind), "rcd-type", P)
        unsaid = {"kind": "fixed", "loads": [{"power_w": 3000}]}
        self.case("type AC where nobody has said", radial(unsaid, device=blind), "rcd-type", C)

    def test_unfused_spurs_feed_one_thing(self) -> None:
        for title, hung, verdict in (
            ("a twin", ["socket-twin"], P),
            ("one fixed item", ["fixed"], P),
            ("two twins", ["socket-twin", "socket-twin"], F),
            ("a twin and a fused unit", ["socket-twin", "fused-spur"], F),
            ("a fused unit and what hangs behind it", ["fused-spur", "socket-twin", "socket-twin"], P),
        ):
            self.case(title, ring(*TWIN, spurs={"P2": hung}), "spurs", verdict)
        two = ring(*TWIN, spurs={"P2": ["joint", "fused-spur"]})
        two["points"].append({"id": "other", "kind": "fused-spur"})
        two["legs"].append({"id": "other", "a": "P2S1", "b": "other", "segments": [{"length_m": 2}]})
        self.case("two fused units from one joint", two, "spurs", F)
        heavy = ring(*TWIN, spurs={"P2": [{"kind": "socket-twin", "loads": [{"current_a": 24}]}]})
        heavy["legs"][-1]["segments"][0]["method"] = "100"
        self.case("a spur that carries more than its Iz", heavy, "ring-current", F)

    def test_lights_have_their_own_limits_anywhere(self) -> None:
        # 1.5 mm², 10 A, 40 m: 29 x 10 x 40 / 1000 = 11.6 V = 5.0 %.
        lit = {"kind": "light", "loads": [{"current_a": 6}]}
        far = {"length": 25, "csa": 1.5, "device": rcbo(10)}
        self.case(
            "3 % for a light on a fixed circuit", radial("fixed", lit, kind="fixed-appliance", **far), "volt-drop", F
        )
        heater = {"kind": "fixed", "loads": [{"current_a": 6}]}
        self.case(
            "5 % for a heater there", radial("fixed", heater, length=25, csa=1.5, device=rcbo(10)), "volt-drop", P
        )
        strip = {"kind": "fixed", "loads": [{"current_a": 6, "diversity": "lighting"}]}
        self.case("3 % for what counts as lighting", radial("fixed", strip, **far), "volt-drop", F)
        self.case("and 30 mA", radial(strip, device=mcb(6), csa=1.5), "rcd", F)
        self.case("lights on 32 A", radial("light", "light", csa=4), "lampholders", F)
        self.case("lights on 16 A", radial("light", "light", device=rcbo(16)), "lampholders", P)
        self.case("a light behind a fused spur of a ring", ring(*TWIN, spurs={"P2": ["fused-spur", "light"]}),
                  "lampholders", N)  # fmt: skip
        self.case("lights on a circuit for sockets want 30 mA", radial("light", device=mcb(6), csa=1.5), "rcd", F)

    def test_power_wants_one_and_a_half(self) -> None:
        self.case("1 mm² for a heater", radial("fixed", csa=1, device=rcbo(10)), "least-size", F)
        self.case("1 mm² for sockets", radial(*TWIN, csa=1, device=rcbo(10)), "least-size", F)
        self.case("1 mm² for lights and a fan", radial("light", "fixed", csa=1, device=rcbo(6)), "least-size", P)
        self.case("the same on 20 A is for power", radial("light", "fixed", csa=1, device=rcbo(20)), "least-size", F)
        self.case("1 mm² for lights under IEC", radial("light", csa=1, device=rcbo(6)), "least-size", F, iec=True)
        small = ring(*TWIN, spurs={"P2": [{"kind": "fused-spur", "fuse_a": 3}, "fixed"]})
        small["legs"][-1]["cable"] = {"csa_mm2": 1}
        self.case("1 mm² behind 3 A", small, "least-size", P, says="thin")

    def test_feeds_are_judged_whole(self) -> None:
        board = {"device": mcb(40)}
        feed = {"name": "To the shed", "feed": swa(10, cpc_by="core"), "length_m": 20, "method": "D"}
        heater = {"kind": "fixed", "loads": [load(3000)]}

        def behind(**of_feed: Any) -> dict[str, Any]:
            return radial(heater, device=mcb(16), ahead=[board, {**feed, **of_feed}])

        self.case("stated below what hangs on it", behind(current_a=10), "feed", F)
        self.case("stated", behind(current_a=30), "feed", P, whole=P)
        self.case("not stated, and short enough for all it may carry", behind(), "volt-drop", P)
        self.case("not stated, and long", behind(length_m=90), "volt-drop", C, says="current of everything")
        thin = behind(current_a=30, feed=swa(10, cpc_by="core", cpc_mm2=1))
        self.case("a thin cpc", thin, "feed-withstand", P)
        self.case("a thin cpc, at 3 kA", thin, "feed-withstand", C, {**PME, "fault_current_ka": 3})
        self.case(
            "nobody has said what its cpc is", behind(current_a=30, feed=swa(10, cpc_by=None)), "feed-withstand", C
        )

    def test_switches_and_rccbs_are_protected(self) -> None:
        def behind(rating: float, **more: Any) -> dict[str, Any]:
            rccb = {"standard": "bs-en-61008", "curve": None, "rating_a": rating, "rcd": RCD}
            return radial(*TWIN, device=mcb(20), ahead=[{"name": "RCCB", "device": rccb, **more}])

        self.case("63 A behind 80 A", behind(63), "switches", C)
        self.case("63 A, all that hangs on it stated", behind(63, current_a=50), "switches", P)
        self.case("63 A, and more hangs on it", behind(63, current_a=70), "switches", F)
        self.case("80 A behind 80 A", behind(80), "switches", P, whole=P)
        switch = {"standard": "switch", "curve": None, "rating_a": 32, "rcd": None}
        self.case("a switch alone is no device", radial("fixed", csa=6, device=switch), "switches", F)
        self.case("nor is it a ring's", ring(*TWIN, device=switch), "ring-rule", F)

    def test_no_more_than_the_main_fuse(self) -> None:
        big = {"kind": "fixed", "loads": [load(18000)]}
        self.case("78 A on 60 A", radial(big, csa=25, device=mcb(63)), "demand", F,
                  {**PME, "main_fuse": {"standard": "bs88-3", "rating_a": 60}})  # fmt: skip
        self.case("78 A on 80 A", radial(big, csa=25, device=mcb(63)), "demand", P)

    def test_tt(self) -> None:
        for title, supply, verdict in (
            ("no electrode measured", {**TT, "ze_ohm": None}, C),
            ("the electrode declared", {**TT, "ze_origin": "declared"}, C),
            ("nobody says how it is known", {key: TT[key] for key in TT if key != "ze_origin"}, C),
            ("measured", TT, P),
            ("too high", {**TT, "ze_ohm": 1700}, F),
        ):
            self.case(title, ring(*TWIN), "zs", verdict, supply)
        heater = {"kind": "fixed", "loads": [load(3000)]}
        hundred = rcbo(16, rcd={"rated_ma": 100, "type": "A"})
        self.case("100 mA for fixed equipment", radial(heater, device=hundred), "rcd", N, TT, whole=P)
        self.case(
            "100 mA for sockets", radial(*TWIN, device=rcbo(20, rcd={"rated_ma": 100, "type": "A"})), "rcd", F, TT
        )
        self.case("none at all", radial(heater, device=mcb(16)), "zs", F, TT)
        unsaid = {key: value for key, value in mcb(16).items() if key != "rcd"}
        self.case("nothing said of one", radial(heater, device=unsaid), "zs", C, TT)

    def test_what_no_length_changes_is_said_before_any_is_known(self) -> None:
        """An old circuit in the wall, nothing read of it yet."""
        old, high = radial(*TWIN, length=None), {**PME, "earthing": "TN-S", "ze_ohm": 0.8}  # type: ignore[arg-type]
        unread = {**TT, "ze_ohm": None, "ze_origin": None}
        bare, unsaid = {**fuse("bs3036", 30)}, {**fuse("bs3036", 30), "rcd": "unknown"}
        for supply in (TT, unread):
            self.case("no RCD on TT", {**old, "device": bare}, "zs", F, supply, says="TT without an RCD")
            self.case("nobody looked", {**old, "device": unsaid}, "zs", C, supply, says="rated residual current")
            self.case("an RCD", {**old, "device": rcbo()}, "zs", C, supply)
        # Type C of 32 A allows 0.68 Ω, and 0.80 Ω are outside already; type B allows 1.37 Ω.
        self.case("Ze over", {**old, "device": mcb(32, "C")}, "zs", F, high, says="0.80 Ω at least, limit 0.68 Ω")
        self.case("Ze at it", {**old, "device": mcb(32, "C")}, "zs", C, {**high, "ze_ohm": 0.68})
        self.case("Ze under", {**old, "device": mcb(32)}, "zs", C, high)
        self.case("an RCD may serve", {**old, "device": mcb(32, "C", rcd="unknown")}, "zs", C, high)
        self.case("an RCD serves", {**old, "device": rcbo(32, "C")}, "zs", C, high)
        assumed = {**high, "ze_ohm": None, "ze_origin": None}
        self.case("Ze assumed", {**old, "device": mcb(32, "C")}, "zs", C, assumed)
        # 40 m of 6 mm² before it are 0.50 Ω; if they may be 5 m, nothing is sure.
        feed = {"name": "Feed", "feed": {"csa_mm2": 6, "cpc_by": "core"}, "length_m": 40, "current_a": 10}
        behind = {**old, "device": mcb(32, "C"), "ahead": [feed]}
        self.case("the feed over", behind, "zs", F, {**high, "ze_ohm": 0.4}, says="0.91 Ω at least")
        ranged = {**behind, "ahead": [{**feed, "least_length_m": 5}]}
        self.case("the feed in a range", ranged, "zs", C, {**high, "ze_ohm": 0.4})
        drawn = radial(*TWIN, device=mcb(32, "C"))
        self.case("drawn", drawn, "zs", F, high, says="R1 + R2 at 20 °C")
        self.case("far over", {**old, "device": mcb(32)}, "zs", F, {**high, "ze_ohm": 1.38}, says="limit 1.37 Ω")

    def test_charging_by_the_point(self) -> None:
        built_in = {"current_a": 32, "diversity": "vehicle", "dc": "smooth-6ma"}
        plain = {**built_in, "dc": None}
        charger, silent = {"kind": "charger", "loads": [built_in]}, {"kind": "charger", "loads": [plain]}
        guarded = {"surroundings": {"lost_neutral_guard": True}}
        for kind in ("vehicle-charging", "outdoor", "sockets"):
            good = radial(charger, csa=10, device=rcbo(40, all_poles=True), kind=kind, **guarded)
            single = radial(charger, csa=10, device=rcbo(40, all_poles=False), kind=kind, **guarded)
            self.case(f"the neutral stays joined, on {kind}", single, "charging", F)
            unsaid = radial(charger, csa=10, device=rcbo(40), kind=kind, **guarded)
            self.case(f"poles not said, on {kind}", unsaid, "charging", C)
            self.case(f"sound, on {kind}", good, "charging", P, whole=P)
            self.case(f"type A, not said, on {kind}", radial(silent, csa=10, device=rcbo(40), kind=kind), "rcd-type", C)
            blind = rcbo(40, rcd={"rated_ma": 30, "type": "AC"})
            self.case(f"type AC, on {kind}", radial(charger, csa=10, device=blind, kind=kind), "rcd-type", F)
            self.case(f"PME, on {kind}", radial(charger, csa=10, device=rcbo(40), kind=kind), "pme", C)
        smooth = {"kind": "charger", "loads": [{**built_in, "dc": "smooth"}]}
        self.case("type A blinded", radial(smooth, csa=10, device=rcbo(40)), "rcd-type", F)
        ahead = [{"name": "Main RCCB", "device": {"standard": "bs-en-61008", "curve": None, "rating_a": 80,
                                                  "rcd": {"rated_ma": 100, "type": "A", "delayed": True}}}]  # fmt: skip
        b_type = rcbo(40, rcd={"rated_ma": 30, "type": "B"})
        self.case("type A ahead blinded", radial(smooth, csa=10, device=b_type, ahead=ahead), "rcd-type", F)
        self.case("with a socket", radial(charger, "socket-single", csa=10, device=rcbo(40)), "charging", F)
        self.case("two on one circuit", radial(charger, charger, csa=10, device=rcbo(40)), "charging", C)
        own = {**charger, "own_rcd": True}
        self.case("two, each with its own RCD", radial(own, own, csa=10, device=rcbo(40)), "charging", P)

    def test_rcds_in_series(self) -> None:
        def behind(first: dict[str, Any], second: dict[str, Any] = RCD) -> dict[str, Any]:
            rccb = {"standard": "bs-en-61008", "curve": None, "rating_a": 80, "rcd": first}
            return radial(*TWIN, device=rcbo(20, rcd=second), ahead=[{"name": "Main RCCB", "device": rccb}])

        self.case("two of 30 mA", behind(RCD), "rcd-series", F)
        self.case("S-type of 100 mA ahead", behind(SLOW), "rcd-series", P, whole=P)
        self.case("S-type, too near", behind({**SLOW, "rated_ma": 60}), "rcd-series", F)
        self.case("100 mA that does not wait", behind({**SLOW, "delayed": False}), "rcd-series", F)
        self.case("AC ahead of A", behind({**SLOW, "type": "AC"}), "rcd-type", F)
        self.case("an RCCB of which nothing is said", behind({}), "rcd-series", C)
        ahead = radial(*TWIN, device=mcb(20), ahead=[{"device": {"standard": "bs-en-61008", "curve": None,
                                                                 "rating_a": 80, "rcd": RCD}}])  # fmt: skip
        self.case("30 mA ahead counts", ahead, "rcd", P, whole=P)

    def test_bath_rooms(self) -> None:
        def at(kind: str, zone: str, **more: Any) -> dict[str, Any]:
            return radial({"kind": kind, "zone": zone, **more.pop("point", {})}, device=rcbo(6), csa=1.5, **more)

        for title, circuit, verdict in (
            ("a light in zone 1", at("light", "1"), C),
            ("a light in zone 1, IPX4", at("light", "1", point={"ip": "IPX4"}), P),
            ("a light in zone 2, IP44", at("light", "2", point={"ip": "IP44"}), P),
            ("a light in zone 2, IP23", at("light", "2", point={"ip": "IP23"}), F),
            ("a light in zone 2, IP4X", at("light", "2", point={"ip": "IP4X"}), C),
            ("a light outside the zones", at("light", "outside"), P),
            ("a 12 V light in zone 0, IP65", at("light", "0", point={"selv_v": 12, "ip": "IP65"}), F),
            ("a light in zone 0", at("light", "0"), F),
            ("a 12 V light in zone 0", at("light", "0", point={"selv_v": 12, "ip": "IP67"}), P),
            ("a 24 V light in zone 0", at("light", "0", point={"selv_v": 24}), F),
            ("a switch in zone 2", at("switch", "2"), F),
            ("a cord switch in zone 2", at("cord-switch", "2"), F),
            ("a cord switch outside", at("cord-switch", "outside"), P),
            ("a shaver supply in zone 2", at("shaver-socket", "2"), P),
            ("a shaver supply in zone 1", at("shaver-socket", "1"), F),
            ("a shaver supply in zone 2 with no tray", at("shaver-socket", "2", surroundings={"no_tray": True}), F),
            ("a socket, who knows how far", at("socket-twin", "outside"), C),
            ("a socket 2.4 m away", at("socket-twin", "outside", point={"from_zone_1_m": 2.4}), F),
            ("a socket 2.5 m away", at("socket-twin", "outside", point={"from_zone_1_m": 2.5}), P),
            ("a socket in zone 2", at("socket-twin", "2"), F),
        ):
            self.case(title, circuit, "bath", verdict)
        here = {"surroundings": {"bath_room": True}}
        self.case("a socket in the bath room, who knows where", radial("socket-twin", **here), "bath", C, says="stands")
        named = radial({"kind": "socket-twin", "room": "Bathroom"})
        self.case("the same by the name of its room", named, "bath", C)
        self.case("lights that cross one", radial("light", device=rcbo(6), csa=1.5, **here), "bath", N)
        beside = radial({"kind": "light", "zone": "outside", "room": "En-suite"}, {"kind": "light", "room": "En-suite"},
                        device=rcbo(6), csa=1.5)  # fmt: skip
        self.case("one placed, its neighbour not", beside, "bath", C)
        heater = radial({"kind": "fixed", "zone": "2", "loads": [load(1000)]}, device=mcb(16))
        self.case("a zone makes it a bath room: 30 mA", heater, "rcd", F)
        self.case("and asks for its bonding", at("light", "2"), "bath-bonding", P, says="left out")
        bare = {**PME, "services": [{"what": "water", "material": "metal", "bonded": "no"}]}
        self.case("pipes not bonded, nobody has looked", at("light", "2"), "bath-bonding", C, bare)
        not_bonded = {"surroundings": {"supplementary_bonding": False}}
        nobody = {**PME, "services": []}
        self.case("nobody has looked at pipes", at("light", "2"), "bath-bonding", P, nobody, says="nobody has said")
        self.case("nor the room", at("light", "2", **not_bonded), "bath-bonding", F, bare)
        shower = {"kind": "fixed", "loads": [load(9500, diversity="instantaneous")]}
        maybe = radial(shower, csa=10, device=mcb(45))
        maybe["surroundings"]["bath_room"] = None
        self.case("an electric shower or a tap", maybe, "rcd", C)

    def test_cables_as_they_are(self) -> None:
        heater = {"kind": "fixed", "loads": [load(3000)]}
        two = swa(2.5, cores=2, cpc_by="core")
        self.case("two cores, and one the cpc", radial(heater, device=mcb(16), cable=two), "cpc", F)
        self.case(
            "two cores and the armour", radial(heater, device=mcb(16), cable={**two, "cpc_by": "armour"}), "cpc", N
        )
        self.case(
            "nobody has said what its cpc is", radial(heater, device=mcb(16), cable={**two, "cpc_by": None}), "zs", C
        )
        lagged = radial(heater, device=mcb(16), method="102")
        self.case("2.5 in a stud wall, 21 A", lagged, "cable", P)
        lagged["legs"][0]["segments"][0]["insulation_mm"] = 500
        self.case("surrounded there: 13.5 A", lagged, "cable", F)
        self.case("mini-trunking: 23 A", radial(heater, device=mcb(20), method="B"), "cable", P)
        # 4 mm² XLPE clipped: 49 A by its own column, 38 A at 70 °C.
        hot = {"cable": swa(4), "device": mcb(40)}
        self.case("90 °C cable on 70 °C terminals", radial(heater, **hot), "cable", F, says="70 °C")
        self.case("on terminals made for it", radial(heater, terminals_90=True, **hot), "cable", P)
        motor = radial({"kind": "fixed", "loads": [load(6000)]}, kind="three-phase", device=mcb(16, "C"))
        self.case("three lines of one", motor, "phases", F)
        self.case("three lines", motor, "phases", P, {**PME, "phases": 3})
        shallow = {"surroundings": {"concealed_shallow": True}}
        armoured = radial(heater, device=mcb(16), cable=swa(2.5), **shallow)
        self.case("armour in a wall is earthed metal", armoured, "rcd", N)
        mixed = radial(heater, heater, device=mcb(16), **shallow)
        mixed["legs"][0]["cable"] = swa(2.5)
        self.case("flat cable beyond armour in a wall", mixed, "rcd", F)
        self.case("flat cable in a wall", radial(heater, device=mcb(16), **shallow), "rcd", F)
        unsaid = radial(heater, device=mcb(16), surroundings={"concealed_shallow": None})
        self.case("nobody has said where it runs", unsaid, "rcd", C)
        self.case("nor need anybody behind 30 mA", {**unsaid, "device": rcbo(16)}, "rcd", P)

    def test_old_stock(self) -> None:
        lights = radial("light", "light", device=fuse("bs3036", 5, breaking_capacity_ka=1, rcd=RCD), csa=1.3,
                        cable={"cpc_by": "none"}, state="as-found")  # fmt: skip
        for each in (*lights["points"], *lights["legs"]):
            each["state"] = "as-found"
        self.case("no cpc, nobody has looked", lights, "cpc", C)
        for each in lights["points"]:
            each["class_ii"] = True
        self.case("no cpc, class II", lights, "cpc", P, says="C3")
        self.case("and the loop does not arise", lights, "zs", N)
        lights["points"][1]["class_ii"] = False
        self.case("no cpc at a metal fitting", lights, "cpc", F, says="C2")
        lights["points"][1].update(class_ii=True, state="new")
        self.case("a new light on old cable", lights, "cpc", F, says="New cable")
        new = radial("light", device=rcbo(6), csa=1, cable={"cpc_by": "none"})
        self.case("no cpc on new work", new, "cpc", F)
        # 7/.029: 3 mm², rated as 2.5; 1.3 mm² cpc.
        old = radial(
            *TWIN, csa=3, cable={"cpc_mm2": 1.3}, device=fuse("bs1361", 20, breaking_capacity_ka=16.5, rcd=RCD)
        )
        self.case("imperial copper on a cartridge fuse", old, "zs", P, whole=P, says="20 A")
        slow = {"standard": "bs3871", "curve": "2", "rating_a": 20, "breaking_capacity_ka": 3, "rcd": RCD}
        self.case("of an old breaker only its 0.1 s is known", radial(*TWIN, device=slow), "withstand", C)
        self.case("its capacity", old, "cable", P, says="7/.029")
        breaker = radial(*TWIN, device={"standard": "bs3871", "curve": "3", "rating_a": 20, "breaking_capacity_ka": 3,
                                        "rcd": RCD}, length=3)  # fmt: skip
        self.case("BS 3871 type 3: ten times", breaker, "zs", P, says="200 A")
        wire = fuse("bs3036", 30, breaking_capacity_ka=2)
        self.case("rewirable, 1 mm² cpc, by its curve", radial("fixed", csa=6, cable={"cpc_mm2": 1}, device=wire),
                  "withstand", F)  # fmt: skip
        large = fuse("bs3036", 45, breaking_capacity_ka=4)
        self.case("a larger one, by its kind", radial("fixed", csa=10, device=large), "withstand", P, says="its kind")
        self.case("with too little, it cannot tell", radial("fixed", csa=10, cable={"cpc_mm2": 1.5}, device=large),
                  "withstand", C)  # fmt: skip
        self.case("rewirable, 2.5 mm² cpc", radial("fixed", csa=6, device=wire), "withstand", P)

    def test_fault_current_and_what_it_does(self) -> None:
        strong = {**PME, "ze_ohm": 0.03}
        self.case("U0 / Ze is greater than what was read", radial(*TWIN, device=rcbo(20)), "breaking", C, strong)
        ten = rcbo(20, breaking_capacity_ka=10)
        self.case("10 kA breaks it", radial(*TWIN, device=ten), "breaking", P, strong)
        boxed = {**strong, "board_conditional_ka": 16}
        self.case("the enclosure's conditional rating", radial(*TWIN, device=rcbo(20)), "breaking", P, boxed)
        other = {**boxed, "main_fuse": {"standard": "unknown", "rating_a": 80}}
        self.case("behind a fuse nobody knows", radial(*TWIN, device=rcbo(20)), "breaking", C, other)
        near = {"feed": swa(16, cpc_by="core"), "length_m": 1, "current_a": 20}
        beyond = radial(*TWIN, device=rcbo(20), ahead=[near])
        self.case("which is not that of a board behind a feed", beyond, "breaking", F, boxed)
        unsaid = {key: value for key, value in rcbo(20).items() if key != "breaking_capacity_ka"}
        self.case("nobody has read it off", radial(*TWIN, device=unsaid), "breaking", C)
        lights = radial("light", device=rcbo(6), csa=1)
        for current, verdict in ((1.1, P), (2.5, P), (3.0, P), (3.1, C), (5.0, C)):
            self.case(f"1 mm² cpc at {current} kA", lights, "withstand", verdict, {**PME, "fault_current_ka": current})
        strong_supply = {**PME, "fault_current_ka": 2.5}
        self.case("by the published least sizes", lights, "withstand", P, strong_supply, says="published least sizes")
        slow_curve = radial("light", device=rcbo(6, curve="C"), csa=1)
        self.case("which ask more behind type C", slow_curve, "withstand", C, strong_supply)
        thicker = radial("light", device=rcbo(16, curve="C"), cable={"csa_mm2": 1.5, "cpc_mm2": 1.5})
        self.case("1.5 mm² behind C 16 at 3 kA", thicker, "withstand", P, {**PME, "fault_current_ka": 3.0})
        small = radial("light", device=rcbo(6, let_through_a2s=9000), csa=1)
        self.case("with its maker's figure", small, "withstand", P, {**PME, "fault_current_ka": 2.5})
        large = radial("light", device=rcbo(6, let_through_a2s=14000), csa=1)
        self.case("which may be too much", large, "withstand", F, {**PME, "fault_current_ka": 2.5})

    def test_what_is_sound_is_not_failed(self) -> None:
        heater = {"kind": "fixed", "loads": [load(3000, rated_v=240)]}
        self.case("3 kW at 240 V draws 12 A", radial(heater, device=mcb(16)), "load", P, says="11.98")
        plugged = [
            {"kind": "socket-twin", "loads": [{"power_w": watts, "diversity": "sockets"}]}
            for watts in (3000, 2200, 2100, 2000, 1500)
        ]
        self.case("a kitchen's appliances on a ring", ring(*plugged), "load", P, says="Diversity")
        shed = {"kind": "board", "loads": [{"current_a": 20}]}
        feed = radial(shed, kind="outdoor", device=mcb(32, "C"), cable=swa(6), method="D")
        self.case("a feed to a shed wants no 30 mA of its own", feed, "rcd", N, whole=P)
        self.case("on TT it has an S-type", {**feed, "device": rcbo(32, "C", rcd=SLOW)}, "zs", P, TT, whole=P)
        # 0.25 + 40 x (7.41 + 12.10) x 1.2 mΩ = 1.19 Ω: over 0.91 Ω at 0.4 s, under 1.59 Ω at 5 s.
        far = radial("fixed", device=fuse("bs88-3", 32), csa=2.5, length=40)
        self.case("0.4 s for equipment", {**far, "kind": "fixed-appliance"}, "zs", F)
        self.case("5 s for another board", {**far, "points": [{"id": "P1", "kind": "board"}]}, "zs", P)
        self.case("outdoors it may be either", {**far, "kind": "outdoor"}, "zs", C, says="another board")
        self.case("a 20 A ring", ring(*TWIN, device=rcbo(20)), "ring-rule", P, says="not the usual ring", whole=P)
        long = ring(*TWIN, length=60)
        self.case("a loop only the RCD cuts off", long, "zs", P, says="only the RCD", supply={**PME, "ze_ohm": 0.8})
        self.case("which a breaker alone does not", {**long, "device": mcb()}, "zs", F, {**PME, "ze_ohm": 0.8})
        socket = radial("control-with-socket", "fixed", csa=10, device=fuse("bs88-2", 40, rcd=RCD))
        self.case("a socket behind a fuse with no figure for 0.4 s", socket, "zs", P, says="only the RCD")
        self.case("which without an RCD is its maker's", {**socket, "device": fuse("bs88-2", 40)}, "zs", C)
        washer = [{"kind": "socket-twin", "loads": [{"power_w": 2200, "dc": "mixed"}]}]
        self.case("type A with an inverter motor", radial(*washer, device=rcbo(20)), "rcd-type", P, says="type F")
        noise = {"kind": "light", "loads": [{"current_a": 0.4}] * 15}
        self.case("15 x 0.4 A on 6 A", radial(noise, device=rcbo(6), csa=1.5), "load", P)
        noise["loads"] = [*noise["loads"], {"current_a": 0.0001}]
        self.case("and a hair more", radial(noise, device=rcbo(6), csa=1.5), "load", F)

    def test_an_outbuilding_with_its_own_electrode(self) -> None:
        board = {"kind": "board", "loads": [{"current_a": 10}]}
        island = {"kind": "outdoor", "cable": swa(4, cores=2), "method": "D", "own_earth": {"electrode_ohm": 60}}
        # Line and armour of 40 m: 40 x (4.61 x 1.28 + 7.5 x 1.27) mΩ and more.
        self.case("near", radial(board, device=rcbo(20, rcd=SLOW), **island), "armour", P)
        self.case("far, on type C", radial(board, device=rcbo(20, "C", rcd=SLOW), length=120, **island), "armour", F)
        # A fuse of 32 A at the house: 1.59 Ω at 5 s, 0.91 Ω at 0.4 s.
        house = fuse("bs88-3", 32)
        self.case("in the time of a feed", radial(board, device=house, length=60, **island), "armour", P, says="5 s")
        strong = {**PME, "fault_current_ka": 3}
        self.case("its armour survives", radial(board, device=rcbo(20, rcd=SLOW), **island), "withstand", P, strong)
        much = rcbo(20, rcd=SLOW, let_through_a2s=4_000_000)
        self.case("or does not", radial(board, device=much, **island), "withstand", F, strong)
        self.case(
            "with no armour", radial(board, device=rcbo(20, rcd=SLOW), own_earth={"electrode_ohm": 60}), "armour", N
        )

    def test_sources(self) -> None:
        sun = {"kind": "source", "isolator": True, "loads": [{"current_a": 16, "dc": "none"}]}
        both = rcbo(20, bidirectional=True)
        self.case("sound", radial(sun, device=both, csa=4), "sources", P, whole=P)
        self.case("a device for one direction", radial(sun, device=rcbo(20, bidirectional=False), csa=4), "sources", F)
        self.case("nobody has looked", radial(sun, device=rcbo(20), csa=4), "sources", C)
        self.case("nor in an AFDD", radial(sun, device=mcb(20, afdd=True), csa=4), "sources", C)
        self.case("a plain breaker does not mind", radial(sun, device=mcb(20), csa=4), "sources", P)
        self.case("nothing to isolate it", radial({**sun, "isolator": False}, device=both, csa=4), "sources", F)
        self.case("on a socket circuit", radial(sun, "socket-twin", device=both, csa=4), "sources", F)
        unsaid = {**sun, "loads": [{"current_a": 16}]}
        self.case("d.c. part not said", radial(unsaid, device=both, csa=4), "rcd-type", C)


if __name__ == "__main__":
    unittest.main()
