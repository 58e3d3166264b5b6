"""What is said on an inspection: kept once, by whom and when, never lost, and signed by who may."""

from typing import Any

from lumbek.exchange.job_file import read_job
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, SECRET, add_person, make_client, sign_in
from tests.support.pdf import pictures_of, words_of
from tests.support.photos import photo

FINDING: dict[str, Any] = {"record": "finding", "finding": "f1", "kind": "damage", "seen": "Cracked plate, bare brass"}


class Inspecting(Api):
    def setUp(self) -> None:
        self.job = self.start(extent={"state": "as-found", "year": 1975})
        self.path = f"/api/jobs/{self.job}/inspection"

    def say(self, client=None, id_: str | None = None, **said: Any):
        body = {"id": id_ or new_id(), "made": {"said": said}}
        return (client or self.client).post(self.path, json=body)

    def whole(self) -> dict[str, Any]:
        return self.client.get(self.path).json()["whole"]

    def old_ring(self) -> dict[str, Any]:
        view = self.circuit(self.job, state="as-found", device={"standard": "bs-en-60898", "rcd": None})
        self.do(view, op="add", after="board", length_m=4).raise_for_status()
        return view

    def test_an_offer_is_taken_corrected_and_its_history_kept(self) -> None:
        self.old_ring()
        offer = next(each for each in self.whole()["offers"] if each["kind"] == "no-30ma")
        self.assertEqual((offer["suggestion"]["code"], offer["suggestion"]["open"][0]["id"]), ("C3", "outdoors"))
        taken = FINDING | {"kind": "no-30ma", "offer": offer["key"], "seen": offer["seen"], "spot": offer["spot"]}
        self.assertEqual(self.say(**taken, code="C3", suggested="C3").status_code, 201)
        self.assertNotIn(offer["key"], [each["key"] for each in self.whole()["offers"]])
        refused = self.say(**taken, code="C2", suggested="C3")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("departs", refused.text)
        self.say(**taken, code="C2", suggested="C3", departs="The lawn mower runs off it").raise_for_status()
        (found,) = self.whole()["findings"]
        self.assertEqual((found["said"]["code"], [each["code"] for each in found["earlier"]]), ("C2", ["C3"]))
        self.assertEqual(self.whole()["outcome"]["word"], "unsatisfactory")

    def test_an_offer_that_is_dismissed_says_why_and_can_be_taken_all_the_same(self) -> None:
        self.old_ring()
        key = self.whole()["offers"][0]["key"]
        self.assertEqual(self.say(record="dismissed", offer=key, why=" ").status_code, 422)
        self.say(record="dismissed", offer=key, why="Looked: it is there").raise_for_status()
        self.assertEqual([each["why"] for each in self.whole()["dismissed"]], ["Looked: it is there"])
        self.say(**FINDING, offer=key).raise_for_status()
        self.assertEqual(self.whole()["dismissed"], [])

    def test_sent_twice_it_is_kept_once_and_other_words_under_its_id_are_refused(self) -> None:
        once = new_id()
        for _ in range(2):
            self.assertEqual(self.say(id_=once, **FINDING).status_code, 201)
        self.assertEqual(len(self.whole()["findings"][0]["earlier"]), 0)
        self.assertEqual(self.say(id_=once, **FINDING | {"seen": "Something else"}).status_code, 422)

    def test_dangers_are_told_alone_until_somebody_has_dealt_with_them(self) -> None:
        def told() -> list[str]:
            answered = self.client.get(f"/api/jobs/{self.job}/dangers")
            self.assertEqual(answered.status_code, 200)
            self.assertEqual([each["finding"] for each in answered.json()], self.whole()["dangers"])
            return [each["seen"] for each in answered.json()]

        self.assertEqual(told(), [])
        self.say(**FINDING | {"finding": "f0"}, code="C2").raise_for_status()
        self.say(**FINDING, code="C1").raise_for_status()
        self.assertEqual(told(), ["Cracked plate, bare brass"])
        dealt = {"made_safe": "Plate off, conductors made off", "told": "M. Fallow", "told_at": "2026-05-04T12:00:00Z"}
        self.say(**FINDING, code="C1", danger=dealt).raise_for_status()
        self.assertEqual(told(), [])

    def test_who_may(self) -> None:
        add_person(self.url, "reads@elsewhere.example", ["reader"])
        reader = sign_in(make_client(self.url), "reads@elsewhere.example", SECRET)
        self.assertEqual(self.say(reader, **FINDING).status_code, 403)
        stranger = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(self.say(stranger, **FINDING).status_code, 404)
        self.assertEqual(stranger.get(self.path).status_code, 404)

    def test_what_is_not_in_the_job_is_refused(self) -> None:
        spot = {"of": "circuit", "id": "f" * 32, "circuit": "f" * 32}
        for said in (FINDING | {"spot": spot}, {"record": "opened", "circuit": "f" * 32, "point": "P1", "sound": True}):
            self.assertEqual(self.say(**said).status_code, 422, said)

    def test_a_signature_stands_until_something_changes(self) -> None:
        self.say(record="signed", role="inspector").raise_for_status()
        signed = self.say(record="signed", role="designer").json()["signed"]
        self.assertEqual([each["stands"] for each in signed], [True, True])
        self.say(**FINDING).raise_for_status()
        signed = self.client.get(self.path).json()["signed"]
        self.assertEqual([each["stands"] for each in signed], [False, False])
        # A hash that somebody sends with it counts for nothing.
        covers = "0" * 64
        again = self.say(record="signed", role="inspector", covers=covers).json()["signed"]
        self.assertTrue(next(each["stands"] for each in again if each["role"] == "inspector"))
        add_person(self.url, "tests@elsewhere.example", ["tester"])
        mate = sign_in(make_client(self.url), "tests@elsewhere.example", SECRET)
        self.assertEqual(self.say(mate, record="signed", role="authoriser").status_code, 403)

    def test_a_photo_shows_a_finding(self) -> None:
        asked = {"id": new_id(), "shows": "finding", "of": "f1"}
        kept = self.client.post(f"/api/jobs/{self.job}/attachments", params=asked, content=photo())
        self.assertEqual((kept.status_code, kept.json()[-1]["of"]), (201, "f1"))
        wrong = asked | {"id": new_id(), "of": "../f1"}
        self.assertEqual(
            self.client.post(f"/api/jobs/{self.job}/attachments", params=wrong, content=photo()).status_code, 404
        )

    def test_it_goes_through_a_job_file_and_back(self) -> None:
        view = self.old_ring()
        key = view["id"].replace("-", "")
        spot = {"of": "circuit", "id": key, "circuit": key}
        self.say(**FINDING, code="C2", spot=spot, offer=f"{key}/no-30ma").raise_for_status()
        self.say(record="opened", circuit=key, point="P1", sound=True).raise_for_status()
        self.say(record="particulars", reason="Sale", occupier="Lock").raise_for_status()
        self.say(record="particulars", reason="Letting").raise_for_status()
        content = self.client.get(f"/api/jobs/{self.job}/file").content
        said = [each.said for each in read_job(content).inspection]
        self.assertEqual((said[0].spot.id, said[0].offer, said[1].circuit), ("C1", "C1/no-30ma", "C1"))
        other = self.take_in(content).json()["id"]
        whole = self.client.get(f"/api/jobs/{other}/inspection").json()["whole"]
        self.assertEqual(len(whole["findings"]), 1)
        self.assertEqual(whole["samples"][0]["opened"], 1)
        self.assertEqual((whole["particulars"]["reason"], whole["particulars"]["occupier"]), ("Letting", "Lock"))
        self.assertNotIn("no-30ma", [each["kind"] for each in whole["offers"]])

    def test_photos_of_findings_are_set_into_the_papers_that_tell_of_them(self) -> None:
        self.say(**FINDING, code="C2").raise_for_status()
        where = f"/api/jobs/{self.job}/attachments"
        for of, form in (("f1", "PNG"), ("f1", "JPEG"), ("f2", "PNG")):
            params = {"id": new_id(), "shows": "finding", "of": of, "taken_at": "2026-05-04T12:00:00Z"}
            self.client.post(where, params=params, content=photo(form, (1600, 900))).raise_for_status()
        papers = f"/api/jobs/{self.job}/papers"
        sections = {each["title"]: each for each in self.client.get(f"{papers}/condition").json()["sections"]}
        (block,) = sections["Photographs"]["blocks"]
        self.assertEqual(len(block["photos"]), 2)
        self.assertIn("Cracked plate, bare brass", block["photos"][0]["caption"])
        for kind, many in (("condition", 2), ("remedials", 2), ("danger", 0)):
            pdf = self.client.get(f"{papers}/{kind}.pdf").content
            self.assertEqual([(1100, 619)] * many, pictures_of(pdf), kind)
            self.assertIn("Cracked plate" if many else "No danger", words_of(pdf))
        # Outside the extent it is not told of.
        self.say(**FINDING, status="outside").raise_for_status()
        titles = [each["title"] for each in self.client.get(f"{papers}/condition").json()["sections"]]
        self.assertNotIn("Photographs", titles)
