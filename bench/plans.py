"""How a plan's answer grows: one edit in houses of 4 storeys, beside the same edit in a house half as large.

    python -m bench.plans

An edit changes one room; what is said of the others is the same as before, and is not worked out anew.
"""

import time

from lumbek.core.model.places import Places
from lumbek.core.places.commands import AddStorey
from lumbek.core.plan.commands import TypeLine, TypeRoom
from tests.support.plans import after, answered

_LINES = (
    "door 838 s left 100 hinge left",
    "window 1200 n left 1500 sill 900",
    "bed 1500 w middle",
    "socket both sides of bed",
    "switch beside door",
    "joists n pitch 400 wide 47 first 120",
    "4 spots grid 2x2 400lm 36deg cut 70 clear",
    "smoke ceiling w 1.20 s 0.90",
)


def house(rooms: int) -> Places:
    """Return a house of four storeys with so many rooms, no two alike, eight marks in each."""
    places = Places()
    for name in ("Loft", "Upper", "Ground", "Cellar"):
        places = after(places, AddStorey(name=name))
    for at in range(rooms):
        storey = places.storeys[at % 4].id
        places = after(places, TypeRoom(typed=f"Room {at} 4.{at:02d} x 3.60", storey=storey))
        places = after(places, *(TypeLine(room=places.rooms[-1].id, typed=line) for line in _LINES))
    return places


def edit_s(places: Places) -> float:
    """Return how long an edit takes, in s of processor: the command and the answer after it; the middle of five."""
    answered(places)
    found = []
    for mm in range(5):
        # Nothing is the same object as before: a plan is read anew for every request.
        read = Places.model_validate_json(places.model_dump_json())
        start = time.process_time()
        answered(after(read, TypeLine(room=read.rooms[0].id, typed=f"socket e left {500 + mm}")))
        found.append(time.process_time() - start)
    return sorted(found)[2]


def main() -> None:
    """Print how long one edit takes in houses of growing size, and by how much that grows."""
    before = None
    for rooms in (8, 15, 30, 60):
        places = house(rooms)
        took = edit_s(places)
        growth = "" if before is None else f", {took / before:.2f} times the one before"
        print(f"{rooms:3d} rooms, {len(places.marks):4d} marks: an edit in {1000 * took:.0f} ms{growth}")
        before = took


if __name__ == "__main__":
    main()
