"""The practice house over the API: begun, carried on and reckoned once, one's own, and silent about what it hides."""

import json
from uuid import UUID, uuid4

from lumbek.practice.exercise import Act, School, solved
from lumbek.practice.make import begin
from lumbek.services import demo
from lumbek.services.clock import now
from lumbek.services.errors import ChangedMeanwhileError
from lumbek.services.person import Person
from lumbek.services.practising import PracticeService
from lumbek.services.roles import Role
from lumbek.store.database import Database
from lumbek.store.models import PracticeAct
from lumbek.store.people import user_by_email
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, SECRET, add_person, make_client, sign_in
from tests.support.stack import run_sql


class Practice(Api):
    def start(self, kind: str = "isolation", level: int = 1, seed: int | None = 1, **more: object) -> dict:  # type: ignore[override]
        asked = {"kind": kind, "level": level, "seed": seed}
        body = {"id": new_id(), "asked": asked, **more}
        answer = self.client.post("/api/practice/runs", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def act(self, run: str, act: dict, act_id: str | None = None):
        body = {"id": act_id or new_id(), "act": act}
        return self.client.post(f"/api/practice/runs/{run}/acts", json=body)

    def finish(self, kind: str, level: int, seed: int) -> dict:
        """Begin an exercise and go through it as one who knows."""
        run = self.start(kind, level, seed)["id"]
        acts = solved(begin(kind, seed, level, School()))  # type: ignore[arg-type]
        for each in acts:
            answer = self.act(run, each.model_dump(mode="json", exclude_defaults=True))
            self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def test_every_kind_is_gone_through_to_its_marks_and_kept(self) -> None:
        for kind in ("accessories", "switching", "isolation", "testing", "faults", "design", "inspection"):
            ended = self.finish(kind, 1, 3)
            self.assertEqual(ended["exercise"]["reckoning"]["marks"], 100, kind)
            again = self.client.get(f"/api/practice/runs/{ended['id']}").json()
            self.assertEqual(again, ended)
        home = self.client.get("/api/practice").json()
        ended = [each for each in home["runs"] if each["seed"] == 3]
        self.assertEqual([each["marks"]["marks"] for each in ended], [100] * 7)
        self.assertTrue(all(each["done"] for each in home["rungs"]))

    def test_an_act_is_done_once_and_in_its_order(self) -> None:
        run = self.start()["id"]
        act_id = new_id()
        first = self.act(run, {"choice": "ask"}, act_id)
        self.assertEqual(self.act(run, {"choice": "ask"}, act_id).json(), first.json())
        self.assertEqual(len(first.json()["exercise"]["seen"]), 1)
        self.act(run, {"choice": "say"})
        view = self.client.get(f"/api/practice/runs/{run}").json()
        self.assertEqual([each["did"][:3] for each in view["exercise"]["seen"]], ["Ask", "Say"])

    def test_carried_on_elsewhere_at_once_is_told_and_not_kept_twice(self) -> None:
        run = UUID(self.start()["id"])
        database = Database(self.url)
        self.addCleanup(database.close)
        with database.transaction() as db:
            user = user_by_email(db, demo.EMAIL)
            assert user is not None
            person = Person(user.id, user.firm_id, user.name, "", user.email, tuple(user.roles))
        service, act = PracticeService(database), Act(choice="ask")
        piece, place = service.try_act(person, run, uuid4(), act)
        service.keep(person, run, uuid4(), act, place, piece.call())
        with self.assertRaises(ChangedMeanwhileError):
            service.keep(person, run, uuid4(), act, place, piece.call())
        view = self.client.get(f"/api/practice/runs/{run}").json()
        self.assertEqual(len(view["exercise"]["seen"]), 1)

    def test_one_of_an_earlier_version_is_told_in_words(self) -> None:
        run = UUID(self.start()["id"])
        database = Database(self.url)
        self.addCleanup(database.close)
        with database.transaction() as db:
            db.add(PracticeAct(id=uuid4(), run_id=run, place=0, document={"choice": "gone since"}, at=now()))
        answer = self.client.get(f"/api/practice/runs/{run}")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("earlier version", answer.text)
        self.assertEqual(self.client.get("/api/practice").status_code, 200)

    def test_one_that_was_made_otherwise_is_not_carried_on_and_takes_no_room(self) -> None:
        """Begun before numbers made what they make now: its acts would be those of another exercise."""
        run = self.start("testing", 1, 9)["id"]
        run_sql(self.url, "alter table practice_run disable trigger only_added")
        run_sql(self.url, "update practice_run set document = document - 'makes' where id = :run returning id", run=run)
        for answer in (self.client.get(f"/api/practice/runs/{run}"), self.act(run, {"figure": 1.0})):
            self.assertEqual(answer.status_code, 422)
            self.assertIn("earlier version", answer.text)
        self.assertEqual(run_sql(self.url, "select count(*) from practice_act where run_id = :run", run=run)[0][0], 0)
        another = self.start("testing", 1, None, like=run)
        self.assertEqual(another["exercise"]["kind"], "testing")
        run_sql(self.url, "alter table practice_run enable trigger only_added")

    def test_numbers_are_everybodys_own_unless_one_is_asked_for(self) -> None:
        seeds = {self.start(seed=None)["exercise"]["seed"] for _ in range(4)}
        self.assertEqual(len(seeds), 4)
        self.assertEqual(self.start(seed=77)["exercise"]["seed"], 77)

    def test_what_cannot_be_done_is_refused_in_words_and_not_kept(self) -> None:
        run = self.start()["id"]
        for act, told in (({"choice": "the moon"}, "not there to choose"), ({}, "not there to choose")):
            refused = self.act(run, act)
            self.assertEqual(refused.status_code, 422, refused.text)
            self.assertIn(told, refused.text)
        self.assertEqual(self.client.get(f"/api/practice/runs/{run}").json()["exercise"]["seen"], [])
        self.act(run, {"choice": "begin"})
        self.assertIn("has ended", self.act(run, {"choice": "ask"}).text)
        for wrong in ({"level": 6}, {"kind": "moon"}, {"seed": -1}):
            body = {"id": new_id(), "asked": {"kind": "faults", "level": 1, **wrong}}
            self.assertEqual(self.client.post("/api/practice/runs", json=body).status_code, 422)

    def test_nothing_that_is_sent_names_what_is_hidden(self) -> None:
        hidden = begin("faults", 5, 2, School()).hidden  # type: ignore[attr-defined]
        run = self.start("faults", 2, 5)
        said = [json.dumps(run)]
        for act in ({"choice": "isolate"}, {"choice": "sheet"}, {"hint": True}, {"choice": "measure read/r1"}):
            said.append(self.act(run["id"], act).text)
        said.append(self.client.get(f"/api/practice/runs/{run['id']}").text)
        said.append(self.client.get("/api/practice").text)
        for text in said:
            for mishap in hidden.mishaps:
                self.assertNotIn(mishap.kind, text)
            self.assertNotIn("mishap", text)
            self.assertNotIn("truth", text)
            # As one of all that may be named, once, and nowhere else.
            for name in hidden.truth[0]:
                self.assertLessEqual(text.count(name), 1, name)

    def test_it_is_ones_own_and_a_supervisor_sees_how_the_others_get_on(self) -> None:
        add_person(self.url, "learner@signalbox.example", [Role.READER])
        learner = sign_in(make_client(self.url), "learner@signalbox.example", SECRET)
        run = self.start()["id"]
        rival = sign_in(make_client(self.url), *RIVAL)
        for other in (learner, rival):
            self.assertEqual(other.get(f"/api/practice/runs/{run}").status_code, 404)
            body = {"id": new_id(), "act": {"choice": "ask"}}
            self.assertEqual(other.post(f"/api/practice/runs/{run}/acts", json=body).status_code, 404)
        given = {"id": new_id(), "exercise": {"kind": "isolation", "level": 2, "seed": 9, "note": "By Friday"}}
        self.assertEqual(learner.post("/api/practice/sets", json=given).status_code, 403)
        self.assertEqual(learner.get("/api/practice/learners").status_code, 403)
        self.client.post("/api/practice/sets", json=given).raise_for_status()
        (line,) = [each for each in learner.get("/api/practice").json()["sets"] if each["id"] == given["id"]]
        self.assertEqual((line["note"], line["run_id"]), ("By Friday", None))
        self.assertEqual(rival.get("/api/practice").json()["sets"], [])
        body = {"id": new_id(), "asked": {"kind": "faults", "level": 1}, "set_id": given["id"]}
        begun = learner.post("/api/practice/runs", json=body).json()
        self.assertEqual((begun["exercise"]["kind"], begun["exercise"]["seed"]), ("isolation", 9))
        body = {"id": new_id(), "act": {"choice": "begin"}}
        learner.post(f"/api/practice/runs/{begun['id']}/acts", json=body).raise_for_status()
        found = {each["name"]: each for each in self.client.get("/api/practice/learners").json()}
        mine = next(each for name, each in found.items() if each["unsafe"])
        self.assertEqual((mine["ended"], mine["unsafe"]), (1, 1))
        self.assertIn("Take the plate off", mine["erred"][0]["did"])
        self.assertEqual(rival.get("/api/practice/learners").json(), [])

    def test_a_circuit_of_ones_own_with_a_fault_put_in(self) -> None:
        job = super().start()
        view = self.circuit(job)
        body = {"id": new_id(), "version": view["version"], "text": "4m, 5m, 6m, 3m"}
        self.client.post(f"/api/circuits/{view['id']}/run", json=body).raise_for_status()
        begun = self.start("faults", 1, 4, circuit_id=view["id"])
        self.assertIn("4 places", begun["exercise"]["picture"]["told"])
        again = self.start("faults", 1, 4, like=begun["id"])
        self.assertEqual(again["exercise"], begun["exercise"])
        another = self.start("faults", 1, None, like=begun["id"])
        self.assertEqual(another["exercise"]["picture"], begun["exercise"]["picture"])
        self.assertNotEqual(another["exercise"]["seed"], 4)
        given = {"kind": "isolation", "level": 1, "seed": 4}
        body = {"id": new_id(), "exercise": given, "circuit_id": view["id"]}
        home = self.client.post("/api/practice/sets", json=body).json()
        (line,) = [each for each in home["sets"] if each["id"] == body["id"]]
        self.assertEqual(line["kind"], "faults")
        shared = self.start("testing", 1, set_id=line["id"])
        self.assertEqual(shared["exercise"]["picture"], begun["exercise"]["picture"])
        bare = self.circuit(job)
        self.do(bare, op="add", after="board").raise_for_status()
        body = {"id": new_id(), "asked": {"kind": "faults", "level": 1}, "circuit_id": bare["id"]}
        refused = self.client.post("/api/practice/runs", json=body)
        self.assertEqual(refused.status_code, 422, refused.text)
        self.assertIn("length", refused.text)
        body = {"id": new_id(), "exercise": given, "circuit_id": bare["id"]}
        self.assertEqual(self.client.post("/api/practice/sets", json=body).status_code, 422)
        rival = sign_in(make_client(self.url), *RIVAL)
        body = {"asked": {"kind": "faults", "level": 1}, "circuit_id": view["id"]}
        self.assertEqual(rival.post("/api/practice/runs", json={**body, "id": new_id()}).status_code, 404)
