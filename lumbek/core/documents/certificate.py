"""The installation certificate: new work, or an addition with a new circuit or board (BS 7671 Part 6, Appendix 6)."""

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import circuits_across, looked_at
from lumbek.core.documents.issue import draft_reasons, failures
from lumbek.core.documents.paper import COMPETENT, Fact, Paper, Section
from lumbek.core.documents.supply_facts import earthing_section, origin_section, supply_section
from lumbek.core.documents.unread import want_tests_again
from lumbek.core.inspection.whole import InspectionWhole, whole_inspection
from lumbek.core.model.inspection import SignedRole

_SIGN: tuple[SignedRole, ...] = ("designer", "constructor", "inspector")


def certificate_paper(gathered: Gathered) -> Paper:
    """Return the installation certificate of a job: nothing of it may fail, and nothing be left unread."""
    return certificate(gathered, "certificate", "Electrical installation certificate", _SIGN)


def certificate(gathered: Gathered, kind: str, title: str, sign: tuple[SignedRole, ...]) -> Paper:
    """Return a paper on new work, under one title or another."""
    whole, asking = whole_inspection(gathered), Asking()
    sections = (
        _work(gathered, whole, asking),
        supply_section(gathered, asking),
        earthing_section(gathered, whole.particulars, asking),
        origin_section(gathered, asking),
        looked_at(whole.areas, asking),
        circuits_across(gathered),
    )
    want_in_order(gathered, asking)
    signatures = asking.signatures(whole.signed, gathered.covers, *sign)
    return Paper(
        kind=kind,
        title=title,
        **gathered.head,
        sections=sections,
        claim="The work complies, but for the departures named, and was inspected and tested.",
        statements=("Who signs answers for their part of the work.", COMPETENT),
        signatures=signatures,
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def want_in_order(gathered: Gathered, asking: Asking) -> None:
    """Want everything put right that stands against saying that work complies, each where that is done."""
    job = gathered.job
    told = [(answer, tuple(failures(answer))) for answer in gathered.answers]
    keys = {answer.number: circuit.key for circuit, answer in zip(job.circuits, gathered.answers, strict=True)}
    for reason in draft_reasons(gathered.survey, gathered.shared, bool(job.boards), told, gathered.sheet):
        asking.want(reason, _place(reason, keys))
    want_tests_again(gathered, asking)


def _place(reason: str, keys: dict[int, str]) -> str:
    """Return where a reason is put right, by what it begins with."""
    first = reason.partition(":")[0]
    if first.startswith("Circuit "):
        number = first.removeprefix("Circuit ").partition(",")[0]
        stage = "tests" if "reading" in reason or "test " in reason else "circuits"
        return f"{stage}/{keys[int(number)]}" if number.isdigit() and int(number) in keys else stage
    return {"Survey": "survey", "Boards": "board", "Installation": "tests"}.get(first.split()[0], "circuits")


def _work(gathered: Gathered, whole: InspectionWhole, asking: Asking) -> Section:
    said, job = whole.particulars, gathered.job
    departs = said.departures
    return Section(
        title="The work",
        blocks=(
            asking.facts(
                asking.fact("Client", job.client, "head"),
                asking.fact("Address", job.address, "head"),
                Fact(name="Nature of the work", value=nature(gathered)),
                asking.fact("Description and extent", said.work),
                asking.fact("Finished on", said.finished),
                Fact(name="Designed to", value=gathered.rulebook.data.title),
                asking.fact("Departures", departs, none="none"),
                *([asking.fact("Departures accepted by", said.departures_accepted_by)] if departs else []),
                asking.fact("Comments on what existed", said.comments, none="none"),
                asking.fact("Next inspection by", said.next_day),
                asking.fact("Why then", said.next_why),
            ),
        ),
    )


def nature(gathered: Gathered) -> str:
    """Return whether a job is a new installation, an addition or an alteration."""
    states = {circuit.design.state for circuit in gathered.job.circuits}
    if states <= {"new"} and not gathered.job.extent.is_change:
        return "new installation"
    return "addition to an existing installation" if "new" in states else "alteration of an existing installation"
