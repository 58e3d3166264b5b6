"""An inspection as a whole: what stands, what is offered, what is open; worked out from a job and its records."""

from collections.abc import Mapping

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.accessories import samples_of
from lumbek.core.inspection.compare import ComparedLine, compare
from lumbek.core.inspection.due import NextProposed, propose_next
from lumbek.core.inspection.notifiable import Notifiable, notifiable
from lumbek.core.inspection.offers import Offer, offers_of
from lumbek.core.inspection.outcome import Outcome, outcome_of
from lumbek.core.inspection.sample import SampleKind
from lumbek.core.inspection.standing import Inspection, StandingFinding, StandingSign, StandingTask, standing_of
from lumbek.core.inspection.walk import WalkArea, walk_of
from lumbek.core.model.inspection import LastTime, Particulars, TurnsOn
from lumbek.core.value import Frozen


class DismissedLine(Frozen):
    """An offer that was dismissed, with the word on it."""

    offer: str
    title: str
    why: str
    by: str


class InspectionWhole(Frozen):
    """Everything there is to say of an inspection."""

    findings: tuple[StandingFinding, ...]
    dangers: tuple[str, ...]
    offers: tuple[Offer, ...]
    dismissed: tuple[DismissedLine, ...]
    areas: tuple[WalkArea, ...]
    samples: tuple[SampleKind, ...]
    outcome: Outcome
    particulars: Particulars
    tasks: tuple[StandingTask, ...]
    signed: tuple[StandingSign, ...]
    last: tuple[LastTime, ...]
    compared: tuple[ComparedLine, ...]
    notify: Notifiable
    notify_answers: tuple[TurnsOn, ...]
    next_proposed: NextProposed | None


def whole_inspection(gathered: Gathered, today: str = "") -> InspectionWhole:
    """Return an inspection as it stands on a day; without a day nothing is proposed for later."""
    inspection = standing_of(gathered.job.inspection)
    offers = offers_of(gathered)
    titles = {offer.key: offer.title for offer in offers}
    taken = {each.said.offer for each in inspection.findings.values()}
    open_offers = tuple(each for each in offers if each.key not in taken and each.key not in inspection.dismissed)
    areas = walk_of(gathered, inspection)
    outcome = outcome_of(inspection.findings.values(), len(open_offers) + sum(len(area.open) for area in areas))
    answers = () if inspection.notify is None else inspection.notify.answers
    return InspectionWhole(
        findings=tuple(sorted(inspection.findings.values(), key=lambda each: each.first.at)),
        dangers=tuple(each.said.finding for each in inspection.dangers),
        offers=open_offers,
        dismissed=_dismissed(inspection, titles),
        areas=areas,
        samples=samples_of(gathered, inspection),
        outcome=outcome,
        particulars=inspection.particulars,
        tasks=tuple(inspection.tasks.values()),
        signed=tuple(inspection.signed.values()),
        last=tuple(inspection.last.values()),
        compared=compare(gathered, inspection.last.values()),
        notify=notifiable(gathered, answers),
        notify_answers=answers,
        next_proposed=_next(gathered, inspection, outcome, today),
    )


def _dismissed(inspection: Inspection, titles: Mapping[str, str]) -> tuple[DismissedLine, ...]:
    return tuple(
        DismissedLine(offer=key, title=titles.get(key, key), why=why, by=who.by)
        for key, (why, who) in inspection.dismissed.items()
    )


def _next(gathered: Gathered, inspection: Inspection, outcome: Outcome, today: str) -> NextProposed | None:
    let = bool(inspection.particulars.is_let)
    return propose_next(today, outcome, let, gathered.job.extent.year) if today else None
