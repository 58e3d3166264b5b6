"""The boards of a job through the API: open, change, propose, label, and jobs that were kept before there were any."""

import json
from importlib.resources import files
from pathlib import Path

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import create_engine, text

from lumbek.exchange.job_file import read_job
from tests.api.case import Api, new_id
from tests.support.random_jobs import circuits

FILES = Path(__file__).parents[1] / "files"
HOUSE = (files("lumbek.services") / "demo_data" / "signal_box.json").read_bytes()
BOATHOUSE = (files("lumbek.services") / "demo_data" / "boathouse.json").read_bytes()


class Boards(Api):
    def setUp(self) -> None:
        self.job = self.take_in(BOATHOUSE).json()["id"]
        self.path = f"/api/jobs/{self.job}/boards"

    def open(self) -> dict:
        return self.client.get(self.path).json()

    def change(self, *commands: dict, version: int | None = None, write: str | None = None):
        body = {"id": write or new_id(), "version": version or self.open()["version"], "commands": list(commands)}
        return self.client.post(f"{self.path}/commands", json=body)

    def verdict(self, view: dict, check: str) -> str:
        return next(each["verdict"] for each in view["result"]["checks"] if each["id"] == check)

    def way(self, view: dict, number: str) -> dict:
        ways = [way for board in view["result"]["boards"] for group in board["groups"] for way in group["ways"]]
        return next(each for each in ways if each["label"]["numbers"] == number)

    def held(self) -> list[str]:
        """Every circuit that a way holds."""
        groups = [group for board in self.open()["boards"] for group in board["groups"]]
        return [key for group in groups for way in group["ways"] for key in way["circuits"]]

    def test_a_moved_way_judges_both_groups_and_its_circuit(self) -> None:
        view = self.open()
        self.assertEqual(self.verdict(view, "leakage-G2"), "fail")
        way = self.way(view, "8")
        moved = self.change({"op": "move-way", "way": way["id"], "group": "G3"}).json()
        self.assertEqual([self.verdict(moved, f"leakage-G{n}") for n in (2, 3)], ["pass", "pass"])
        bare = self.change({"op": "move-way", "way": way["id"], "group": "G1"}).json()
        lines = self.client.get(f"/api/jobs/{self.job}").json()["circuits"]
        self.assertEqual(next(each["verdict"] for each in lines if each["number"] == 8), "fail")
        self.assertEqual(self.verdict(bare, "leakage-G2"), "pass")

    def test_a_write_is_done_once_on_the_version_that_was_seen(self) -> None:
        view, write = self.open(), new_id()
        command = {"op": "add-way", "group": "G3"}
        once = self.change(command, version=view["version"], write=write).json()
        again = self.change(command, version=view["version"], write=write).json()
        self.assertEqual((once["version"], once["boards"]), (again["version"], again["boards"]))
        stale = self.change(command, version=view["version"])
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "changed-meanwhile"))
        self.assertEqual(stale.json()["current"]["version"], once["version"])

    def test_what_cannot_be_is_told_and_changes_nothing(self) -> None:
        before = self.open()
        for command, words in (
            ({"op": "drop-way", "way": self.way(before, "8")["id"]}, "feeds a circuit"),
            ({"op": "way", "way": "W99", "blank": True}, "not there"),
            ({"op": "group", "group": "G2", "rating_a": -4}, "rating_a"),
            ({"op": "board", "board": "B1", "ip": "IPxyz"}, "ip"),
            ({"op": "add-board", "name": "x", "fed_by": "C9"}, "no circuit"),
            ({"op": "nothing"}, "op"),
        ):
            answer = self.change(command)
            self.assertEqual((answer.status_code, words in answer.text), (422, True), answer.text)
        self.assertEqual(self.open()["boards"], before["boards"])

    def test_a_circuit_that_is_started_or_removed_has_a_way_or_has_none(self) -> None:
        new = self.started(self.job, kind="cooker").json()
        self.assertEqual(self.held().count(new["id"].replace("-", "")), 1)
        self.client.delete(f"/api/circuits/{new['id']}")
        self.assertEqual(self.held().count(new["id"].replace("-", "")), 0)

    def test_numbers_are_those_of_the_ways_and_entered_nowhere_else(self) -> None:
        view = self.open()
        lines = self.client.get(f"/api/jobs/{self.job}").json()["circuits"]
        hoist = next(each for each in lines if each["name"] == "Boat hoist")
        key = hoist["id"].replace("-", "")
        self.assertEqual(self.change({"op": "number", "circuit": key, "number": 1}).status_code, 422)
        self.assertEqual(self.change({"op": "number", "circuit": key, "number": 77}).status_code, 200)
        circuit = self.client.get(f"/api/circuits/{hoist['id']}").json()
        self.assertEqual(circuit["design"]["number"], 77)
        self.assertEqual(self.do(circuit, op="circuit", number=5).status_code, 422)
        back = self.client.post(
            f"/api/circuits/{hoist['id']}/undo", json={"id": new_id(), "version": circuit["version"]}
        ).json()
        self.assertEqual(back["design"]["number"], 77)
        renumbered = self.change({"op": "number-by-way"}).json()
        found = [label["numbers"] for label in self.client.get(f"/api/jobs/{self.job}/labels").json()[0]["labels"]]
        self.assertEqual(found, ["1", "2", "3", "4", "5", "6", "", "7", "8", "9", "10", "11"])
        self.assertEqual(renumbered["boards"], view["boards"])

    def test_proposals_are_taken_over_whole(self) -> None:
        found = self.client.get(f"{self.path}/proposals", params={"order": "by-number"}).json()
        self.assertEqual(found["mends"][0]["steps"], ["Move 8 Bilge pump and ice chest to RCD 2"])
        mended = self.change({"op": "house", "boards": found["mends"][0]["boards"]}).json()
        self.assertEqual(self.verdict(mended, "leakage-G2"), "pass")
        back = self.change({"op": "house", "boards": found["layouts"][0]["boards"]}).json()
        self.assertEqual(len(back["boards"][0]["groups"]), 1)
        self.assertEqual(self.client.get(f"{self.path}/proposals", params={"order": "alphabet"}).status_code, 422)

    def test_a_changed_feed_judges_what_is_behind_it(self) -> None:
        job = self.take_in(HOUSE).json()
        lines = {line["number"]: line["id"] for line in job["circuits"]}
        behind = self.client.get(f"/api/circuits/{lines[8]}").json()
        self.assertEqual([bool(each["feed"]) for each in behind["design"]["ahead"]], [False, True])
        feed = self.client.get(f"/api/circuits/{lines[10]}").json()
        self.assertAlmostEqual(feed["result"]["ib_a"], 20)
        self.do(feed, {"op": "cable", "csa_mm2": 1.5})
        after = self.client.get(f"/api/circuits/{lines[8]}").json()
        self.assertEqual(after["version"], behind["version"])
        self.assertEqual(next(c["verdict"] for c in after["result"]["checks"] if c["id"] == "feed"), "fail")
        # What would mend it is told, and is done where the feed is.
        mends = self.client.get(f"/api/circuits/{lines[8]}/proposals").json()["mends"]
        self.assertTrue(mends and all(each["elsewhere"] for each in mends), mends)

    def test_a_shared_rcd_is_taken_only_where_its_group_has_one(self) -> None:
        lines = {line["number"]: line["id"] for line in self.client.get(f"/api/jobs/{self.job}").json()["circuits"]}
        shared = {"standard": "bs-en-60898", "curve": "B", "rating_a": 16, "rcd": {"rated_ma": 30, "shared": True}}
        # Circuit 1 is in a way of no group with an RCD, circuit 7 behind RCD 1.
        for number, status in ((1, 422), (7, 200)):
            view = self.client.get(f"/api/circuits/{lines[number]}").json()
            taken = self.do(view, op="take", design={**view["design"], "device": shared})
            self.assertEqual(taken.status_code, status, taken.text)
        self.assertIsNone(taken.json()["design"]["device"]["rcd"])
        self.assertEqual(taken.json()["design"]["ahead"][0]["device"]["rcd"]["rated_ma"], 30)

    def test_labels_in_three_forms(self) -> None:
        sheets = self.client.get(f"/api/jobs/{self.job}/labels").json()
        self.assertEqual(len(sheets[0]["labels"]), 12)
        pdf = self.client.get(f"/api/jobs/{self.job}/papers/labels.pdf")
        self.assertTrue(pdf.content.startswith(b"%PDF"))
        svg = self.client.get(f"/api/jobs/{self.job}/labels.svg")
        self.assertEqual(svg.headers["content-type"], "image/svg+xml")
        self.assertIn('width="216mm" height="20mm"', svg.text)
        self.assertIn("Slipway", svg.text)
        chart = self.client.get(f"/api/jobs/{self.job}/chart.svg").text
        # Twelve ways and the headings, each 7 mm high, under 12 mm of title; a line for each as the board has three.
        self.assertIn('width="212mm" height="103mm"', chart)
        for words in ("Boat store board", "10", "Slipway winch", "N10, bar 3", "L2"):
            self.assertIn(words, chart)

    def test_the_file_carries_the_boards_there_and_back(self) -> None:
        held = self.client.get(f"/api/jobs/{self.job}/file").content
        again = self.take_in(held).json()["id"]
        self.assertEqual(self.client.get(f"/api/jobs/{again}/file").content, held)
        self.assertEqual(read_job(held).storeys[-1].name, "Water level")

    def test_a_job_kept_before_there_were_boards_comes_forward_with_nothing_lost(self) -> None:
        old = self.start(name="Kept long ago")
        feed = {
            "name": "To the shed",
            "feed": {"type": "armoured", "csa_mm2": 10, "cpc_by": "core"},
            "length_m": 20,
            "current_a": 18,
        }
        device = {"standard": "bs-en-60898", "curve": "C", "rating_a": 40, "rcd": None}
        ids = [self.circuit(old, name=name)["id"] for name in ("Shed sockets", "Shed lights", "Hall")]
        engine = create_engine(self.url)
        with engine.begin() as db:
            # As a database of then was: without what keeps revisions from being taken away.
            db.execute(text("SET LOCAL session_replication_role = replica"))
            db.execute(text("UPDATE job SET format = 2, house = '{}' WHERE id = :id"), {"id": old})
            db.execute(text("DELETE FROM places WHERE job_id = :id"), {"id": old})
            db.execute(text("DELETE FROM places_revision WHERE job_id = :id"), {"id": old})
            db.execute(text("DELETE FROM audit_link WHERE row_id LIKE :id || '/%'"), {"id": old})
            for circuit_id in ids[:2]:
                ahead = json.dumps([{"name": "Way 9", "device": device}, feed])
                db.execute(
                    text(
                        "UPDATE circuit SET format = 2, design = jsonb_set(design, '{ahead}', CAST(:a AS jsonb)) "
                        "WHERE id = :id"
                    ),
                    {"a": ahead, "id": circuit_id},
                )
            db.execute(text("UPDATE circuit_revision SET format = 2 WHERE circuit_id = ANY(:ids)"), {"ids": ids})
        engine.dispose()
        # Through a circuit first: whichever way in, the whole job comes forward.
        shed = self.client.get(f"/api/circuits/{ids[0]}").json()
        self.assertEqual([each["name"] for each in shed["design"]["ahead"]], ["To the shed", "To the shed"])
        self.assertEqual(shed["design"]["ahead"][1]["length_m"], 20)
        view = self.client.get(f"/api/jobs/{old}/boards").json()
        self.assertEqual(len(view["boards"]), 2)
        self.assertEqual(view["boards"][1]["stated_a"], 18)
        names = {line["name"] for line in self.client.get(f"/api/jobs/{old}").json()["circuits"]}
        self.assertEqual(names, {"Shed sockets", "Shed lights", "Hall", "To the shed"})

    def assert_comes_forward(self, raw: bytes, version: int) -> None:
        """Kept as it was written then, a job comes forward to what its file does."""
        whole = json.loads(raw)
        documents = whole["circuits"]
        job = self.take_in(raw).json()["id"]
        # As numbers went then: the feeds that were made of it have gone, and come again.
        wanted = self.client.get(f"/api/jobs/{job}/file").json()
        engine = create_engine(self.url)
        with engine.begin() as db:
            # As a database of then was: without what keeps revisions from being taken away.
            db.execute(text("SET LOCAL session_replication_role = replica"))
            db.execute(text("DELETE FROM places WHERE job_id = :id"), {"id": job})
            db.execute(text("DELETE FROM places_revision WHERE job_id = :id"), {"id": job})
            db.execute(text("DELETE FROM audit_link WHERE row_id LIKE :id || '/%'"), {"id": job})
            rows = (
                db.execute(text("SELECT id FROM circuit WHERE job_id = :id ORDER BY place"), {"id": job})
                .scalars()
                .all()
            )
            house = json.dumps({name: whole[name] for name in ("boards", "storeys") if name in whole})
            for circuit_id, document in zip(rows, documents, strict=False):
                house = house.replace(f'"{document.get("id")}"', f'"{circuit_id.hex}"')
            db.execute(
                text("UPDATE job SET format = :v, house = CAST(:h AS jsonb) WHERE id = :id"),
                {"v": version, "h": house, "id": job},
            )
            for circuit_id, document in zip(rows, documents, strict=False):
                db.execute(
                    text("UPDATE circuit SET format = :v, design = CAST(:d AS jsonb) WHERE id = :id"),
                    {"v": version, "d": json.dumps(document["design"]), "id": circuit_id},
                )
            made = rows[len(documents) :]
            db.execute(text("DELETE FROM circuit_revision WHERE circuit_id = ANY(:ids)"), {"ids": made})
            db.execute(text("DELETE FROM circuit WHERE id = ANY(:ids)"), {"ids": made})
        engine.dispose()
        self.assertEqual(self.client.get(f"/api/jobs/{job}/file").json(), wanted)

    def test_kept_jobs_of_older_versions_come_forward_as_their_files_do(self) -> None:
        names = ("boathouse_version_1.json", "signal_box_version_2.json", "signal_box_version_3.json")
        for version, name in enumerate(names, start=1):
            self.assert_comes_forward((FILES / name).read_bytes(), version)

    @settings(max_examples=8, suppress_health_check=list(HealthCheck))
    @given(st.lists(circuits(), min_size=1, max_size=3))
    def test_any_kept_job_comes_forward(self, drawn: list[dict]) -> None:
        for number, each in enumerate(drawn, start=1):
            each["design"]["number"] = number
        job = {"format": "lumbek-job", "version": 2, "name": "Any", "circuits": drawn}
        self.assert_comes_forward(json.dumps(job).encode(), 2)
