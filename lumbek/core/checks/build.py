"""Small makers of `Check` for what all checks have in common."""

from lumbek.core.context import Context
from lumbek.core.result import Check, Verdict


def cannot_tell(context: Context, key: str, title: str, asks: str, clause: str, missing: tuple[str, ...]) -> Check:
    """Return a check that waits for inputs, and names them."""
    return Check(
        id=key,
        title=title,
        asks=asks,
        verdict=Verdict.CANNOT_TELL,
        answer=f"Needs the {missing[0]}" if len(missing) == 1 else f"Needs {len(missing)} inputs",
        clause=context.clause(clause),
        missing=missing,
    )


def not_applicable(context: Context, key: str, title: str, asks: str, clause: str, why: str) -> Check:
    """Return a check that does not apply, and why."""
    return Check(
        id=key,
        title=title,
        asks=asks,
        verdict=Verdict.NOT_APPLICABLE,
        answer=why,
        clause=context.clause(clause),
    )
