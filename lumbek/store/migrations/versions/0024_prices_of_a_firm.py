"""prices of a firm: only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

_FIELDS = "id,firm_id,document,by,by_id,at,place"


def upgrade() -> None:
    op.create_table(
        "price_list",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("place", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_price_list_firm", "price_list", ["firm_id", "place"])
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON price_list "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )
    chained = sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )
    op.bulk_insert(chained, [{"what": "price_list", "shape": 1, "key": ["id"], "fields": _FIELDS.split(",")}])
    op.execute(
        "CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON price_list DEFERRABLE INITIALLY DEFERRED "
        "FOR EACH ROW EXECUTE FUNCTION record_chain()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM price_list", "prices that a firm put down")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what = 'price_list'")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    op.drop_table("price_list")
