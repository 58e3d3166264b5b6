"""What is said of plans, and of the ways by them."""

from collections.abc import Iterator

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.documents.registry import KINDS
from lumbek.core.model.job import Job
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Mark, Opening, Outline, Thing
from lumbek.core.plan.answer import answer_plan
from lumbek.core.plan.commands import TypeLine, TypeRoom
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.orders import orders_of
from lumbek.exchange.job_file import make_job
from tests.support.planned import Planned
from tests.support.plans import after, answered
from tests.support.remembered.papers import paper
from tests.support.said import LONG, field_lines, in_words

# Said of a room of 4.20 by 3.60 m one after another: what each makes, or why it is not understood.
_TYPED = """
door 838 s left 100 hinge left
window 1200 n middle sill 900 head 2100
window 600 e left 300
gap 900 w right 200
bed 1500 deep 2000 w middle
units 600 600 450 n left 0
sink 500 n left 1300
hob 600 n left 650
wall-units 900 e right 0 at 1450
stair 2600 s right 0 rises left
radiator 1000 e left 900 goes
appliance 600 e right 100 wired pulls out
bath 1700 s right 0 deep 700
shower 900 e left 0 no tray
basin 500 w left 0
stove 600 w right 0 deep 500
joists n pitch 400 wide 47 first 120
ceiling 2.40 lath void 200 insulated
wall n stud
wall s depth 70 plaster 12 tiled
pipe e 1.20 wide 22
duct n 0.40
beam e 2.00 wide 150
socket both sides of bed
2 sockets spread e
socket over units 2
socket between window window2
switch beside door 150
socket n left 300 at 450 twin
socket above bed at 1200 single ip44 existing
socket below window
light ceiling w 1.20 s 0.90
6 spots grid 3x2 400lm 60deg cut 70 clear
6 spots grid 3x2 spacing 1.20 cut 70
3 spots edge units
smoke ceiling w 1.50 s 1.50
co n left 2500 at 1800
switch above socket-1
fcu n right 400 at 1100
shaver e left 200 at 1400
6 spots, fan, 3 sockets
socket over units 9
sofa 2000 n left 0
door 800 q left 0
socket n up 3
spot grid 3
socket n left 300 twice
ceiling blue
""".strip().splitlines()


def typed() -> Iterator[str]:
    """Yield what each line makes of a room, said into it after those before."""
    places = after(Places(), TypeRoom(typed="Bedroom 4.20 x 3.60 h 2.40"))
    for line in _TYPED:
        try:
            told = after(places, TypeLine(room="bedroom", typed=line))
        except EditRefusedError as error:
            yield f"{line}: {error}"
            continue
        known = {part.id for part in _parts(places)}
        new = [part for part in _parts(told) if part.id not in known]
        other = _outline(told).model_copy(update={"openings": (), "things": ()})
        yield f"{line}: {in_words(new)}" + ("" if new else in_words(other))
        places = told
    (room,) = answered(places).rooms
    yield from field_lines("", room)


def _outline(places: Places) -> Outline:
    found = places.rooms[0].outline
    assert found is not None, "it was measured"
    return found


def _parts(places: Places) -> list[Opening | Thing | Mark]:
    outline = _outline(places)
    return [*outline.openings, *outline.things, *places.marks]


def plans(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what is said of houses by the tape: room by room, wall by wall, leg by leg."""
    for number in numbers:
        job = make_job(Planned(number).job())
        gathered = gather(job)
        yield from plan_of(job, gathered)
        for kind in KINDS:
            if kind.id in ("set-out", "first-fix", "take-off"):
                yield from paper(kind, gathered)


def plan_of(job: Job, gathered: Gathered) -> Iterator[str]:
    """Yield what is said of a plan, and of the ways by it."""
    plan = answer_plan(job.places, gathered.rulebook)
    yield f"{job.name}, {gathered.rulebook.id}"
    for name in type(plan).model_fields:
        if name != "rooms":
            yield f"  {name}: {in_words(getattr(plan, name))}"
    for room in plan.rooms:
        for name in type(room).model_fields:
            found = getattr(room, name)
            for each in found if isinstance(found, tuple) and len(in_words(found)) > LONG else (found,):
                yield f"  {room.room} {name}: {in_words(each)}"
    for leg in gathered.routes.legs:
        yield f"  {in_words(leg)}"
    yield f"  {in_words(gathered.routes.model_copy(update={'legs': ()}))}"
    routed = RoutedHouse(job.places, gathered.house.boards, job.rulebook)
    sockets = [mark.id for mark in job.places.marks if mark.kind == "socket" and mark.id in routed.house.ends]
    yield f"  orders: {in_words(orders_of(routed, sockets[:5]))}"
