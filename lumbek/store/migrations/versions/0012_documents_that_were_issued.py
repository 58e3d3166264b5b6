"""documents that were issued: bytes, hash, what they follow from; only added"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from lumbek.store.refusing import refuse_if

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "issued_document",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("follows", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("job_id", "kind", "number", name="issue_number_once"),
    )
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON issued_document "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM issued_document", "documents that were issued")
    op.drop_table("issued_document")
