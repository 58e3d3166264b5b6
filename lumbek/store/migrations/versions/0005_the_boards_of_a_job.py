"""the boards of a job"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from lumbek.store.refusing import refuse_if

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job", sa.Column("house", JSONB(), server_default=sa.text("'{}'::jsonb"), nullable=False))


def downgrade() -> None:
    refuse_if("SELECT FROM job WHERE house <> '{}'", "the boards of a job")
    op.drop_column("job", "house")
