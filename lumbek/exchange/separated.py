"""What every table that comes in begins with: a mark that is nothing, and a first line that shows its separator."""


def separated(text: str) -> tuple[str, str]:
    """Return a table without the mark that spreadsheets put at its head, and which sign separates its cells."""
    text = text.removeprefix("\ufeff")
    return text, max(",;\t", key=text.split("\n", 1)[0].count)
