"""The take-off: what to bring, and the cuts of each cable with the drums they come off."""

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Block, Column, Paper, Row, Section, Table, Words
from lumbek.core.items.take_off import CableCuts, TakeOffItem

_ITEMS = (
    Column(key="what", heading="What", strong=True),
    Column(key="count", heading="How much", align="right", strong=True),
    Column(key="unit", heading="Unit"),
    Column(key="key", heading="Key", only="csv"),
)
_CUTS = (
    Column(key="cable", heading="Cable", only="csv"),
    Column(key="leg", heading="Circuit: from, to", strong=True),
    Column(key="m", heading="m", align="right", strong=True),
)
_SORTS = {"cable": "Cable", "box": "Boxes", "accessory": "Accessories", "device": "Devices", "fixing": "Fixings"}


def take_off_paper(gathered: Gathered) -> Paper:
    """Return what a job takes, sort by sort, and the cut list."""
    found = gathered.take_off
    sections = []
    for sort, title in _SORTS.items():
        rows = tuple(_item(item) for item in found.items if item.sort == sort)
        if rows:
            sections.append(Section(title=title, blocks=(Table(columns=_ITEMS, rows=rows),)))
    sections += [_cuts(cuts) for cuts in found.cuts]
    return Paper(
        kind="take-off",
        title="Take-off",
        **gathered.head,
        sections=tuple(sections),
        statements=("Lengths with what is left at the ends. What is there already is not counted.",),
        signatures=(),
        missing=found.missing if sections else ("Nothing new is on the plan or drawn yet",),
    )


def _item(item: TakeOffItem) -> Row:
    count = f"{item.count / 1000:.1f}" if item.unit == "m" else str(item.count)
    return Row(cells={"what": item.what, "count": count, "unit": item.unit, "key": item.key})


def _cuts(cuts: CableCuts) -> Section:
    rows = tuple(
        Row(cells={"cable": cuts.what, "leg": cut.leg, "m": f"{cut.mm / 1000:.1f}"})
        for cut in sorted(cuts.cuts, key=lambda each: -each.mm)
    )
    blocks: list[Block] = [Table(columns=_CUTS, rows=rows)]
    if cuts.drums is None:
        blocks.insert(0, Words(lines=("A cut is longer than the largest drum.",), kind="warning"))
    else:
        lines = tuple(
            f"Drum of {drum.size_mm // 1000} m: {', '.join(f'{mm / 1000:.1f}' for mm in drum.cuts_mm)}; "
            f"{drum.left_mm / 1000:.1f} m left"
            for drum in cuts.drums.drums
        )
        sure = "none buys less" if cuts.drums.is_proved else f"not proved; at least {cuts.drums.bound_mm // 1000} m"
        blocks.append(Words(lines=(*lines, f"{cuts.drums.bought_mm // 1000} m bought: {sure}.")))
    return Section(title=f"Cuts of {cuts.what}", blocks=tuple(blocks))
