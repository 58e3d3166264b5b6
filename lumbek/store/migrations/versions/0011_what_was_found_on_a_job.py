"""what was found on a job: records that are only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from lumbek.store.refusing import refuse_if

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "found_record",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_found_record_job_id", "found_record", ["job_id"])
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON found_record "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM found_record", "what was found on jobs")
    op.drop_table("found_record")
