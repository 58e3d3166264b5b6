"""The condition report of an existing installation: what was found, how grave, and whether it may go on in use.

BS 7671 Part 6 (chapter 65) and Appendix 6.
"""

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import circuits_across, limits, looked_at, observations
from lumbek.core.documents.paper import COMPETENT, Fact, Paper, Section, Words
from lumbek.core.documents.photographs import photographs
from lumbek.core.documents.supply_facts import earthing_section, origin_section, supply_section
from lumbek.core.documents.unread import want_findings, want_readings
from lumbek.core.inspection.whole import InspectionWhole, whole_inspection
from lumbek.core.model.inspection import Particulars, SignedRole

_SIGN: tuple[SignedRole, ...] = ("inspector", "authoriser")
_WORDS = {
    "satisfactory": "SATISFACTORY for going on in use",
    "unsatisfactory": "UNSATISFACTORY: what is coded C1, C2 or FI wants action",
    "open": "not judged yet: not all of it is looked at and coded",
}


def condition_paper(gathered: Gathered) -> Paper:
    """Return the condition report of a job. A failing installation has one too: it says so."""
    return condition_report(gathered, "condition", "Condition report")


def condition_report(gathered: Gathered, kind: str, title: str) -> Paper:
    """Return a report on what exists, under one title or another."""
    whole, asking = whole_inspection(gathered), Asking()
    said = whole.particulars
    want_findings(whole, asking)
    sections = (
        _outcome(whole, asking),
        _about(gathered, said, asking),
        limits(said, whole, asking),
        observations(gathered, whole.findings),
        supply_section(gathered, asking),
        earthing_section(gathered, said, asking),
        origin_section(gathered, asking),
        looked_at(whole.areas, asking),
        circuits_across(gathered),
        *photographs(gathered, whole.findings),
    )
    want_readings(gathered, whole, asking)
    signatures = asking.signatures(whole.signed, gathered.covers, *_SIGN)
    return Paper(
        kind=kind,
        title=title,
        **gathered.head,
        sections=sections,
        claim=f"The installation is {_WORDS[whole.outcome.word]}.",
        statements=(
            "It says how the installation was on the days of the inspection, within the extent and limits above.",
            COMPETENT,
        ),
        signatures=signatures,
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def _outcome(whole: InspectionWhole, asking: Asking) -> Section:
    outcome, said = whole.outcome, whole.particulars
    counts = ", ".join(f"{count} {code}" for code, count in outcome.counts.items() if count) or "none coded"
    return Section(
        title="Outcome",
        blocks=(
            Words(lines=(f"The installation is {_WORDS[outcome.word]}.",), kind="warning"),
            asking.facts(
                Fact(name="Observations", value=counts),
                asking.fact("Summary of its condition", said.summary),
                asking.fact("Next inspection by", said.next_day),
                asking.fact("Why then", said.next_why),
            ),
        ),
        framed=True,
    )


def _about(gathered: Gathered, said: Particulars, asking: Asking) -> Section:
    extent, papers = gathered.job.extent, said.last_papers or ()
    year = f"about {extent.year}" if extent.year is not None else None
    return Section(
        title="The installation",
        blocks=(
            asking.facts(
                asking.fact("Client", gathered.job.client, "head"),
                asking.fact("Address", gathered.job.address, "head"),
                asking.fact("Reason for the report", said.reason),
                asking.fact("Occupier", said.occupier, none="not occupied"),
                asking.fact("Age", said.age or year),
                asking.fact("Additions and alterations", said.alterations, none="none seen"),
                asking.fact(
                    "Last papers",
                    "; ".join(" ".join(filter(None, (each.what, each.number, each.day))) for each in papers),
                    none="none shown",
                ),
                Fact(name="Inspected on", value=_days(gathered) or "no day on record"),
            ),
        ),
    )


def _days(gathered: Gathered) -> str:
    """Return the days on which anything was looked at or read."""
    days = {kept.when[:10] for kept in gathered.job.inspection}
    days |= {visit.day or visit.at[:10] for visit in gathered.job.visits}
    return ", ".join(sorted(days)[-6:])
