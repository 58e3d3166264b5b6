"""people with roles, links and sessions; the chain over the audit; rows that are only added; numbers once"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

from lumbek.store.refusing import refuse_if

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_NO_ROLES = sa.text("'{}'::text[]")
_ONLY_ADDED = (
    "audit",
    "audit_link",
    "circuit_revision",
    "job_revision",
    "reading",
    "visit",
    "wiring_photo",
    "wiring_record",
)
_BY_ID = ("job_revision", "circuit_revision", "reading")

# The fields of a row, each with its length before it, so that no two rows read alike.
_FUNCTIONS = """
CREATE FUNCTION audit_text(line audit) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT string_agg(octet_length(field) || ':' || field, '' ORDER BY place)
  FROM unnest(ARRAY[
    line.id::text, coalesce(line.firm_id::text, ''), coalesce(line.user_id::text, ''),
    (extract(epoch FROM line.at) * 1000000)::bigint::text, line.action, line.subject, line.address, line.detail
  ]) WITH ORDINALITY AS given(field, place)
$$;

CREATE FUNCTION audit_chain() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE last record;
BEGIN
  -- At commit, one transaction after the other: each sees the link of the one before it.
  PERFORM pg_advisory_xact_lock(7166201);
  SELECT place, hash INTO last FROM audit_link ORDER BY place DESC LIMIT 1;
  INSERT INTO audit_link (place, audit_id, hash) VALUES (
    coalesce(last.place, 0) + 1, NEW.id,
    sha256(coalesce(last.hash, ''::bytea) || convert_to(audit_text(NEW), 'UTF8'))
  );
  RETURN NULL;
END $$;

CREATE FUNCTION only_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are only ever added', TG_TABLE_NAME USING ERRCODE = 'insufficient_privilege';
END $$;
"""

# What was done before there was a chain, in the order it was done.
_CHAIN_SO_FAR = """
DO $$
DECLARE entry audit; last bytea := ''; count bigint := 0;
BEGIN
  FOR entry IN SELECT * FROM audit ORDER BY id LOOP
    last := sha256(last || convert_to(audit_text(entry), 'UTF8'));
    count := count + 1;
    INSERT INTO audit_link (place, audit_id, hash) VALUES (count, entry.id, last);
  END LOOP;
END $$
"""

# Where two circuits of a job had one number, the later ones get the next that is free.
_NUMBER_ONCE = """
WITH doubled AS (
  SELECT id, job_id, row_number() OVER (PARTITION BY job_id ORDER BY place, id) AS nth
  FROM (
    SELECT id, job_id, place,
      row_number() OVER (PARTITION BY job_id, (design ->> 'number')::int ORDER BY place, id) AS again
    FROM circuit WHERE removed_at IS NULL
  ) AS counted WHERE again > 1
), highest AS (
  SELECT job_id, max((design ->> 'number')::int) AS number FROM circuit WHERE removed_at IS NULL GROUP BY job_id
)
UPDATE circuit SET design = jsonb_set(circuit.design, '{number}', to_jsonb(highest.number + doubled.nth))
FROM doubled JOIN highest USING (job_id) WHERE circuit.id = doubled.id
"""


def upgrade() -> None:
    op.add_column("app_user", sa.Column("roles", ARRAY(sa.Text()), server_default=_NO_ROLES, nullable=False))
    op.add_column("app_user", sa.Column("locked_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("app_user", sa.Column("totp_secret", sa.Text(), nullable=True))
    op.add_column("app_user", sa.Column("totp_step", sa.BigInteger(), nullable=True))
    # Everybody could do everything until now.
    op.execute("UPDATE app_user SET roles = '{admin,supervisor}'")
    _sessions_and_links()
    for table in _BY_ID:
        op.add_column(table, sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True))
    op.execute(_NUMBER_ONCE)
    number = "CASE WHEN removed_at IS NULL THEN (design ->> 'number')::int END"
    op.add_column("circuit", sa.Column("number", sa.Integer(), sa.Computed(number, persisted=True), nullable=True))
    op.create_unique_constraint(
        "circuit_number_once", "circuit", ["job_id", "number"], deferrable=True, initially="DEFERRED"
    )
    for column in ("address", "detail"):
        op.add_column("audit", sa.Column(column, sa.Text(), server_default="", nullable=False))
    op.create_table(
        "audit_link",
        sa.Column("place", sa.BigInteger(), autoincrement=False, nullable=False),
        sa.Column("audit_id", sa.BigInteger(), sa.ForeignKey("audit.id"), nullable=False, unique=True),
        sa.Column("hash", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("place"),
    )
    op.execute(_FUNCTIONS)
    op.execute(_CHAIN_SO_FAR)
    op.execute(
        "CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON audit DEFERRABLE INITIALLY DEFERRED "
        "FOR EACH ROW EXECUTE FUNCTION audit_chain()"
    )
    for table in _ONLY_ADDED:
        op.execute(
            f"CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON {table} "
            "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
        )


def _sessions_and_links() -> None:
    anew = sa.text("gen_random_uuid()")
    op.add_column("signed_in", sa.Column("id", sa.Uuid(), server_default=anew, nullable=False))
    op.create_unique_constraint("signed_in_id_key", "signed_in", ["id"])
    op.create_index("ix_signed_in_user_id", "signed_in", ["user_id"])
    for column in ("begun_at", "seen_at", "proved_at"):
        op.add_column(
            "signed_in", sa.Column(column, sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False)
        )
    for column in ("address", "device"):
        op.add_column("signed_in", sa.Column(column, sa.Text(), server_default="", nullable=False))
    op.create_table(
        "one_time_link",
        sa.Column("token_hash", sa.String(length=64), nullable=False),
        sa.Column("purpose", sa.Text(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=True),
        sa.Column("user_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True),
        sa.Column("email", sa.Text(), server_default="", nullable=False),
        sa.Column("name", sa.Text(), server_default="", nullable=False),
        sa.Column("roles", ARRAY(sa.Text()), server_default=_NO_ROLES, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("token_hash"),
    )
    for column in ("firm_id", "user_id"):
        op.create_index(f"ix_one_time_link_{column}", "one_time_link", [column])


def downgrade() -> None:
    # Who may do what, who entered a reading, and the chain have no place in the older version.
    refuse_if("SELECT FROM app_user", "the roles of people, and who entered what")
    for table in _ONLY_ADDED:
        op.execute(f"DROP TRIGGER only_added ON {table}")
    op.execute("DROP TRIGGER chained ON audit")
    op.execute("DROP FUNCTION audit_chain, only_added, audit_text")
    op.drop_table("audit_link")
    op.drop_table("one_time_link")
    op.drop_constraint("circuit_number_once", "circuit")
    for table, columns in {
        "audit": ("address", "detail"),
        "circuit": ("number",),
        **dict.fromkeys(_BY_ID, ("by_id",)),
        "signed_in": ("id", "begun_at", "seen_at", "proved_at", "address", "device"),
        "app_user": ("roles", "locked_at", "totp_secret", "totp_step"),
    }.items():
        for column in columns:
            op.drop_column(table, column)
    op.drop_index("ix_signed_in_user_id", "signed_in")
