"""Photos and papers of a job: kept once, with what they show, hidden with the circuit that is removed."""

from hashlib import sha256

from sqlalchemy import text

from lumbek.services.attachments import MOST_BYTES
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, SECRET, add_person, make_client, sign_in
from tests.support.photos import photo, read, taken_sideways

PNG, JPEG = photo(), photo("JPEG")
PDF = b"%PDF-1.7 the last report\n%%EOF\n"


class Attachments(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/jobs/{self.job}/attachments"
        self.view = self.circuit(self.job)
        self.do(self.view, op="add", after="board", length_m=4)

    def attach(self, data: bytes = PNG, client=None, **asked: object):
        return (client or self.client).post(self.path, params={"id": new_id(), **asked}, content=data)

    def lines(self) -> list[dict]:
        return self.client.get(self.path).json()

    def test_each_with_what_it_shows_and_as_it_was_sent(self) -> None:
        board = self.client.get(f"/api/jobs/{self.job}/boards").json()["boards"][0]["id"]
        circuit, kept = self.view["id"], list[str]()
        for data, kind, asked in (
            (PNG, "image/png", {"note": "The intake"}),
            (JPEG, "image/jpeg", {"shows": "board", "of": board}),
            (JPEG, "image/jpeg", {"shows": "circuit", "of": circuit}),
            (PDF, "application/pdf", {"shows": "point", "of": "P1", "circuit_id": circuit}),
        ):
            answer = self.attach(data, **asked)
            self.assertEqual(answer.status_code, 201, answer.text)
            last = answer.json()[-1]
            self.assertEqual((last["kind"], last["shows"]), (kind, asked.get("shows", "job")))
            file = self.client.get(f"/api/attachments/{last['id']}")
            self.assertEqual(file.headers["content-type"], kind)
            if kind == "application/pdf":
                self.assertEqual(file.content, data)
            else:
                self.assertEqual(read(file.content).size, read(data).size)
            kept.append(sha256(file.content).hexdigest())
        self.assertEqual([each["note"] for each in self.lines()], ["The intake", "", "", ""])
        with self.client.app.state.services.database.transaction() as db:
            hashes = set(db.scalars(text("SELECT sha256 FROM attachment")))
        self.assertLessEqual({*kept}, hashes)

    def test_sent_twice_it_is_kept_once(self) -> None:
        once = {"id": new_id()}
        for _ in range(2):
            self.assertEqual(len(self.attach(**once).json()), 1)
        elsewhere = self.client.post(f"/api/jobs/{self.start()}/attachments", params=once, content=PNG)
        self.assertEqual(elsewhere.status_code, 422)

    def test_what_is_no_photo_or_too_large_or_not_there_is_refused(self) -> None:
        for bad in (b"GIF89a", b"", b"<svg>"):
            refused = self.attach(bad)
            self.assertEqual((refused.status_code, "JPEG" in refused.json()["message"]), (422, True))
        self.assertEqual(self.attach(PNG + bytes(MOST_BYTES + 1)).status_code, 413)
        other = self.circuit(self.start())["id"]
        for asked in (
            {"shows": "board", "of": "cellar"},
            {"shows": "circuit", "of": other},
            {"shows": "circuit", "of": "none"},
            {"shows": "point", "of": "P9", "circuit_id": self.view["id"]},
            {"shows": "point", "of": "P1"},
            {"shows": "record", "of": new_id()},
        ):
            self.assertEqual(self.attach(**asked).status_code, 404, asked)
        self.assertEqual(self.lines(), [])

    def test_a_photo_is_kept_without_what_the_device_says_of_its_owner(self) -> None:
        sent = taken_sideways()
        self.assertIn(b"A phone of somebody", sent)
        line = self.attach(sent).json()[-1]
        kept = self.client.get(f"/api/attachments/{line['id']}").content
        for word in (b"phone", b"somebody", b"Exif"):
            self.assertNotIn(word, kept)
        # Upright, as the device meant it.
        picture = read(kept)
        self.assertEqual((picture.size, len(picture.getexif())), ((60, 80), 0))
        red, _, blue = picture.getpixel((58, 2))
        self.assertGreater(red, blue + 100)

    def test_what_only_looks_like_a_photo_or_is_larger_than_any_is_refused(self) -> None:
        # Black and white only: it is as large once it is opened, and made in a second.
        bomb = photo("PNG", (20_000, 20_000), mode="1")
        self.assertLess(len(bomb), MOST_BYTES)
        for bad, words in (
            (PNG[:40], "cannot be read"),
            (b"\xff\xd8\xff" + b"<script>alert(1)</script>", "cannot be read"),
            (b"\x89PNG\r\n\x1a\n" + JPEG, "cannot be read"),
            (bomb, "larger than any"),
            (photo("PNG", (9000, 6000), mode="1"), "9000 x 6000"),
            (photo("PNG", (13_000, 4)), "13000 x 4"),
            (PDF + b"PK\x03\x04 and a page to run", "does not end"),
            (b"%PDF-1.7 cut off", "does not end"),
        ):
            answer = self.attach(bad)
            self.assertEqual(answer.status_code, 422, words)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.lines(), [])

    def test_what_stands_behind_a_photo_goes(self) -> None:
        for data in (PNG, JPEG):
            line = self.attach(data + b"PK\x03\x04 a page to run").json()[-1]
            self.assertNotIn(b"a page to run", self.client.get(f"/api/attachments/{line['id']}").content)

    def test_a_removed_circuit_hides_its_own(self) -> None:
        kept = self.attach().json()[-1]["id"]
        hidden = self.attach(shows="point", of="P1", circuit_id=self.view["id"]).json()[-1]["id"]
        self.client.delete(f"/api/circuits/{self.view['id']}")
        self.assertEqual([each["id"] for each in self.lines()], [kept])
        self.assertEqual(self.client.get(f"/api/attachments/{hidden}").status_code, 404)

    def test_another_firm_sees_none_and_a_reader_adds_none(self) -> None:
        photo = self.attach().json()[-1]["id"]
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(f"/api/attachments/{photo}").status_code, 404)
        self.assertEqual((rival.get(self.path).status_code, self.attach(client=rival).status_code), (404, 404))
        add_person(self.url, "looker@attachments.example", ["reader"])
        looker = sign_in(make_client(self.url), "looker@attachments.example", SECRET)
        self.assertEqual((looker.get(self.path).status_code, self.attach(client=looker).status_code), (200, 403))

    def test_nobody_takes_a_photo_tomorrow(self) -> None:
        line = self.attach(taken_at="2999-01-01T00:00:00Z").json()[-1]
        self.assertLess(line["taken_at"], "2999")
