"""papers handed over by a link that ends"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "paper_link",
        sa.Column("token_hash", sa.String(64), nullable=False),
        sa.Column("issued_id", sa.Uuid(), sa.ForeignKey("issued_document.id"), nullable=False),
        sa.Column("email", sa.Text(), nullable=False),
        sa.Column("made_by", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("token_hash"),
    )
    op.create_index("ix_paper_link_issued_id", "paper_link", ["issued_id"])


def downgrade() -> None:
    op.drop_table("paper_link")
