"""What an answer waits for, as a code that a program can read, beside the words that a person does.

The words name the thing and its place; the code only the thing. One list, in order: the first that fits.
"""

import re
from functools import lru_cache

# The code of what is not in the list; a test holds that no answer needs it.
OTHER = "other"

_CODES: tuple[tuple[str, str], ...] = (
    (r"^reading of|^reason of the reading", "reading"),
    (r"^what is to switch", "control"),
    (r"^which cable feeds", "leg"),
    (r"^wiring of|simpler wiring|^way that line and neutral", "wiring"),
    (r"whether there is metal at", "plate"),
    (r"^power of the lamps", "load"),
    (r"the dimmer of|may be dimmed", "dimmer"),
    (r"^curve of", "curve"),
    (r"surge", "surge-protection"),
    (r"main switch", "main-switch"),
    (r"of the RCCB", "rccb-rating"),
    (r"^RCD of each group|^rated residual current of", "rcd"),
    (r"is made of$", "enclosure"),
    (r"^storey", "storeys"),
    (r"^line of", "line"),
    (r"^loads of \d", "load"),
    (r"true lengths|^length|, length", "length"),
    (r"main fuse", "main-fuse"),
    (r"earthing system", "earthing-system"),
    (r"electrode", "electrode"),
    (r"^Ze\b", "ze"),
    (r"^prospective fault current", "fault-current"),
    (r"conditional rating", "conditional-rating"),
    (r"breaking capacity", "breaking-capacity"),
    (r"let-through energy", "let-through"),
    (r"trip current", "trip-current"),
    (r"lost neutral", "lost-neutral-guard"),
    (r"type of the RCD", "rcd-type"),
    (r"d\.c\. part|has any of them electronics", "dc-part"),
    (r"RCD of its own", "charger-rcd"),
    (r"RCD|rated residual current", "rcd"),
    (r"cpc\b|conduit", "cpc"),
    (r"class II", "class-ii"),
    (r"current of|design current", "current"),
    (r"first (load|point)", "load"),
    (r"first cable|feed ahead$", "leg"),
    (r"from zone 1", "distance-from-zone-1"),
    (r"^where .* stands in the bath room", "zone"),
    (r"^IP rating of", "ip"),
    (r"breaks all live conductors", "poles"),
    (r"room with a bath", "bath-room"),
    (r"metal parts of the bath room", "bath-room-bonding"),
    (r"run in walls", "concealed-cables"),
    (r"either side", "bidirectional"),
    (r"means of isolation", "isolation"),
    (r"another board, or equipment", "kind-of-point"),
    (r"circuit of its own", "own-circuit"),
    (r"bonding conductor|bonded|incoming services|where it enters", "bonding"),
    (r"earthing conductor", "earthing-conductor"),
    (r"tails", "tails"),
    (r"beyond its table|surroundings", "surroundings"),
    (r"method", "method"),
    (r"cable|mm²|listed|no usual", "cable"),
)


@lru_cache(maxsize=4096)
def code_of(words: str) -> str:
    """Return the code of what is missing."""
    return next((code for pattern, code in _CODES if re.search(pattern, words)), OTHER)
