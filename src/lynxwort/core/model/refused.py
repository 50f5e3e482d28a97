"""What pydantic refuses, as refusals with path, code, bounds and unit."""

from typing import Any

from pydantic import ValidationError

from lynxwort.core.errors import Refusal
from lynxwort.core.model.base import Part
from lynxwort.core.model.bike import ENGINE_KINDS

#: pydantic's error types -> our codes. Anything else is `invalid`.
_CODES = {
    "missing": "missing",
    "extra_forbidden": "unknown_key",
    "greater_than_equal": "too_low",
    "less_than_equal": "too_high",
    "float_type": "not_a_number",
    "int_type": "not_a_whole_number",
    "int_from_float": "not_a_whole_number",
    "finite_number": "not_finite",
    "literal_error": "not_a_choice",
    "string_type": "not_text",
    "string_too_long": "too_long",
    "string_too_short": "too_short",
    "too_short": "too_few",
    "too_long": "too_many",
    "union_tag_invalid": "not_a_choice",
    "union_tag_not_found": "missing",
    "tuple_type": "not_a_list",
    "dict_type": "not_an_object",
    "model_type": "not_an_object",
    "model_attributes_type": "not_an_object",
    "bool_type": "not_true_or_false",
}
#: what pydantic puts into a location to say which kind it tried
_TAGS = {
    *ENGINE_KINDS,
    "sag",
    "weighing",
    "tilt",
    "geometry",
    "steady",
    "fill_up",
    "charge",
    "known_good",
    "roll_out",
    "rpm_speed",
    "top_speed",
    "hill",
    "ridden_lap",
    "flow",
    "feel",
    "dyno",
    "afr_log",
}


def _models_in(annotation: Any) -> list[Any]:
    """The models that an annotation may hold, through unions, tuples and dicts."""
    if hasattr(annotation, "model_fields"):
        return [annotation]
    return [m for inner in getattr(annotation, "__args__", ()) for m in _models_in(inner)]


def _unit_at(loc: tuple[Any, ...], root: type[Part]) -> str | None:
    """Unit of the field that a pydantic location points at, when it is a quantity of a known model."""
    models: list[Any] = [root]
    unit = None
    for step in loc:
        fields = [m.model_fields[step] for m in models if step in m.model_fields]
        if not fields:
            continue
        extra = fields[0].json_schema_extra
        unit = extra.get("unit") if isinstance(extra, dict) else None
        models = [m for info in fields for m in _models_in(info.annotation)]
    return unit or None


def _untagged(loc: tuple[Any, ...]) -> tuple[Any, ...]:
    """A location without the kinds that were tried: a course may be called "hill" too."""

    def tag(i: int) -> bool:
        if loc[i] not in _TAGS:
            return False
        return i == 0 or loc[i - 1] == "engine" or (i >= 2 and loc[i - 2] == "readings" and isinstance(loc[i - 1], int))

    return tuple(step for i, step in enumerate(loc) if not tag(i))


def refusals_of(error: ValidationError, prefix: str = "", *, root: type[Part]) -> list[Refusal]:
    """Translate pydantic's errors to refusals with path, code, bounds and unit."""
    found = []
    for item in error.errors(include_url=False):
        loc = _untagged(item["loc"])
        path = ".".join(str(step) for step in loc)
        code = _CODES.get(item["type"], "invalid")
        context = item.get("ctx", {})
        if item["type"] == "value_error":
            code = str(context.get("error", "invalid"))
            if ":" in code:
                path, code = code.split(":", 1)
        if item["type"] == "union_tag_not_found" or item["type"] == "union_tag_invalid":
            path = f"{path}.kind"
        found.append(
            Refusal(
                path=f"{prefix}{path}".strip("."),
                code=code,
                low=context.get("ge"),
                high=context.get("le"),
                unit=_unit_at(loc, root),
                message=item["msg"] if code == "invalid" else "",
            )
        )
    return found
