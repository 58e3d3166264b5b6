"""From version 3 to 4: rooms that points know by their names become rooms of the house, with ids of their own.

Pure, on decoded JSON, and never changed after version 4 is left behind. What does not look like a point or a storey is
left as it is, for the model to refuse.
"""

from typing import Any

from lumbek.core.model.places import MOST_ROOMS, folded, id_of_name

Document = dict[str, Any]


def with_room_ids(circuit: Document) -> Document:
    """Say of each point the id of its room, which follows from the room's name wherever it is met."""
    points = circuit.get("points")
    if isinstance(points, list):
        circuit["points"] = [_in_its_room(point) for point in points]
    return circuit


def _in_its_room(point: Any) -> Any:
    name = _room_of(point)
    if not name:
        return point
    return {**point, "at": {"room": id_of_name(name), "words": ""}, "room": ""}


def _room_of(point: Any) -> str:
    name = point.get("room") if isinstance(point, dict) else None
    return name.strip() if isinstance(name, str) else ""


def with_spots(house: Document) -> Document:
    """Say where each board hangs in the words that it was said in; storeys are the rooms' affair."""
    house.pop("storeys", None)
    if isinstance(house.get("boards"), list):
        house["boards"] = [_at_its_spot(board) for board in house["boards"]]
    return house


def _at_its_spot(board: Any) -> Any:
    if not isinstance(board, dict) or "place" not in board:
        return board
    return {**{key: value for key, value in board.items() if key != "place"}, "at": {"words": board["place"]}}


def _is_storey(storey: Any) -> bool:
    return (
        isinstance(storey, dict)
        and isinstance(storey.get("name"), str)
        and bool(folded(storey["name"]))
        and isinstance(storey.get("rooms", []), list)
    )


class RoomsByName:
    """Storeys and rooms as they are met by their names: on storeys, and at points, circuit by circuit."""

    def __init__(self, storeys: Any) -> None:
        """Take the storeys of version 3, each with the names of its rooms."""
        self._rooms: dict[str, Document] = {}
        self._storeys: Any = storeys
        if isinstance(storeys, list):
            by_id = {id_of_name(each["name"]): each for each in storeys if _is_storey(each)}
            self._storeys = [
                *({"id": own, "name": storey["name"]} for own, storey in by_id.items()),
                *(each for each in storeys if not _is_storey(each)),
            ]
            for storey in filter(_is_storey, storeys):
                for room in storey.get("rooms", ()):
                    self._add(room, id_of_name(storey["name"]))

    def see(self, circuit: Any) -> None:
        """Take the rooms that the points of a circuit of version 3 name."""
        points = circuit.get("points") if isinstance(circuit, dict) else None
        for point in points if isinstance(points, list) else ():
            self._add(_room_of(point), None)

    def _add(self, name: Any, storey: str | None) -> None:
        if isinstance(name, str) and folded(name) and len(self._rooms) < MOST_ROOMS:
            own = id_of_name(name)
            self._rooms.setdefault(own, {"id": own, "name": name.strip(), "storey": storey})

    def places(self) -> Document:
        """Return storeys and rooms as version 4 has them."""
        return {"storeys": self._storeys, "rooms": list(self._rooms.values())}
