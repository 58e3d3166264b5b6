"""what a job covers, as one document"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    column = sa.Column(
        "extent", postgresql.JSONB(astext_type=sa.Text()), server_default=sa.text("'{}'::jsonb"), nullable=False
    )
    op.add_column("job", column)


def downgrade() -> None:
    op.drop_column("job", "extent")
