"""Versions of what is kept: old documents come forward and are never refused, new ones are told from them."""

import copy
import json
import unittest
from pathlib import Path

from hypothesis import given
from pydantic import ValidationError

from lumbek.core.judging.answers import answer_circuits
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job
from lumbek.core.model.point import Point
from lumbek.exchange.job_file import JobFileError, read_job, write_job
from lumbek.exchange.stored import read_stored
from lumbek.exchange.upgrade import CURRENT, upgrade, upgrade_job
from tests.support.random_jobs import jobs

OLD = Path(__file__).resolve().parents[1] / "files" / "boathouse_version_1.json"


class JobFiles(unittest.TestCase):
    def test_version_1_is_read_for_good_and_says_the_same(self) -> None:
        old = read_job(OLD.read_bytes())
        self.assertEqual((old.version, json.loads(OLD.read_bytes())["version"]), (CURRENT, 1))
        new = read_job(write_job(old).encode())
        self.assertEqual(new, old)
        stands = {answer.name: answer.result.verdict for answer in answer_circuits(new)}
        self.assertEqual((stands["Cabin sockets"], stands["Boat hoist"]), ("pass", "pass"))

    @given(jobs())
    def test_any_job_written_as_version_1_comes_through(self, job) -> None:
        data = json.loads(write_job(job))
        data["version"] = 1
        # Version 1 knew neither boards, joins nor switches; what feeds a board was said by the circuits behind it.
        del data["boards"], data["storeys"], data["rooms"]
        data["circuits"] = [each for each in data["circuits"] if not each["id"].startswith("F")]
        job = job.model_copy(update={"boards": (), "circuits": job.circuits[: len(data["circuits"])]})
        for circuit in data["circuits"]:
            del circuit["design"]["board_joins"], circuit["former_readings"], circuit["id"], circuit["design"]["ahead"]
            for point in circuit["design"]["points"]:
                del point["joins"], point["switches"]
                # Rooms were known by their names alone, and nothing said where in one a point is.
                point["room"] = (point.pop("at")["room"] or "").title()
        found = read_job(json.dumps(data).encode())
        self.assertEqual({room.name for room in found.rooms}, {point.at.room.title() for point in in_rooms(job)})
        self.assertEqual(found.model_copy(update={"rooms": ()}), without_words(job))

    def test_what_version_1_left_out_of_readings_is_said(self) -> None:
        reading = {"quantity": "r1", "value": 0.4}
        old = {"format": "lumbek-job", "version": 1, "circuits": [{"design": {}, "readings": [reading]}]}
        found = read_job(json.dumps(old).encode()).circuits[0].readings[0]
        self.assertEqual((found.by, found.at), ("", "1970-01-01T00:00:00Z"))
        with self.assertRaisesRegex(JobFileError, "readings.0.by: is missing"):
            read_job(json.dumps({**old, "version": 2}).encode())

    def test_a_version_that_is_not_known_is_refused_in_a_sentence(self) -> None:
        for version in (0, 6, "2", True, None):
            with self.assertRaisesRegex(
                JobFileError, "version: must be 1 or 2 or 3 or 4 or 5: this file was made by another Lumbek"
            ):
                read_job(json.dumps({"format": "lumbek-job", "version": version}).encode())

    def test_version_4_had_no_outlines_and_is_read_for_good(self) -> None:
        data = (Path(__file__).resolve().parents[1] / "files" / "signal_box_version_4.json").read_bytes()
        job = read_job(data)
        self.assertEqual((job.version, len(job.circuits), len(job.rooms)), (5, 11, 11))
        self.assertEqual((job.marks, {room.outline for room in job.rooms}), ((), {None}))
        self.assertEqual(read_job(write_job(job).encode()), job)

    def test_dust_of_version_1_is_lifted_or_let_go(self) -> None:
        load = {"current_a": 1e-300, "leakage_ma": 5e-324}
        leg = {"id": "L1", "a": "board", "b": "P1", "segments": [{"length_m": 1e-200}]}
        old = {"points": [{"id": "P1", "loads": [load]}], "legs": [leg], "device": {"rating_a": 1e-9}}
        kept = copy.deepcopy(old)
        found = Circuit.model_validate(upgrade("circuit", old, 1))
        self.assertEqual((found.points[0].loads[0].current_a, found.legs[0].length_m), (0, 0.001))
        self.assertEqual(found.device.rating_a, 0.1)
        self.assertEqual(old, kept, "an upgrader changes nothing of what it is given")

    def test_what_is_no_job_is_handed_on_for_the_model_to_refuse(self) -> None:
        for odd in ({"circuits": 3}, {"circuits": [7, {"design": 1, "readings": [2]}]}, {"supply": []}):
            self.assertEqual(upgrade_job({**odd}, 1)["version"], CURRENT)


def in_rooms(job: Job) -> list[Point]:
    """The points of a job that are in a room."""
    return [point for circuit in job.circuits for point in circuit.design.points if point.at.room]


def without_words(job: Job) -> Job:
    """The job with nothing said of where in its room a point is."""
    document = job.model_dump()
    for circuit in document["circuits"]:
        for point in circuit["design"]["points"]:
            point["at"]["words"] = ""
    return Job.model_validate(document)


class Stored(unittest.TestCase):
    def test_a_field_that_is_known_no_longer_is_left_out(self) -> None:
        document = {
            "name": "Old",
            "colour_of_the_board": "green",
            "points": [{"id": "P1", "height_m": 1.2}],
            "device": {"rating_a": 20, "maker": "somebody"},
        }
        kept = copy.deepcopy(document)
        found = read_stored(Circuit, "circuit", document, CURRENT)
        self.assertEqual((found.name, found.points[0].id, found.device.rating_a), ("Old", "P1", 20))
        self.assertEqual(document, kept)

    def test_a_field_it_lacks_is_what_it_is_by_itself(self) -> None:
        self.assertEqual(read_stored(Circuit, "circuit", {}, 1), Circuit())

    def test_what_no_version_ever_wrote_is_refused(self) -> None:
        with self.assertRaises(ValidationError):
            read_stored(Circuit, "circuit", {"number": "many"}, 1)
