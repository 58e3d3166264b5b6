"""notifications of work to an office, and its answers: only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from lumbek.store.refusing import refuse_if

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None

_TABLES = {
    "notification": "id,job_id,firm_id,document,by,by_id,at",
    "notification_answer": "notification_id,outcome,receipt,said,at",
}


def upgrade() -> None:
    op.create_table(
        "notification",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("firm_id", sa.Uuid(), sa.ForeignKey("firm.id"), nullable=False),
        sa.Column("document", JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_notification_job_id", "notification", ["job_id"])
    op.create_table(
        "notification_answer",
        sa.Column("notification_id", sa.Uuid(), sa.ForeignKey("notification.id"), nullable=False),
        sa.Column("outcome", sa.Text(), nullable=False),
        sa.Column("receipt", sa.Text(), nullable=False),
        sa.Column("said", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("notification_id"),
    )
    chained = sa.table(
        "chained",
        sa.column("what", sa.Text()),
        sa.column("shape", sa.Integer()),
        sa.column("key", ARRAY(sa.Text())),
        sa.column("fields", ARRAY(sa.Text())),
    )
    for table, fields in _TABLES.items():
        op.execute(
            f"CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON {table} "
            "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
        )
        row = {"what": table, "shape": 1, "key": [fields.split(",")[0]], "fields": fields.split(",")}
        op.bulk_insert(chained, [row])
        op.execute(
            f"CREATE CONSTRAINT TRIGGER chained AFTER INSERT ON {table} DEFERRABLE INITIALLY DEFERRED "
            "FOR EACH ROW EXECUTE FUNCTION record_chain()"
        )


def downgrade() -> None:
    refuse_if("SELECT FROM notification", "work that an office was notified of")
    op.execute("ALTER TABLE chained DISABLE TRIGGER only_added")
    op.execute("DELETE FROM chained WHERE what IN ('notification', 'notification_answer')")
    op.execute("ALTER TABLE chained ENABLE TRIGGER only_added")
    op.drop_table("notification_answer")
    op.drop_table("notification")
