"""The words of a line that somebody typed, taken one after the other."""

import re

from lumbek.core.plan.tape import TapeError, read_mm


class LineError(ValueError):
    """A line is not understood; the message says from where on, or what is missing."""


class LineWords:
    """The words of a line, one after the other."""

    # What is said between others without saying more.
    LEFT_OUT = ("of", "the", "on", "mm")

    def __init__(self, said: str) -> None:
        self._words = [word for word in re.split(r"\s+", said.strip().lower()) if word not in self.LEFT_OUT]

    def peek(self) -> str:
        """Return the next word without taking it; empty at the end."""
        return self._words[0] if self._words else ""

    def take(self) -> str:
        """Take the next word. Raises LineError at the end."""
        if not self._words:
            raise LineError("It ends too soon")
        return self._words.pop(0)

    def took(self, *words: str) -> bool:
        """Take these words where they come next; whether they did."""
        if tuple(self._words[: len(words)]) != words:
            return False
        del self._words[: len(words)]
        return True

    def mm(self, what: str) -> int:
        """Take a measure in mm. Raises LineError."""
        if not self._words:
            raise LineError(f"{what}: how much?")
        try:
            word = self.take()
            return 0 if re.fullmatch(r"0+([.,]0+)?", word) else read_mm(word)
        except TapeError as error:
            raise LineError(f"{what}: {error}") from error

    def small_mm(self, what: str) -> int:
        """Take a measure of something small, in mm: a whole number is millimetres however small it is.

        Raises LineError.
        """
        if re.fullmatch(r"\d{1,5}", self.peek()):
            return int(self.take())
        return self.mm(what)

    def has_figure(self) -> bool:
        """Whether a figure comes next."""
        return bool(re.match(r"\d", self.peek()))

    def rest(self) -> str:
        """Return what is left, as it was said."""
        return " ".join(self._words)
