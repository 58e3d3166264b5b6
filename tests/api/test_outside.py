"""The way in from outside: proxies that are believed and those that are not, the host, headers, names that deceive."""

import json

from tests.api.case import Api
from tests.support.client import make_client, sign_in

TOLD = {"X-Forwarded-For": "198.51.100.9", "X-Forwarded-Proto": "https"}


class Outside(Api):
    def address_seen(self, headers: dict[str, str], **settings: object) -> str:
        client = make_client(self.url, **settings)
        client._transport.client = ("10.0.0.1", 4711)
        client.headers.update(headers)
        sign_in(client)
        return client.get("/api/sessions").json()[0]["address"]

    def test_a_forwarded_address_is_believed_from_a_trusted_proxy_only(self) -> None:
        self.assertEqual(self.address_seen(TOLD), "10.0.0.1")
        self.assertEqual(self.address_seen(TOLD, trusted_proxies="10.0.0.2"), "10.0.0.1")
        self.assertEqual(self.address_seen(TOLD, trusted_proxies="10.0.0.0/24"), "198.51.100.9")
        # What the asker says itself stands farther off than what the proxy adds.
        forged = {"X-Forwarded-For": "192.0.2.1, 198.51.100.9, 10.0.0.7"}
        self.assertEqual(self.address_seen(forged, trusted_proxies="10.0.0.0/24"), "198.51.100.9")
        nonsense = {"X-Forwarded-For": "198.51.100.9, <b>"}
        self.assertEqual(self.address_seen(nonsense, trusted_proxies="10.0.0.1"), "10.0.0.1")

    def test_tls_is_told_to_browsers_where_a_proxy_speaks_it(self) -> None:
        client = make_client(self.url, trusted_proxies="10.0.0.1")
        client._transport.client = ("10.0.0.1", 4711)
        self.assertIn("strict-transport-security", client.get("/api/about", headers=TOLD).headers)
        self.assertNotIn("strict-transport-security", client.get("/api/about").headers)
        self.assertNotIn("strict-transport-security", self.client.get("/api/about", headers=TOLD).headers)

    def test_one_host_is_answered_to(self) -> None:
        client = make_client(self.url, public_address="https://lumbek.firm.example", demo=False)
        self.assertEqual(client.get("/api/about", headers={"Host": "lumbek.firm.example"}).status_code, 200)
        other = client.get("/api/about", headers={"Host": "evil.example"})
        self.assertEqual((other.status_code, other.json()["code"]), (421, "not-here"))
        self.assertIn("content-security-policy", other.headers)
        self.assertEqual(client.get("/api/health", headers={"Host": "127.0.0.1"}).status_code, 200)

    def test_no_answer_lets_styles_in_or_its_window_be_held(self) -> None:
        headers = self.client.get("/api/about").headers
        self.assertNotIn("unsafe", headers["content-security-policy"])
        self.assertEqual(headers["cross-origin-opener-policy"], "same-origin")
        self.assertIn("geolocation=()", headers["permissions-policy"])

    def test_names_that_deceive_the_eye_are_cleaned(self) -> None:
        job = self.start(name="Sig\u200bnal\u202e box \u2066", client="\ufeff")
        view = self.client.get(f"/api/jobs/{job}").json()
        self.assertEqual((view["head"]["name"], view["head"]["client"]), ("Signal box", ""))
        family = "\U0001f468\u200d\U0001f469\u200d\U0001f467"
        self.assertEqual(self.client.get(f"/api/jobs/{self.start(name=family)}").json()["head"]["name"], family)
        nothing = self.started(job, design={"name": "\u200b\u200d"})
        self.assertEqual(nothing.json().get("design", {}).get("name", ""), "")

    def test_a_job_named_by_a_picture_comes_down_as_a_file_that_is_seen(self) -> None:
        job = self.start(name="\U0001f3e0")
        answer = self.client.get(f"/api/jobs/{job}/file")
        said = answer.headers["content-disposition"]
        self.assertIn('filename="job.lumbek.json"', said)
        self.assertIn("filename*=UTF-8''%F0%9F%8F%A0.lumbek.json", said)
        self.assertEqual(json.loads(answer.content)["name"], "\U0001f3e0")
