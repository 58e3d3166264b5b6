"""A house: what follows from where its circuits sit, and version 2 files whose circuits said it themselves."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.board.house import house_of_job
from lumbek.core.board.judge import judge_house
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.missing import OTHER
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import rulebook_of
from lumbek.exchange.job_file import make_job
from tests.support.random_jobs import circuits

# What the tree touches: it knows what flows through feeds and switches, and where a switch stands is asked of it.
TOUCHED = {"feed", "switches", "volt-drop", "demand", "bath-bonding"}


def version_2(drawn: list[dict], **more: object) -> dict:
    for number, each in enumerate(drawn, start=1):
        each["design"]["number"] = number
    supply = {
        "earthing": "TN-S",
        "ze_ohm": 0.3,
        "fault_current_ka": 1.2,
        "main_fuse": {"standard": "bs88-3", "rating_a": 80},
    }
    return {"format": "lumbek-job", "version": 2, "supply": supply, "circuits": drawn, **more}


class OfVersion2(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.lists(circuits(), min_size=1, max_size=3), st.sampled_from(["bs7671", "iec60364"]))
    def test_every_verdict_that_the_tree_does_not_touch_stays(self, drawn: list[dict], rulebook: str) -> None:
        job = make_job(version_2(drawn, rulebook=rulebook))
        house, book = house_of_job(job), rulebook_of(job)
        shared = judge_house(house)
        self.assertEqual({each.id for each in shared.boards}, {each.id for each in house.boards})
        for found in shared.checks:
            self.assertEqual(len(found.missing), len(found.missing_codes))
            self.assertNotIn(OTHER, found.missing_codes, found.missing)
        for said, kept in zip(drawn, job.circuits, strict=False):
            before = judge_circuit(book, job.supply, Circuit.model_validate(said["design"]))
            after = judge_circuit(book, job.supply, house.effective(kept))
            for old, new in zip(before.checks, after.checks, strict=True):
                if old.id not in TOUCHED:
                    self.assertEqual(
                        (old.id, old.verdict, old.value, old.limit), (new.id, new.verdict, new.value, new.limit)
                    )

    def test_whether_circuits_meant_one_rcd_or_several_alike_is_not_made_up(self) -> None:
        def groups(*ahead: list[dict], shared: bool = False) -> list[tuple[int, bool]]:
            rcd = {"rated_ma": 30, "shared": True} if shared else None
            drawn = [
                {"design": {"device": {"standard": "bs-en-60898", "rcd": rcd}, "ahead": each}, "readings": []}
                for each in ahead
            ]
            boards = make_job(version_2(drawn)).boards
            return [(len(each.ways), each.unsure) for board in boards for each in board.groups if each.rcd is not None]

        rccb = {"device": {"standard": "bs-en-61008", "curve": None, "rating_a": 63, "rcd": {"rated_ma": 30}}}
        self.assertEqual(groups([], [], shared=True), [(2, True)])
        self.assertEqual(groups([], shared=True), [(1, False)])
        self.assertEqual(groups([rccb], [rccb]), [(2, True)])
        self.assertEqual(groups([{"name": "RCD 1", **rccb}], [{"name": "RCD 1", **rccb}]), [(2, False)])
        self.assertEqual(groups([{"name": "RCD 1", **rccb}], [{"name": "RCD 2", **rccb}]), [(1, False), (1, False)])


if __name__ == "__main__":
    unittest.main()
