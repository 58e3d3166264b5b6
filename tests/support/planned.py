"""Houses by the tape as they are met, each made by its number: rooms, what stands in them, marks by every rule, a run.

What is made is a job file, plain data, as in `street.py`.
"""

from collections.abc import Iterator
from itertools import pairwise

from tests.support.chances import Chances, Made

# Of what much is asked there are more.
_OFTEN = ("appliance", "units", "hob", "bath")
PLANS = tuple(range(1, 17))
_BUILDS = ("brick", "block", "stud", "lath-and-plaster", "stone", "timber", None)
# What stands in a room, how wide and deep, from which height to which.
_THINGS = (
    ("bed", 1400, 2000, 0, 500),
    ("units", 1800, 600, 0, 900),
    ("wall-units", 1200, 330, 1450, 700),
    ("hob", 600, 600, 0, 900),
    ("sink", 800, 600, 0, 900),
    ("basin", 550, 420, 0, 850),
    ("bath", 1700, 700, 0, 560),
    ("shower", 900, 900, 0, 2000),
    ("radiator", 1000, 120, 150, 600),
    ("stove", 600, 600, 0, 1000),
    ("desk", 1400, 700, 0, 740),
    ("appliance", 600, 600, 0, 850),
    ("stair", 2600, 900, 0, 2600),
    ("meter", 400, 200, 1000, 500),
)


class Planned(Chances):
    """A house of which rooms were measured."""

    def job(self) -> Made:
        """Make the job file: two rooms below, one over them, a yard now and then; a radial through the sockets."""
        storeys = [self._storey("up"), self._storey("down")]
        rooms = [self._room("kitchen", "down"), self._room("hall", "down"), self._room("bed", "up")]
        if self.often(0.5):
            rooms.append(self._room("bath", "up"))
        rooms[-1]["seat"] = {"of": "kitchen", "east_mm": self.mm(-900, 900), "north_mm": self.mm(-900, 900)}
        marks = [mark for room in rooms for mark in self._marks(room)]
        marks.append(self._mark("board-1", rooms[1], "board", self._from_corner(rooms[1])))
        self._set_straight(marks)
        way = {"id": "W1", "circuits": ["C1"]}
        return {
            "format": "lumbek-job",
            "version": 5,
            "name": f"Plan {self.number}",
            "rulebook": "iec60364" if self.is_iec else "bs7671",
            "storeys": storeys,
            "rooms": rooms,
            "between": list(self._between(rooms)),
            "marks": marks,
            "ways": self._ways(rooms),
            "boards": [{"id": "B1", "at": {"room": "hall"}, "groups": [{"id": "G1", "ways": [way]}]}],
            "circuits": [self._run(marks)],
        }

    def mm(self, least: int, most: int) -> int:
        """Millimetres between two, in tens."""
        return round(self.chance.uniform(least, most) / 10) * 10

    def _joists(self) -> Made | None:
        runs, pitch = self.one(("n", "e")), self.one((400, 450, 600))
        return self.perhaps({"runs": runs, "pitch_mm": pitch, "width_mm": 47, "first_mm": self.mm(0, 300)}, 0.7)

    def _storey(self, name: str) -> Made:
        floor = {
            "height_mm": self.perhaps(self.one((2400, 2600)), 0.6),
            "build_up_mm": self.perhaps(self.one((20, 60)), 0.4),
            "joist_depth_mm": self.perhaps(self.one((150, 200, 220)), 0.6),
            "void_mm": self.perhaps(self.one((50, 200)), 0.4),
            "screed_mm": self.perhaps(self.one((50, 75)), 0.2),
            "reached_from_above": self.perhaps(self.often(0.5), 0.5),
            "joists": self._joists(),
        }
        return {"id": name, "name": name.capitalize(), "floor": floor}

    # Rooms

    def _room(self, name: str, storey: str) -> Made:
        wide, deep = self.mm(2200, 5200), self.mm(2200, 4600)
        if self.often(0.25):
            west, south = wide // 20 * 10, deep // 20 * 10
            runs = ((0, deep), (90, wide), (180, deep - south), (270, wide - west), (180, south), (270, west))
        else:
            runs = ((0, deep), (90, wide), (180, deep), (270, wide))
        # The first wall that was measured may be any of them.
        turn = self.one((0, 0, 1, 2))
        runs = (*runs[turn:], *runs[:turn])
        walls = [
            {
                "id": f"w{at}",
                "heading": heading,
                "length_mm": length,
                "build": self.one(_BUILDS),
                "depth_mm": self.perhaps(self.one((70, 100, 215)), 0.5),
                "plaster_mm": self.perhaps(self.one((12, 25)), 0.5),
                "tiled": self.perhaps(self.often(0.5), 0.3),
            }
            for at, (heading, length) in enumerate(runs, start=1)
        ]
        outline = {
            "walls": walls,
            "height_mm": self.one((2300, 2400, 2700)),
            "ceiling": self.one(("board", "lath-and-plaster", "boarded-over", "concrete", None)),
            "void_mm": self.perhaps(self.one((90, 200)), 0.5),
            "is_insulated": self.perhaps(self.often(0.5), 0.5),
            "joists": self._joists(),
            "above": [
                {
                    "id": f"above{at}", "kind": self.one(("pipe", "duct", "beam")), "runs": self.one(("n", "e")),
                    "at_mm": self.mm(200, 1800), "width_mm": self.one((22, 110, 150)),
                }
                for at in range(self.one((0, 0, 1, 2)))
            ],
            "openings": [self._opening(walls, at) for at in range(self.one((1, 2, 3)))],
            "things": [self._thing(walls, at) for at in range(self.one((1, 2, 3, 4)))],
        }  # fmt: skip
        return {"id": name, "name": name.capitalize(), "storey": storey, "outline": outline}

    def _along(self, walls: list[Made], width: int) -> Made:
        wall = self.one(tuple(each for each in walls if each["length_mm"] > width) or tuple(walls))
        room = max(0, wall["length_mm"] - width)
        return {
            "wall": wall["id"], "side": self.one(("left", "right")), "offset_mm": self.mm(0, room),
            "width_mm": min(width, wall["length_mm"]),
        }  # fmt: skip

    def _opening(self, walls: list[Made], at: int) -> Made:
        kind = "door" if at == 0 else self.one(("window", "window", "gap", "door"))
        made = {"id": f"o{at}", "kind": kind, **self._along(walls, self.one((762, 838, 1200)))}
        if kind == "window":
            made |= {"sill_mm": self.one((900, 1050)), "head_mm": 2100}
        return {**made, "hinge": self.one(("left", "right", None)), "opens": self.one(("in", "out"))}

    def _thing(self, walls: list[Made], at: int) -> Made:
        kind, width, depth, bottom, height = self.one((*_THINGS, *(each for each in _THINGS if each[0] in _OFTEN)))
        made: Made = {
            "id": f"t{at}", "kind": kind, **self._along(walls, width), "depth_mm": depth, "bottom_mm": bottom,
            "height_mm": height, "fate": self.one((None, None, "keep", "new", "remove")),
        }  # fmt: skip
        if kind == "units" and made["width_mm"] == 1800:
            made["parts_mm"] = [600, 600, 600]
        if kind == "appliance":
            made |= {
                "is_wired": self.perhaps(self.often(0.5), 0.5), "can_be_pulled_out": self.perhaps(self.often(0.5), 0.5),
                "outlet": self.one((None, "beside", "above", "behind")),
            }  # fmt: skip
        if kind == "shower":
            made |= {"tray": self.perhaps(self.often(0.5)), "head_mm": self.perhaps(self.one((50, 300)), 0.5)}
        if kind == "stair":
            made["rises"] = self.one(("left", "right"))
        return made

    # Marks

    def _from_corner(self, room: Made) -> Made:
        wall = self.one(tuple(room["outline"]["walls"]))
        mm = self.mm(100, max(200, wall["length_mm"] - 100))
        return {"rule": "from-corner", "wall": wall["id"], "side": self.one(("left", "right")), "mm": mm}

    def _rules(self, room: Made) -> tuple[Made, ...]:
        openings, things = room["outline"]["openings"], room["outline"]["things"]
        of = self.one((*openings, *things))["id"]
        thing = self.one(tuple(things))
        part = self.one((1, 3)) if "parts_mm" in thing else None
        over = self.one((thing["id"], room["outline"]["walls"][0]["id"]))
        side, outside = self.one(("left", "right")), self.often(0.6)
        return (
            self._from_corner(room),
            {"rule": "beside-door", "door": openings[0]["id"], "mm": self.one((100, 150, 250))},
            {"rule": "middle", "of": thing["id"], "part": part},
            {"rule": "edge", "of": of, "side": side, "mm": self.mm(50, 300), "outside": outside},
            {"rule": "spread", "over": over, "at": self.one((1, 2)), "count": 3},
            {"rule": "beside", "thing": thing["id"], "side": side, "cabinet_mm": 450},
        )

    def _on_ceiling(self, room: Made) -> tuple[Made, ...]:
        walls, thing = room["outline"]["walls"], self.one(tuple(room["outline"]["things"]))
        columns, rows, clears = self.one((1, 2, 3)), self.one((1, 2)), self.often(0.6)
        unsymmetric = self.often(0.3)
        spacing = self.perhaps(self.one((900, 1200)), 0.3)
        grid = tuple(
            {
                "rule": "grid", "column": column, "columns": columns, "row": row, "rows": rows, "clears": clears,
                "is_unsymmetric": unsymmetric, "spacing_mm": spacing,
            }
            for column in range(1, columns + 1)
            for row in range(1, rows + 1)
        )  # fmt: skip
        corner = {"rule": "ceiling", "wall": walls[0]["id"], "mm": self.mm(300, 2000), "other": walls[1]["id"]}
        front = {"rule": "over-edge", "thing": thing["id"], "at": 1, "count": 2, "out_mm": self.mm(-100, 300)}
        return (*grid, {**corner, "other_mm": self.mm(300, 2000)}, front)

    def _height(self, room: Made, kind: str) -> Made:
        thing = self.one(tuple(room["outline"]["things"]))
        if kind in ("socket", "switch") and self.often(0.35):
            return self.one(
                (
                    {"height": "at", "mm": self.one((300, 450, 1050, 1250))},
                    {"height": "above", "thing": thing["id"], "mm": 150},
                    {"height": "stair", "thing": thing["id"], "mm": 1000},
                )
            )
        return {"height": "use"}

    def _mark(self, mark: str, room: Made, kind: str, rule: Made) -> Made:
        return {
            "id": mark,
            "room": room["id"],
            "kind": kind,
            "rule": rule,
            "height": self._height(room, kind),
            "box": {
                "gangs": self.one((1, 1, 2)),
                "depth_mm": self.one((16, 25, 35, 47)),
                "is_surface": self.often(0.1),
                "entry": self.one((None, "top", "bottom", "left", "back")),
            },
            "is_existing": self.often(0.15),
            "fate": self.perhaps(self.one(("keep", "remove")), 0.1),
            "ip": self.one(("", "", "IPX4", "IP44")),
            "agreed": self.perhaps({"by": "A. Owner", "on": "2026-02-01"}, 0.1),
        }

    def _marks(self, room: Made) -> Iterator[Made]:
        name = room["id"]
        for at in range(self.one((2, 3, 4))):
            yield self._mark(f"socket-{name}{at}", room, "socket", self.one(self._rules(room)))
        yield self._mark(f"switch-{name}", room, "switch", self.one(self._rules(room)))
        other = self.one(("fused-spur", "shaver-socket", "isolator", "thermostat", "wall-light", "cord-switch", "data"))
        yield self._mark(f"other-{name}", room, other, self.one(self._rules(room)))
        lumens, beam = self.one((400, 600)), self.one((36, 60, 100))
        lamp = {
            "lumens": self.perhaps(lumens, 0.9), "beam_deg": beam, "cut_out_mm": self.one((70, 90)), "clear_mm": 20,
            "driver_mm": self.perhaps(150, 0.3), "deep_mm": self.perhaps(self.one((80, 110)), 0.4),
            "is_fire_rated": self.perhaps(self.often(0.5), 0.5), "may_be_covered": self.perhaps(self.often(0.5), 0.5),
        }  # fmt: skip
        for at, rule in enumerate(self._on_ceiling(room)):
            yield {**self._mark(f"light-{name}{at}", room, "downlight", rule), "lamp": lamp}
        alarm = self.one(("smoke-alarm", "heat-alarm", "co-alarm", "fan"))
        yield self._mark(f"alarm-{name}", room, alarm, self._on_ceiling(room)[-2])

    def _set_straight(self, marks: list[Made]) -> None:
        """Let some marks go by another of their room: straight over it, or as high."""
        sockets = [mark for mark in marks if mark["kind"] == "socket"]
        for mark in (mark for mark in marks if mark["kind"] == "switch"):
            fellow = next(each for each in sockets if each["room"] == mark["room"])
            if self.often(0.3):
                mark["rule"] = {"rule": "straight", "mark": fellow["id"], "side": self.one(("left", "right")), "mm": 60}
        for one, other in pairwise(sockets):
            if one["room"] == other["room"] and self.often(0.15):
                other["height"] = {"height": "same", "mark": one["id"]}

    # The house

    def _between(self, rooms: list[Made]) -> Iterator[Made]:
        if self.often(0.7):
            yield {
                "one": {"room": "kitchen", "wall": "w3"}, "other": {"room": "hall", "wall": "w1"},
                "thickness_mm": self.one((75, 100, 215)), "offset_mm": self.mm(-400, 400),
            }  # fmt: skip

    def _ways(self, rooms: list[Made]) -> Made:
        barred = [{"room": room["id"], "wall": "w2"} for room in rooms if self.often(0.1)]
        return {"barred": barred, "closed": ["bed"] if self.often(0.1) else [], "slack_mm": self.one((200, 300))}

    def _run(self, marks: list[Made]) -> Made:
        """Make a radial from the board through the sockets in the order of their rooms."""
        sockets = [mark for mark in marks if mark["kind"] == "socket"]
        points, legs, before = [], [], "board"
        for at, mark in enumerate(sockets, start=1):
            mark["point"] = {"circuit": "C1", "point": f"P{at}"}
            points.append({"id": f"P{at}", "kind": "socket-twin", "at": {"room": mark["room"]}})
            legs.append({"id": f"L{at}", "a": before, "b": f"P{at}"})
            before = f"P{at}"
        return {"id": "C1", "design": {"name": "Sockets", "points": points, "legs": legs}}
