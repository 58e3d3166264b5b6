"""An API client signed in as someone, for tests without a browser."""

import functools
import importlib

from fastapi.testclient import TestClient

from lumbek.api.app import make_app
from lumbek.ops.nursery import begin_nursery
from lumbek.services import demo
from lumbek.services.passwords import hash_password
from lumbek.settings import Settings
from lumbek.store.database import Database
from lumbek.store.models import Firm, User
from tests.support.stack import as_application, new_database

SECRET = "four unrelated words"
RIVAL = ("rival@other.example", "another-secret-7")


@functools.cache
def _begin_nursery() -> None:
    """Begin it once: heavy work is then forked from what is loaded here, and nothing is loaded anew for each piece."""
    # A process that works for users loads this when it first signs; those of tests live for a few pieces.
    importlib.import_module("pyhanko.sign.signers")
    begin_nursery()


def make_client(url: str, **settings: object) -> TestClient:
    _begin_nursery()
    known = {"database_url": as_application(url), "demo": True, "secure_cookies": False, "log_level": "CRITICAL"}
    app = make_app(Settings(**{**known, **settings}))
    return TestClient(app, raise_server_exceptions=False)


def sign_in(client: TestClient, email: str = demo.EMAIL, password: str = demo.PASSWORD) -> TestClient:
    answer = client.post("/api/session", json={"email": email, "password": password})
    assert answer.status_code == 200, answer.text
    client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
    return client


def add_person(url: str, email: str, roles: list[str], name: str = "Somebody") -> None:
    """Add somebody to the demo's firm."""
    database = Database(url)
    with database.transaction() as db:
        firm = db.query(Firm).filter_by(name=demo.FIRM).one()
        user = User(firm_id=firm.id, email=email, name=name, password_hash=hash_password(SECRET), roles=roles)
        db.add(user)
    database.close()


def demo_database() -> str:
    """A database with the demo's data and a user of another firm."""
    url = new_database(demo=True)
    database = Database(url)
    with database.transaction() as db:
        firm = Firm(name="Rival Electrics")
        db.add(firm)
        db.flush()
        db.add(
            User(
                firm_id=firm.id,
                email=RIVAL[0],
                name="Rival",
                password_hash=hash_password(RIVAL[1]),
                roles=["supervisor"],
            )
        )
    database.close()
    return url
