"""A quote offered by a link that ends: seen without signing in, answered once, frozen as it was, and nobody else's."""

from datetime import timedelta
from unittest import mock

from lumbek.services import offering
from lumbek.services.clock import now
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in
from tests.support.quoted import whole_terms

PRICES = "code,name,unit,price\nP,Anything,each,10.00\n"
OPTIONS = [
    {"name": "Two radials", "what": "instead of the ring", "price": "120.00"},
    {"name": "No outside light", "price": "-40.05"},
]


class Offers(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.do(self.circuit(self.job), op="add", after="board", length_m=12.5)
        self.client.post("/api/prices", json={"id": new_id(), "text": PRICES}).raise_for_status()
        self.put(options=OPTIONS, excluded=["Decoration"])
        self.customer = make_client(self.url)

    def put(self, **more: object) -> dict:
        path, terms = f"/api/jobs/{self.job}/quote", {**whole_terms(self.client, self.job, "P"), **more}
        seen = self.client.get(path).json()["version"]
        answer = self.client.post(path, json={"id": new_id(), "version": seen, "terms": terms})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()["quote"]

    def offer(self, write: str = ""):
        body = {"id": write or new_id(), "email": "owner@elsewhere.example"}
        return self.client.post(f"/api/jobs/{self.job}/offers", json=body)

    def token(self) -> str:
        made = self.offer()
        self.assertEqual(made.status_code, 201, made.text)
        return made.json()["path"].removeprefix("/offer/")

    def say(self, token: str, **said: object):
        return self.customer.post(f"/api/offers/{token}/answer", json={"accepted": True, "name": "M. Fallow", **said})

    def test_options_are_taxed_as_all_else(self) -> None:
        quote = self.put(options=OPTIONS)
        net = float(quote["net"])
        more, less = quote["options"]
        self.assertEqual((more["net"], more["tax"]), (f"{net + 120:.2f}", f"{(net + 120) * 0.2:.2f}"))
        self.assertAlmostEqual(float(less["total"]), (net - 40.05) * 1.2, delta=0.006)

    def test_whoever_has_the_link_sees_it_and_says_yes_once(self) -> None:
        token = self.token()
        seen = self.customer.get(f"/api/offers/{token}").json()
        self.assertTrue(seen["is_open"])
        self.assertEqual(seen["offered"]["excluded"], ["Decoration"])
        self.assertEqual(self.say(token, option="Gold taps").status_code, 422)
        self.assertEqual(self.say(token, name=" ").status_code, 422)
        answered = self.say(token, option="Two radials").json()
        self.assertFalse(answered["is_open"])
        # What was said first stands.
        again = self.say(token, accepted=False, name="Somebody else").json()
        self.assertEqual(again["answer"], answered["answer"])
        (line,) = self.client.get(f"/api/jobs/{self.job}/offers").json()
        self.assertEqual(line["state"], "accepted")
        self.assertEqual((line["answer"]["name"], line["answer"]["option"]), ("M. Fallow", "Two radials"))

    def test_it_stays_as_it_was_though_the_quote_changes(self) -> None:
        token = self.token()
        before = self.customer.get(f"/api/offers/{token}").json()["offered"]
        self.put(margin_percent="50")
        self.assertEqual(self.customer.get(f"/api/offers/{token}").json()["offered"], before)
        self.assertEqual(self.say(token, accepted=False).json()["answer"]["accepted"], False)
        self.assertEqual(self.client.get(f"/api/jobs/{self.job}/offers").json()[0]["state"], "declined")

    def test_an_estimate_is_not_offered_and_an_id_offers_once(self) -> None:
        write = new_id()
        self.assertEqual(self.offer(write).status_code, 201)
        self.assertEqual(self.offer(write).status_code, 422)
        self.put(answered=[])
        refused = self.offer()
        self.assertEqual(refused.status_code, 422)
        self.assertIn("estimate", refused.text)
        self.assertEqual(len(self.client.get(f"/api/jobs/{self.job}/offers").json()), 1)

    def test_it_ends_but_what_was_answered_is_still_shown(self) -> None:
        answered, late = self.token(), self.token()
        self.say(answered)
        with mock.patch.object(offering, "now", lambda: now() + timedelta(days=31)):
            self.assertEqual(self.customer.get(f"/api/offers/{late}").status_code, 404)
            self.assertEqual(self.say(late).status_code, 404)
            self.assertEqual(self.customer.get(f"/api/offers/{answered}").status_code, 200)
            states = {each["state"] for each in self.client.get(f"/api/jobs/{self.job}/offers").json()}
        self.assertEqual(states, {"accepted", "ended"})
        self.assertEqual(self.customer.get(f"/api/offers/{late}").status_code, 200)
        self.assertEqual(self.customer.get("/api/offers/nothing-of-the-kind").status_code, 404)

    def test_another_firm_sees_none(self) -> None:
        self.token()
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(f"/api/jobs/{self.job}/offers").status_code, 404)
        refused = rival.post(f"/api/jobs/{self.job}/offers", json={"id": new_id(), "email": "a@b.example"})
        self.assertEqual(refused.status_code, 404)

    def test_the_audit_says_who_offered_and_what_was_said(self) -> None:
        token = self.token()
        self.say(token)
        lines = str(self.client.get("/api/audit", params={"job": self.job}).json())
        self.assertIn("owner@elsewhere.example", lines)
        self.assertIn("accepted by M. Fallow", lines)


if __name__ == "__main__":
    import unittest

    unittest.main()
