"""edition of a job's rulebook"""

import sqlalchemy as sa
from alembic import op

from lumbek.store.refusing import refuse_if

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job", sa.Column("edition", sa.Text(), server_default="", nullable=False))


def downgrade() -> None:
    refuse_if("SELECT FROM job WHERE edition <> ''", "the edition that a job keeps to")
    op.drop_column("job", "edition")
