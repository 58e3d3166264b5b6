"""What must hold for every board, whatever hangs on it and in whichever order it is said."""

import unittest
from random import Random

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.judging.check import Verdict
from lumbek.core.model.board import Group
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import Rulebook
from tests.support.boards import board, circuit, group, judged_house, way
from tests.support.houses import BS, IEC


class AnyBoard(unittest.TestCase):
    """What must hold for every board, whatever hangs on it."""

    KINDS = (
        ("light", "lighting"),
        ("socket-twin", "sockets"),
        ("fixed", "fixed-appliance"),
        ("fixed", "shower"),
        ("fixed", "cooker"),
    )

    def drawn(self, chance: Random) -> tuple[list[Circuit], list[Group]]:
        """A few circuits with their loads and leakage, behind one RCD or several."""
        circuits = []
        for number in range(1, chance.randint(2, 7)):
            kind, of = chance.choice(self.KINDS)
            circuits.append(
                circuit(
                    number,
                    kind,
                    chance.choice(("Loft", "Hall", "Kitchen", "")),
                    chance.choice((1, 5, 10, 20, 30)),
                    of=of,
                    rating_a=chance.choice((6, 16, 20, 32, 40)),
                    leakage_ma=chance.choice((0, 1, 3)),
                )
            )
        ways = [way(each.number) for each in circuits]
        chance.shuffle(ways)
        many = chance.randint(1, 3)
        groups = [
            group(
                f"G{at}", *ways[at::many], ma=chance.choice((30, 30, None, 100)), rating_a=chance.choice((40, 63, 80))
            )
            for at in range(many)
        ]
        return circuits, groups

    @settings(max_examples=40, deadline=None)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_in_which_order_circuits_and_ways_come_says_nothing(self, chance: Random, book: Rulebook) -> None:
        circuits, groups = self.drawn(chance)
        before = judged_house([board(*groups)], *circuits, book=book)
        mixed = [each.model_copy(update={"ways": tuple(chance.sample(each.ways, len(each.ways)))}) for each in groups]
        after = judged_house([board(*mixed)], *chance.sample(circuits, len(circuits)), book=book)
        verdicts = [{each.id: each.verdict for each in result.checks} for result in (before, after)]
        self.assertEqual(*verdicts)
        self.assertAlmostEqual(before.headroom.demand_a, after.headroom.demand_a)

    @settings(max_examples=40, deadline=None)
    @given(st.randoms(use_true_random=False), st.sampled_from((BS, IEC)))
    def test_more_load_lowers_no_demand_and_mends_nothing(self, chance: Random, book: Rulebook) -> None:
        circuits, groups = self.drawn(chance)
        before = judged_house([board(*groups)], *circuits, book=book)
        at = chance.randrange(len(circuits))
        point = circuits[at].points[0]
        more = point.model_copy(update={"loads": (*point.loads, point.loads[0].model_copy(update={"current_a": 12.0}))})
        heavier = [*circuits]
        heavier[at] = circuits[at].model_copy(update={"points": (more,)})
        after = judged_house([board(*groups)], *heavier, book=book)
        self.assertGreaterEqual(after.headroom.demand_a, before.headroom.demand_a - 1e-9)
        was = {each.id: each.verdict for each in before.checks}
        for each in after.checks:
            turned = (was.get(each.id), each.verdict) == (Verdict.FAIL, Verdict.PASS)
            self.assertFalse(turned, (each.id, each.answer))


if __name__ == "__main__":
    unittest.main()
