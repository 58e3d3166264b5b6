"""A database of a firm that has grown: 50 000 jobs with circuits, readings, revisions and an audit."""

from tests.support.stack import as_owner, new_database, run_sql

JOBS = 50_000
# Beside the demo's own: with every trigger off, for a chain of a million links is for another day.
_FILL = """
SET session_replication_role = replica;
CREATE TEMP TABLE made AS SELECT gen_random_uuid() AS id, n FROM generate_series(1, {jobs}) AS n;
INSERT INTO job (id, firm_id, version, name, client, address, rulebook, supply, changed_by, changed_at)
SELECT made.id, firm.id, 1, 'Job ' || n, 'Client ' || n % 7000, n || ' Lock Lane', 'bs7671', like_it.supply, 'Somebody',
  now() - n * interval '1 minute'
FROM made, (SELECT id FROM firm WHERE name = '{firm}') AS firm, (SELECT supply FROM job LIMIT 1) AS like_it;
INSERT INTO job_revision (job_id, version, document, by) SELECT id, 1, '{{}}', 'Somebody' FROM made;
INSERT INTO places (job_id, version, document, format, changed_by) SELECT id, 1, '{{}}', 4, 'Somebody' FROM made;
INSERT INTO places_revision (job_id, version, document, format, by) SELECT id, 1, '{{}}', 4, 'Somebody' FROM made;
INSERT INTO circuit (id, job_id, place, version, design, changed_by)
SELECT gen_random_uuid(), made.id, place, 1, jsonb_build_object('number', place, 'name', 'Ring'), 'Somebody'
FROM made, generate_series(1, 3) AS place;
INSERT INTO circuit_revision (circuit_id, version, design, by) SELECT id, 1, '{{}}', 'Somebody' FROM circuit
  WHERE design ->> 'name' = 'Ring' ON CONFLICT DO NOTHING;
INSERT INTO reading (circuit_id, quantity, value, by, at)
SELECT circuit.id, 'r1', 0.3, 'Somebody', now() FROM circuit, generate_series(1, 2);
INSERT INTO audit (firm_id, user_id, action, subject)
SELECT made_by.firm_id, made_by.id, (ARRAY['reading', 'job-changed', 'sign-in'])[1 + n % 3], made.id FROM made,
  (SELECT id, firm_id FROM app_user WHERE email = '{email}') AS made_by, generate_series(1, 4);
INSERT INTO sign_in_failure (email, address, at)
SELECT 'a' || n || '@x.example', '10.0.0.' || n % 250, now() - n * interval '10 milliseconds' FROM made;
INSERT INTO done_write (id, firm_id, subject) SELECT gen_random_uuid(), made_by.firm_id, made.id
FROM made, (SELECT firm_id FROM app_user WHERE email = '{email}') AS made_by, generate_series(1, 4);
INSERT INTO visit (id, job_id, document, by, at) SELECT gen_random_uuid(), id, '{{}}', 'Somebody', now() FROM made;
INSERT INTO found_record (id, job_id, document, by, at)
SELECT gen_random_uuid(), id, '{{}}', 'Somebody', now() FROM made;
INSERT INTO wiring_record (id, circuit_id, taken_at, by, note, design)
SELECT gen_random_uuid(), id, now(), 'Somebody', '', '{{}}' FROM circuit;
INSERT INTO attachment (id, job_id, shows, "of", kind, data, sha256, by, taken_at)
SELECT gen_random_uuid(), id, 'job', '', 'image/png', '', '', 'Somebody', now() FROM made;
DROP TABLE made;
"""


def filled_database(firm: str, email: str, jobs: int = JOBS) -> str:
    """Return the address of a database with the demo's data and so many jobs of its firm beside it."""
    url = new_database(demo=True)
    run_sql(url, _FILL.format(jobs=jobs, firm=firm, email=email))
    run_sql(as_owner(url), "ANALYZE")
    return url
