"""an index by which the kinds of deed in a firm's audit are found, and the lines of one kind"""

from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index("ix_audit_firm_id_action_id", "audit", ["firm_id", "action", "id"])


def downgrade() -> None:
    op.drop_index("ix_audit_firm_id_action_id", "audit")
