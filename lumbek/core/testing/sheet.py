"""The test sheet of one circuit: every reading in the order of testing, expected beside entered."""

from collections.abc import Mapping
from itertools import chain

from lumbek.core.judging.check import Check, Verdict, overall
from lumbek.core.judging.question import Sense
from lumbek.core.model.device import Device
from lumbek.core.model.extent import Extent
from lumbek.core.model.leg import BOARD
from lumbek.core.model.reading import (
    AT_POINTS,
    AT_RCDS,
    PAIRS_OF_PHASES,
    IsolatedPair,
    Key,
    Quantity,
    Reading,
    set_aside,
    standing,
)
from lumbek.core.numbers import plain
from lumbek.core.study.door import Studied
from lumbek.core.study.study import Study
from lumbek.core.testing.against import against_each_other
from lumbek.core.testing.band import Expected
from lumbek.core.testing.kind import Asked
from lumbek.core.testing.kinds import KINDS
from lumbek.core.testing.sampling import BESIDE_A_CHANGE, SAMPLED, WORDS, plan_of, planned
from lumbek.core.testing.stages import STAGES, StageKind
from lumbek.core.testing.taken import Taken
from lumbek.core.testing.unplug import to_unplug
from lumbek.core.value import Frozen


class Item(Frozen):
    """One reading to take: what it is, what is expected, what was read and what that means.

    `limit` is the figure the reading is held to, already rounded against the user for showing. What is `beside` is
    asked of nobody. `aside` says that it was not taken, and why; `earlier` are readings that a later one stands for.
    """

    quantity: Quantity
    point: str | None
    place: str
    room: str
    title: str
    unit: str
    expected: Expected | None
    limit: str
    sense: Sense | None
    reading: Reading | None
    check: Check | None
    beside: bool = False
    # Why the plan of the job, or its extent, leaves it out; what is left out is beside.
    outside: str = ""
    # Where it is tested, where that is not on this sheet.
    tested_at: str = ""
    aside: Reading | None = None
    earlier: tuple[Reading, ...] = ()

    @property
    def is_done(self) -> bool:
        """Whether nothing more is asked: it was read, or will not be for a reason that stands."""
        return self.reading is not None or (self.aside is not None and self.aside.untaken != "deferred")


class Stage(Frozen):
    """A step of testing: what is joined and measured, and its readings."""

    id: str
    title: str
    how: str
    live: bool
    items: tuple[Item, ...]


class Sheet(Frozen):
    """A circuit's test sheet. `verdict` is over the readings entered; `taken` of `total` are there.

    `between` are readings held against each other. Live tests are closed while `waits_for` names dead ones, unless a
    `reason` to go first is on record.
    """

    stages: tuple[Stage, ...]
    taken: int
    total: int
    verdict: Verdict
    cautions: int
    between: tuple[Check, ...] = ()
    isolated: bool = False
    waits_for: tuple[str, ...] = ()
    reason: str = ""
    unplug: tuple[str, ...] = ()
    # What is tested dead, pair by pair, before anything else is touched.
    pairs: tuple[IsolatedPair, ...] = ()

    @property
    def items(self) -> list[Item]:
        """The readings of all its stages."""
        return [item for stage in self.stages for item in stage.items]

    @property
    def judged(self) -> list[Check]:
        """The verdicts on the readings that were taken."""
        return [item.check for item in self.items if item.check is not None]

    @property
    def live_open(self) -> bool:
        """Whether live tests may be taken."""
        return not self.waits_for or bool(self.reason)


class SharedTests(Frozen):
    """The tests of the RCD that a circuit shares with others, done on the sheet of the house, and what it is called."""

    title: str
    readings: tuple[Reading, ...] = ()

    def as_own(self) -> dict[Key, Reading]:
        """Return them as they would stand on the circuit's own sheet."""
        found: dict[Key, Reading] = {}
        for (quantity, _), reading in standing(self.readings).items():
            own = AT_RCDS.get(quantity)
            if own is not None:
                found[own, None] = reading.model_copy(update={"quantity": own, "point": None})
        return found


class HouseTests(Frozen):
    """What the house says of a circuit's tests: what the job covers, whether all is isolated, the RCD it shares."""

    extent: Extent = Extent()
    isolated: bool = False
    shared: SharedTests | None = None


NO_HOUSE = HouseTests()


def sheet_of(
    studied: Studied,
    readings: tuple[Reading, ...],
    peers_mohm: tuple[float, ...] = (),
    ambient_c: float = 20.0,
    house: HouseTests = NO_HOUSE,
) -> Sheet:
    """Return the sheet of a circuit, expected readings from the middle of what is known of its lengths."""
    return test_sheet(studied.middle, readings, peers_mohm, ambient_c, bool(studied.lengths.ranged), house)


def is_isolated(readings: tuple[Reading, ...]) -> bool:
    """Whether an installation is isolated whole, by its readings: then each of its circuits is."""
    found = standing(readings).get(("isolation", None))
    return found is not None and bool(found.correct)


def live_reason(standing: Mapping[Key, Reading]) -> str:
    """Return why live tests go before dead ones, by the readings in force; nothing where they do not."""
    found = standing.get(("live-reason", None))
    return found.note if found is not None and found.correct else ""


def test_sheet(
    study: Study,
    readings: tuple[Reading, ...],
    peers_mohm: tuple[float, ...] = (),
    ambient_c: float = 20.0,
    ranged: bool = False,
    house: HouseTests = NO_HOUSE,
) -> Sheet:
    """Return the sheet of a circuit.

    `peers_mohm` are insulation readings of the other circuits; `ambient_c` the temperature of the copper; `ranged`
    says that the study's lengths are the middle of ranges.
    """
    shared = house.shared if not has_own_rcd(study.circuit.device) else None
    stands = {**(shared.as_own() if shared else {}), **standing(readings)}
    taken = Taken(study, stands, peers_mohm, ambient_c, ranged)
    entries = _Entries(taken, set_aside(readings), earlier_of(readings), house, shared)
    stages = tuple(filter(None, (entries.stage(each) for each in STAGES if each.wanted(study))))
    items = list(chain.from_iterable(stage.items for stage in stages))
    between = against_each_other(taken, readings)
    checks = [*filter(None, (item.check for item in items)), *between]
    asked = [item.is_done for item in items if not item.beside]
    return Sheet(
        stages=stages,
        taken=sum(asked),
        total=len(asked),
        verdict=overall(checks),
        cautions=sum(bool(check.caution) for check in checks),
        between=between,
        isolated=house.isolated or is_isolated(readings),
        waits_for=_waits_for(study, items),
        reason=live_reason(taken.readings),
        unplug=to_unplug(study.circuit),
        pairs=PAIRS_OF_PHASES[study.phases],
    )


def earlier_of(readings: tuple[Reading, ...]) -> Mapping[Key, tuple[Reading, ...]]:
    """Return for each place the readings that a later one stands for, the oldest first."""
    found: dict[Key, list[Reading]] = {}
    for reading in readings:
        found.setdefault(reading.key, []).append(reading)
    return {key: tuple(some[:-1]) for key, some in found.items() if len(some) > 1}


def _waits_for(study: Study, items: list[Item]) -> tuple[str, ...]:
    """Return what stands in the way of live tests: guards that are not read yet at any point, and those that fail."""
    guards = {quantity for each in STAGES if each.wanted(study) for quantity in each.guards}
    missing = [_in_the_way(item) for item in items if item.quantity in guards]
    return tuple(dict.fromkeys(filter(None, missing)))


def _in_the_way(item: Item) -> str:
    """Return what a guard says against live tests; nothing where it passed, or need not be read."""
    if item.check is not None and item.check.verdict is Verdict.FAIL:
        return f"{item.title}{f', {item.place}' if item.place else ''}: fails"
    needless = item.outside or (item.beside and item.check is None)
    return "" if item.is_done or needless else item.title


def has_own_rcd(device: Device) -> bool:
    """Whether an RCD is in a circuit's own device, or may be: then it is tested there."""
    known = device.known_rcd
    if known is not None:
        return not known.shared
    return device.rcd == "unknown" and device.standard in ("bs-en-61009", "bs-en-61008")


def walk_points(study: Study) -> list[str]:
    """Return the points in the order one walks them: along the run, then its branches. Joints are closed."""
    order: list[str] = []
    for run in study.shape.walk:
        order += [step.point for step in run.steps if step.point != BOARD and step.point not in order]
    return [point for point in order if study.circuit.point(point).kind != "joint"]


class _Entries:
    """The items of a sheet, from what was read."""

    def __init__(
        self,
        taken: Taken,
        aside: Mapping[Key, Reading],
        earlier: Mapping[Key, tuple[Reading, ...]],
        house: HouseTests,
        shared: SharedTests | None,
    ) -> None:
        self._taken, self._aside, self._earlier, self._house = taken, aside, earlier, house
        self._shared = shared
        self._points = walk_points(taken.study)
        self._planned = planned(taken.study, self._points, house.extent)

    def stage(self, kind: StageKind) -> Stage | None:
        """Return a step of testing; None where there is nothing to read in it."""
        every = [(quantity, False) for quantity in kind.quantities] + [(quantity, True) for quantity in kind.beside]
        items = [self._item(quantity, None, beside) for quantity, beside in every if quantity not in AT_POINTS]
        # Place by place: all that is read at one before the next.
        items += [
            self._item(quantity, point, beside)
            for point in self._points
            for quantity, beside in every
            if quantity in AT_POINTS
        ]
        if not items:
            return None
        volts = plain(self._taken.study.rulebook.data.testing.insulation_v)
        how = kind.how.replace("{insulation_v}", volts)
        return Stage(id=kind.id, title=kind.title, how=how, live=kind.live, items=tuple(items))

    def _item(self, quantity: Quantity, point: str | None, beside: bool) -> Item:
        taken, kind = self._taken, KINDS[quantity]
        reading, limit = taken.readings.get((quantity, point)), kind.limit(taken, point)
        left_out = quantity in SAMPLED and point is not None and point not in self._planned
        tested_at = self._shared.title if self._shared is not None and quantity in AT_RCDS.values() else ""
        whole = quantity == "isolation" and self._house.isolated and reading is None
        place, room = self._where(point)
        return Item(
            quantity=quantity,
            point=point,
            place=place,
            room=room,
            title=kind.title,
            unit=kind.unit,
            expected=kind.expected(taken, point),
            limit=limit.shown if limit else "",
            sense=limit.sense if limit else None,
            reading=reading,
            check=None if reading is None else kind.judge(taken, reading, Asked.of(kind, taken.study, point)),
            beside=beside or self._beside_a_change(quantity) or whole or left_out or bool(tested_at),
            outside=WORDS[plan_of(self._house.extent)] if left_out else "",
            tested_at=tested_at,
            aside=self._aside.get((quantity, point)),
            earlier=self._earlier.get((quantity, point), ()),
        )

    def _where(self, point: str | None) -> tuple[str, str]:
        """Return what a point is called, and its room; nothing of the whole circuit."""
        circuit = self._taken.study.circuit
        return (circuit.point_title(point), circuit.point(point).room_name) if point else ("", "")

    def _beside_a_change(self, quantity: Quantity) -> bool:
        return self._house.extent.is_change and quantity in BESIDE_A_CHANGE
