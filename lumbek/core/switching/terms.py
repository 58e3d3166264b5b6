"""What things are called: switches and terminals in the words of the part of the world that a circuit is wired in."""

from lumbek.core.model.accessory import AccessoryKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.common import ColourScheme

KINDS: dict[AccessoryKind, str] = {
    "one-way": "one-way switch",
    "two-way": "two-way switch",
    "intermediate": "intermediate switch",
    "dimmer": "dimmer",
    "dimmer-two-way": "two-way dimmer",
    "sensor": "sensor",
    "receiver": "receiver of a radio or bus switch",
    "double-pole": "double-pole switch",
    "isolator-3": "three-pole isolator",
    "fused-unit": "fused connection unit",
}


def terms_of(book: Rulebook, circuit: Circuit) -> ColourScheme:
    """Return the scheme whose words serve for a circuit: that of new cable, else that of its own cable."""
    return book.switching.schemes[circuit.scheme.wishes.colours if circuit.scheme else circuit.cable.colours]


def said_as(scheme: ColourScheme, words: str) -> str:
    """Return words with each term as it is said there."""
    for plain_word in sorted(scheme.words, key=len, reverse=True):
        words = words.replace(plain_word, scheme.words[plain_word])
    return words
