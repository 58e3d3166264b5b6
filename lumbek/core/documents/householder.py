"""The householder's pages: what was done, what each switch is for, what to do, what is next. In plain words."""

from collections.abc import Iterator

from lumbek.core.board.labels import householder_note
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Paper, Section, Words
from lumbek.core.inspection.whole import InspectionWhole, whole_inspection

_BUTTONS = (
    "Every six months press the button marked T or Test on each RCD or RCBO. It must switch off; switch it on again. "
    "If it does not, call an electrician.",
    "Press the test button of every smoke and heat alarm once a month.",
)


def householder_paper(gathered: Gathered) -> Paper:
    """Return the pages for who lives in the house."""
    whole, job, house = whole_inspection(gathered), gathered.job, gathered.house
    sections = [
        Section(title="What was done", blocks=(Words(lines=tuple(_done(whole)), kind="list"),)),
        *(
            Section(title=board.name, blocks=(Words(lines=householder_note(house, board), kind="note"),))
            for board in house.boards
        ),
    ]
    switches = tuple(_switches(gathered))
    if switches:
        sections.append(Section(title="What each switch is for", blocks=(Words(lines=switches, kind="list"),)))
    sections.append(Section(title="What to do", blocks=(Words(lines=_BUTTONS, kind="list"),)))
    sections.append(Section(title="What is next", blocks=(Words(lines=tuple(_next(whole)), kind="list"),)))
    return Paper(
        kind="householder",
        title="For who lives here",
        job=job.name,
        client=job.client,
        address=job.address,
        sections=tuple(sections),
        statements=("Keep it with the papers of the house.",),
    )


def _done(whole: InspectionWhole) -> Iterator[str]:
    if whole.particulars.work:
        yield whole.particulars.work
    done = [task.said.what for task in whole.tasks if task.said.status == "done"]
    yield from done
    if not whole.particulars.work and not done:
        yield "Looked at and tested; nothing was changed."


def _switches(gathered: Gathered) -> Iterator[str]:
    """Yield what switches what, control by control, as it is called in the house."""
    for circuit in gathered.job.circuits:
        design, scheme = circuit.design, circuit.design.scheme
        for control in scheme.controls if scheme is not None else ():
            lights = ", ".join(design.point_title(output.point) for output in control.outputs)
            gangs = dict.fromkeys(design.point_title(gang.point) for gang in control.gangs)
            if gangs:
                yield f"{control.name or lights}: at {', '.join(gangs)}"


def _next(whole: InspectionWhole) -> Iterator[str]:
    said = whole.particulars
    if said.next_day:
        yield f"The next inspection is due by {said.next_day}{f': {said.next_why}' if said.next_why else ''}."
    open_ = [task.said.what for task in whole.tasks if task.said.status in ("proposed", "agreed")]
    yield from (f"Still to be done: {each}" for each in open_)
    if not said.next_day and not open_:
        yield "Nothing is open. Ask your electrician when the next inspection is due."
