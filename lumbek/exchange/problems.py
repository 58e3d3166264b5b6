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


def _reason(kind: str, message: str, limits: dict[str, object], unit: str) -> str:
    match kind:
        case "greater_than":
            return f"must be more than {limits['gt']:g}{unit}"
        case "greater_than_equal":
            return f"must be {limits['ge']:g}{unit} or more"
        case "less_than_equal":
            return f"must be {limits['le']:g}{unit} or less"
        case "finite_number":
            return "must be a finite number"
        case "float_parsing" | "float_type" | "int_parsing" | "int_type":
            return "must be a number"
        case "int_from_float":
            return "must be a whole number"
        case "missing":
            return "is missing"
        case "extra_forbidden":
            return "is not a field of this format"
        case "string_too_long":
            return f"may have {limits['max_length']} characters at most"
        case "string_too_short":
            return "must not be empty"
        case "string_pattern_mismatch":
            return "has characters or a form that cannot be used here"
        case "too_short":
            return f"must hold {limits['min_length']} at least"
        case "too_long":
            return f"may hold {limits['max_length']} at most, not {limits.get('actual_length', 'more')}"
        case "literal_error":
            return f"must be one of {limits['expected']}"
        case "value_error":
            return message.removeprefix("Value error, ")
        case _:
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
