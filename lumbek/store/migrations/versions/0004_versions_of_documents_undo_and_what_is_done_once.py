"""versions of documents, undo, and what is done once"""

import sqlalchemy as sa
from alembic import op

from lumbek.store.refusing import refuse_if

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

_DOCUMENTS = ("job", "job_revision", "circuit", "circuit_revision", "library_circuit")


def upgrade() -> None:
    for table in _DOCUMENTS:
        op.add_column(table, sa.Column("format", sa.Integer(), server_default="1", nullable=False))
    op.add_column("circuit_revision", sa.Column("undo_to", sa.Integer(), nullable=True))
    op.add_column("circuit_revision", sa.Column("redo_to", sa.Integer(), nullable=True))
    # What was saved before goes back the way it came.
    op.execute("UPDATE circuit_revision SET undo_to = version - 1 WHERE version > 1")
    op.create_table(
        "done_write",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("firm_id", sa.Uuid(), nullable=False),
        sa.Column("subject", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"]),
        sa.PrimaryKeyConstraint("id"),
    )


def downgrade() -> None:
    for table in _DOCUMENTS:
        refuse_if(f"SELECT FROM {table} WHERE format > 1", "documents of a newer format")
    refuse_if("SELECT FROM circuit_revision WHERE redo_to IS NOT NULL", "what was undone")
    op.drop_table("done_write")
    op.drop_column("circuit_revision", "redo_to")
    op.drop_column("circuit_revision", "undo_to")
    for table in _DOCUMENTS:
        op.drop_column(table, "format")
