"""A street of houses as they are met: new and old, drawn and only read, sound and not. Each is made by its number.

What is made is a job file, plain data; nothing of the application is asked, so that it cannot agree with itself.
"""

from collections.abc import Iterator

from lumbek.core.model.job import Job
from lumbek.exchange.job_file import make_job
from tests.support.chances import Made
from tests.support.street_circuits import AT, KINDS, Circuits, read, seen

# Of five hundred those that between them go every way through the rules that any of them goes, twice where two do.
HOUSES = (
    2, 4, 8, 10, 19, 27, 31, 32, 41, 51, 58, 60, 62, 63, 68, 69, 82, 90, 114, 117,
    118, 134, 146, 157, 167, 176, 183, 195, 206, 207, 213, 219, 240, 244, 251, 252, 257, 265, 280, 283,
    285, 295, 299, 309, 316, 327, 333, 367, 375, 390, 403, 407, 408, 423, 431, 449, 465, 467, 492, 493,
)  # fmt: skip


class House(Circuits):
    """One house of the street in the making."""

    def job(self) -> Made:
        """Make the job file."""
        wanted = ["sockets", "lighting", *(self.one(tuple(KINDS)) for _ in range(3))]
        kinds = [kind for kind in wanted if kind != "three-phase" or self.phases == 3]
        circuits = [self.circuit(number, kind) for number, kind in enumerate(kinds, start=1)]
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
        return {"id": "V1", "by": "A. Tester", "at": AT, "ambient_c": warm, "lead_ohm": lead, "leads_nulled": True}

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
            yield seen("isolation", True)
        if self.often(0.5):
            yield read("ze", round(self.ze_ohm * self.chance.uniform(0.85, 1.2), 2))
        if self.often(0.4):
            yield read("fault-current", self.about(0.3, 6))
        if self.often(0.3):
            yield read("earth-continuity", self.about(0.01, 0.4))
        if self.often(0.3):
            yield read("board-insulation", self.about(0.3, 300))
        if self.often(0.3):
            yield seen("supply-polarity", self.often(0.9))
        if self.often(0.2):
            yield read("electrode", self.about(15, 300))

    def _of_shared(self, boards: list[Made]) -> Iterator[Made]:
        """Yield what is read at RCDs that several circuits share."""
        for group in (group for board in boards for group in board["groups"] if isinstance(group["rcd"], dict)):
            if self.often(0.4):
                yield read("shared-rcd-trip", self.usually(25.0, 190.0, 320.0), group["id"])
            if self.often(0.2):
                yield read("shared-rcd-five", self.usually(22.0, 55.0), group["id"])
            if self.often(0.2):
                yield read("shared-rcd-ramp", self.usually(22.0, 9.0, 41.0), group["id"])
            if self.often(0.3):
                yield seen("shared-rcd-button", True) | {"point": group["id"]}

    # Boards

    def _main(self) -> Made | str | None:
        switch = {"standard": "switch", "curve": None, "rating_a": self.one((63, 80, 100)), "rcd": None}
        rccb = {"standard": "bs-en-61008", "curve": None, "rating_a": self.one((63, 80)), "rcd": self.rcd()}
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
                    "rcd": self.rcd() if self.often(0.05 if self.is_sound else 0.5) else None,
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
        far = [self.circuit(len(circuits) + count, self.one(("sockets", "lighting", "outdoor"))) for count in (2, 3)]
        feed = self.circuit(len(circuits) + 1, "fixed-appliance")
        own = feed["design"]
        own |= {
            "name": "Feed of the shed",
            "kind": "distribution",
            "cable": self.armoured(self.one((4.0, 6.0, 10.0))),
            "points": [{"id": "P1", "name": "Shed board", "kind": "board"}],
            "legs": [{"id": "L1", "a": "board", "b": "P1", "segments": [self.segment(self.about(8, 45), "sockets")]}],
        }
        if self.often(0.3):
            for each in far:
                each["design"]["own_earth"] = self._own_earth()
        feed["readings"] = []
        boards[0]["groups"][0]["ways"].append(self._way("WF", [feed["id"]]))
        boards.append({**self._board(far, "B2", 11), "fed_by": feed["id"]})
        circuits += [feed, *far]

    def _own_earth(self) -> Made:
        """An electrode at a shed: not read, read by somebody who says so, or only said to be so."""
        ohm = self.perhaps(self.about(20, 190), 0.7)
        return {"electrode_ohm": ohm, "electrode_origin": "measured" if (ohm or 0) > 60 else None}

    def _add_second(self, circuits: list[Made], boards: list[Made]) -> None:
        """Hang a board beside the first: linked ahead of its groups, or behind one of them."""
        more = [self.circuit(len(circuits) + 1, self.one(("storage-heater", "shower", "vehicle-charging")))]
        group = boards[0]["groups"][0]["id"] if self.often(0.4) else None
        boards.append({**self._board(more, "B3", 21), "beside": "B1", "beside_group": group})
        circuits += more


def street(number: int) -> Job:
    """A house of the street, read from its file."""
    return make_job(House(number).job())
