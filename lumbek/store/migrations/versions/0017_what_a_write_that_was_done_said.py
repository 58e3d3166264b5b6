"""what a write that was done said, as a hash: another one under its id is told from the same sent twice"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("done_write", sa.Column("content", sa.Text(), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("done_write", "content")
