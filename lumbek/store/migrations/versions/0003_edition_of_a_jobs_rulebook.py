"""edition of a job's rulebook"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job", sa.Column("edition", sa.Text(), server_default="", nullable=False))


def downgrade() -> None:
    op.drop_column("job", "edition")
