"""Parts that papers of an inspection share: observations, items, limits, samples, results with their days."""

from collections.abc import Iterable

from lumbek.core.documents.asking import NOT_APPLICABLE, Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, Block, Column, Row, Section, Table, Words
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.inspection.outcome import CODE_WORDS
from lumbek.core.inspection.standing import GRAVITY, StandingFinding
from lumbek.core.inspection.walk import TOPICS, WalkArea, WalkItem
from lumbek.core.inspection.whole import InspectionWhole
from lumbek.core.model.inspection import FindingSpot, Particulars

_OUTCOMES = {
    "sound": "sound",
    "finding": "see observations",
    "not-verified": "not verified",
    "limited": "limited",
    "not-applicable": NOT_APPLICABLE,
}
_OBSERVED = (
    Column(key="number", heading="No.", align="centre"),
    Column(key="place", heading="Place"),
    Column(key="seen", heading="What was seen", strong=True),
    Column(key="clause", heading="Clause"),
    Column(key="code", heading="Code", align="centre", strong=True, whole=True),
    Column(key="status", heading="Since then"),
)
_ITEMS = (
    Column(key="topic", heading="Topic", only="csv"),
    Column(key="place", heading="Place"),
    Column(key="item", heading="Looked at"),
    Column(key="clause", heading="Clause"),
    Column(key="outcome", heading="Outcome", strong=True),
    Column(key="by", heading="By"),
)
_STATUS = {
    "open": "",
    "made-safe": "made safe at once",
    "done": "put right, see completion of remedials",
    "refused": "putting right was refused",
    "outside": "outside the extent",
}


def where_of(gathered: Gathered, spot: FindingSpot) -> str:
    """Return in words where something was found, as its part is called now."""
    circuit = next((each for each in gathered.job.circuits if each.key == spot.circuit), None)
    if circuit is not None:
        own = f"Circuit {circuit.design.number}, {circuit.design.name}"
        if spot.of == "point" and any(point.id == spot.id for point in circuit.design.points):
            return f"{own}: {circuit.design.point_title(spot.id)}"
        return f"{own}: {spot.words}" if spot.of == "leg" and spot.words else own
    if spot.of == "room":
        return gathered.house.places.name_of(spot.id) or spot.words
    board = next((each for each in gathered.house.boards if spot.of == "board" and each.id == spot.id), None)
    if board is not None:
        return board.name
    return spot.words or ("The supply" if spot.of == "supply" else "The house")


def observations(gathered: Gathered, findings: Iterable[StandingFinding]) -> Section:
    """Return the observations, gravest first, each with its place and code."""
    inside = [each for each in findings if each.said.status != "outside"]
    coded = sorted((each for each in inside if each.said.code != "none"), key=lambda each: GRAVITY[each.said.code])
    notes = [each for each in inside if each.said.code == "none"]
    rows = tuple(
        Row(
            cells={
                "number": str(count),
                "place": where_of(gathered, each.said.spot),
                "seen": each.said.seen,
                "clause": each.said.clause or BLANK,
                "code": each.said.code or "not coded",
                "status": _STATUS[each.said.status],
            },
            bad=("code",) if each.said.code in ("C1", "C2", "FI") else (),
        )
        for count, each in enumerate(coded, start=1)
    )
    blocks: list[Block] = [Table(columns=_OBSERVED, rows=rows)] if rows else [Words(lines=("Nothing to record.",))]
    if rows:
        used = dict.fromkeys(each.said.code for each in coded if each.said.code)
        blocks.append(Words(lines=tuple(f"{code}: {CODE_WORDS[code]}" for code in used)))
    if notes:
        said = tuple(f"{where_of(gathered, each.said.spot)}: {each.said.seen}" for each in notes)
        blocks.append(Words(lines=("Noted, and no code:", *said), kind="list"))
    return Section(title="Observations", blocks=tuple(blocks))


def looked_at(areas: Iterable[WalkArea], asking: Asking) -> Section:
    """Return every item that was looked at; what nobody has looked at is wanted, place by place."""
    rows = []
    for area in areas:
        rows += [_item(area, item) for item in area.items]
        if area.open:
            count = len(area.open)
            asking.want(f"{area.title}: {count} item{'s' if count > 1 else ''} not looked at", f"inspection/{area.key}")
    return Section(title="What was looked at", blocks=(Table(columns=_ITEMS, rows=tuple(rows)),))


def _item(area: WalkArea, item: WalkItem) -> Row:
    stands = item.standing
    outcome = "not looked at" if stands is None else _OUTCOMES[stands.line.outcome]
    why = f": {stands.line.why}" if stands is not None and stands.line.why else ""
    return Row(
        cells={
            "topic": TOPICS[item.kind.topic],
            "place": area.title,
            "item": item.kind.asks,
            "clause": item.kind.clause,
            "outcome": outcome + why,
            "by": BLANK if stands is None else f"{stands.last.by}, {stands.last.at[:10]}",
        },
        bad=("outcome",) if stands is None else (),
    )


def limits(particulars: Particulars, whole: InspectionWhole, asking: Asking) -> Section:
    """Return the extent and what was not looked at: agreed, or met on site; what samples prove of the rest."""
    agreed = [each for each in particulars.limitations or () if each.agreed_with]
    met = [each for each in particulars.limitations or () if not each.agreed_with]
    share = particulars.share_percent
    lines = [
        *(f"Agreed with {each.agreed_with}: {each.what}{f', {each.why}' if each.why else ''}" for each in agreed),
        *(f"Met on site: {each.what}{f', {each.why}' if each.why else ''}" for each in met),
    ]
    return Section(
        title="Extent and limits",
        blocks=(
            asking.facts(
                asking.fact("Extent", particulars.covers),
                asking.fact("Share looked at and tested", None if share is None else f"{share:g} %"),
                asking.fact("Could not be isolated", particulars.not_isolated, none="nothing"),
                asking.fact("Kept on", particulars.kept_on, none="nothing"),
                asking.fact("The customer's own changes", particulars.customers_changes, none="none told"),
            ),
            Words(lines=tuple(lines) or ("No limits were agreed, and none were met.",), kind="list"),
            *(
                [Words(lines=tuple(f"{each.title}: {each.proves}." for each in whole.samples), kind="list")]
                if whole.samples
                else []
            ),
            Words(
                lines=(
                    "Not inspected: cables in walls, under floors, in ducts and in the ground, and what is fixed over, "
                    "unless said above.",
                ),
                kind="strong",
            ),
        ),
    )


def circuits_across(gathered: Gathered) -> Section:
    """Return the schedule of circuits and results, set across the page."""
    (section,) = schedule_paper(gathered).sections
    table = section.blocks[-1]
    return Section(title="Circuits and results", blocks=(table,), across=True, new_page=True)
