"""undo of the survey and the boards: which part a revision changed, and where undoing and redoing lead"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job_revision", sa.Column("part", sa.Text(), nullable=True))
    op.add_column("job_revision", sa.Column("undo_to", sa.Integer(), nullable=True))
    op.add_column("job_revision", sa.Column("redo_to", sa.Integer(), nullable=True))


def downgrade() -> None:
    for column in ("redo_to", "undo_to", "part"):
        op.drop_column("job_revision", column)
