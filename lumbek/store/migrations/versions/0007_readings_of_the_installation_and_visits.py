"""readings of the installation, of traces, not taken; and visits"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from lumbek.store.refusing import refuse_if

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("reading", "circuit_id", nullable=True)
    op.add_column("reading", sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=True))
    op.add_column("reading", sa.Column("test", sa.Text(), nullable=True))
    op.add_column("reading", sa.Column("more", JSONB(), server_default=sa.text("'{}'::jsonb"), nullable=False))
    op.create_index("ix_reading_job_id", "reading", ["job_id"])
    op.create_check_constraint("reading_is_of_one", "reading", "(circuit_id is null) <> (job_id is null)")
    op.create_table(
        "visit",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_visit_job_id", "visit", ["job_id"])


def downgrade() -> None:
    refuse_if("SELECT FROM reading WHERE job_id IS NOT NULL OR more <> '{}'", "readings of the installation")
    refuse_if("SELECT FROM visit", "visits")
    op.drop_table("visit")
    op.drop_constraint("reading_is_of_one", "reading")
    op.drop_index("ix_reading_job_id", "reading")
    for column in ("more", "test", "job_id"):
        op.drop_column("reading", column)
    op.alter_column("reading", "circuit_id", nullable=False)
