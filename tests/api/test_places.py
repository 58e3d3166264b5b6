"""Rooms of a job over the API: made where they are named, called otherwise in one place, undone, and never lost."""

from sqlalchemy import create_engine, text

from tests.api.case import Api, new_id

RUN = "Snug: 4m desk, 3m shelf, attic landing: 6m lamp light"


class Rooms(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.ring = self.circuit(self.job)

    def places(self, job: str | None = None) -> dict:
        return self.client.get(f"/api/jobs/{job or self.job}/places").json()

    def change(self, *commands: dict, version: int | None = None, write: str | None = None):
        seen = self.places()["version"] if version is None else version
        body = {"id": write or new_id(), "version": seen, "commands": commands}
        return self.client.post(f"/api/jobs/{self.job}/places/commands", json=body)

    def lay(self, text: str = RUN, circuit: dict | None = None) -> dict:
        seen = self.client.get(f"/api/circuits/{(circuit or self.ring)['id']}").json()
        body = {"id": new_id(), "version": seen["version"], "text": text}
        answer = self.client.post(f"/api/circuits/{seen['id']}/run", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def rooms(self, job: str | None = None) -> dict[str, int]:
        """How much is in each room, by its name."""
        return {each["name"]: each["holds"] for each in self.places(job)["rooms"]}

    def test_a_typed_run_makes_the_rooms_it_names_once(self) -> None:
        points = self.lay()["design"]["points"]
        self.assertEqual([(each["at"]["room"], each["room"]) for each in points],
                         [("snug", "Snug"), ("snug", "Snug"), ("attic-landing", "attic landing")])  # fmt: skip
        again = self.lay("SNUG: 2m window")["design"]["points"][-1]
        self.assertEqual((again["at"]["room"], again["room"]), ("snug", "Snug"))
        self.assertEqual(self.rooms(), {"Snug": 3, "attic landing": 1})

    def test_a_room_called_otherwise_is_called_so_everywhere(self) -> None:
        self.lay()
        self.assertEqual(self.change({"op": "room", "room": "snug", "name": "Studio"}).status_code, 200)
        view = self.client.get(f"/api/circuits/{self.ring['id']}").json()
        self.assertEqual([each["room"] for each in view["design"]["points"]], ["Studio", "Studio", "attic landing"])
        sheet = self.client.get(f"/api/circuits/{self.ring['id']}/tests").text
        labels = self.client.get(f"/api/jobs/{self.job}/labels").text
        for said in (sheet, labels):
            self.assertIn("Studio", said)
            self.assertNotIn("Snug", said)
        # Whoever types the new name means the same room.
        self.assertEqual(self.lay("Studio: 1m lamp")["design"]["points"][-1]["at"]["room"], "snug")

    def test_a_place_in_words_stays_with_the_point(self) -> None:
        view = self.lay()
        spot = {"room": "snug", "words": "left of the window"}
        kept = self.do(view, op="point", point="P1", at=spot).json()
        self.assertEqual(kept["design"]["points"][0]["at"], spot)
        self.assertEqual(kept["design"]["points"][0]["room"], "Snug")

    def test_rooms_are_undone_and_redone_and_written_once(self) -> None:
        self.lay()
        write, seen = new_id(), self.places()["version"]
        for _ in range(2):
            answer = self.change({"op": "add-storey", "name": "Up"}, version=seen, write=write)
            self.assertEqual([each["name"] for each in answer.json()["storeys"]], ["Up"])
        late = self.change({"op": "add-storey", "name": "Down"}, version=seen)
        self.assertEqual((late.status_code, late.json()["current"]["version"]), (409, seen + 1))
        self.assertEqual(late.json()["current"]["places"]["storeys"][0]["name"], "Up")
        for way, storeys in (("undo", []), ("redo", ["Up"])):
            body = {"id": new_id(), "version": self.places()["version"]}
            view = self.client.post(f"/api/jobs/{self.job}/places/{way}", json=body).json()
            self.assertEqual([each["name"] for each in view["storeys"]], storeys, way)
        # Undoing the first room of all is no way back to before the job was.
        self.assertTrue(self.places()["can_undo"])

    def test_what_is_in_use_stays_and_what_cannot_be_is_told(self) -> None:
        self.lay()
        for command, words in (
            ({"op": "drop-room", "room": "snug"}, "2 things are in Snug"),
            ({"op": "add-room", "name": "SNUG"}, "a room called SNUG already"),
        ):
            answer = self.change(command)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.rooms(), {"Snug": 2, "attic landing": 1})

    def test_going_back_to_a_room_that_was_taken_away_loses_nothing(self) -> None:
        view = self.lay("Snug: 4m desk")
        moved = self.do(view, op="point", point="P1", at={"room": None, "words": ""}).json()
        self.assertEqual(self.change({"op": "drop-room", "room": "snug"}).json()["rooms"], [])
        body = {"id": new_id(), "version": moved["version"]}
        back = self.client.post(f"/api/circuits/{self.ring['id']}/undo", json=body).json()
        self.assertEqual(back["design"]["points"][0]["room"], "snug")
        self.assertEqual(self.rooms(), {"snug": 1})
        self.change({"op": "room", "room": "snug", "name": "Snug"})
        self.assertEqual(self.rooms(), {"Snug": 1})

    def test_a_circuit_of_another_job_comes_into_the_rooms_of_this_one(self) -> None:
        self.lay()
        self.change({"op": "room", "room": "snug", "name": "Studio"})
        kept = self.client.post(f"/api/circuits/{self.ring['id']}/library", json={"id": new_id()}).json()
        for begun_from in ({"copy_of": self.ring["id"]}, {"library": kept["id"]}):
            other = self.start()
            self.client.post(
                f"/api/jobs/{other}/places/commands",
                json={"id": new_id(), "version": 1, "commands": [{"op": "add-room", "name": "studio"}]},
            )
            points = self.started(other, **begun_from).json()["design"]["points"]
            self.assertEqual([each["room"] for each in points], ["studio", "studio", "attic landing"], begun_from)
            self.assertEqual(self.rooms(other), {"studio": 2, "attic landing": 1})

    def test_a_board_is_in_a_room_too(self) -> None:
        self.lay()
        boards = self.client.get(f"/api/jobs/{self.job}/boards").json()
        board = boards["boards"][0]["id"]
        command = {"op": "board", "board": board, "at": {"room": "snug", "words": "by the door"}}
        body = {"id": new_id(), "version": boards["version"], "commands": [command]}
        view = self.client.post(f"/api/jobs/{self.job}/boards/commands", json=body).json()
        self.assertEqual(view["result"]["boards"][0]["where"], "Snug, by the door")
        self.assertEqual(self.rooms()["Snug"], 3)
        self.assertEqual(self.client.get(f"/api/jobs/{self.job}/labels").json()[0]["place"], "Snug, by the door")

    def test_the_file_carries_rooms_there_and_back(self) -> None:
        self.lay()
        self.change({"op": "add-storey", "name": "Up"}, {"op": "room", "room": "snug", "storey": "up"})
        held = self.client.get(f"/api/jobs/{self.job}/file").content
        again = self.take_in(held).json()["id"]
        self.assertEqual(self.client.get(f"/api/jobs/{again}/file").content, held)
        self.assertEqual(self.rooms(again), self.rooms())

    def test_what_is_kept_of_a_design_is_the_room_and_not_its_name(self) -> None:
        self.lay()
        engine = create_engine(self.url)
        with engine.begin() as db:
            kept = db.execute(text("SELECT design FROM circuit WHERE id = :id"), {"id": self.ring["id"]}).scalar()
        engine.dispose()
        self.assertEqual({(each["at"]["room"], each["room"]) for each in kept["points"]},
                         {("snug", ""), ("attic-landing", "")})  # fmt: skip
