"""quotes of a job: only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None

_FIELDS = "id,job_id,document,by,by_id,at,place"


def upgrade() -> None:
    op.create_table(
        "quote",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("place", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_quote_job", "quote", ["job_id", "place"])
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON quote "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )
    chained = sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )
    op.bulk_insert(chained, [{"what": "quote", "shape": 1, "key": ["id"], "fields": _FIELDS.split(",")}])
    op.execute(
        "CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON quote DEFERRABLE INITIALLY DEFERRED "
        "FOR EACH ROW EXECUTE FUNCTION record_chain()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM quote", "quotes that somebody put down")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what = 'quote'")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    op.drop_table("quote")
