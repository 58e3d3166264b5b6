"""Circuits of the street: their cable, what stands at their points, and what a tester reads of them."""

from collections.abc import Iterator
from typing import Any

from tests.support.chances import Chances, Made

# mΩ per metre of copper at 20 °C.
_MILLIOHM = {1.0: 18.1, 1.5: 12.1, 2.5: 7.41, 4.0: 4.61, 6.0: 3.08, 10.0: 1.83, 16.0: 1.15}
_CPC = {1.0: 1.0, 1.5: 1.0, 2.5: 1.5, 4.0: 1.5, 6.0: 2.5, 10.0: 4.0, 16.0: 6.0}
AT = "2026-03-04T10:00:00Z"
# By kind of circuit: sizes of cable, ratings of the device, what stands at its points, watts of each.
KINDS: dict[str, tuple[tuple[float, ...], tuple[int, ...], tuple[str, ...], tuple[int, ...]]] = {
    "sockets": ((2.5, 2.5, 4.0), (16, 20, 32), ("socket-twin", "socket-twin", "socket-single", "fused-spur"), ()),
    "lighting": ((1.0, 1.5), (6, 10), ("light", "light", "switch", "cord-switch", "driver"), (10, 60)),
    "cooker": ((6.0, 10.0), (32, 40), ("cooker-switch", "control-with-socket"), (7200, 11000)),
    "shower": ((6.0, 10.0, 16.0), (32, 40, 50), ("isolator",), (7500, 8500, 10500)),
    "water-heater": ((1.5, 2.5), (16, 20), ("fixed", "isolator"), (3000,)),
    "storage-heater": ((2.5, 4.0), (16, 20), ("fixed",), (2550, 3400)),
    "floor-heating": ((1.5, 2.5), (10, 16), ("fixed", "fused-spur"), (800, 1800)),
    "boiler": ((1.5, 2.5), (6, 16), ("fused-spur",), (150,)),
    "fixed-appliance": ((2.5, 4.0, 6.0), (16, 20, 32), ("fixed", "isolator", "source"), (2000, 3600, 6500)),
    "alarms": ((1.0, 1.5), (6,), ("fixed", "fixed", "fixed"), (5,)),
    "outdoor": ((2.5, 4.0, 6.0), (16, 20, 32), ("joint", "socket-twin", "light"), (400,)),
    "vehicle-charging": ((6.0, 10.0), (32, 40), ("charger",), (7400,)),
    "three-phase": ((2.5, 4.0, 6.0), (16, 20, 32), ("fixed", "isolator"), (6000, 11000)),
}
_OLD_DEVICES = (
    ("bs3036", None, (5, 15, 20, 30)),
    ("bs1361", None, (5, 15, 20, 30)),
    ("bs3871", "2", (5, 15, 30)),
    ("bs88-3", None, (6, 16, 20, 32)),
    ("bs88-2", None, (6, 16, 20, 32)),
)


class Circuits(Chances):
    """Makes the circuits of a house."""

    def circuit(self, number: int, kind: str) -> Made:
        sizes, ratings, kinds, watts = KINDS[kind]
        csa, rating = self.one(sizes), self.one(ratings)
        if kind == "lighting" and self.often(0.08):
            rating = self.one((16, 20, 32))
        count = 1 if kind in ("cooker", "shower", "vehicle-charging", "boiler") else self.one((1, 2, 3, 4, 6))
        if kind == "cooker":
            count = 2
        points = [self._point(f"P{at}", kind, self.one(kinds), watts) for at in range(1, count + 1)]
        if kind in ("cooker", "shower"):
            points[-1] |= {"kind": "fixed", "loads": [self._load(kind, watts)]}
        surroundings = self._surroundings(kind)
        if self.is_sound:
            self._fit(points, rating, surroundings)
        is_ring = kind == "sockets" and rating == 32 and csa == 2.5
        legs = list(self._legs(points, kind, is_ring))
        if not self.is_sound and self.often(0.12):
            self._botch(legs, points)
        is_known = self.often(0.55) or not self.is_old
        readings = list(self._readings(points, legs, csa, is_ring)) if self.often(0.65) else []
        if not is_known:
            self._forget(legs)
        design = {
            "number": number,
            "name": f"{kind.replace('-', ' ').capitalize()} {number}",
            "kind": kind,
            "state": self.one(("new", "altered", "as-found")) if self.is_old else "new",
            "year": self.perhaps(self.one((1961, 1978, 1994, 2009)), 0.5) if self.is_old else None,
            "device_new": self.often(0.2),
            "device": self._device(rating),
            "cable": self._cable(csa, kind),
            "method": "E" if kind in ("outdoor", "three-phase") and self.often(0.8)
            else self.usually("C", "A1", "A2", "B1", "B2", "E") if self.is_iec
            else self.usually("C", "A", "B", "100", "101", "102", "103"),
            "drop_with_ct": self.often(0.2),
            "terminals_90": self.often(0.1),
            "surroundings": surroundings,
            "points": points,
            "legs": legs,
            "remains": [self._remains()] if self.is_old and self.often(0.12) else [],
        }  # fmt: skip
        return {"id": f"C{number}", "design": design, "readings": readings}

    def _fit(self, points: list[Made], rating: int, surroundings: Made) -> None:
        """Let no more be drawn than device and fuse carry, and say where in a bath room each point stands."""
        loads = [(point, load) for point in points for load in point["loads"]]
        for point, load in loads:
            most = 3.0 if point["kind"] == "fused-spur" else float(rating)
            load["power_w"] = min(load["power_w"], round(230 * most * load["power_factor"] * 0.9 / len(loads)))
            load["rated_v"] = None
        for point in points:
            if surroundings["bath_room"]:
                point["zone"] = self.one(("2", "outside", "outside"))
                point["ip"] = "IPX5"

    def _remains(self) -> Made:
        return {
            "left": self.one(("dead", "cut-out")),
            "at": self.one(("board", "P1")),
            "to": "the old pantry",
            "length_m": self.perhaps(self.about(1, 9), 0.5),
            "csa_mm2": self.perhaps(2.5, 0.5),
            "safe": self.perhaps(self.often(0.5)),
        }

    def rcd(self) -> Made | str | None:
        return self.usually(
            {"rated_ma": 30, "type": "A"},
            {"rated_ma": 30, "type": "AC"},
            {"rated_ma": 30, "type": "F"},
            {"rated_ma": 30},
            {"rated_ma": 100, "type": "A", "delayed": True},
            {"rated_ma": 300, "type": "AC"},
            None,
            "unknown",
        )

    def _device(self, rating: int) -> Made:
        breaking = self.perhaps(self.usually(6, 3, 10), 0.7)
        if self.is_old and self.often(0.1 if self.is_sound else 0.5):
            standard, curve, ratings = self.one(_OLD_DEVICES)
            least = next((each for each in ratings if each >= rating), ratings[-1])
            return {
                "standard": standard, "curve": curve, "rating_a": least, "breaking_capacity_ka": breaking,
                "rcd": self.one((None, None, "unknown", {"rated_ma": 30, "type": "AC", "shared": True})),
            }  # fmt: skip
        if self.often(0.02):
            return {"standard": "bs-en-61008", "curve": None, "rating_a": rating, "rcd": self.rcd()}
        standard = self.usually("bs-en-61009", "bs-en-61009", "bs-en-60898")
        return {
            "standard": standard,
            "curve": self.usually("B", "B", "C", "D"),
            "rating_a": rating,
            "breaking_capacity_ka": breaking,
            "let_through_a2s": self.perhaps(self.one((9000, 22000, 45000)), 0.15),
            "rcd": self.rcd() if standard == "bs-en-61009" else self.one((None, None, "unknown")),
            "afdd": self.often(0.1),
            "bidirectional": self.perhaps(self.often(0.6), 0.4),
            "all_poles": self.perhaps(self.often(0.6), 0.4),
        }

    def armoured(self, csa: float) -> Made:
        by = self.one(("core", "armour", "armour", None))
        return {
            "type": "armoured", "insulation": self.one(("xlpe90", "pvc70")), "csa_mm2": csa, "cpc_by": by,
            "cores": 5 if self.phases == 3 and self.often(0.5) else self.one((2, 3)) if by == "armour" else 3,
        }  # fmt: skip

    def _cable(self, csa: float, kind: str) -> Made:
        if kind == "outdoor" or self.often(0.06):
            return self.armoured(csa)
        if kind == "three-phase":
            return {"type": "multicore", "csa_mm2": csa, "cores": 5, "insulation": self.one(("xlpe90", "pvc70"))}
        if self.is_old and self.often(0.15):
            conduit = self.one(("20-light", "20-heavy", None))
            by = self.one(("core", "conduit"))
            return {
                "type": "single-core", "csa_mm2": csa, "cpc_by": by, "conduit": conduit if by == "conduit" else None
            }  # fmt: skip
        cpc = self.perhaps(self.usually(_CPC[csa], _CPC[csa], 1.0), 0.3)
        return {
            "type": self.one(("flat-twin-and-earth",) * 5 + ("multicore", "flat-three-core-and-earth")),
            "csa_mm2": csa,
            "cpc_mm2": cpc,
            "cpc_by": self.usually("core", None, "core", "none" if self.is_old else "core"),
            "insulation": "xlpe90" if self.often(0.1) else "pvc70",
        }

    def _surroundings(self, kind: str) -> Made:
        is_wet = kind in ("shower", "floor-heating") or self.often(0.15)
        return {
            "concealed_shallow": self.perhaps(self.often(0.7)),
            "bath_room": self.perhaps(is_wet, 0.85),
            "no_tray": self.perhaps(self.often(0.5), 0.5) if is_wet else None,
            "supplementary_bonding": self.perhaps(self.often(0.5), 0.5) if is_wet else None,
            "lost_neutral_guard": self.often(0.2),
            "floor_area_m2": self.perhaps(self.about(20, 130), 0.4),
        }

    def _load(self, kind: str, watts: tuple[int, ...]) -> Made:
        return {
            "power_w": float(self.one(watts or (150, 300, 1000, 2200))),
            "power_factor": self.one((1.0, 1.0, 0.95, 0.8)),
            "leakage_ma": self.usually(0.0, 0.0, 0.5, 2.0, 4.5),
            "rated_v": self.perhaps(240.0, 0.1),
            "dc": self.perhaps(self.usually("none", "none", "pulsed", "mixed", "smooth-6ma", "smooth")),
            "inrush_a": self.perhaps(self.one((20.0, 90.0)), 0.1) if kind == "lighting" else None,
            "dimmed_by": self.perhaps(self.one(("leading", "trailing")), 0.1) if kind == "lighting" else None,
        }

    def _point(self, point: str, circuit: str, kind: str, watts: tuple[int, ...]) -> Made:
        is_load = kind in ("fixed", "light", "charger", "fused-spur", "source") or (
            kind.startswith("socket") and self.often(0.15)
        )
        is_wet = self.often(0.03 if self.is_sound else 0.1)
        made: Made = {
            "id": point,
            "name": f"{kind.replace('-', ' ').capitalize()} {point}",
            "at": {"room": self.usually("hall", "kitchen", "loft", "bath")},
            "kind": kind,
            "state": self.one(("new", "as-found")) if self.is_old else "new",
            "class_ii": self.perhaps(self.often(0.4), 0.4),
            "zone": self.one(("0", "1", "2", "outside")) if is_wet else None,
            "ip": self.one(("", "IPX4", "IP20", "IPX7")) if is_wet or circuit == "outdoor" else "",
            "from_zone_1_m": self.perhaps(self.about(0.5, 4), 0.3) if is_wet else None,
            "selv_v": self.perhaps(12, 0.1) if is_wet else None,
            "loads": [self._load(circuit, watts) for _ in range(self.one((1, 1, 2)))] if is_load else [],
        }
        if kind == "fused-spur":
            made["fuse_a"] = self.perhaps(self.one((3, 5, 13)), 0.8)
        if kind == "joint":
            made |= {"reached": self.perhaps(self.often(0.6)), "maintenance_free": self.perhaps(self.often(0.5))}
        if kind in ("charger", "source"):
            made |= {"own_rcd": self.perhaps(self.often(0.5)), "isolator": self.perhaps(self.often(0.6))}
        if kind == "driver":
            made["driver"] = {
                "output_v": self.one((12, 24)), "rated_w": self.perhaps(self.one((30, 60))),
                "load_w": self.perhaps(self.about(10, 70)), "run_m": self.perhaps(self.about(0.5, 9)),
                "csa_mm2": self.perhaps(self.one((0.75, 1.5))),
            }  # fmt: skip
        return made

    # Cable, and what is read of it

    def segment(self, length: float, kind: str) -> Made:
        is_grouped = self.often(0.05 if self.is_sound else 0.3)
        together = self.one((2, 3, 5)) if is_grouped else 1
        is_buried = kind == "outdoor" and self.often(0.6)
        return {
            "length_m": length,
            "length_to_m": round(length * 1.3, 2) if self.often(0.08) else None,
            "method": "D1" if is_buried and self.is_iec else "D" if is_buried else None,
            "ambient_c": self.perhaps(self.one((15.0, 25.0, 40.0)), 0.2),
            "grouped_circuits": together,
            "lightly_loaded": self.one((0, together - 1)) if is_grouped else 0,
            "insulation_mm": self.usually(0, 0, 0, 50, 100, 300),
            "arrangement": self.usually(
                "bunched-or-enclosed", "single-layer-on-wall-or-floor", "single-layer-under-ceiling"
            ),
            "spacing": self.one(("touching", "one-diameter", "0.125 m", "0.25 m")) if is_buried else "touching",
            "depth_m": self.perhaps(self.one((0.5, 1.0)), 0.5) if is_buried else None,
            "soil_km_w": self.perhaps(self.one((1.0, 2.5, 3.0)), 0.5) if is_buried else None,
        }

    def _legs(self, points: list[Made], kind: str, is_ring: bool) -> Iterator[Made]:
        """Yield a run through the points, brought back to the board in a ring; some hang off earlier ones."""
        before = "board"
        on_run = []
        for at, point in enumerate(points, start=1):
            is_spur = len(on_run) > 1 and self.often(0.25)
            start = self.one(tuple(on_run)) if is_spur else before
            parts = [
                self.segment(self.about(1.5, 7 if self.is_sound else 14), kind) for _ in range(self.one((1, 1, 1, 2)))
            ]
            other = {"cable": {"csa_mm2": 2.5 if kind == "sockets" else 1.5, "cpc_by": "core"}}
            own = other if self.often(0.05) else {}
            yield {"id": f"L{at}", "a": start, "b": point["id"], "state": point["state"], "segments": parts, **own}
            if not is_spur:
                before = point["id"]
                on_run.append(before)
        if is_ring and self.often(0.93):
            yield {"id": "LR", "a": before, "b": "board", "segments": [self.segment(self.about(4, 16), kind)]}

    def _botch(self, legs: list[Made], points: list[Made]) -> None:
        """Draw it as some are found: a cable gone, one too many, one that ends in another way, a spur of a spur."""
        what = self.one(("gone", "loop", "way", "spur"))
        last = points[-1]["id"]
        if what == "gone":
            legs.pop(int(self.chance.random() * len(legs)))
        elif what == "loop":
            legs.append({"id": "LX", "a": self.one(("board", "P1")), "b": last, "segments": [{"length_m": 4.5}]})
            if legs[-1]["a"] == last:
                legs.pop()
        elif what == "way":
            legs[0]["other_way"] = self.one((1, 2, 3))
        else:
            for hung in ("X1", "X2"):
                points.append({"id": hung, "kind": "socket-twin", "at": {"room": "loft"}, "state": "as-found"})
                legs.append({"id": f"L{hung}", "a": last, "b": hung, "segments": [{"length_m": self.about(2, 6)}]})
                last = hung

    def _forget(self, legs: list[Made]) -> None:
        """Let the lengths be those of cable in a wall: not known, but for a few."""
        for leg in legs:
            if self.often(0.85):
                for segment in leg["segments"]:
                    segment["length_m"] = segment["length_to_m"] = None
            if self.often(0.05):
                leg["measured_r1_ohm"] = self.about(0.02, 0.2)

    def _readings(self, points: list[Made], legs: list[Made], csa: float, is_ring: bool) -> Iterator[Made]:
        """Yield what a tester writes down: mostly what the cable has, now and then what it should not."""
        ohm = {leg["id"]: sum(each["length_m"] for each in leg["segments"]) * _MILLIOHM[csa] / 1000 for leg in legs}
        ratio = _MILLIOHM[csa] / _MILLIOHM[_CPC[csa]] if _CPC[csa] in _MILLIOHM else 1.0
        slip = self.usually(1.0, 1.0, 1.0, 1.0, 0.5, 1.35, 3.0)
        if is_ring and len(legs) > len(points):
            round_ohm = sum(ohm[leg["id"]] for leg in legs)
            yield read("r1", round(round_ohm, 2))
            yield read("rn", round(round_ohm * self.one((1.0, 1.0, 1.02, slip)), 2))
            yield read("r2", round(round_ohm / ratio * self.one((1.0, 1.0, slip)), 2))
            at_point = round_ohm * (1 + 1 / ratio) / 4
        else:
            at_point = sum(ohm.values()) * (1 + 1 / ratio)
        for at, point in enumerate(points, start=1):
            part = 1.0 if is_ring else at / len(points)
            shown = max(at_point * part * self.chance.uniform(0.94, 1.08) * (slip if at == 2 else 1.0), 0.01)
            if is_ring and self.often(0.7):
                yield read("cross-ln", round(shown * 2 / (1 + 1 / ratio), 2), point["id"])
                yield read("cross-le", round(shown, 2), point["id"])
            elif self.often(0.8):
                yield read("r1+r2", round(shown, 2), point["id"])
            if self.often(0.5) and self.earthing != "TT":
                yield read("zs", round(shown + self.ze_ohm, 2), point["id"])
            if self.often(0.1):
                yield read("r1+rn", round(shown * 2 / (1 + 1 / ratio), 2), point["id"])
            if self.often(0.1):
                yield read("volt-drop", self.about(0.5, 9), point["id"])
        if self.often(0.7):
            yield read("insulation-le", self.usually(200.0, 0.4, 1.5, 19.0))
            yield read("insulation-ll", self.usually(250.0, 0.8, 40.0))
        if self.often(0.6):
            yield seen("polarity", self.usually(True, True, True, True, False))
        if self.often(0.4):
            yield read("rcd-trip", self.usually(29.0, 18.0, 180.0, 310.0))
        if self.often(0.2):
            yield read("rcd-five", self.usually(28.0, 12.0, 60.0))
        if self.often(0.2):
            yield seen("rcd-button", self.usually(True, True, False))
        if self.often(0.05):
            yield read("insulation-le", 999, beyond=True)
        if self.often(0.05):
            yield {**read("rcd-trip", 0.0), "value": None, "untaken": "limitation", "note": "In use"}


def read(quantity: str, value: float, point: str | None = None, **more: Any) -> Made:
    return {"quantity": quantity, "point": point, "value": value, "by": "A. Tester", "at": AT, **more}


def seen(quantity: str, right: bool) -> Made:
    made = {"quantity": quantity, "correct": right, "by": "A. Tester", "at": AT}
    if quantity == "isolation":
        made["isolation"] = {
            "device": "Main switch", "proved_before": True, "pairs": ["L-N", "L-E", "N-E"], "proved_after": True
        }  # fmt: skip
    return made
