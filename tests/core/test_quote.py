"""What a job takes and what it costs: drums beside brute force, counts by hand, quotes to the penny."""

import unittest
from decimal import Decimal
from itertools import product

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.items.amounts import Sort
from lumbek.core.items.drums import drums_for
from lumbek.core.items.prices import PriceLine, PriceList
from lumbek.core.items.quote import GATES, quote_of
from lumbek.core.items.take_off import TakeOff, TakeOffItem, take_off_of
from lumbek.core.items.terms import QuoteTerms, Variation
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.places import Places
from lumbek.core.routes.answer import RoutesAnswer, answer_routes
from lumbek.core.rulebooks import load_rulebook
from tests.core.test_routes import hall, routed, with_circuit
from tests.support.plans import plan

BOOK = load_rulebook("bs7671")


def least_by_trying(cuts: list[int], sizes: tuple[int, ...]) -> int:
    """The least metres that give all cuts, by every way of putting them on so many drums."""
    best = 10**9
    for drums in range(1, len(cuts) + 1):
        for on in product(range(drums), repeat=len(cuts)):
            sums = [sum(cut for cut, at in zip(cuts, on, strict=True) if at == drum) for drum in range(drums)]
            if max(sums) <= max(sizes):
                best = min(best, sum(min(size for size in sizes if size >= each) for each in sums if each))
    return best


class Drums(unittest.TestCase):
    @settings(max_examples=30)
    @given(st.lists(st.integers(1, 100), min_size=1, max_size=5))
    def test_none_buys_less(self, cuts: list[int]) -> None:
        found = drums_for(cuts, (25, 50, 100))
        assert found is not None
        self.assertTrue(found.is_proved)
        self.assertEqual(found.bought_mm, least_by_trying(cuts, (25, 50, 100)))
        self.assertEqual(sorted(cut for drum in found.drums for cut in drum.cuts_mm), sorted(cuts))
        self.assertTrue(all(drum.left_mm >= 0 for drum in found.drums))
        self.assertEqual(found.bought_mm, sum(cuts) + found.waste_mm)
        self.assertLessEqual(found.bound_mm, found.bought_mm)

    def test_a_cut_that_fits_to_the_millimetre_and_one_that_is_too_long(self) -> None:
        exact = drums_for([25_000])
        assert exact is not None
        self.assertEqual((exact.bought_mm, exact.waste_mm), (25_000, 0))
        self.assertIsNone(drums_for([100_001]))
        nothing = drums_for([])
        assert nothing is not None
        self.assertEqual((nothing.drums, nothing.is_proved), ((), True))

    def test_what_is_not_proved_says_so_and_still_gives_every_cut(self) -> None:
        cuts = [33_400 + at for at in range(30)]
        found = drums_for(cuts)
        assert found is not None
        self.assertEqual(sorted(cut for drum in found.drums for cut in drum.cuts_mm), cuts)
        self.assertTrue(found.is_proved or found.bound_mm < found.bought_mm)


def counts(take_off: TakeOff) -> dict[str, int]:
    """How much of each thing."""
    return {item.key: item.count for item in take_off.items}


class TakesOff(unittest.TestCase):
    def taken(self, places: Places, *designs: tuple[str, Circuit]) -> TakeOff:
        return take_off_of(places, designs, answer_routes(routed(places), designs), BOOK)

    def test_cable_is_legs_and_slack_and_nothing_that_is_there(self) -> None:
        places = hall("board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.00 at 450")
        places, design = with_circuit(places, "socket-1", "socket-2", lengths=(9.0, 9.0))
        found = self.taken(places, ("C1", design))
        # 1750 and 1300 at the ends, 1000 and 600.
        self.assertEqual(counts(found)["cable:flat-twin-and-earth:2.5"], 3050 + 1600)
        self.assertEqual(
            [(cut.leg, cut.mm) for cut in found.cuts[0].cuts], [("1: board to P1", 3050), ("1: P1 to P2", 1600)]
        )
        taped, old = (
            design.legs[0].model_copy(update={"taped": True}),
            design.legs[1].model_copy(update={"state": "as-found"}),
        )
        found = self.taken(places, ("C1", design.model_copy(update={"legs": (taped, old)})))
        self.assertEqual(counts(found)["cable:flat-twin-and-earth:2.5"], 9000)

    def test_a_leg_without_way_or_length_is_missing(self) -> None:
        places, design = with_circuit(hall("socket n left 1.00"), "socket-1")
        found = self.taken(places, ("C1", design))
        self.assertEqual(found.missing, ("Circuit 1, board to P1: no length, and no way on the plan",))
        drawn = design.model_copy(
            update={
                "legs": (
                    design.legs[0].model_copy(
                        update={"segments": (design.legs[0].segments[0].model_copy(update={"length_m": 4.0005}),)}
                    ),
                )
            }
        )
        self.assertEqual(counts(self.taken(places, ("C1", drawn)))["cable:flat-twin-and-earth:2.5"], 4001)

    def test_boxes_accessories_and_devices_are_counted(self) -> None:
        places = plan(
            {
                "Hall 4.00 x 3.00": [
                    "2 sockets spread n",
                    "socket e left 0.50 single deep 47",
                    "switch w left 0.50",
                    "socket s left 0.50 existing",
                    "light ceiling w 1.00 s 1.00",
                    "2 spots grid 2x1 400lm",
                ]
            }
        )
        found = counts(take_off_of(places, [("C1", Circuit())], RoutesAnswer(legs=(), missing=()), BOOK))
        wanted = {
            "box:35:2": 2,
            "box:47:1": 1,
            "box:25:1": 1,
            "accessory:socket:2": 2,
            "accessory:socket:1": 1,
            "accessory:switch:1": 1,
            "accessory:light:1": 1,
            "accessory:downlight:1": 2,
            "device:RCBO type B, 32 A": 1,
        }
        self.assertEqual({key: found.get(key) for key in wanted}, wanted)
        self.assertNotIn(
            "device",
            " ".join(
                counts(
                    take_off_of(places, [("C1", Circuit(state="as-found"))], RoutesAnswer(legs=(), missing=()), BOOK)
                )
            ),
        )

    def test_what_goes_is_not_bought(self) -> None:
        places = hall("socket n left 1.00", "socket n left 2.00")
        gone = places.marks[0].model_copy(update={"fate": "remove"})
        left = places.model_copy(update={"marks": (gone, places.marks[1])})
        self.assertEqual(counts(self.taken(left))["box:35:2"], 1)

    def test_fixings_follow_the_ways(self) -> None:
        places = hall("board n left 0.20 at 1400", "light ceiling w 0.99 s 1.00", "wall n stud")
        places, design = with_circuit(places, "light-1")
        found = counts(self.taken(places, ("C1", design)))
        # Up 1000 in the wall; 790 along and 2000 down over the ceiling: 2790 in 300s is ten clips.
        self.assertEqual((found["work:chased"], found["work:laid"]), (1000, 2790))
        self.assertEqual((found["fixing:clip"], found["fixing:capping"], found["fixing:grommet"]), (10, 1000, 2))


def item(key: str, count: int, unit: str = "each", sort: Sort = "box") -> TakeOffItem:
    """Something that a job takes."""
    return TakeOffItem.model_validate({"key": key, "sort": sort, "what": key, "unit": unit, "count": count})


def priced(**prices: str) -> PriceList:
    """A firm's prices by their codes."""
    return PriceList(
        lines=tuple(PriceLine(code=code, name=code, price=Decimal(price)) for code, price in prices.items())
    )


class Quotes(unittest.TestCase):
    def test_to_the_penny_by_hand(self) -> None:
        take_off = TakeOff(items=(item("box:35:1", 7), item("work:chased", 10_500, "m", "work")), cuts=(), missing=())
        terms = QuoteTerms(
            codes={"box:35:1": "B"},
            labour_code="H",
            minutes={"box": 10, "work:chased": 20},
            margin_percent=Decimal(10),
            answered=GATES,
            variations=(Variation(what="One more", price=Decimal("12.50"), agreed_by="A. Owner", on="2026-11-30"),),
        )
        quote = quote_of(take_off, priced(B="1.455", H="48.00"), terms)
        # 7 of 1.455 are 10.185: 10.19. 70 and 210 minutes are 4.67 h, up; of 48.00 that is 224.16.
        self.assertEqual(
            (quote.material, quote.hours, quote.labour), (Decimal("10.19"), Decimal("4.67"), Decimal("224.16"))
        )
        # A tenth of 234.35 is 23.435: 23.44. With 12.50 that is 270.29, and a fifth of it 54.058.
        self.assertEqual((quote.margin, quote.net), (Decimal("23.44"), Decimal("270.29")))
        self.assertEqual((quote.tax, quote.total), (Decimal("54.06"), Decimal("324.35")))
        self.assertTrue(quote.is_whole)

    def test_tax_by_line_and_on_the_sum_differ(self) -> None:
        """Five lines of 0.07 at 20 %: 0.014 each is 0.01, and 0.07 of the sum."""
        take_off = TakeOff(items=tuple(item(f"box:{at}:1", 1) for at in range(5)), cuts=(), missing=())
        codes = {f"box:{at}:1": "P" for at in range(5)}
        for tax_by, tax in (("line", "0.05"), ("rate", "0.07")):
            terms = QuoteTerms.model_validate({"codes": codes, "tax_by": tax_by, "minutes": {"box": 0}})
            self.assertEqual(quote_of(take_off, priced(P="0.07"), terms).tax, Decimal(tax))

    def test_an_option_is_taxed_with_all_else_by_line_or_on_the_sum(self) -> None:
        take_off = TakeOff(items=(item("box:35:1", 1),), cuts=(), missing=())
        options = ({"name": "More", "price": "0.07"}, {"name": "Less", "price": "-0.03"})
        for tax_by, taxes in (("line", ("0.02", "0.00")), ("rate", ("0.03", "0.01"))):
            said = {"codes": {"box:35:1": "P"}, "tax_by": tax_by, "minutes": {"box": 0}, "options": options}
            quote = quote_of(take_off, priced(P="0.07"), QuoteTerms.model_validate(said))
            self.assertEqual([each.net for each in quote.options], [Decimal("0.14"), Decimal("0.04")])
            self.assertEqual([str(each.tax) for each in quote.options], list(taxes))
            self.assertEqual([each.total - each.net for each in quote.options], [each.tax for each in quote.options])
            self.assertEqual(quote.net, Decimal("0.07"))

    def test_halves_go_as_was_chosen(self) -> None:
        take_off = TakeOff(items=(item("box:35:1", 1),), cuts=(), missing=())
        for half, net in (("up", "0.13"), ("even", "0.12")):
            terms = QuoteTerms.model_validate({"codes": {"box:35:1": "P"}, "half": half, "minutes": {"box": 0}})
            self.assertEqual(quote_of(take_off, priced(P="0.125"), terms).material, Decimal(net))

    def test_cable_by_whole_drums_or_by_the_metre(self) -> None:
        places = hall("board n left 0.20 at 1400", "socket n left 1.00 at 450")
        places, design = with_circuit(places, "socket-1")
        take_off = take_off_of(places, [("C1", design)], answer_routes(routed(places), [("C1", design)]), BOOK)
        for whole, count in ((True, Decimal(25)), (False, Decimal("3.05"))):
            terms = QuoteTerms(codes={"cable:flat-twin-and-earth:2.5": "T25"}, whole_drums=whole)
            (line,) = quote_of(take_off, priced(T25="1.24"), terms).lines
            self.assertEqual(line.count, count)

    def test_what_keeps_it_an_estimate(self) -> None:
        take_off = TakeOff(items=(item("box:35:1", 1),), cuts=(), missing=())
        quote = quote_of(take_off, PriceList(), QuoteTerms())
        self.assertEqual(([each.key for each in quote.unpriced], quote.open_gates), (["box:35:1"], GATES))
        self.assertTrue(quote.wants_labour_price)
        self.assertFalse(quote.is_whole)
        for left in range(3):
            terms = QuoteTerms(
                codes={} if left == 0 else {"box:35:1": "P"},
                labour_code="" if left == 1 else "P",
                answered=GATES[1:] if left == 2 else GATES,
            )
            self.assertFalse(quote_of(take_off, priced(P="1"), terms).is_whole, left)

    def test_minutes_are_the_firms_own_before_those_that_ship(self) -> None:
        take_off = TakeOff(items=(item("box:35:1", 5),), cuts=(), missing=())
        self.assertEqual(quote_of(take_off, PriceList(), QuoteTerms()).hours, Decimal("1.00"))
        self.assertEqual(quote_of(take_off, PriceList(), QuoteTerms(minutes={"box": 6})).hours, Decimal("0.50"))
        self.assertEqual(
            quote_of(take_off, PriceList(), QuoteTerms(minutes={"box": 6, "box:35:1": 1})).hours, Decimal("0.09")
        )


if __name__ == "__main__":
    unittest.main()
