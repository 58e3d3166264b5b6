"""From version 2 to 3: what each circuit said of what is ahead of it becomes one tree of boards.

Pure, on decoded JSON, and never changed after version 3 is left behind. What does not look like a circuit is left as
it is, for the model to refuse.
"""

import json
from copy import deepcopy
from typing import Any

Document = dict[str, Any]
# A board, and the group in it, that a circuit is reached through.
_Place = tuple[int, int | None]

_RCCB = {"standard": "bs-en-61008", "curve": None, "breaking_capacity_ka": None, "let_through_a2s": None, "afdd": False}


class BoardTree:
    """The boards as they grow, circuit by circuit: those with the same things ahead share them."""

    def __init__(self) -> None:
        self.boards: list[Document] = [{"id": "B1", "name": "Main board", "state": "as-found", "groups": []}]
        # The circuits that feed boards, which version 2 had no place for.
        self.feeders: list[Document] = []
        self._known: dict[tuple[_Place, str], _Place] = {}
        self._ids = 0
        self._highest = 0
        # Whether any circuit said that it shares something, or has something ahead.
        self._grown = False
        self._keys: set[str] = set()

    def take(self, design: Any) -> tuple[str | None, Any]:
        """Seat a circuit; return its key and its design without what the tree now says."""
        if not isinstance(design, dict):
            return None, design
        number = design.get("number", 1)
        self._highest = max(self._highest, number if isinstance(number, int) else 0)
        key = self._key(number)
        ahead = design.get("ahead") or []
        device = design.get("device")
        rcd = device.get("rcd") if isinstance(device, dict) else None
        shared = isinstance(rcd, dict) and rcd.get("shared") is True
        if not _sound(ahead):
            return key, design
        if ahead or shared:
            self._grown = True
        at = self._through(ahead)
        if shared and isinstance(rcd, dict) and isinstance(device, dict):
            parted = {name: value for name, value in rcd.items() if name != "shared"}
            at = self._behind(self._ungrouped(at), {"rcd": parted, "rating_a": None})
            design = {**design, "device": {**device, "rcd": None}}
        self._seat(at, key)
        return key, {name: value for name, value in design.items() if name != "ahead"}

    def _key(self, number: Any) -> str:
        key, more = f"C{number}", 1
        while key in self._keys:
            more += 1
            key = f"C{number}x{more}"
        self._keys.add(key)
        return key if isinstance(number, int) and 0 < number < 10_000 else "C0"

    def _through(self, ahead: list[Document]) -> _Place:
        at: _Place = (0, None)
        index = 0
        while index < len(ahead):
            item = ahead[index]
            cables = 0 if item.get("feed") else 1
            end = index + cables
            while end < len(ahead) and ahead[end].get("feed"):
                end += 1
            if item.get("feed"):
                at = self._feed(at, None, ahead[index:end])
            elif end > index + 1:
                at = self._feed(at, item, ahead[index + 1 : end])
            elif _is_rccb(item["device"]):
                guard = {"rcd": item["device"].get("rcd", "unknown"), "rating_a": item["device"].get("rating_a", 32)}
                at = self._behind(self._ungrouped(at), guard, item)
            else:
                at = self._beside(at, item)
            index = end
        return at

    def _ungrouped(self, at: _Place) -> _Place:
        """Return a place where a group may be begun: on a board of its own where one is open already."""
        return at if at[1] is None else self._beside(at, None)

    def _remember(self, at: _Place, what: Any, make: Any) -> _Place:
        key = (at, json.dumps(what, sort_keys=True, default=str))
        if key not in self._known:
            self._known[key] = make()
        return self._known[key]

    def _behind(self, at: _Place, guard: Document, item: Document | None = None) -> _Place:
        name = (item or {}).get("name", "")

        def make() -> _Place:
            self.boards[at[0]]["groups"].append({"id": self._id("G"), "name": name, **guard, "ways": []})
            return at[0], len(self.boards[at[0]]["groups"]) - 1

        found = self._remember(at, ["group", name, guard], make)
        assert found[1] is not None
        _at_least(self.boards[found[0]]["groups"][found[1]], (item or {}).get("current_a"))
        return found

    def _beside(self, at: _Place, item: Document | None) -> _Place:
        name = (item or {}).get("name", "")
        device = item["device"] if item else None

        def make() -> _Place:
            above = self.boards[at[0]]
            group = None if at[1] is None else above["groups"][at[1]]["id"]
            self.boards.append(
                {
                    "id": f"B{len(self.boards) + 1}",
                    "name": name or f"Board {len(self.boards) + 1}",
                    "state": "as-found",
                    "main": device,
                    "beside": above["id"],
                    "beside_group": group,
                    "groups": [],
                }
            )
            return len(self.boards) - 1, None

        found = self._remember(at, ["beside", name, device], make)
        _at_least(self.boards[found[0]], (item or {}).get("current_a"))
        return found

    def _feed(self, at: _Place, item: Document | None, feeds: list[Document]) -> _Place:
        said = [{name: value for name, value in feed.items() if name != "current_a"} for feed in feeds]
        device = item["device"] if item else None

        def make() -> _Place:
            key = f"F{len(self.feeders) + 1}"
            name = next((feed["name"] for feed in feeds if feed.get("name")), "") or f"Feed {len(self.feeders) + 1}"
            self._seat(at, key, direct=item is None)
            self.feeders.append({"id": key, "design": _feeder(name, device, feeds)})
            board = f"B{len(self.boards) + 1}"
            title = f"Board {len(self.boards) + 1}"
            self.boards.append(
                {"id": board, "name": title, "state": "as-found", "main": None, "fed_by": key, "groups": []}
            )
            return len(self.boards) - 1, None

        found = self._remember(at, ["feed", device, said], make)
        for feed in feeds:
            _at_least(self.boards[found[0]], feed.get("current_a"))
        return found

    def _seat(self, at: _Place, key: str, direct: bool = False) -> None:
        groups = self.boards[at[0]]["groups"]
        if at[1] is None:
            plain = next((group for group in groups if group.get("plain")), None)
            if plain is None:
                plain = {"id": self._id("G"), "rcd": None, "plain": True, "ways": []}
                groups.append(plain)
        else:
            plain = groups[at[1]]
            # An RCD by name is one; of those without, each circuit may have meant another.
            plain["unsure"] = bool(plain["ways"]) and not plain["name"]
        plain["ways"].append({"id": self._id("W"), "circuits": [key], "direct": direct})

    def _id(self, letter: str) -> str:
        self._ids += 1
        return f"{letter}{self._ids}"

    def finish(self) -> tuple[list[Document], list[Document]]:
        """Return the boards and the circuits that feed them; none of either where nothing was shared."""
        if not self._grown:
            return [], []
        boards = deepcopy(self.boards)
        for board in boards:
            for group in board["groups"]:
                group.pop("plain", None)
        feeders = deepcopy(self.feeders)
        for number, feeder in enumerate(feeders, start=self._highest + 1):
            feeder["design"]["number"] = min(number, 9999)
        return boards, feeders


def _sound(ahead: Any) -> bool:
    return isinstance(ahead, list) and all(
        isinstance(item, dict) and isinstance(item.get("feed") or item.get("device"), dict) for item in ahead
    )


def _is_rccb(device: Document) -> bool:
    """Whether a device is an RCCB of which a group says everything."""
    return (
        device.get("standard") == "bs-en-61008"
        and device.get("rcd", "unknown") is not None
        and device.get("bidirectional") is None
        and all(device.get(name) in (value, None) for name, value in _RCCB.items())
    )


def _at_least(part: Document, current_a: Any) -> None:
    if isinstance(current_a, int | float):
        part["stated_a"] = max(current_a, part.get("stated_a") or 0.0)


def _feeder(name: str, device: Document | None, feeds: list[Document]) -> Document:
    """Return the circuit that the cables of a feed are: one leg for each, to a point that is the other board."""
    points = [{"id": f"J{index}", "kind": "joint", "state": "as-found"} for index in range(1, len(feeds))]
    points.append({"id": "P1", "name": "Board", "kind": "board", "state": "as-found"})
    ends = ["board", *(point["id"] for point in points)]
    return {
        "name": name,
        "kind": "distribution",
        "state": "as-found",
        # Where it is linked straight to the bars nothing of this device counts.
        "device": device or {"standard": "switch", "curve": None, "rating_a": 100, "rcd": None},
        "cable": feeds[0]["feed"],
        "method": feeds[0].get("method", "C"),
        "points": points,
        "legs": [
            {
                "id": f"L{index}",
                "a": ends[index - 1],
                "b": ends[index],
                "cable": None if feed["feed"] == feeds[0]["feed"] else feed["feed"],
                "state": "as-found",
                "segments": [{"length_m": feed.get("length_m"), "method": feed.get("method", "C")}],
            }
            for index, feed in enumerate(feeds, start=1)
        ],
    }
