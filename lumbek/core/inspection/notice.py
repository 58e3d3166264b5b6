"""What a building control office is told of notifiable work, and what is still missing for it."""

from typing import Annotated

from pydantic import Field

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.notifiable import Notifiable
from lumbek.core.model.inspection import GivenNote, Particulars
from lumbek.core.model.text import GivenName
from lumbek.core.model.visit import Day
from lumbek.core.value import Frozen

# The kinds of paper that certify new work: one of them goes before a notification.
CERTIFYING = ("certificate", "minor-works", "verification")


class WorkNotice(Frozen):
    """A notification, as the office gets it."""

    firm: GivenName
    by: GivenName
    address: GivenNote
    client: str = ""
    work: GivenNote
    why: GivenNote
    finished: Day
    rulebook: str
    # The numbers of the firm's papers that certify it.
    papers: Annotated[tuple[int, ...], Field(min_length=1)]


def missing_for_notice(gathered: Gathered, said: Particulars, notify: Notifiable, papers: tuple[int, ...]) -> list[str]:
    """Return in words what keeps a notification from being handed in; nothing where it can be."""
    wanted = (
        (notify.word == "yes", f"It is not decided that the work has to be notified: {notify.why}"),
        (gathered.job.address.strip(), "The address of the installation is not said"),
        ((said.work or "").strip(), "The work that was done is not described"),
        (said.finished, "The day it was finished is not said"),
        (papers, "No certificate of the work is issued yet"),
    )
    return [words for there, words in wanted if not there]


def notice_of(
    gathered: Gathered, said: Particulars, notify: Notifiable, papers: tuple[int, ...], firm: str, by: str
) -> WorkNotice:
    """Return a notification of which nothing is missing."""
    job = gathered.job
    return WorkNotice(
        firm=firm,
        by=by,
        address=job.address,
        client=job.client,
        work=said.work or "",
        why=notify.why,
        finished=said.finished or "",
        rulebook=gathered.rulebook.data.title,
        papers=papers,
    )
