"""A street of houses as they are met: new and old, drawn and only read, sound and not. Each is made by its number.

What is made is a job file, plain data; nothing of the application is asked, so that it cannot agree with itself.
"""

import random
from collections.abc import Iterator
from typing import Any

from lumbek.core.model.job import Job
from lumbek.exchange.job_file import make_job

Made = dict[str, Any]
# mΩ per metre of copper at 20 °C.
_MILLIOHM = {1.0: 18.1, 1.5: 12.1, 2.5: 7.41, 4.0: 4.61, 6.0: 3.08, 10.0: 1.83, 16.0: 1.15}
_CPC = {1.0: 1.0, 1.5: 1.0, 2.5: 1.5, 4.0: 1.5, 6.0: 2.5, 10.0: 4.0, 16.0: 6.0}
# Of five hundred those that between them go every way through the rules that any of them goes, twice where two do.
HOUSES = (
    2,
    4,
    8,
    10,
    19,
    27,
    31,
    32,
    41,
    51,
    58,
    60,
    62,
    63,
    68,
    69,
    82,
    90,
    114,
    117,
    118,
    134,
    146,
    157,
    167,
    176,
    183,
    195,
    206,
    207,
    213,
    219,
    240,
    244,
    251,
    252,
    257,
    265,
    280,
    283,
    285,
    295,
    299,
    309,
    316,
    327,
    333,
    367,
    375,
    390,
    403,
    407,
    408,
    423,
    431,
    449,
    465,
    467,
    492,
    493,
)
_AT = "2026-03-04T10:00:00Z"
# By kind of circuit: sizes of cable, ratings of the device, what stands at its points, watts of each.
_KINDS: dict[str, tuple[tuple[float, ...], tuple[int, ...], tuple[str, ...], tuple[int, ...]]] = {
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


class House:
    """One house of the street in the making."""

    def __init__(self, number: int) -> None:
        """Take the chances of a house by its number."""
        self.chance = random.Random(number)
        self.number = number
        # Sound: all is known of it, and nothing is wrong by intent.
        self.is_sound = False
        self.is_iec = self.often(0.25)
        self.is_old = self.often(0.5)
        self.phases = 3 if self.often(0.4 if self.is_iec else 0.08) else 1
        self.earthing = self.one(("TN-S", "TN-C-S", "TN-C-S", "TT"))
        self.ze_ohm = round(self.chance.uniform(18, 190), 1) if self.earthing == "TT" else self.about(0.08, 0.8)
        self.is_sound = self.often(0.3)

    def often(self, part: float) -> bool:
        """Whether it is so, in this part of all houses."""
        return self.chance.random() < part

    def one(self, several: tuple[Any, ...]) -> Any:
        """One of several."""
        return several[int(self.chance.random() * len(several))]

    def usually(self, good: Any, *others: Any) -> Any:
        """What it should be; or one of others, where the house is not sound."""
        found = self.one((good, *others))
        return good if self.is_sound else found

    def about(self, least: float, most: float) -> float:
        """A figure between two."""
        return round(self.chance.uniform(least, most), 2)

    def perhaps(self, value: Any, part: float = 0.75) -> Any:
        """A value, or that nobody has said."""
        return value if self.often(1 - (1 - part) / 20 if self.is_sound and part > 0.5 else part) else None

    def job(self) -> Made:
        """Make the job file."""
        wanted = ["sockets", "lighting", *(self.one(tuple(_KINDS)) for _ in range(3))]
        kinds = [kind for kind in wanted if kind != "three-phase" or self.phases == 3]
        circuits = [self._circuit(number, kind) for number, kind in enumerate(kinds, start=1)]
        boards = [self._board(circuits)] if self.often(0.7) else []
        if boards and self.often(0.35):
            self._add_outbuilding(circuits, boards)
        if boards and self.often(0.12):
            self._add_second(circuits, boards)
        return {
            "format": "lumbek-job",
            "version": 5,
            "name": f"House {self.number}",
            "rulebook": "iec60364" if self.is_iec else "bs7671",
            "protection_school": self.one(("rcbo-each", "shared-rcds")),
            "extent": self._extent(),
            "supply": self._supply(),
            "boards": boards,
            "circuits": circuits,
            "readings": [*self._of_installation(), *self._of_shared(boards)],
            "visits": [self._visit()] if self.often(0.5) else [],
        }

    def _extent(self) -> Made:
        return {
            "state": self.one(("altered", "as-found")) if self.is_old else "new",
            "year": self.perhaps(self.one((1958, 1972, 1989, 2003, 2012))) if self.is_old else None,
            "work": self.one(("whole", "whole", "change")),
            "sampling": self.one(("every", "ends", "share")),
        }

    def _visit(self) -> Made:
        warm = self.one((5.0, 14.0, 20.0, 27.0))
        lead = self.perhaps(0.07)
        return {"id": "V1", "by": "A. Tester", "at": _AT, "ambient_c": warm, "lead_ohm": lead, "leads_nulled": True}

    # The supply

    def _supply(self) -> Made:
        services = [
            {
                "what": self.one(("water", "gas", "oil", "steel")),
                "material": self.usually("metal", "metal", "plastic", "unknown"),
                "bonded": self.usually("yes", "yes", "no", "unknown"),
                "bonding_mm2": self.perhaps(self.usually(10, 4, 6, 16)),
                "within_600mm": self.perhaps(self.often(0.8)),
            }
            for _ in range(self.one((0, 1, 1, 2, 3)))
        ]
        standard = self.one(("bs88-3", "bs1361", "iec60269", "unknown"))
        return {
            "earthing": self.perhaps(self.earthing, 0.93),
            "phases": self.phases,
            "ze_ohm": self.perhaps(self.ze_ohm, 0.85),
            "ze_origin": self.one(("measured", "declared")),
            "fault_current_ka": self.perhaps(self.about(0.3, 2.5 if self.is_sound else 7), 0.8),
            "fault_current_origin": self.perhaps(self.one(("measured", "declared"))),
            "board_conditional_ka": self.perhaps(16, 0.3),
            "main_fuse": {"standard": standard, "rating_a": self.perhaps(self.one((60, 63, 80, 100)), 0.85)},
            "declared_limit_a": self.perhaps(self.one((40, 60)), 0.1),
            "tails": {
                "csa_mm2": self.perhaps(self.usually(25, 10, 16), 0.85),
                "length_m": self.perhaps(self.usually(2.0, 0.8, 3.5, 6.0)),
                "own_device": self.often(0.2),
            },
            "earthing_conductor_mm2": self.perhaps(self.usually(16, 4, 6, 10), 0.85),
            "services": services,
            "higher_risk": self.often(0.1),
            "surge_protection": self.usually("fitted", "declined", "unknown"),
        }

    def _of_installation(self) -> Iterator[Made]:
        if self.often(0.6):
            yield _seen("isolation", True)
        if self.often(0.5):
            yield _read("ze", round(self.ze_ohm * self.chance.uniform(0.85, 1.2), 2))
        if self.often(0.4):
            yield _read("fault-current", self.about(0.3, 6))
        if self.often(0.3):
            yield _read("earth-continuity", self.about(0.01, 0.4))
        if self.often(0.3):
            yield _read("board-insulation", self.about(0.3, 300))
        if self.often(0.3):
            yield _seen("supply-polarity", self.often(0.9))
        if self.often(0.2):
            yield _read("electrode", self.about(15, 300))

    def _of_shared(self, boards: list[Made]) -> Iterator[Made]:
        """Yield what is read at RCDs that several circuits share."""
        for group in (group for board in boards for group in board["groups"] if isinstance(group["rcd"], dict)):
            if self.often(0.4):
                yield _read("shared-rcd-trip", self.usually(25.0, 190.0, 320.0), group["id"])
            if self.often(0.2):
                yield _read("shared-rcd-five", self.usually(22.0, 55.0), group["id"])
            if self.often(0.2):
                yield _read("shared-rcd-ramp", self.usually(22.0, 9.0, 41.0), group["id"])
            if self.often(0.3):
                yield _seen("shared-rcd-button", True) | {"point": group["id"]}

    # Boards

    def _rcd(self) -> Made | str | None:
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

    def _main(self) -> Made | str | None:
        switch = {"standard": "switch", "curve": None, "rating_a": self.one((63, 80, 100)), "rcd": None}
        rccb = {"standard": "bs-en-61008", "curve": None, "rating_a": self.one((63, 80)), "rcd": self._rcd()}
        fuse = {"standard": "bs88-2", "curve": None, "rating_a": self.one((63, 80)), "rcd": None}
        return self.usually(switch, switch, switch, rccb, fuse, "unknown", None)

    def _board(self, circuits: list[Made], board: str = "B1", first: int = 1) -> Made:
        """Make a board of groups side by side, every circuit in a way of its own."""
        groups: list[Made] = []
        left = list(circuits)
        while left:
            taken, left = left[: 2 + len(groups)], left[2 + len(groups) :]
            at = first + len(groups)
            ways = [self._way(f"W{at}{each['id']}", [each["id"]]) for each in taken]
            if self.often(0.3):
                ways.append({"id": f"W{at}x", "blank": self.often(0.6)})
            groups.append(
                {
                    "id": f"G{at}",
                    "rcd": self._rcd() if self.often(0.05 if self.is_sound else 0.5) else None,
                    "rating_a": self.perhaps(self.usually(80, 40, 63)),
                    "stated_a": self.perhaps(self.about(5, 60), 0.1),
                    "unsure": self.often(0.05),
                    "ways": ways,
                }
            )
        if len(left := list(groups)) > 1 and self.often(0.1):
            left[0]["ways"][0]["neutral_at"] = left[1]["id"]
        return {
            "id": board,
            "name": f"Board {board}",
            "state": self.one(("altered", "as-found")) if self.is_old else "new",
            "year": self.perhaps(1995, 0.3) if self.is_old else None,
            "enclosure": {
                "material": self.usually("metal", "plastic", "timber", "unknown"),
                "ip": self.usually("IP4X", "IP20", "", "IP2XC"),
                "cabinet": self.often(0.1),
            },
            "main": self._main(),
            "main_poles": self.perhaps(self.usually(4, 2, 3) if self.phases == 3 else self.usually(2, 1)),
            "surge": self.usually({"type": "2", "lead_m": 0.4}, {"type": "1+2", "lead_m": 1.4}, None, "unknown"),
            "stated_a": self.perhaps(self.about(10, 90), 0.15),
            "groups": groups,
        }

    def _way(self, way: str, circuits: list[str]) -> Made:
        line = self.one(("L1", "L2", "L3", None)) if self.phases == 3 else None
        needs = [self.one(("alarms", "freezer", "heating", "medical"))] if self.often(0.2) else []
        return {
            "id": way, "circuits": circuits, "line": line, "needs": needs, "poles": self.perhaps(self.one((1, 2)), 0.5),
            "stays": self.often(0.1),
        }  # fmt: skip

    def _add_outbuilding(self, circuits: list[Made], boards: list[Made]) -> None:
        """Put up a shed with a board of its own, fed from the house."""
        far = [self._circuit(len(circuits) + count, self.one(("sockets", "lighting", "outdoor"))) for count in (2, 3)]
        feed = self._circuit(len(circuits) + 1, "fixed-appliance")
        own = feed["design"]
        own |= {
            "name": "Feed of the shed",
            "kind": "distribution",
            "cable": self._armoured(self.one((4.0, 6.0, 10.0))),
            "points": [{"id": "P1", "name": "Shed board", "kind": "board"}],
            "legs": [{"id": "L1", "a": "board", "b": "P1", "segments": [self._segment(self.about(8, 45), "sockets")]}],
        }
        if self.often(0.3):
            for each in far:
                each["design"]["own_earth"] = {"electrode_ohm": self.perhaps(self.about(20, 190), 0.7)}
        feed["readings"] = []
        boards[0]["groups"][0]["ways"].append(self._way("WF", [feed["id"]]))
        boards.append({**self._board(far, "B2", 11), "fed_by": feed["id"]})
        circuits += [feed, *far]

    def _add_second(self, circuits: list[Made], boards: list[Made]) -> None:
        """Hang a board beside the first: linked ahead of its groups, or behind one of them."""
        more = [self._circuit(len(circuits) + 1, self.one(("storage-heater", "shower", "vehicle-charging")))]
        group = boards[0]["groups"][0]["id"] if self.often(0.4) else None
        boards.append({**self._board(more, "B3", 21), "beside": "B1", "beside_group": group})
        circuits += more

    # Circuits

    def _circuit(self, number: int, kind: str) -> Made:
        sizes, ratings, kinds, watts = _KINDS[kind]
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
            return {"standard": "bs-en-61008", "curve": None, "rating_a": rating, "rcd": self._rcd()}
        standard = self.usually("bs-en-61009", "bs-en-61009", "bs-en-60898")
        return {
            "standard": standard,
            "curve": self.usually("B", "B", "C", "D"),
            "rating_a": rating,
            "breaking_capacity_ka": breaking,
            "let_through_a2s": self.perhaps(self.one((9000, 22000, 45000)), 0.15),
            "rcd": self._rcd() if standard == "bs-en-61009" else self.one((None, None, "unknown")),
            "afdd": self.often(0.1),
            "bidirectional": self.perhaps(self.often(0.6), 0.4),
            "all_poles": self.perhaps(self.often(0.6), 0.4),
        }

    def _armoured(self, csa: float) -> Made:
        by = self.one(("core", "armour", "armour", None))
        return {
            "type": "armoured", "insulation": self.one(("xlpe90", "pvc70")), "csa_mm2": csa, "cpc_by": by,
            "cores": 5 if self.phases == 3 and self.often(0.5) else self.one((2, 3)) if by == "armour" else 3,
        }  # fmt: skip

    def _cable(self, csa: float, kind: str) -> Made:
        if kind == "outdoor" or self.often(0.06):
            return self._armoured(csa)
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

    def _segment(self, length: float, kind: str) -> Made:
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
                self._segment(self.about(1.5, 7 if self.is_sound else 14), kind) for _ in range(self.one((1, 1, 1, 2)))
            ]
            other = {"cable": {"csa_mm2": 2.5 if kind == "sockets" else 1.5, "cpc_by": "core"}}
            own = other if self.often(0.05) else {}
            yield {"id": f"L{at}", "a": start, "b": point["id"], "state": point["state"], "segments": parts, **own}
            if not is_spur:
                before = point["id"]
                on_run.append(before)
        if is_ring and self.often(0.93):
            yield {"id": "LR", "a": before, "b": "board", "segments": [self._segment(self.about(4, 16), kind)]}

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
            yield _read("r1", round(round_ohm, 2))
            yield _read("rn", round(round_ohm * self.one((1.0, 1.0, 1.02, slip)), 2))
            yield _read("r2", round(round_ohm / ratio * self.one((1.0, 1.0, slip)), 2))
            at_point = round_ohm * (1 + 1 / ratio) / 4
        else:
            at_point = sum(ohm.values()) * (1 + 1 / ratio)
        for at, point in enumerate(points, start=1):
            part = 1.0 if is_ring else at / len(points)
            seen = max(at_point * part * self.chance.uniform(0.94, 1.08) * (slip if at == 2 else 1.0), 0.01)
            if is_ring and self.often(0.7):
                yield _read("cross-ln", round(seen * 2 / (1 + 1 / ratio), 2), point["id"])
                yield _read("cross-le", round(seen, 2), point["id"])
            elif self.often(0.8):
                yield _read("r1+r2", round(seen, 2), point["id"])
            if self.often(0.5) and self.earthing != "TT":
                yield _read("zs", round(seen + self.ze_ohm, 2), point["id"])
            if self.often(0.1):
                yield _read("r1+rn", round(seen * 2 / (1 + 1 / ratio), 2), point["id"])
            if self.often(0.1):
                yield _read("volt-drop", self.about(0.5, 9), point["id"])
        if self.often(0.7):
            yield _read("insulation-le", self.usually(200.0, 0.4, 1.5, 19.0))
            yield _read("insulation-ll", self.usually(250.0, 0.8, 40.0))
        if self.often(0.6):
            yield _seen("polarity", self.usually(True, True, True, True, False))
        if self.often(0.4):
            yield _read("rcd-trip", self.usually(29.0, 18.0, 180.0, 310.0))
        if self.often(0.2):
            yield _read("rcd-five", self.usually(28.0, 12.0, 60.0))
        if self.often(0.2):
            yield _seen("rcd-button", self.usually(True, True, False))
        if self.often(0.05):
            yield _read("insulation-le", 999, beyond=True)
        if self.often(0.05):
            yield {**_read("rcd-trip", 0.0), "value": None, "untaken": "limitation", "note": "In use"}


def _read(quantity: str, value: float, point: str | None = None, **more: Any) -> Made:
    return {"quantity": quantity, "point": point, "value": value, "by": "A. Tester", "at": _AT, **more}


def _seen(quantity: str, right: bool) -> Made:
    made = {"quantity": quantity, "correct": right, "by": "A. Tester", "at": _AT}
    if quantity == "isolation":
        made["isolation"] = {
            "device": "Main switch", "proved_before": True, "pairs": ["L-N", "L-E", "N-E"], "proved_after": True
        }  # fmt: skip
    return made


def street(number: int) -> Job:
    """A house of the street, read from its file."""
    return make_job(House(number).job())
