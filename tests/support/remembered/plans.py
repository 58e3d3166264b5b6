"""What is said of plans, and of the ways by them."""

from collections.abc import Iterator

from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.documents.registry import KINDS
from lumbek.core.model.job import Job
from lumbek.core.plan.answer import answer_plan
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.orders import orders_of
from lumbek.exchange.job_file import make_job
from tests.support.planned import Planned
from tests.support.remembered.papers import paper
from tests.support.said import LONG, in_words


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
