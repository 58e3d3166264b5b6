"""known devices, invitations by whom, when sign-ins were held back, and an index for where somebody signed in"""

import sqlalchemy as sa
from alembic import op

from lumbek.store.refusing import refuse_if

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "known_device",
        sa.Column("token_hash", sa.String(64), nullable=False),
        sa.Column("user_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("token_hash", "user_id"),
    )
    op.create_index("ix_known_device_user_id", "known_device", ["user_id"])
    op.add_column("app_user", sa.Column("held_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(
        "one_time_link", sa.Column("id", sa.Uuid(), server_default=sa.text("gen_random_uuid()"), nullable=False)
    )
    op.create_unique_constraint("one_time_link_id_key", "one_time_link", ["id"])
    op.add_column("one_time_link", sa.Column("made_by", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True))
    op.create_index("ix_one_time_link_made_by", "one_time_link", ["made_by"])
    op.create_index(
        "ix_audit_signed_in_from",
        "audit",
        ["user_id", "address"],
        postgresql_where=sa.text("action = 'sign-in'"),
    )


def downgrade() -> None:
    refuse_if("SELECT FROM one_time_link WHERE purpose = 'join'", "invitations by whoever made them")
    op.drop_index("ix_audit_signed_in_from", "audit")
    op.drop_index("ix_one_time_link_made_by", "one_time_link")
    op.drop_column("one_time_link", "made_by")
    op.drop_constraint("one_time_link_id_key", "one_time_link")
    op.drop_column("one_time_link", "id")
    op.drop_column("app_user", "held_at")
    op.drop_index("ix_known_device_user_id", "known_device")
    op.drop_table("known_device")
