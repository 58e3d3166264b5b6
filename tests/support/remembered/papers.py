"""Papers as lines."""

from collections.abc import Iterator

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Table
from lumbek.core.documents.registry import PaperKind, kinds_of_job, make_paper
from tests.support.said import in_words


def papers(gathered: Gathered) -> Iterator[str]:
    """Yield every paper of a job, block by block."""
    for kind in kinds_of_job(gathered.job.rulebook):
        yield from paper(kind, gathered)


def paper(kind: PaperKind, gathered: Gathered) -> Iterator[str]:
    made = make_paper(kind, gathered)
    yield f"paper {kind.id}: {in_words(made.model_copy(update={'sections': ()}))}"
    for section in made.sections:
        yield f"  {section.title}"
        for block in section.blocks:
            for row in block.rows if isinstance(block, Table) else (block,):
                yield f"    {in_words(row)}"
