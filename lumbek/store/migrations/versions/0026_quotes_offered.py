"""quotes offered to customers, and what they said: only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None

_CHAINED = {
    "quote_offer": ("id", "id,job_id,firm_id,token_hash,document,email,expires_at,by,by_id,at"),
    "quote_answer": ("offer_id", "offer_id,document,address,at"),
}


def upgrade() -> None:
    op.create_table(
        "quote_offer",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("token_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("email", sa.Text(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_quote_offer_job_id", "quote_offer", ["job_id"])
    op.create_table(
        "quote_answer",
        sa.Column("offer_id", sa.Uuid(), sa.ForeignKey("quote_offer.id"), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("offer_id"),
    )
    chained = sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )
    for table, (key, fields) in _CHAINED.items():
        op.execute(
            f"CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON {table} "
            "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
        )
        op.bulk_insert(chained, [{"what": table, "shape": 1, "key": [key], "fields": fields.split(",")}])
        op.execute(
            f"CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON {table} DEFERRABLE INITIALLY DEFERRED "
            "FOR EACH ROW EXECUTE FUNCTION record_chain()"
        )


def downgrade() -> None:
    refuse_if("SELECT FROM quote_offer", "quotes that were offered to customers")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what IN ('quote_offer', 'quote_answer')")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    op.drop_table("quote_answer")
    op.drop_table("quote_offer")
