"""The minor works paper: a change of one circuit, or of several, and no new one (BS 7671 Part 6, Appendix 6)."""

from collections.abc import Iterator

from lumbek.core.documents.asking import NOT_APPLICABLE, Asking
from lumbek.core.documents.certificate import want_in_order
from lumbek.core.documents.electrodes import electrode_facts, own_electrodes
from lumbek.core.documents.facts import rcd_words
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import COMPETENT, Column, Fact, Paper, Row, Section, Table
from lumbek.core.documents.results import reading_words
from lumbek.core.inspection.whole import InspectionWhole, whole_inspection
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Verdict
from lumbek.core.model.job import JobCircuit
from lumbek.core.numbers import plain
from lumbek.core.protection.who import device_name
from lumbek.core.testing.sheet import Item

_TESTS = (
    Column(key="test", heading="Test"),
    Column(key="place", heading="Place"),
    Column(key="reading", heading="Reading", align="right", strong=True, whole=True),
    Column(key="limit", heading="Limit"),
    Column(key="at", heading="Read on", whole=True),
)


def minor_works_paper(gathered: Gathered) -> Paper:
    """Return the minor works paper of a job that changes circuits that exist."""
    whole, asking, job = whole_inspection(gathered), Asking(), gathered.job
    changed = [
        (circuit, answer)
        for circuit, answer in zip(job.circuits, gathered.answers, strict=True)
        if circuit.design.state != "as-found"
    ]
    for circuit, _ in changed:
        if circuit.design.state == "new":
            asking.want(f"Circuit {circuit.design.number} is new: an installation certificate", "documents")
    if not changed:
        asking.want("No circuit is altered", "circuits")
    sections = (_work(gathered, whole, asking), *(_circuit(gathered, *each, asking) for each in changed))
    want_in_order(gathered, asking)
    signatures = asking.signatures(whole.signed, gathered.covers, "inspector")
    return Paper(
        kind="minor-works",
        title="Minor works",
        **gathered.head,
        sections=sections,
        claim="The work complies, but for the departures named, and was inspected and tested.",
        statements=(
            "It does not make what was there before less safe, as far as that was looked at.",
            COMPETENT,
        ),
        signatures=signatures,
        missing=asking.missing,
        wants=tuple(asking.wants),
    )


def _work(gathered: Gathered, whole: InspectionWhole, asking: Asking) -> Section:
    said, supply = whole.particulars, gathered.house.supply
    return Section(
        title="The work",
        blocks=(
            asking.facts(
                asking.fact("Description and place", said.work),
                asking.fact("Finished on", said.finished),
                asking.fact("Departures", said.departures, none="none"),
                asking.fact("Earthing system", supply.earthing, "survey"),
                asking.fact("Main bonding", _bonding(gathered), "survey"),
                asking.fact("Comments on what existed", said.comments, none="none"),
            ),
        ),
    )


def _bonding(gathered: Gathered) -> str | None:
    """Return whether main bonding is adequate, as the survey and what was read of it judge; None where they cannot."""
    judged = [check.verdict for check in gathered.survey.checks if check.id.startswith("bonding")]
    read = [item.check.verdict for item in gathered.sheet.items if item.quantity == "bonding" and item.check]
    if Verdict.FAIL in (*judged, *read):
        return "NOT ADEQUATE"
    return None if Verdict.CANNOT_TELL in (*judged, *read) or not gathered.house.supply.services else "adequate"


def _circuit(gathered: Gathered, circuit: JobCircuit, answer: CircuitAnswer, asking: Asking) -> Section:
    design, facts = circuit.design, answer.facts
    table = Table(columns=_TESTS, rows=tuple(_rows(answer)))
    return Section(
        title=f"Circuit {design.number}, {design.name}",
        blocks=(
            asking.facts(
                Fact(name="Device", value=device_name(gathered.rulebook, design.device)),
                Fact(name="Cable", value=f"{plain(design.cable.csa_mm2)} mm², method {design.method}"),
                Fact(name="cpc", value=NOT_APPLICABLE if facts.cpc_mm2 is None else f"{plain(facts.cpc_mm2)} mm²"),
                *electrode_facts(own_electrodes(gathered.house, [circuit]), asking),
                Fact(name="Protection against faults", value="automatic disconnection"),
                Fact(
                    name="RCD",
                    value=rcd_words(facts.rcd) or NOT_APPLICABLE,
                ),
            ),
            table,
        ),
    )


def _rows(answer: CircuitAnswer) -> Iterator[Row]:
    for item in answer.tests.items:
        if item.reading is not None or item.aside is not None:
            yield Row(
                cells={
                    "test": item.title,
                    "place": item.place,
                    "reading": _read(item),
                    "limit": f"{item.sense} {item.limit} {item.unit}" if item.limit else "",
                    "at": _day(item),
                },
                bad=("reading",) if item.check is not None and item.check.verdict.value == "fail" else (),
            )


def _read(item: Item) -> str:
    reading = item.reading
    if reading is None:
        return f"limited: {item.aside.note}" if item.aside is not None and item.aside.note else NOT_APPLICABLE
    return reading_words(reading, item.unit)


def _day(item: Item) -> str:
    reading = item.reading or item.aside
    return "" if reading is None else reading.when[:10]
