"""The prices of a firm: put down as a whole, kept, and nobody else's."""

from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in

FILE = "code,name,unit,price,supplier\nS2,Twin socket,each,4.75,Depot\nT25,2.5 mm² twin,m,1.1,Depot\n"


class Prices(Api):
    def put(self, text: str, write_id: str = ""):
        return self.client.post("/api/prices", json={"id": write_id or new_id(), "text": text})

    def test_the_last_that_was_taken_in_counts_and_a_bad_file_changes_nothing(self) -> None:
        once = new_id()
        for _ in range(2):
            answer = self.put(FILE, once)
            self.assertEqual((answer.status_code, len(answer.json()["lines"])), (201, 2))
        self.assertEqual(answer.json()["lines"][0]["price"], "4.75")
        self.put(FILE.replace("4.75", "5.10")).raise_for_status()
        refused = self.put("code,name,price\nS2,Socket,1,250")
        self.assertEqual(refused.status_code, 422)
        refused = self.put("code;name;price\nS2;Socket;1,250")
        self.assertIn("two ways", refused.json()["message"])
        self.assertEqual(self.client.get("/api/prices").json()["lines"][0]["price"], "5.10")
        self.assertIn("S2,Twin socket,each,5.10,Depot", self.client.get("/api/prices.csv").text)
        self.assertEqual(sign_in(make_client(self.url), *RIVAL).get("/api/prices").json()["lines"], [])
