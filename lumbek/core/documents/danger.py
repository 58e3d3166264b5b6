"""The notice of danger: what, where and why, what was done at once, who was told, and what must not be done."""

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import where_of
from lumbek.core.documents.paper import COMPETENT, Paper, Section, Words
from lumbek.core.documents.photographs import photographs
from lumbek.core.documents.unread import FINDINGS
from lumbek.core.inspection.standing import StandingFinding
from lumbek.core.inspection.whole import whole_inspection


def danger_paper(gathered: Gathered) -> Paper:
    """Return the notice of every danger found on a job. It is handed over at once, whoever makes it."""
    whole, asking, job = whole_inspection(gathered), Asking(), gathered.job
    dangers = [each for each in whole.findings if each.said.code == "C1" and each.said.status != "outside"]
    if not dangers:
        asking.want("No danger is on record", FINDINGS)
    return Paper(
        kind="danger",
        title="DANGER: notice to who lives here and who owns it",
        job=job.name,
        client=job.client,
        address=job.address,
        rulebook=gathered.rulebook.data.title,
        sections=(*(_section(gathered, each, asking) for each in dangers), *photographs(gathered, dangers)),
        statements=(
            "Told in writing because it can hurt or kill. It says nothing of what was not looked at.",
            COMPETENT,
        ),
        signatures=(),
        # What is still to be said is filled in by hand: a danger waits for no form.
        missing=() if dangers else asking.missing,
        wants=tuple(asking.wants),
    )


def _section(gathered: Gathered, finding: StandingFinding, asking: Asking) -> Section:
    said, dealt = finding.said, finding.said.danger
    at = f"{FINDINGS}/{said.finding}"
    made_safe = dealt.made_safe if dealt is not None else ""
    refused = dealt is not None and dealt.refused
    told = dealt.told_at[:16].replace("T", " ") if dealt is not None and dealt.told_at else ""
    lines = ["Do not switch on what was switched off, and do not take off the lock." if dealt and dealt.lock else ""]
    lines += ["It was NOT made safe: that was refused. Keep away from it, and let nobody use it." if refused else ""]
    return Section(
        title=where_of(gathered, said.spot),
        framed=True,
        blocks=(
            Words(lines=(said.seen,), kind="warning"),
            asking.facts(
                asking.fact("Why it is a danger", said.why, at, "live parts or live metal within reach"),
                asking.fact("Made safe", made_safe, at, "refused" if refused else ""),
                asking.fact("Locked with", dealt.lock if dealt else "", at, "no lock"),
                asking.fact("Who was told", dealt.told if dealt else "", at),
                asking.fact("When", told, at),
                asking.fact("Distributor told", dealt.distributor if dealt else "", at, "not their part"),
            ),
            Words(
                lines=(
                    *filter(None, lines),
                    "Nobody but a competent person puts it right; it is tested before it is used again.",
                ),
                kind="list",
            ),
            Words(lines=(f"Found by {finding.first.by}, {finding.first.at[:16].replace('T', ' ')} UTC.",)),
        ),
    )
