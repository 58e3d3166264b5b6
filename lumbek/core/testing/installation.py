"""The tests of the whole installation: bonding, electrode, whole-board insulation, Ze, fault current, polarity.

They come before and beside those of the circuits, dead ones first (BS 7671 643; IEC 60364-6, 6.4.3).
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial

from lumbek.core.board.breaks import Weakest, weakest
from lumbek.core.board.house import House
from lumbek.core.board.shared_rcds import SharedRcd, shared_rcds
from lumbek.core.judging.check import Check, Step, Verdict, overall
from lumbek.core.judging.question import Question
from lumbek.core.model.extent import WHOLE, Extent
from lumbek.core.model.reading import LIVE, PAIRS_OF_PHASES, Key, Quantity, Reading, figure_of
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.protection.conditional import UNSAID, may_be_conditional
from lumbek.core.protection.electrode_limit import electrode_limit_ohm
from lumbek.core.rulebooks import Rulebook
from lumbek.core.testing.electrode import ALONE, electrode_caution, is_no_electrode
from lumbek.core.testing.house_item import HouseItem, HouseReadings
from lumbek.core.testing.house_rcds import rcd_items_of
from lumbek.core.testing.kind import Limit, said
from lumbek.core.testing.sampling import WORDS
from lumbek.core.testing.sheet import Item, Sheet, Stage, is_isolated, live_reason

_SERVICES = {
    "water": "Water",
    "gas": "Gas",
    "oil": "Oil",
    "steel": "Steel frame",
    "lightning": "Lightning protection",
    "other": "Other metal",
}


@dataclass(frozen=True)
class _Whole:
    """The installation with what was read of it."""

    book: Rulebook
    supply: Supply
    taken: Mapping[Key, Reading]
    weakest: Weakest | None = None
    rcds: Mapping[str, SharedRcd] = field(default_factory=dict)

    def value(self, quantity: Quantity) -> float | None:
        return figure_of(self.taken, quantity)


@dataclass(frozen=True)
class _Test:
    """One test of the installation: title, unit, clause, limit, and what else to say of a reading.

    What it `waits` for leaves it open. What is `beside` may be read as well, and is asked of nobody.
    """

    quantity: Quantity
    title: str
    unit: str
    clause: str
    limit: Callable[[_Whole], Limit | None] = lambda _: None
    caution: Callable[[_Whole, float], str] = lambda _, __: ""
    wanted: Callable[[_Whole], bool] = lambda _: True
    waits: Callable[[_Whole, float], tuple[str, ...]] = lambda _, __: ()
    beside: bool = False


def _ze_limit(whole: _Whole) -> Limit | None:
    usual = whole.book.data.supply.assumed_ze_ohm.get(whole.supply.earthing or "")
    if whole.supply.earthing == "TT":
        usual = electrode_limit_ohm(whole.book, whole.book.data.rcd.most_ma)
    return None if usual is None else Limit(usual, "at most", plain(usual))


def _ze_caution(whole: _Whole, value: float) -> str:
    surveyed = whole.supply.ze_ohm
    rules = whole.book.data.testing
    if surveyed is not None and abs(value - surveyed) > surveyed * rules.again_part + rules.contact_ohm:
        return f"The survey has {show(surveyed)} Ω: take this one into the survey, or find out why."
    return ""


def _current_caution(whole: _Whole, value_ka: float) -> str:
    """The fault current is that of the loop it was read on: U0 / Z; a lower one is a misread loop or meter."""
    ze = whole.value("ze") or whole.supply.ze_ohm
    if not ze or whole.supply.earthing == "TT":
        return ""
    loop_ka = whole.book.u0_v / ze / 1000
    if value_ka < loop_ka * (1 - whole.book.data.testing.again_part):
        return f"Ze of {show(ze)} Ω gives {show(loop_ka)} kA by itself: one of the two is misread."
    return ""


def _fault_current_limit(whole: _Whole) -> Limit | None:
    """What the weakest device at the origin breaks; with none read, the most that any usual one does."""
    weakest = whole.weakest
    most = weakest.ka if weakest is not None and weakest.ka is not None else whole.book.data.breaking.usual_ka[-1]
    return Limit(most, "at most", plain(most))


def _unread_devices(whole: _Whole, value_ka: float) -> tuple[str, ...]:
    """Return what a fault current waits for: capacities nobody has read, a conditional rating that may yet hold it."""
    weakest = whole.weakest
    if weakest is None:
        return ()
    if weakest.ka is not None and value_ka > weakest.ka:
        return (UNSAID,) if may_be_conditional(whole.book, whole.supply, value_ka) else ()
    return tuple(f"breaking capacity of the device of {title}" for title in weakest.unread)


def _insulation_limit(whole: _Whole) -> Limit:
    least = whole.book.data.testing.insulation_mohm
    return Limit(least, "at least", plain(least))


def _bonding_limit(whole: _Whole) -> Limit:
    most = whole.book.data.testing.bonding_ohm
    return Limit(most, "at most", plain(most))


_TESTS: tuple[_Test, ...] = (
    _Test("isolation", "Whole installation isolated, locked, proved dead", "", "isolation"),
    _Test("earth-continuity", "Earthing conductor, end to end", "Ω", "test-bonding", _bonding_limit),
    _Test("bonding", "Main bonding", "Ω", "test-bonding", _bonding_limit),
    _Test("board-insulation", "All circuits together, live to earth", "MΩ", "test-insulation", _insulation_limit),
    _Test(
        "electrode", "Earth electrode", "Ω", "test-electrode", _ze_limit,
        lambda whole, ohm: electrode_caution(whole.book, ohm), lambda whole: whole.supply.earthing == "TT",
        lambda _, ohm: (ALONE,) if is_no_electrode(ohm) else (),
    ),
    _Test("supply-polarity", "Polarity of the supply", "", "test-polarity"),
    _Test("ze", "Ze, the earthing conductor off the bar", "Ω", "ze", _ze_limit, _ze_caution),
    _Test("fault-current", "Fault current, line to neutral", "kA", "fault-current", _fault_current_limit,
          _current_caution, waits=_unread_devices),
    _Test("fault-current-le", "Fault current, line to earth", "kA", "fault-current", _fault_current_limit,
          waits=_unread_devices, wanted=lambda whole: whole.supply.earthing != "TT", beside=True),
    _Test("fault-current-3p", "Fault current, between lines", "kA", "fault-current", _fault_current_limit,
          waits=_unread_devices, wanted=lambda whole: whole.supply.phases == 3, beside=True),
    _Test("phase-sequence", "Phase sequence", "", "test-phase-sequence", wanted=lambda whole: whole.supply.phases == 3),
    _Test("function", "Main switch, devices and controls", "", "test-function"),
)  # fmt: skip


def installation_sheet(
    book: Rulebook,
    supply: Supply,
    readings: tuple[Reading, ...],
    house: House | None = None,
    extent: Extent = WHOLE,
) -> Sheet:
    """Return the sheet of the whole installation: dead tests, then live ones, then the RCDs that circuits share.

    A job that covers a change asks for none of them but the RCDs that its circuits are behind.
    """
    rcds = {} if house is None else {each.key: each for each in shared_rcds(house)}
    read = HouseReadings.of(readings)
    whole = _Whole(book, supply, read.taken, None if house is None else weakest(house), rcds)
    rcd_items = tuple(rcd_items_of(book, rcds.values(), read))
    items = list(_items(whole, read, extent))
    dead = tuple(item for item in items if item.quantity not in LIVE)
    live = tuple(item for item in items if item.quantity in LIVE)
    items += list(rcd_items)
    checks = [item.check for item in items if item.check is not None]
    asked = [item for item in items if not item.beside]
    return Sheet(
        stages=(
            Stage(
                id="installation-dead",
                title="Earthing and bonding",
                how="Main switch off and locked. Earthing and bonding, one end off; then all circuits at once.",
                live=False,
                items=dead,
            ),
            Stage(
                id="installation-live",
                title="The supply",
                how="Live. Polarity first; Ze with the earthing conductor off the bar and the main switch off.",
                live=True,
                items=live,
            ),
            *([_RCD_STAGE.model_copy(update={"items": rcd_items})] if rcd_items else []),
        ),
        taken=sum(item.is_done for item in asked),
        total=len(asked),
        verdict=overall(checks),
        cautions=sum(bool(check.caution) for check in checks),
        isolated=is_isolated(readings),
        waits_for=_waits_for(dead),
        reason=live_reason(whole.taken),
        pairs=PAIRS_OF_PHASES[whole.supply.phases],
    )


def _items(whole: _Whole, read: HouseReadings, extent: Extent) -> Iterator[Item]:
    """Yield what is asked of the installation as a whole; of a change none of it, it may be read beside."""
    for test in _TESTS:
        for point, title in _places(whole, test) if test.wanted(whole) else ():
            item = _item(whole, test, point, title, read)
            change = {"beside": True, "outside": WORDS["change"]} if extent.is_change else {}
            yield item.model_copy(update=change)


def _waits_for(dead: Sequence[Item]) -> tuple[str, ...]:
    """Return what has to be read before anything is live: the continuity of the earth."""
    earth = (item for item in dead if item.quantity == "earth-continuity")
    return tuple(dict.fromkeys(item.title for item in earth if not item.is_done and not item.outside))


_RCD_STAGE = Stage(
    id="installation-rcds",
    title="RCDs that circuits share",
    how="Live, once for each. It holds at half IΔn, trips in time at IΔn with the waveform of its type; the button.",
    live=True,
    items=(),
)


def _places(whole: _Whole, test: _Test) -> list[tuple[str | None, str]]:
    if test.quantity != "bonding":
        return [(None, test.title)]
    found: list[tuple[str | None, str]] = []
    for count, service in enumerate(whole.supply.services, start=1):
        if service.material != "plastic":
            found.append((f"{service.what}-{count}", f"Bonding to {_SERVICES[service.what].lower()}"))
    return found


def _item(whole: _Whole, test: _Test, point: str | None, title: str, read: HouseReadings) -> Item:
    limit = test.limit(whole)
    item = HouseItem(test.quantity, point, title, test.unit, test.clause, limit, test.beside)
    return item.line(whole.book, read, partial(_figure, whole, test, limit))


def _figure(whole: _Whole, test: _Test, limit: Limit | None, question: Question, reading: Reading) -> Check:
    value = reading.value or 0.0
    words = said(reading, test.unit)
    if limit is None:
        return question.check(
            whole.book, Verdict.PASS, words, value=value, unit=test.unit, caution=test.caution(whole, value)
        )
    if reading.beyond and limit.sense == "at most":
        return question.check(whole.book, Verdict.FAIL, f"{words}: open", value=value, unit=test.unit)
    missing = test.waits(whole, value)
    if missing:
        return question.cannot_tell(whole.book, missing, answer=words, caution=test.caution(whole, value))
    return question.held(
        whole.book,
        value,
        limit.value,
        limit.sense,
        words,
        unit=test.unit,
        caution=test.caution(whole, value),
        steps=(Step(text=f"{limit.sense.capitalize()} {limit.shown} {test.unit}"),),
    )
