"""Storeys and rooms: what they are called, what is in them, and that a name said in one place is heard in all."""

import json
import unittest
from itertools import pairwise
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from lumbek.core.board.house import house_of_job
from lumbek.core.board.judge import judge_house
from lumbek.core.board.labels import sheet_of_board
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.job import Job
from lumbek.core.model.places import MOST_ROOMS, Places, Room, Spot, Storey, id_of_name
from lumbek.core.model.text import Id
from lumbek.core.places.changes import carry_out_on_places
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.places.named import named, unnamed
from lumbek.core.rulebooks import rulebook_of
from lumbek.exchange.job_file import JobFileError, read_job, write_job
from tests.support.boards import UP_AND_DOWN

READ: TypeAdapter[PlacesCommand] = TypeAdapter(PlacesCommand)
VERSION_3 = (Path(__file__).resolve().parents[1] / "files" / "signal_box_version_3.json").read_bytes()


def after(*commands: dict, places: Places = UP_AND_DOWN, **used: int) -> Places:
    for command in commands:
        places = carry_out_on_places(places, READ.validate_python(command), used)
    return places


class Ids(unittest.TestCase):
    def test_what_names_become_never_changes(self) -> None:
        # Kept states of version 3 know rooms by their names alone: another id would lose them.
        for name, wanted in (
            ("Lever room", "lever-room"),
            ("  lever   ROOM ", "lever-room"),
            ("Bed 1", "bed-1"),
            ("Cafe\u0301", id_of_name("Café")),
            ("Küche", "kuche-d4b04d033b"),
            ("厨房", "room-4ae988a29c"),
            ("A room with a name that is far too long for an id", "a-room-with-a-name-th-666d2c7191"),
        ):
            self.assertEqual(id_of_name(name), wanted, name)

    @given(st.text(min_size=1).filter(str.strip))
    def test_any_name_becomes_an_id_and_always_the_same(self, name: str) -> None:
        made = TypeAdapter(Id).validate_python(id_of_name(name))
        self.assertEqual(made, id_of_name(f"  {name} "))

    def test_a_name_that_was_given_again_is_another_room(self) -> None:
        renamed = after({"op": "room", "room": "kitchen", "name": "Galley"})
        again, room = renamed.with_room("Kitchen")
        self.assertEqual((room.id, [each.name for each in again.rooms][-2:]), ("kitchen-2", ["Galley", "Kitchen"]))
        self.assertEqual(again.with_room("galley")[1].id, "kitchen")


class Changing(unittest.TestCase):
    def test_storeys(self) -> None:
        more = after({"op": "add-storey", "name": "Cellar"}, {"op": "move-storey", "storey": "cellar", "index": 0})
        self.assertEqual([each.name for each in more.storeys], ["Cellar", "Up", "Down"])
        called = after({"op": "storey", "storey": "up", "name": "Attic"})
        self.assertEqual((called.storey_of("loft"), called.storeys[0].id), ("Attic", "up"))
        gone = after({"op": "drop-storey", "storey": "down"})
        self.assertEqual([(each.id, each.storey) for each in gone.rooms][1:], [("hall", None), ("kitchen", None)])

    def test_rooms(self) -> None:
        more = after({"op": "add-room", "name": "Porch", "storey": "down"}, {"op": "add-room", "name": "Den"})
        self.assertEqual([(each.name, each.storey) for each in more.rooms][-2:], [("Porch", "down"), ("Den", None)])
        moved = after({"op": "room", "room": "hall", "storey": "up"})
        self.assertEqual((moved.name_of("hall"), moved.storey_of("hall")), ("Hall", "Up"))
        self.assertEqual(len(after({"op": "drop-room", "room": "hall"}).rooms), 2)

    def test_what_somebody_named_and_nobody_lists_is_listed_by_giving_it_a_name(self) -> None:
        found = after({"op": "room", "room": "old-store", "name": "Store"})
        self.assertEqual(found.rooms[-1], Room(id="old-store", name="Store"))

    def test_what_cannot_be_is_refused_in_words(self) -> None:
        for command, words in (
            ({"op": "add-room", "name": "hall"}, "a room called hall already"),
            ({"op": "room", "room": "hall", "name": "Loft"}, "a room called Loft already"),
            ({"op": "add-storey", "name": "UP"}, "a storey called UP already"),
            ({"op": "storey", "storey": "up", "name": "Down"}, "a storey called Down already"),
            ({"op": "storey", "storey": "roof", "name": "Roof"}, "no such storey"),
            ({"op": "move-storey", "storey": "roof", "index": 0}, "no such storey"),
            ({"op": "drop-storey", "storey": "roof"}, "no such storey"),
            ({"op": "room", "room": "hall", "storey": "roof"}, "no such storey"),
            ({"op": "add-room", "name": "Den", "storey": "roof"}, "no such storey"),
            ({"op": "drop-room", "room": "den"}, "no such room"),
        ):
            with self.subTest(command), self.assertRaisesRegex(EditRefusedError, words):
                after(command)
        with self.assertRaisesRegex(EditRefusedError, "2 things are in Hall"):
            after({"op": "drop-room", "room": "hall"}, hall=2)
        with self.assertRaisesRegex(EditRefusedError, "1 thing is in Hall"):
            after({"op": "drop-room", "room": "hall"}, hall=1)

    def test_the_model_holds_nothing_twice_and_no_storey_that_is_not_there(self) -> None:
        up, hall = Storey(id="up", name="Up"), Room(id="hall", name="Hall")
        for storeys, rooms, words in (
            ((up, up), (), "storeys: an id is used twice"),
            ((up, Storey(id="top", name="up")), (), "storeys: Up is there twice"),
            ((), (hall, hall), "rooms: an id is used twice"),
            ((), (hall, Room(id="h", name=" hall ")), "rooms: Hall is there twice"),
            ((up,), (Room(id="h", name="H", storey="down"),), "lies on storey down, which is not there"),
        ):
            with self.assertRaisesRegex(ValidationError, words):
                Places(storeys=storeys, rooms=rooms)


def a_job(*points: dict, **more: object) -> Job:
    design = {"points": [{"id": f"P{at}", **each} for at, each in enumerate(points, start=1)], "legs": []}
    ends = ["board", *(each["id"] for each in design["points"])]
    design["legs"] = [
        {"id": f"L{at}", "a": a, "b": b, "segments": [{"length_m": 6}]}
        for at, (a, b) in enumerate(pairwise(ends), start=1)
    ]
    return Job.model_validate({"circuits": [{"design": design}], **more})


class Heard(unittest.TestCase):
    JOB = a_job(
        {"name": "Desk", "at": {"room": "study", "words": "left of the window"}},
        {"name": "Shelf", "at": {"room": "study"}},
        storeys=[{"id": "up", "name": "Upstairs"}],
        rooms=[{"id": "study", "name": "Writing room", "storey": "up"}, {"id": "stair", "name": "Stair"}],
        boards=[
            {
                "id": "B1",
                "at": {"room": "stair", "words": "under the flight"},
                "groups": [{"id": "G1", "ways": [{"id": "W1", "circuits": ["C1"]}]}],
            }
        ],
    )

    def test_a_room_is_called_as_the_house_calls_it_wherever_it_is_named(self) -> None:
        house = house_of_job(self.JOB)
        placed = house.effective(self.JOB.circuits[0])
        self.assertEqual([each.title for each in placed.points], ["Desk, Writing room", "Shelf, Writing room"])
        (answer,) = answer_circuits(self.JOB)
        self.assertIn("Writing room", str(answer.tests.model_dump()))
        (trip, *_) = [each for each in judge_house(house).trips if each.kind == "way"]
        self.assertEqual([(each.room, each.storey) for each in trip.lost], [("Writing room", "Upstairs")])
        sheet = sheet_of_board(house, house.boards[0])
        self.assertEqual(sheet.place, "Stair, under the flight")
        self.assertIn("Writing room", " ".join(sheet.note))

    def test_a_design_is_kept_without_it(self) -> None:
        placed = house_of_job(self.JOB).effective(self.JOB.circuits[0])
        self.assertEqual(unnamed(placed).points, self.JOB.circuits[0].design.points)
        self.assertIs(named(placed, self.JOB.places.name_of), placed)

    def test_where_nobody_lists_a_room_its_id_says_as_much_as_it_does(self) -> None:
        stray = a_job({"name": "Desk", "at": {"room": "boat-store"}})
        self.assertEqual(stray.circuits[0].design.points[0].title, "Desk, boat store")

    def test_a_room_called_a_bathroom_asks_for_zones_whatever_its_id(self) -> None:
        for name, asked in (("Bathroom", True), ("Box room", False)):
            job = a_job({"at": {"room": "box-room"}}, rooms=[{"id": "box-room", "name": name}])
            house = house_of_job(job)
            result = judge_circuit(rulebook_of(job), house.supply, house.effective(job.circuits[0]))
            bath = next(each for each in result.checks if each.id == "bath")
            self.assertEqual(bath.verdict == "cannot-tell", asked, name)


class Files(unittest.TestCase):
    def test_names_of_version_3_become_rooms(self) -> None:
        old, job = json.loads(VERSION_3), read_job(VERSION_3)
        names = {point["room"] for each in old["circuits"] for point in each["design"]["points"]} - {""}
        names |= {room for storey in old["storeys"] for room in storey["rooms"]}
        self.assertEqual({room.name for room in job.rooms}, names)
        for storey in old["storeys"]:
            self.assertEqual({job.places.storey_of(id_of_name(room)) for room in storey["rooms"]}, {storey["name"]})
        for then, now in zip(old["circuits"], job.circuits, strict=True):
            rooms = [job.places.name_of(point.at.room) for point in now.design.points]
            self.assertEqual(rooms, [point["room"] for point in then["design"]["points"]])
        self.assertEqual([board.at for board in job.boards], [Spot(words=each["place"]) for each in old["boards"]])
        self.assertEqual(read_job(write_job(job).encode()), job)

    def test_two_ways_to_write_a_name_are_one_room(self) -> None:
        points = [{"id": "P1", "room": "Den"}, {"id": "P2", "room": " den"}, {"id": "P3", "room": ""}]
        circuit = {"design": {"points": points}}
        storeys = [{"name": "Up", "rooms": ["DEN"]}, {"name": "up", "rooms": ["Attic"]}]
        job = read_job(old_file(circuits=[circuit], storeys=storeys))
        self.assertEqual([(each.id, each.name, each.storey) for each in job.rooms],
                         [("den", "DEN", "up"), ("attic", "Attic", "up")])  # fmt: skip
        self.assertEqual([each.at.room for each in job.circuits[0].design.points], ["den", "den", None])

    def test_more_rooms_than_a_list_holds_are_called_by_their_ids(self) -> None:
        circuits = [
            {
                "id": f"C{n}",
                "design": {"number": n, "points": [{"id": f"P{at}", "room": f"Room {at} of {n}"} for at in range(150)]},
            }
            for n in (1, 2, 3)
        ]
        job = read_job(old_file(circuits=circuits))
        self.assertEqual(len(job.rooms), MOST_ROOMS)
        last = house_of_job(job).effective(job.circuits[-1]).points[-1]
        self.assertEqual(last.title, "P149, room 149 of 3")

    def test_what_is_no_storey_is_refused_in_words(self) -> None:
        for storeys in (7, [7], [{"rooms": []}], [{"name": "Up", "rooms": 3}]):
            with self.assertRaisesRegex(JobFileError, "storeys"):
                read_job(old_file(storeys=storeys))

    def test_what_a_room_is_called_is_said_once(self) -> None:
        circuit = {"design": {"points": [{"id": "P1", "room": "Den"}]}}
        with self.assertRaisesRegex(JobFileError, r"circuits.0.design.points.0.room: follows from the rooms"):
            read_job(json.dumps({"format": "lumbek-job", "version": 4, "circuits": [circuit]}).encode())


def old_file(**more: object) -> bytes:
    return json.dumps({"format": "lumbek-job", "version": 3, **more}).encode()
