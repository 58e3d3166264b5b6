"""storeys and rooms of a job: a document of their own, with all the states it has been in"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from lumbek.store.refusing import refuse_if

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    # Of a job that is older than they are they are made when it is brought forward: from its storeys and its points.
    op.create_table(
        "places",
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("format", sa.Integer(), nullable=False),
        sa.Column("changed_by", sa.Text(), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("job_id"),
    )
    op.create_table(
        "places_revision",
        sa.Column("job_id", sa.Uuid(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("format", sa.Integer(), nullable=False),
        sa.Column("undo_to", sa.Integer(), nullable=True),
        sa.Column("redo_to", sa.Integer(), nullable=True),
        sa.Column("by", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), sa.ForeignKey("app_user.id"), nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("job_id", "version"),
    )
    op.execute(
        "CREATE TRIGGER only_added BEFORE UPDATE OR DELETE OR TRUNCATE ON places_revision "
        "FOR EACH STATEMENT EXECUTE FUNCTION only_added()"
    )


def downgrade() -> None:
    refuse_if("SELECT FROM job WHERE format > 3", "jobs whose rooms have ids of their own")
    op.drop_table("places_revision")
    op.drop_table("places")
