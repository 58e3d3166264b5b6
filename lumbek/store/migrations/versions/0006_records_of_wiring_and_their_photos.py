"""records of wiring and their photos"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from lumbek.store.refusing import refuse_if

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "wiring_record",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("circuit_id", sa.Uuid(), nullable=False),
        sa.Column("taken_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("design", JSONB(), nullable=False),
        sa.Column("format", sa.Integer(), server_default="1", nullable=False),
        sa.ForeignKeyConstraint(["circuit_id"], ["circuit.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_wiring_record_circuit_id", "wiring_record", ["circuit_id"])
    op.create_table(
        "wiring_photo",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("record_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["record_id"], ["wiring_record.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_wiring_photo_record_id", "wiring_photo", ["record_id"])


def downgrade() -> None:
    refuse_if("SELECT FROM wiring_record", "records of how circuits were wired")
    op.drop_table("wiring_photo")
    op.drop_table("wiring_record")
