"""exercises of the practice house: which were begun, what was done in each, what was set to all; only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None

_CHAINED = {
    "practice_set": ("id", "id,firm_id,document,by,by_id,at"),
    "practice_run": ("id", "id,firm_id,user_id,set_id,document,at"),
    "practice_act": ("id", "id,run_id,place,document,marks,at"),
}


def upgrade() -> None:
    op.create_table(
        "practice_set",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_practice_set_firm_id", "practice_set", ["firm_id"])
    op.create_table(
        "practice_run",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("user_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("set_id", sa.Uuid(), sa.ForeignKey("practice_set.id"), nullable=True),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_practice_run_firm_id", "practice_run", ["firm_id"])
    op.create_index("ix_practice_run_user_id", "practice_run", ["user_id"])
    op.create_table(
        "practice_act",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), sa.ForeignKey("practice_run.id"), nullable=False),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("marks", JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("run_id", "place", name="practice_act_once"),
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
    refuse_if("SELECT FROM practice_run", "exercises that somebody practised on")
    refuse_if("SELECT FROM practice_set", "exercises that were set to everybody")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what IN ('practice_set', 'practice_run', 'practice_act')")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    for table in ("practice_act", "practice_run", "practice_set"):
        op.drop_table(table)
