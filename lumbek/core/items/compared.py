"""One circuit designed several ways, side by side: verdict and margin, metres, holes and chases, hours, money."""

from collections.abc import Mapping, Sequence
from decimal import Decimal

from lumbek.core.board.house import house_of
from lumbek.core.board.tree import seated
from lumbek.core.items.amounts import length_mm
from lumbek.core.items.labour import hours_of
from lumbek.core.items.prices import PriceList
from lumbek.core.items.quote import quote_of
from lumbek.core.items.take_off import take_off_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.items.variants import Variant, variants_of
from lumbek.core.judging.check import Verdict, worst_of
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.places import Places
from lumbek.core.model.supply import Supply
from lumbek.core.routes.answer import RoutedHouse, RoutesAnswer, answer_routes
from lumbek.core.routes.lay import as_laid
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

NOW = "As it is now"


class DesignCompared(Frozen):
    """A way of designing a circuit, and what the whole job comes to with it.

    `more` is what it costs beside the design as it stands, net; None where something of either has no price.
    """

    name: str
    why_not: str = ""
    verdict: Verdict = Verdict.CANNOT_TELL
    # What it fails, or the check with the least margin, in words.
    tightest: str = ""
    cable_mm: int | None = None
    legs: int = 0
    joist_holes: int = 0
    chased_mm: int = 0
    hours: Decimal = Decimal(0)
    net: Decimal | None = None
    more: Decimal | None = None
    unpriced: tuple[str, ...] = ()


class JobToCompare(Frozen):
    """A job as a comparison takes it."""

    supply: Supply
    places: Places
    boards: tuple[Board, ...]
    designs: tuple[tuple[str, Circuit], ...]
    prices: PriceList
    terms: QuoteTerms


def compare(book: Rulebook, job: JobToCompare, key: str) -> tuple[DesignCompared, ...]:
    """Return a circuit as it is drawn, and each other way of designing it that there is."""
    designs = dict(job.designs)
    routed = RoutedHouse(job.places, seated(job.boards, tuple(designs)), book.data.id)
    now = _compared(book, job, routed, key, Variant(NOW, (designs[key],)))
    found = [now]
    for variant in variants_of(book, routed, key, designs[key]):
        if not variant.designs:
            found.append(DesignCompared(name=variant.name, why_not=variant.why_not))
            continue
        each = _compared(book, job, routed, key, variant)
        more = None if each.net is None or now.net is None else each.net - now.net
        found.append(each.model_copy(update={"more": more}))
    return tuple(found)


def _compared(book: Rulebook, job: JobToCompare, routed: RoutedHouse, key: str, variant: Variant) -> DesignCompared:
    own = dict(zip((key, f"{key}-second"), variant.designs, strict=False))
    routed.boards = beside(routed.boards, key, tuple(own))
    for other, design in own.items():
        marks = {point.id: routed.at_point.get((key, point.id)) for point in design.points}
        routed.sit(other, {mark: point for point, mark in marks.items() if mark is not None})
    designs = [each for each in job.designs if each[0] != key] + list(own.items())
    routes = answer_routes(routed, designs)
    laid = {
        other: as_laid(design, [leg for leg in routes.legs if leg.circuit == other]) for other, design in own.items()
    }
    designs = [(other, laid.get(other, design)) for other, design in designs]
    take_off = take_off_of(job.places, designs, routes, book)
    terms = job.terms.model_copy(update={"options": (), "variations": ()})
    quote = quote_of(take_off, job.prices, terms)
    is_priced = not (quote.unpriced or quote.wants_labour_price or take_off.missing)
    results = _judged(book, job, key, laid)
    return DesignCompared(
        name=variant.name,
        verdict=worst_of(result.verdict for result in results),
        tightest=_tightest(results),
        hours=hours_of(take_off.items, terms),
        net=quote.net if is_priced else None,
        unpriced=tuple(item.what for item in quote.unpriced),
        **laid_sums(laid, routes),
    )


def beside(boards: Sequence[Board], key: str, keys: tuple[str, ...]) -> tuple[Board, ...]:
    """Return boards with what stands in for a circuit in the way of that."""
    return tuple(
        board.with_ways(lambda way: way.holding(dict.fromkeys((*way.circuits, *keys))) if key in way.circuits else way)
        for board in boards
    )


def laid_sums(laid: Mapping[str, Circuit], routes: RoutesAnswer) -> dict[str, int | None]:
    """Return what circuits take as laid: cable with its slack, legs, joists drilled, metres let into walls."""
    ways = {(leg.circuit, leg.leg): leg for leg in routes.legs}
    legs = [(leg, ways.get((key, leg.id))) for key, design in laid.items() for leg in design.legs]
    lengths = [length_mm(leg, way) for leg, way in legs]
    pieces = [piece for _, way in legs if way is not None for piece in way.pieces]
    return {
        "cable_mm": None if None in lengths else sum(each for each in lengths if each is not None),
        "legs": len(legs),
        "joist_holes": sum(piece.joist_holes for piece in pieces),
        "chased_mm": sum(piece.mm for piece in pieces if piece.within == "wall"),
    }


def _judged(book: Rulebook, job: JobToCompare, key: str, laid: Mapping[str, Circuit]) -> list[CircuitResult]:
    """Return what each circuit of a design comes to where the one it stands in for sits.

    In a house with that design in it: a feed ahead carries what this one draws, not what the one before did.
    """
    circuits = [JobCircuit(id=other, design=laid[key] if other == key else design) for other, design in job.designs]
    house = house_of(book, job.supply, job.boards, job.places, circuits)
    return [judge_circuit(book, house.supply, house.placed(key, design)) for design in laid.values()]


def _tightest(results: Sequence[CircuitResult]) -> str:
    """Return what fails, else what has the least room, in words."""
    checks = [check for result in results for check in result.checks]
    failing = next((check for check in checks if check.verdict is Verdict.FAIL), None)
    if failing is not None:
        return f"{failing.title}: {failing.answer}"
    close = [check for check in checks if check.verdict is Verdict.PASS and check.margin is not None]
    if not close:
        return ""
    least = min(close, key=lambda check: check.margin or 0.0)
    return f"{least.title}: {least.shown_margin}"
