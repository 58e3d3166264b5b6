"""attachments of a job: photos and files of whatever they show; photos of wiring records move into them"""

import sqlalchemy as sa
from alembic import op

from lumbek.store.refusing import refuse_if

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "attachment",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("circuit_id", sa.Uuid(), sa.ForeignKey("circuit.id"), nullable=True),
        sa.Column("shows", sa.Text(), nullable=False),
        sa.Column("of", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False, server_default=""),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True),
        sa.Column("taken_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_attachment_job_id", "attachment", ["job_id"])
    op.execute(
        'INSERT INTO attachment (id, job_id, circuit_id, shows, "of", kind, data, sha256, by, taken_at, at) '
        "SELECT p.id, c.job_id, c.id, 'record', replace(r.id::text, '-', ''), p.kind, p.data, "
        "encode(sha256(p.data), 'hex'), r.by, p.at, p.at "
        "FROM wiring_photo p JOIN wiring_record r ON r.id = p.record_id JOIN circuit c ON c.id = r.circuit_id"
    )
    op.drop_table("wiring_photo")
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON attachment "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM attachment WHERE shows <> 'record'", "photos and papers of more than wiring records")
    op.create_table(
        "wiring_photo",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("record_id", sa.Uuid(), sa.ForeignKey("wiring_record.id"), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_wiring_photo_record_id", "wiring_photo", ["record_id"])
    op.execute(
        "INSERT INTO wiring_photo (id, record_id, kind, data, at) "
        "SELECT id, \"of\"::uuid, kind, data, at FROM attachment WHERE shows = 'record'"
    )
    op.drop_table("attachment")
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON wiring_photo "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )
