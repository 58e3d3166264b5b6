"""Commands drawn by chance, of every kind that something takes: each field from what may stand there."""

import random
from collections.abc import Iterator, Mapping, Sequence
from types import NoneType
from typing import Annotated, Any, Literal, get_args, get_origin

from pydantic import BaseModel, TypeAdapter, ValidationError

# What is typed or measured, by the name of its field.
_POOL: dict[str, Sequence[object]] = {
    **dict.fromkeys(("length_m", "length_to_m"), (None, 3.5, 12.25)),
    **dict.fromkeys(("index", "at"), (0, 1, 2)),
    **dict.fromkeys(("rating_a", "main_rating_a", "unused_a"), (6, 20, 32, 63, 100)),
    **dict.fromkeys(("csa_mm2", "cpc_mm2"), (1.0, 2.5, 6.0)),
    **dict.fromkeys(("rated_ma", "main_rated_ma"), (30, 100)),
    **dict.fromkeys(("current_a", "stated_a"), (None, 2.5)),
    **dict.fromkeys(("name", "mark"), ("", "Landing")),
    "power_w": (None, 60, 3000),
    "number": (1, 3, 7),
    "method": (None, "C", "A", "101"),
    "ambient_c": (None, 40.0),
    "grouped_circuits": (1, 3),
    "lightly_loaded": (0, 2),
    "appliance": (None, "oven", "kettle"),
    "ready": ("extractor", "smoke-alarm"),
    "core": ("L", "N", "E", "S1"),
    "terminal": (None, "L", "1.COM"),
    "ip": ("", "IP44"),
    "year": (None, 1985),
    "by_mm": (-250, 400),
    "length_mm": (2400, 3600),
    "cable": ({"csa_mm2": 1.5}, {"type": "flat-three-core-and-earth", "csa_mm2": 1.0}),
    "own_earth": (None, {}, {"electrode_ohm": 80.0}, {"electrode_ohm": 80.0, "electrode_origin": "measured"}),
}
_LEFT_OUT = object()


def kinds_of(union: Any) -> tuple[type[BaseModel], ...]:
    """The kinds of command that there are."""
    kinds = get_args(get_args(union)[0]) if get_origin(union) is Annotated else get_args(union)
    return tuple(sorted((each for each in kinds if "op" in each.model_fields), key=lambda each: each.__name__))


def drawn(
    union: Any, ids: Mapping[str, Sequence[str]], chance: random.Random, each: int = 3
) -> Iterator[tuple[str, BaseModel]]:
    """Yield commands of every kind that a few values make; `ids` are those that fields of these names may hold."""
    for kind in kinds_of(union):
        for _ in range(each):
            said = {name: _value(name, field.annotation, ids, chance) for name, field in kind.model_fields.items()}
            kept = {name: value for name, value in said.items() if value is not _LEFT_OUT}
            try:
                yield str(kept), TypeAdapter(kind).validate_python(kept)
            except ValidationError:
                continue


def _value(name: str, annotation: Any, ids: Mapping[str, Sequence[str]], chance: random.Random) -> Any:
    several = ids.get(name) or _POOL.get(name) or tuple(_plain(annotation))
    if not several or (name != "op" and name not in ids and chance.random() < 0.4):
        return _LEFT_OUT
    return several[int(chance.random() * len(several))]


def _plain(annotation: Any) -> Iterator[object]:
    """Yield the values of a kind that has only some: words, yes and no, nothing."""
    if get_origin(annotation) is Literal:
        yield from get_args(annotation)
    elif annotation is bool:
        yield from (True, False)
    elif annotation is NoneType:
        yield None
    else:
        for each in get_args(annotation):
            yield from _plain(each)
