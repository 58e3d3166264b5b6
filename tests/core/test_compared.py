"""One circuit designed several ways: what each takes and costs beside how it is drawn, and how each is judged."""

import unittest
from collections.abc import Mapping
from decimal import Decimal
from importlib.resources import files

from lumbek.core.items.compared import NOW, DesignCompared, JobToCompare, compare, laid_sums
from lumbek.core.items.prices import PriceLine, PriceList
from lumbek.core.items.take_off import take_off_of
from lumbek.core.items.terms import QuoteOption, QuoteTerms, Variation
from lumbek.core.items.variants import variants_of, with_lengths
from lumbek.core.judging.check import Verdict
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.leg import Leg
from lumbek.core.model.places import Places, Spot
from lumbek.core.model.plan import CircuitPoint
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import Route, Scheme
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.commands import PutMark
from lumbek.core.routes.answer import LegRoute, RoutedHouse, RoutesAnswer, answer_routes
from lumbek.core.routes.orders import orders_of
from lumbek.core.routes.pieces import Corner3, RoutePiece
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.survey.as_read import supply_of_job
from lumbek.exchange.job_file import read_job
from tests.core.test_routes import BOARD, hall, with_circuit
from tests.support.houses import SUPPLY, run
from tests.support.lighting import control, light, lit, switch
from tests.support.plans import after

BOOK = load_rulebook("bs7671")
RCBO = Device(rating_a=32, rcd=Rcd(rated_ma=30, type="A"), breaking_capacity_ka=6)
EACH = Decimal("1.00")


def compared(
    places: Places,
    design: Circuit,
    *more: tuple[str, Circuit],
    boards: tuple[Board, ...] = (BOARD,),
    terms: Mapping[str, object] = {},
):
    """The designs of circuit C1 by their names, everything at 1.00 by piece, metre and hour."""
    designs = (("C1", design), *more)
    job = JobToCompare(
        supply=SUPPLY, places=places, boards=boards, designs=designs, prices=PriceList(), terms=QuoteTerms()
    )
    keys: set[str] = set()
    for code in ("2.5", "1.5", "1"):
        keys |= {f"cable:flat-twin-and-earth:{code}", f"cable:flat-three-core-and-earth:{code}"}
    take_off = take_off_of(places, designs, answer_routes(RoutedHouse(places, boards, "bs7671"), designs), BOOK)
    keys |= {item.key for item in take_off.items}
    keys |= {"device:RCBO type B, 20 A", "device:RCBO type B, 32 A"}
    prices = PriceList(lines=(PriceLine(code="1", name="Each", unit="each", price=EACH),))
    priced = {"codes": dict.fromkeys(keys, "1"), "labour_code": "1", "whole_drums": False}
    update = {"prices": prices, "terms": QuoteTerms.model_validate({**priced, **terms})}
    return {each.name: each for each in compare(BOOK, job.model_copy(update=update), "C1")}


def sockets() -> tuple[Places, Circuit]:
    """Four sockets round a hall, laid as a radial in the order in which they were marked."""
    places = hall(
        "board n left 0.20 at 1400",
        *(f"socket {wall} left 2.00 at 450" for wall in "nesw"),
    )
    places, design = with_circuit(places, "socket-1", "socket-3", "socket-2", "socket-4")
    return places, design.model_copy(update={"device": RCBO})


class Sockets(unittest.TestCase):
    def setUp(self) -> None:
        self.places, self.design = sockets()
        self.found: dict[str, DesignCompared] = compared(self.places, self.design)

    def test_a_ring_and_radials_beside_how_it_is_now(self) -> None:
        self.assertEqual(list(self.found), [NOW, "One ring", "One radial", "Two radials"])
        now, ring, radial, two = self.found.values()
        # Rings that share better come after the least.
        orders = {
            each.shape: each for each in reversed(orders_of(RoutedHouse(self.places, (BOARD,), "bs7671"), self.marks()))
        }
        self.assertEqual(
            (ring.cable_mm, radial.cable_mm, two.cable_mm),
            tuple(orders[shape].length_mm for shape in ("ring", "radial", "two-radials")),
        )
        self.assertEqual((now.legs, ring.legs, radial.legs, two.legs), (4, 5, 4, 4))
        # 2.5 mm² on 32 A carries no radial; the ring and the radials of 20 A hold.
        self.assertEqual(
            [each.verdict for each in self.found.values()],
            [Verdict.FAIL, Verdict.PASS, Verdict.PASS, Verdict.PASS],
            [each.tightest for each in self.found.values()],
        )
        self.assertIn("32 A", now.tightest)
        self.assertIn(" left", ring.tightest)

    def marks(self) -> tuple[str, ...]:
        return tuple(mark.id for mark in self.places.marks if mark.kind == "socket")

    def test_money_is_the_whole_job_with_it_less_the_whole_job_now(self) -> None:
        now, ring, radial, two = self.found.values()
        self.assertIsNone(now.more)
        for each in (ring, radial, two):
            assert each.net is not None and now.net is not None
            self.assertEqual(each.more, each.net - now.net)
        # The ring takes a leg more than the least radial: more cable, more sleeving, more work; radials, a device.
        assert ring.more is not None and radial.more is not None and two.more is not None
        self.assertGreater(ring.more, radial.more)
        self.assertGreaterEqual(two.net - radial.net, EACH - 2 * abs(two.hours - radial.hours) - 5)  # type: ignore[operator]
        self.assertGreater(ring.chased_mm, radial.chased_mm)

    def test_without_a_price_there_is_no_difference(self) -> None:
        job = JobToCompare(
            supply=SUPPLY,
            places=self.places,
            boards=(BOARD,),
            designs=(("C1", self.design),),
            prices=PriceList(),
            terms=QuoteTerms(),
        )
        for each in compare(BOOK, job, "C1"):
            self.assertIsNone(each.net)
            self.assertIsNone(each.more)
            self.assertIn("2.5 mm² Flat twin with cpc", each.unpriced)

    def test_options_and_variations_are_of_no_design_and_a_length_nobody_knows_leaves_no_price(self) -> None:
        more = {
            "variations": (Variation(what="A shelf", price=Decimal(50), agreed_by="M.", on="2026-01-01"),),
            "options": (QuoteOption(name="Gold", price=Decimal(70)),),
        }
        found = compared(self.places, self.design, terms=more)
        self.assertEqual(found[NOW].net, self.found[NOW].net)
        other = ("C2", run(4.0, None).model_copy(update={"number": 2}))
        self.assertIsNone(compared(self.places, self.design, other)["One ring"].net)

    def test_a_radial_of_4_mm2_is_on_32_amperes_and_a_ring_on_as_much(self) -> None:
        for csa, radial_a in ((2.5, 20), (4.0, 32)):
            design = self.design.model_copy(update={"cable": Cable(csa_mm2=csa)})
            found = variants_of(BOOK, RoutedHouse(self.places, (BOARD,), "bs7671"), "C1", design)
            ratings = [[each.device.rating_a for each in variant.designs] for variant in found]
            self.assertEqual(ratings, [[32], [radial_a], [radial_a, radial_a]])

    def test_joins_of_the_legs_that_go_are_let_go_of(self) -> None:
        end = CoreEnd(leg="L1", core="L")
        first = self.design.points[0].model_copy(update={"joins": (Join(ends=(end,), terminals=("L",)),)})
        design = self.design.model_copy(update={"points": (first, *self.design.points[1:])})
        for variant in variants_of(BOOK, RoutedHouse(self.places, (BOARD,), "bs7671"), "C1", design):
            for each in variant.designs:
                self.assertTrue(all(not point.joins for point in each.points))
                Circuit.model_validate(each.model_dump())

    def test_what_was_there_or_is_altered_is_not_laid_otherwise(self) -> None:
        routed = RoutedHouse(self.places, (BOARD,), "bs7671")
        for state in ("as-found", "altered"):
            self.assertEqual(variants_of(BOOK, routed, "C1", self.design.model_copy(update={"state": state})), ())

    def test_holes_and_chases_are_those_of_its_ways(self) -> None:
        spot = Corner3(x=0, y=0, z=0)
        said = {"storey": "", "room": "hall", "method": "C", "grouped": 1, "line": (spot, spot)}
        pieces = (
            RoutePiece(within="over", mm=3000, joist_holes=4, **said),
            RoutePiece(within="wall", mm=700, **said),
            RoutePiece(within="under", mm=900, joist_holes=2, **said),
        )
        way = LegRoute(circuit="C1", leg="L1", a="board", b="P1", pieces=pieces)
        found = laid_sums({"C1": run(3.0)}, RoutesAnswer(legs=(way,), missing=()))
        self.assertEqual(found, {"cable_mm": 3000, "legs": 1, "joist_holes": 6, "chased_mm": 700})

    def test_what_is_at_no_mark_is_named_and_what_is_there_already_is_not_laid_otherwise(self) -> None:
        more = self.design.model_copy(update={"points": (*self.design.points, Point(id="P9", name="Shelf"))})
        found = compared(self.places, more)
        self.assertEqual(found["One ring"].why_not, "Shelf: at no mark of the plan")
        old = tuple(leg.model_copy(update={"state": "as-found"}) for leg in self.design.legs)
        self.assertEqual(list(compared(self.places, self.design.model_copy(update={"legs": old}))), [NOW])
        self.assertEqual(
            list(compared(self.places, self.design.model_copy(update={"kind": "cooker"}))),
            [NOW],
        )


class BehindAFeed(unittest.TestCase):
    def test_a_feed_carries_what_the_design_draws_and_not_what_is_there_now(self) -> None:
        """The studio in the yard: its sockets as a ring draw more than now, and their feed bears that."""
        text = (files("lumbek.services") / "demo_data" / "signal_box.json").read_bytes()
        job = read_job(text)
        to_compare = JobToCompare(
            supply=supply_of_job(job),
            places=job.places,
            boards=job.boards,
            designs=tuple((each.id, each.design) for each in job.circuits),
            prices=PriceList(),
            terms=QuoteTerms(),
        )
        studio = next(each.id for each in job.circuits if each.design.number == 8)
        found = {each.name: each.verdict for each in compare(BOOK, to_compare, studio)}
        self.assertEqual(
            [found[name] for name in (NOW, "One ring", "One radial", "Two radials")],
            [Verdict.PASS, Verdict.PASS, Verdict.PASS, Verdict.FAIL],
        )


class Lights(unittest.TestCase):
    def test_schools_by_their_ways_through_the_house(self) -> None:
        places = hall(
            "board n left 0.20 at 1400",
            "light ceiling w 2.00 s 1.50",
            "switch s left 0.50 at 1100",
        )
        for mark, point in (("light-1", "Z"), ("switch-1", "H")):
            found = next(each for each in places.marks if each.id == mark)
            command: PlacesCommand = PutMark(
                mark=found.model_copy(update={"point": CircuitPoint(circuit="C1", point=point)})
            )
            places = after(places, command)
        design = lit("board", (light("Z"), switch("H")), (control("Hall", "Z", "H"),), ())
        design = design.model_copy(
            update={
                "kind": "lighting",
                "device": RCBO.model_copy(update={"rating_a": 6}),
                "legs": (Leg(id="L1", a="board", b="H"), Leg(id="L2", a="H", b="Z")),
            }
        )
        found = compared(places, design)
        self.assertEqual(list(found), [NOW, "Looped at the light", "Looped at the switch", "Two plates, in singles"])
        at_light, at_switch = found["Looped at the light"], found["Looped at the switch"]
        routed = RoutedHouse(places, (BOARD,), "bs7671")
        mm = {
            pair: way.mm
            for pair in (("board-1", "light-1"), ("light-1", "switch-1"), ("board-1", "switch-1"))
            if (way := routed.finder.way(*pair)) is not None
        }
        slack = 1000 + 3 * 300
        self.assertEqual(at_light.cable_mm, mm["board-1", "light-1"] + mm["light-1", "switch-1"] + slack)
        self.assertEqual(at_switch.cable_mm, mm["board-1", "switch-1"] + mm["light-1", "switch-1"] + slack)
        self.assertEqual((at_light.verdict, at_switch.verdict), (Verdict.PASS, Verdict.PASS), at_light.tightest)

    def test_runs_are_as_long_as_their_ways_with_slack_at_both_ends(self) -> None:
        places = hall("board n left 0.20 at 1400", "socket n left 2.00 at 450", "socket n left 3.00 at 450")
        places, _ = with_circuit(places, "socket-1", "socket-2")
        routed = RoutedHouse(places, (BOARD,), "bs7671")
        scheme = Scheme(routes=(Route(a="board", b="P1"), Route(a="P1", b="P2"), Route(a="P2", b="P9", length_m=4)))
        metres = [each.length_m for each in with_lengths(routed, "C1", scheme).routes]
        self.assertEqual(metres, [0.95 + 1.8 + 1.0 + 0.3, 1.0 + 0.3 + 0.3, 4])


class WhichBoard(unittest.TestCase):
    def test_a_run_starts_at_the_board_that_its_circuit_will_sit_on(self) -> None:
        places = hall("board n left 0.20 at 1400", "socket n left 2.00 at 450")
        shed = Board(
            id="B2", name="Shed", at=Spot(room="hall"), fed_by="C1", groups=(Group(id="H", ways=(Way(id="X"),)),)
        )
        main = BOARD.model_copy(update={"at": Spot(words="the lobby")})
        # Only the board in the shed is marked: no run of the main board is told from there.
        self.assertEqual(orders_of(RoutedHouse(places, (shed, main), "bs7671"), ("socket-1",)), ())
        self.assertEqual(len(orders_of(RoutedHouse(places, (shed, BOARD), "bs7671"), ("socket-1",))), 2)


if __name__ == "__main__":
    unittest.main()
