"""papers that stand: numbered by firm, signed by its key, found by a code; removing a job removes none"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

from lumbek.store.refusing import refuse_if

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None

_ISSUED = "id,job_id,kind,number,document,follows,data#,sha256,by,by_id,at"
_MORE = "firm_id,firm_number,code,job_sha256,corrects,key_id"
_KEY = "id,firm_id,certificate#,sealed#,from_at,until_at,by,at"


def _chained() -> sa.TableClause:
    return sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )


def upgrade() -> None:
    op.create_table(
        "firm_counter",
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("last", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("firm_id"),
    )
    op.create_table(
        "firm_key",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("certificate", sa.LargeBinary(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("from_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("until_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_firm_key_firm_id", "firm_key", ["firm_id"])
    op.execute("ALTER TABLE issued_document DISABLE TRIGGER only_added")
    op.add_column("issued_document", sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=True))
    op.add_column("issued_document", sa.Column("firm_number", sa.Integer(), nullable=True))
    op.add_column("issued_document", sa.Column("code", sa.Text(), nullable=True))
    op.add_column("issued_document", sa.Column("job_sha256", sa.Text(), nullable=False, server_default=""))
    op.add_column("issued_document", sa.Column("corrects", sa.Uuid(), sa.ForeignKey("issued_document.id")))
    op.add_column("issued_document", sa.Column("key_id", sa.Uuid(), sa.ForeignKey("firm_key.id")))
    # What was issued before there were numbers of a firm has them in the order it was issued.
    op.execute(
        "UPDATE issued_document AS one SET firm_id = job.firm_id, code = replace(gen_random_uuid()::text, '-', ''), "
        "firm_number = placed.place FROM job, (SELECT issued.id, row_number() OVER "
        "(PARTITION BY job.firm_id ORDER BY issued.at, issued.id) AS place FROM issued_document AS issued "
        "JOIN job ON job.id = issued.job_id) AS placed WHERE job.id = one.job_id AND placed.id = one.id"
    )
    op.execute("INSERT INTO firm_counter SELECT firm_id, max(firm_number) FROM issued_document GROUP BY firm_id")
    op.execute("ALTER TABLE issued_document ENABLE TRIGGER only_added")
    for column in ("firm_id", "firm_number", "code"):
        op.alter_column("issued_document", column, nullable=False)
    op.create_unique_constraint("firm_number_once", "issued_document", ["firm_id", "firm_number"])
    op.create_unique_constraint("issued_code_once", "issued_document", ["code"])
    op.create_index("ix_issued_document_sha256", "issued_document", ["sha256"])
    op.create_index("ix_issued_document_corrects", "issued_document", ["corrects"])
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON firm_key "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )
    rows = (("issued_document", 2, f"{_ISSUED},{_MORE}"), ("firm_key", 1, _KEY))
    for what, shape, fields in rows:
        row = {"what": what, "shape": shape, "key": ["id"], "fields": fields.split(",")}
        op.bulk_insert(_chained(), [row])
    op.execute(
        "CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON firm_key DEFERRABLE INITIALLY DEFERRED "
        "FOR EACH ROW EXECUTE FUNCTION record_chain()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM issued_document", "papers that were issued with numbers of the firm")
    refuse_if("SELECT FROM firm_key", "keys that papers were signed with")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what = 'firm_key' OR (what = 'issued_document' AND shape = 2)")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    for column in ("key_id", "corrects", "job_sha256", "code", "firm_number", "firm_id"):
        op.drop_column("issued_document", column)
    op.execute("DROP INDEX IF EXISTS ix_issued_document_sha256")
    op.drop_table("firm_key")
    op.drop_table("firm_counter")
