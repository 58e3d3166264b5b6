"""A quote that is whole, for what a job takes; an offer and an exercise, as short as can be."""

import psycopg
from starlette.testclient import TestClient

from lumbek.core.items.quote import GATES
from tests.support.running import conninfo_of
from tests.support.stack import as_owner


def whole_terms(client: TestClient, job: str, code: str) -> dict[str, object]:
    """Terms that price everything a job takes by one code, with all answered that comes first."""
    items = client.get(f"/api/jobs/{job}/quote").json()["take_off"]["items"]
    codes = {item["key"]: code for item in items if item["sort"] != "work"}
    return {"codes": codes, "labour_code": code, "answered": list(GATES)}


def offered(url: str) -> None:
    """Put an offer of some job into a database."""
    with psycopg.connect(conninfo_of(as_owner(url))) as db:
        db.execute(
            "insert into quote_offer select gen_random_uuid(), job.id, job.firm_id, repeat('0', 64), '{}', "
            "'owner@elsewhere.example', now(), 'Robin Ash', app_user.id, now() from job, app_user limit 1"
        )


def practised(url: str) -> None:
    """Set an exercise to everybody of some firm."""
    with psycopg.connect(conninfo_of(as_owner(url))) as db:
        db.execute(
            "insert into practice_set "
            "select gen_random_uuid(), app_user.firm_id, '{}', 'Robin Ash', app_user.id, now() from app_user limit 1"
        )
