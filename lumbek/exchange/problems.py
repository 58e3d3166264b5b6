"""Turning a refusal of the model into the place and the reason that a person can act on."""

from pydantic import ValidationError

from lumbek.core.value import Frozen


class Problem(Frozen):
    """One thing wrong with an input: the field, as a path, and the reason."""

    field: str
    reason: str


_UNIT_TAILS = {
    "_m": " m",
    "_mm": " mm",
    "_mm2": " mm²",
    "_a": " A",
    "_w": " W",
    "_ohm": " Ω",
    "_ka": " kA",
    "_ma": " mA",
    "_c": " °C",
    "_m2": " m²",
}


def _unit(field: str) -> str:
    name = field.rsplit(".", 1)[-1]
    tail = next((tail for tail in sorted(_UNIT_TAILS, key=len, reverse=True) if name.endswith(tail)), None)
    return _UNIT_TAILS[tail] if tail else ""


# What each kind of trouble is in words; {unit} stands behind a limit.
_REASONS = {
    "greater_than": "must be more than {gt:g}{unit}",
    "greater_than_equal": "must be {ge:g}{unit} or more",
    "less_than_equal": "must be {le:g}{unit} or less",
    "finite_number": "must be a finite number",
    **dict.fromkeys(("float_parsing", "float_type", "int_parsing", "int_type"), "must be a number"),
    "int_from_float": "must be a whole number",
    "missing": "is missing",
    "extra_forbidden": "is not a field of this format",
    "string_too_long": "may have {max_length} characters at most",
    "string_too_short": "must not be empty",
    "string_pattern_mismatch": "has characters or a form that cannot be used here",
    "too_short": "must hold {min_length} at least",
    "too_long": "may hold {max_length} at most, not {actual_length}",
    "literal_error": "must be one of {expected}",
}


def _reason(kind: str, message: str, limits: dict[str, object], unit: str) -> str:
    if kind in _REASONS:
        return _REASONS[kind].format(**{"actual_length": "more", **limits, "unit": unit})
    if kind == "value_error":
        return message.removeprefix("Value error, ")
    return message[:1].lower() + message[1:]


def problems_of(error: ValidationError, most: int = 20) -> list[Problem]:
    """Return what is wrong, a problem a field, the first `most` of them."""
    found = []
    for each in error.errors(include_url=False, include_input=False)[:most]:
        # FastAPI puts "body" first; discriminated unions and arms add tags that no user wrote.
        parts = [str(part) for part in each["loc"] if part not in ("body", "query", "path") and "[" not in str(part)]
        field = ".".join(parts)
        limits = dict(each.get("ctx", {}))
        reason = _reason(each["type"], each["msg"], limits, _unit(field))
        # Validators across fields name the field themselves: "legs: leg L1 ends at ...".
        if each["type"] == "value_error" and ": " in reason:
            inner, reason = reason.split(": ", 1)
            field = f"{field}.{inner}" if field else inner
        found.append(Problem(field=field or "the whole", reason=reason))
    return found
