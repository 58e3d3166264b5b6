"""what an inspection says: findings, items, tasks, signatures; records that are only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None

_FIELDS = "id,job_id,what,document,by,by_id,at,place"


def upgrade() -> None:
    op.create_table(
        "inspection_record",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("place", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_inspection_record_job_id", "inspection_record", ["job_id", "place"])
    # When each job is inspected next, over all jobs of a firm.
    particulars = sa.text("what = 'particulars'")
    op.create_index("ix_inspection_particulars", "inspection_record", ["job_id", "place"], postgresql_where=particulars)
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON inspection_record "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )
    chained = sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )
    op.bulk_insert(chained, [{"what": "inspection_record", "shape": 1, "key": ["id"], "fields": _FIELDS.split(",")}])
    op.execute(
        "CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON inspection_record DEFERRABLE INITIALLY DEFERRED "
        "FOR EACH ROW EXECUTE FUNCTION record_chain()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM inspection_record", "what was said on inspections")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what = 'inspection_record'")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    op.drop_table("inspection_record")
