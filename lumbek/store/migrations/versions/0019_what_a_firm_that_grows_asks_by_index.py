"""what a firm that grows asks by index: its jobs in their order, any part of their names, its audit by day"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "ix_job_listed",
        "job",
        ["firm_id", sa.text("changed_at DESC"), "id"],
        postgresql_where=sa.text("removed_at IS NULL"),
    )
    # PostgreSQL's own, for any part of a text: whoever owns the database may have it.
    op.execute("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    op.create_index(
        "ix_job_searched",
        "job",
        [sa.text("(name || E'\\n' || client || E'\\n' || address) gin_trgm_ops")],
        postgresql_using="gin",
    )
    op.create_index("ix_audit_firm_id_at", "audit", ["firm_id", "at"])


def downgrade() -> None:
    op.drop_index("ix_audit_firm_id_at", "audit")
    op.drop_index("ix_job_searched", "job")
    op.drop_index("ix_job_listed", "job")
