"""A paper as a page setter would give it, without its seconds of work; imports nothing, for each is made elsewhere."""


def as_set(*_: object) -> bytes:
    """Return a file that nobody set."""
    return b"%PDF-1.7 set"
