"""The installation certificate: new work, or an addition with a new circuit or board (BS 7671 Part 6, Appendix 6)."""

from lumbek.core.board.judge import judge_house
from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import circuits_across, looked_at
from lumbek.core.documents.issue import draft_reasons, failures
from lumbek.core.documents.paper import COMPETENT, Fact, Paper, Section, Want
from lumbek.core.documents.supply_facts import earthing_section, origin_section, supply_section
from lumbek.core.inspection.tested_again import tested_again
from lumbek.core.inspection.whole import InspectionWhole, whole_inspection
from lumbek.core.model.inspection import SignedRole
from lumbek.core.survey.judgement import judge_supply
from lumbek.core.testing.installation import installation_sheet

_SIGN: tuple[SignedRole, ...] = ("designer", "constructor", "inspector")


def certificate_paper(gathered: Gathered) -> Paper:
    """Return the installation certificate of a job: nothing of it may fail, and nothing be left unread."""
    return certificate(gathered, "certificate", "Electrical installation certificate", _SIGN)


def certificate(gathered: Gathered, kind: str, title: str, sign: tuple[SignedRole, ...]) -> Paper:
    """Return a paper on new work, under one title or another."""
    whole, asking, job = whole_inspection(gathered), Asking(), gathered.job
    sections = (
        _work(gathered, whole, asking),
        supply_section(gathered, asking),
        earthing_section(gathered, whole.particulars, asking),
        origin_section(gathered, asking),
        looked_at(whole.areas, asking),
        circuits_across(gathered),
    )
    for reason in against(gathered):
        asking.want(reason.words, reason.at)
    signatures = asking.signatures(whole.signed, gathered.covers, *sign)
    return Paper(
        kind=kind,
        title=title,
        job=job.name,
        client=job.client,
        address=job.address,
        rulebook=gathered.rulebook.data.title,
        advice=gathered.rulebook.data.advice,
        sections=sections,
        claim="The work complies, but for the departures named, and was inspected and tested.",
        statements=("Who signs answers for their part of the work.", COMPETENT),
        signatures=signatures,
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def against(gathered: Gathered) -> list[Want]:
    """Return what stands against issuing anything that says work complies, each with where it is put right."""
    job, house = gathered.job, gathered.house
    supply = judge_supply(gathered.rulebook, house.supply, job.extent)
    sheet = installation_sheet(gathered.rulebook, house.supply, job.readings, house, job.extent)
    told = [(answer, tuple(failures(answer))) for answer in gathered.answers]
    keys = {answer.number: circuit.key for circuit, answer in zip(job.circuits, gathered.answers, strict=True)}
    reasons = draft_reasons(supply, judge_house(house), bool(job.boards), told, sheet)
    return [
        *(Want(words=reason, at=_place(reason, keys)) for reason in reasons),
        *(
            Want(words=f"Read again after the repair: {each.words}", at=f"tests/{each.circuit}")
            for each in tested_again(gathered)
        ),
    ]


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
