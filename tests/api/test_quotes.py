"""Quotes over the API: what a job takes, priced by the firm's list, put down anew, on paper, and nobody else's."""

from lumbek.core.items.quote import GATES
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in

PRICES = "code,name,unit,price\nT25,2.5 twin,m,1.24\nR32,RCBO 32,each,26.40\nL1,Electrician,hour,48.00\n"


class Quotes(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/jobs/{self.job}/quote"
        self.do(self.circuit(self.job), op="add", after="board", length_m=12.5)
        prices = {"id": new_id(), "text": PRICES}
        self.assertEqual(self.client.post("/api/prices", json=prices).status_code, 201)

    def put(self, **terms: object):
        body = {"id": new_id(), "version": self.client.get(self.path).json()["version"], "terms": terms}
        return body, self.client.post(self.path, json=body)

    def test_terms_are_put_on_those_that_were_seen_and_on_no_others(self) -> None:
        first, kept = self.put(margin_percent="12")
        self.assertEqual((first["version"], kept.json()["version"]), (0, 1))
        late = {"id": new_id(), "version": 0, "terms": {"tax_percent": "5"}}
        refused = self.client.post(self.path, json=late)
        self.assertEqual(refused.status_code, 409)
        told = refused.json()
        self.assertIn("Robin Ash changed this quote", told["message"])
        self.assertEqual((told["current"]["version"], told["current"]["terms"]["margin_percent"]), (1, "12"))
        # Sent again, the first is what it was; nothing of the refused one counts.
        again = self.client.post(self.path, json=first)
        self.assertEqual((again.status_code, again.json()["version"]), (201, 1))
        self.assertEqual(self.client.get(self.path).json()["terms"], kept.json()["terms"])
        # What was refused may be said on what stands now, under its id.
        on_it = late | {"version": 1, "terms": {"margin_percent": "12", "tax_percent": "5"}}
        self.assertEqual(self.client.post(self.path, json=on_it).json()["version"], 2)

    def test_what_a_job_takes_is_priced_and_kept(self) -> None:
        view = self.client.get(self.path).json()
        items = {item["key"]: item for item in view["take_off"]["items"]}
        self.assertEqual(items["cable:flat-twin-and-earth:2.5"]["count"], 12_500)
        device = next(key for key in items if key.startswith("device:"))
        codes = {"cable:flat-twin-and-earth:2.5": "T25", device: "R32"}
        terms = {
            "codes": codes,
            "labour_code": "L1",
            "whole_drums": False,
            "answered": list(GATES),
            "minutes": {"device": 30, "work:half-way": 15},
        }
        body, answer = self.put(**terms)
        self.assertEqual(answer.status_code, 201, answer.text)
        quote = answer.json()["quote"]
        # 12.5 m of 1.24 are 15.50, a device 26.40, three quarters of an hour 36.00; a fifth of 77.90 is 15.58.
        self.assertEqual((quote["material"], quote["labour"]), ("41.90", "36.00"))
        self.assertEqual((quote["net"], quote["tax"], quote["total"]), ("77.90", "15.58", "93.48"))
        self.assertEqual((quote["unpriced"], quote["open_gates"]), ([], []))
        self.assertEqual(self.client.post(self.path, json=body).json()["quote"], quote)
        self.assertEqual(self.client.get(self.path).json()["quote"], quote)
        table = self.client.get(f"/api/jobs/{self.job}/papers/take-off.csv").text
        self.assertIn("2.5 mm² Flat twin with cpc,12.5,m", table)
        self.assertIn(
            "93.48", self.client.get(f"/api/jobs/{self.job}/papers/quote.csv").text + str(self.paper("quote"))
        )

    def test_designs_of_a_circuit_are_compared_for_whoever_may_read_the_job(self) -> None:
        circuit = self.client.get(f"/api/jobs/{self.job}").json()["circuits"][0]["id"]
        found = self.client.get(f"/api/circuits/{circuit}/compared").json()
        self.assertEqual([each["name"] for each in found], ["As it is now", "One ring", "One radial", "Two radials"])
        # 12.5 m as it was drawn; its point is at no mark, so nothing else is known.
        self.assertEqual((found[0]["cable_mm"], found[0]["legs"], found[0]["net"]), (12_500, 1, None))
        self.assertIn("at no mark of the plan", found[1]["why_not"])
        self.assertEqual(make_client(self.url).get(f"/api/circuits/{circuit}/compared").status_code, 401)
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(f"/api/circuits/{circuit}/compared").status_code, 404)

    def paper(self, kind: str) -> object:
        return self.client.get(f"/api/jobs/{self.job}/papers/{kind}").json()

    def test_the_next_job_begins_with_what_the_firm_chose_last(self) -> None:
        self.put(codes={"box:35:1": "R32"}, labour_code="L1", margin_percent="12.5", excluded=["Decoration"])
        other = self.start()
        terms = self.client.get(f"/api/jobs/{other}/quote").json()["terms"]
        self.assertEqual(
            (terms["codes"], terms["labour_code"], terms["margin_percent"]), ({"box:35:1": "R32"}, "L1", "12.5")
        )
        self.assertEqual(terms["excluded"], [])
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(self.path).status_code, 404)
        self.assertEqual(rival.post(self.path, json={"id": new_id(), "version": 0, "terms": {}}).status_code, 404)

    def test_what_cannot_be_is_refused_in_words(self) -> None:
        for terms, field in (
            ({"margin_percent": "101"}, "margin_percent"),
            ({"tax_by": "moon"}, "tax_by"),
            ({"valid_days": 0}, "valid_days"),
            ({"variations": [{"what": "", "price": "1"}]}, "what"),
        ):
            refused = self.put(**terms)[1]
            self.assertEqual(refused.status_code, 422)
            self.assertIn(field, refused.text)
