"""What colour a core is drawn in; its name always stands beside it."""

_FILL = {
    "brown": "#7a4a21",
    "blue": "#1f6fd6",
    "black": "#1c1c1e",
    "grey": "#8a8d91",
    "red": "#c81e2b",
    "yellow": "#f2c200",
    "white": "#ffffff",
    "green": "#2a8a3c",
    "green-yellow": "#5fae2e",
    "bare": "#b87333",
}


def fill_of(colour: str) -> str:
    """Return a core's colour for paper; a core that is only numbered is drawn light."""
    return _FILL.get(colour, "#d9d4c8")
