"""The test sheet of one circuit: every reading in the order of testing, expected beside entered."""

from lumbek.core.model.leg import BOARD
from lumbek.core.model.reading import AT_POINTS, Quantity, Reading, standing
from lumbek.core.numbers import plain
from lumbek.core.question import Sense
from lumbek.core.result import Check, Verdict, overall
from lumbek.core.study.door import Studied
from lumbek.core.study.study import Study
from lumbek.core.testing.band import Expected
from lumbek.core.testing.kind import Asked
from lumbek.core.testing.kinds import KINDS
from lumbek.core.testing.stages import STAGES
from lumbek.core.testing.taken import Taken
from lumbek.core.value import Frozen


class Item(Frozen):
    """One reading to take: what it is, what is expected, what was read and what that means.

    `limit` is the figure the reading is held to, already rounded against the user for showing.
    """

    quantity: Quantity
    point: str | None
    place: str
    title: str
    unit: str
    expected: Expected | None
    limit: str
    sense: Sense | None
    reading: Reading | None
    check: Check | None


class Stage(Frozen):
    """A step of testing: what is joined and measured, and its readings."""

    id: str
    title: str
    how: str
    live: bool
    items: tuple[Item, ...]


class Sheet(Frozen):
    """A circuit's test sheet. `verdict` is over the readings entered; `taken` of `total` are there."""

    stages: tuple[Stage, ...]
    taken: int
    total: int
    verdict: Verdict
    cautions: int


def sheet_of(
    studied: Studied, readings: tuple[Reading, ...], peers_mohm: tuple[float, ...] = (), ambient_c: float = 20.0
) -> Sheet:
    """Return the sheet of a circuit, expected readings from the middle of what is known of its lengths."""
    return test_sheet(studied.middle, readings, peers_mohm, ambient_c, bool(studied.lengths.ranged))


def test_sheet(
    study: Study,
    readings: tuple[Reading, ...],
    peers_mohm: tuple[float, ...] = (),
    ambient_c: float = 20.0,
    ranged: bool = False,
) -> Sheet:
    """Return the sheet of a circuit.

    `peers_mohm` are insulation readings of the other circuits; `ambient_c` the temperature of the copper; `ranged`
    says that the study's lengths are the middle of ranges.
    """
    taken = Taken(study, standing(readings), peers_mohm, ambient_c, ranged)
    points = walk_points(study)
    volts = plain(study.rulebook.data.testing.insulation_v)
    stages = []
    for each in (stage for stage in STAGES if stage.wanted(study)):
        places = [(quantity, point) for quantity in each.quantities for point in _places(quantity, points)]
        if places:
            items = tuple(_item(taken, quantity, point) for quantity, point in places)
            how = each.how.replace("{insulation_v}", volts)
            stages.append(Stage(id=each.id, title=each.title, how=how, live=each.live, items=items))
    items = tuple(item for stage in stages for item in stage.items)
    checks = [item.check for item in items if item.check is not None]
    return Sheet(
        stages=tuple(stages),
        taken=sum(item.reading is not None for item in items),
        total=len(items),
        verdict=overall(checks),
        cautions=sum(bool(check.caution) for check in checks),
    )


def walk_points(study: Study) -> list[str]:
    """Return the points in the order one walks them: along the run, then its branches. Joints are closed."""
    order: list[str] = []
    for chain in study.shape.walk:
        order += [step.point for step in chain.steps if step.point != BOARD and step.point not in order]
    return [point for point in order if study.circuit.point(point).kind != "joint"]


def _places(quantity: Quantity, points: list[str]) -> list[str] | list[None]:
    return points if quantity in AT_POINTS else [None]


def _item(taken: Taken, quantity: Quantity, point: str | None) -> Item:
    kind, reading = KINDS[quantity], taken.readings.get((quantity, point))
    limit = kind.limit(taken, point)
    return Item(
        quantity=quantity,
        point=point,
        place=taken.study.circuit.point_title(point) if point else "",
        title=kind.title,
        unit=kind.unit,
        expected=kind.expected(taken, point),
        limit=limit.shown if limit else "",
        sense=limit.sense if limit else None,
        reading=reading,
        check=None if reading is None else kind.judge(taken, reading, Asked.of(kind, taken.study, point)),
    )
