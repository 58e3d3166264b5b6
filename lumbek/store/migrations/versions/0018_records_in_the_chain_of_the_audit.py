"""records in the chain of the audit: readings, revisions, photos, papers, what was found"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

_REVISION = "version,format,undo_to,redo_to,by,by_id,at"
# What of each kind of record is in its link, and what it is known by. `data#` is a hash of its bytes.
_CHAINED = {
    "reading": ("id", "id,circuit_id,job_id,quantity,point,value,beyond,correct,test,more,by,by_id,at"),
    "circuit_revision": ("circuit_id,version", f"circuit_id,design,{_REVISION}"),
    "job_revision": ("job_id,version", f"job_id,document,part,{_REVISION}"),
    "places_revision": ("job_id,version", f"job_id,document,{_REVISION}"),
    "visit": ("id", "id,job_id,document,by,at"),
    "found_record": ("id", "id,job_id,document,by,at"),
    "wiring_record": ("id", "id,circuit_id,taken_at,by,note,design,format"),
    "attachment": ("id", "id,job_id,circuit_id,shows,of,note,kind,data#,sha256,by,by_id,taken_at,at"),
    "issued_document": ("id", "id,job_id,kind,number,document,follows,data#,sha256,by,by_id,at"),
}

_FUNCTIONS = """
-- The fields of a record, each with its length before it, so that no two records read alike.
CREATE FUNCTION chained_text(fields text[], line jsonb) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT string_agg(CASE WHEN said IS NULL THEN '-' ELSE octet_length(said) || ':' || said END, '' ORDER BY place)
  FROM (
    SELECT place, CASE
      WHEN field LIKE '%#' THEN encode(sha256(decode(substr(line ->> rtrim(field, '#'), 3), 'hex')), 'hex')
      ELSE line ->> field
    END AS said
    FROM unnest(fields) WITH ORDINALITY AS given(field, place)
  ) AS each
$$;

CREATE FUNCTION add_record_link(kind text, line jsonb) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
DECLARE kept record; last record; known_by text; said text;
BEGIN
  SELECT shape, key, fields INTO kept FROM chained WHERE what = kind ORDER BY shape DESC LIMIT 1;
  SELECT string_agg(line ->> part, '/' ORDER BY place) INTO known_by
  FROM unnest(kept.key) WITH ORDINALITY AS given(part, place);
  said := chained_text(kept.fields, line);
  -- At commit, one transaction after the other: each sees the link of the one before it.
  PERFORM pg_advisory_xact_lock(7166201);
  SELECT place, hash INTO last FROM audit_link ORDER BY place DESC LIMIT 1;
  INSERT INTO audit_link (place, what, row_id, shape, hash) VALUES (
    coalesce(last.place, 0) + 1, kind, known_by, kept.shape,
    sha256(coalesce(last.hash, ''::bytea) || convert_to(kind || ':' || known_by || ':' || said, 'UTF8'))
  );
END $$;

-- Times read alike wherever they are read.
CREATE FUNCTION record_chain() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp SET timezone = 'UTC' AS $$
BEGIN
  PERFORM add_record_link(TG_TABLE_NAME, to_jsonb(NEW));
  RETURN NULL;
END $$;
"""

# What there was before is chained in the order it was written, as far as that is known.
_CHAIN_SO_FAR = """
DO $$
DECLARE line jsonb;
BEGIN
  FOR line IN SELECT to_jsonb(each) FROM {table} AS each ORDER BY {order} LOOP
    PERFORM add_record_link('{table}', line);
  END LOOP;
END $$
"""


def upgrade() -> None:
    op.execute("SET LOCAL timezone = 'UTC'")
    chained = op.create_table(
        "chained",
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("shape", sa.Integer(), nullable=False),
        sa.Column("key", ARRAY(sa.Text()), nullable=False),
        sa.Column("fields", ARRAY(sa.Text()), nullable=False),
        sa.PrimaryKeyConstraint("what", "shape"),
    )
    op.alter_column("audit_link", "audit_id", nullable=True)
    op.add_column("audit_link", sa.Column("what", sa.Text(), nullable=False, server_default="audit"))
    op.add_column("audit_link", sa.Column("row_id", sa.Text(), nullable=True))
    op.add_column("audit_link", sa.Column("shape", sa.Integer(), nullable=True))
    op.create_unique_constraint("audit_link_once", "audit_link", ["what", "row_id"])
    op.execute(_FUNCTIONS)
    # Nobody calls it but the triggers.
    op.execute("REVOKE ALL ON FUNCTION add_record_link(text, jsonb), record_chain() FROM PUBLIC")
    for table, (key, fields) in _CHAINED.items():
        row = {"what": table, "shape": 1, "key": key.split(","), "fields": fields.split(",")}
        op.bulk_insert(chained, [row])
        order = "id" if table == "reading" else "taken_at" if table == "wiring_record" else "at"
        op.execute(_CHAIN_SO_FAR.format(table=table, order=f"{order}, {key}"))
        op.execute(
            f"CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON {table} DEFERRABLE INITIALLY DEFERRED "
            "FOR EACH ROW EXECUTE FUNCTION record_chain()"
        )
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON chained "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )


def downgrade() -> None:
    for table in _CHAINED:
        op.execute(f"DROP TRIGGER chained ON {table}")
    op.execute("DROP FUNCTION record_chain, add_record_link, chained_text")
    op.drop_table("chained")
    # The links of the audit alone, made anew: the older version knows no others.
    op.execute("ALTER TABLE audit_link DISABLE TRIGGER only_added")
    op.execute("DELETE FROM audit_link")
    op.drop_constraint("audit_link_once", "audit_link")
    for column in ("what", "row_id", "shape"):
        op.drop_column("audit_link", column)
    op.execute(
        "DO $$ DECLARE entry audit; last bytea := ''; count bigint := 0; BEGIN "
        "FOR entry IN SELECT * FROM audit ORDER BY id LOOP "
        "last := sha256(last || convert_to(audit_text(entry), 'UTF8')); count := count + 1; "
        "INSERT INTO audit_link (place, audit_id, hash) VALUES (count, entry.id, last); END LOOP; END $$"
    )
    op.alter_column("audit_link", "audit_id", nullable=False)
    op.execute("ALTER TABLE audit_link ENABLE TRIGGER only_added")
