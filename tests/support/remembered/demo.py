"""The houses of the demo, with all that is said of them."""

from collections.abc import Iterator
from functools import cache
from importlib.resources import files

from lumbek.core.documents.gathered import gather
from lumbek.core.model.job import Job
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.faces import is_lit
from lumbek.exchange.job_file import read_job
from tests.support.finished_report import PARTICULARS, SIGNED, all_sound, reported
from tests.support.remembered.papers import papers
from tests.support.remembered.plans import plan_of
from tests.support.said import in_words, said_of


@cache
def demo(name: str) -> Job:
    return read_job((files("lumbek.services") / "demo_data" / f"{name}.json").read_bytes())


def whole(name: str) -> Iterator[str]:
    """Yield everything that is said of a house of the demo."""
    job = demo(name)
    gathered = gather(job)
    yield from said_of(job)
    yield from papers(gathered)
    yield from plan_of(job, gathered)
    yield f"work: {in_words(gathered.work)}"
    designs = {circuit.design.number: circuit.design for circuit in job.circuits}
    for number, design in designs.items():
        if is_lit(design):
            yield f"switching: {in_words(answer_switching(gathered.rulebook, designs, number))}"


def report() -> Iterator[str]:
    """Yield the papers of an inspection that is finished."""
    job = demo("signal_box_found")
    yield from papers(reported(job, *all_sound(gather(job)), PARTICULARS, *SIGNED))
