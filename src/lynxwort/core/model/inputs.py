"""The one document: all inputs of `evaluate`."""

import hashlib
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, PrivateAttr, ValidationError, model_validator

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part
from lynxwort.core.model.bike import ENGINE_KINDS, FITTING_PLACES, Bike, Electric, Engine, Injected, Jetted
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.damper import PLACES
from lynxwort.core.model.fitted import unusable_of
from lynxwort.core.model.race import Race
from lynxwort.core.model.readings import Reading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup

HeightSource = Literal["barometer", "satellite", "terrain", "none"]
MAX_POINTS = 120_000


class Track(Part):
    """Points of a course. latitude_deg, longitude_deg [°], height_m [m] or empty; breaks: indices where a new piece begins."""

    name: str = Field("course", max_length=120)
    heights: HeightSource = "satellite"
    latitude_deg: tuple[float, ...] = Field(repr=False)
    longitude_deg: tuple[float, ...] = Field(repr=False)
    height_m: tuple[float, ...] = Field(default=(), repr=False)
    breaks: tuple[int, ...] = Field(default=(), repr=False)

    _key: str | None = PrivateAttr(None)
    _checked: bool = PrivateAttr(False)

    @model_validator(mode="after")
    def _shape(self) -> "Track":
        if self._checked:  # an instance passed on is checked already; it cannot have changed
            return self
        count = len(self.latitude_deg)
        if count < 2:
            raise ValueError("too_few_points")
        if count > MAX_POINTS:
            raise ValueError("too_many_points")
        if len(self.longitude_deg) != count or (self.height_m and len(self.height_m) != count):
            raise ValueError("lengths_differ")
        if not (max(map(abs, self.latitude_deg)) <= 90 and max(map(abs, self.longitude_deg)) <= 180):
            raise ValueError("not_on_earth")
        if self.height_m and not (min(self.height_m) >= -430 and max(self.height_m) <= 9000):
            raise ValueError("height_out_of_range")
        if self.heights != "none" and not self.height_m:
            raise ValueError("heights_missing")
        if any(not 0 < b < count for b in self.breaks):
            raise ValueError("break_out_of_range")
        self._checked = True
        return self

    def told(self, heights: str) -> "Track":
        """The same points with their heights said to come from another source."""
        return Track.model_validate({**{k: getattr(self, k) for k in Track.model_fields}, "heights": heights})

    def __hash__(self) -> int:
        return hash(self.content_key())

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, Track) and self.name == other.name and self.content_key() == other.content_key())

    def content_key(self) -> str:
        """SHA-256 of the points and the source of heights: the course's name in every cache."""
        if self._key is None:
            self._key = self._digest()
        return self._key

    def _digest(self) -> str:
        digest = hashlib.sha256(self.heights.encode())
        for values in (self.latitude_deg, self.longitude_deg, self.height_m):
            digest.update(b"|")
            digest.update(np.asarray(values, dtype="<f8").tobytes())
        digest.update(np.asarray(self.breaks, dtype="<i8").tobytes())
        return digest.hexdigest()[:40]


def _engine_slot_misfit(engine: Engine, setup: Setup) -> str | None:
    """A slot beyond what the engine has."""
    if isinstance(engine, Electric):
        return None
    for place in FITTING_PLACES:
        if (getattr(setup, place) or 1) > 1 + len(engine.fittings_of(place)):
            return f"setup.{place}:beyond_fittings"
    if (setup.head_insert or 1) > 1 + len(engine.head_inserts):
        return "setup.head_insert:beyond_fittings"
    if (setup.ignition_map or 1) > 1 + len(engine.ignition_maps):
        return "setup.ignition_map:beyond_fittings"
    if isinstance(engine, Jetted) and (setup.needle or 1) > 1 + len(engine.carburettor.needles):
        return "setup.needle:beyond_needles"
    if isinstance(engine, Injected):
        cells = len(engine.injection.rpm_axis) * len(engine.injection.throttle_axis)
        if setup.map_trims and len(setup.map_trims) != cells:
            return "setup.map_trims:trims_of_another_map"
        if any(slot > len(engine.injection.map_shifts) for slot in setup.map_by_ground.values()):
            return "setup.map_by_ground:beyond_maps"
    return None


def _damper_misfit(bike: Bike, setup: Setup) -> str | None:
    """Clicks beyond what an adjuster has, or a stack that its clamp or ports do not take."""
    for end, damper in (("fork", bike.damper("fork")), ("shock", bike.damper("shock"))):
        for way in ("compression", "rebound"):
            if (getattr(setup, f"{end}_{way}_clicks") or 0) > getattr(damper, f"{way}_clicks"):
                return f"setup.{end}_{way}_clicks:beyond_clicks"
        for place in PLACES:
            stack, seat = getattr(setup, f"{end}_{place}_stack"), getattr(damper, place)
            if stack and stack[0].diameter_m < 2.0 * seat.port_outer_m - 1e-9:
                return f"setup.{end}_{place}_stack:face_within_ports"
    return "setup.shock_high_speed_turns:beyond_clicks" if (setup.shock_high_speed_turns or 0.0) > bike.shock_damper.high_speed_turns else None


def _slot_misfit(bike: Bike, setup: Setup) -> str | None:
    """A slot beyond what the bike has, as "path:code"."""
    if (setup.gearbox or 1) > 1 + len(bike.transmission.others):
        return "setup.gearbox:beyond_gearboxes"
    for end, others in (("front", bike.frame.other_front_wheels), ("rear", bike.frame.other_rear_wheels)):
        if (getattr(setup, f"{end}_wheel") or 1) > 1 + len(others):
            return f"setup.{end}_wheel:beyond_wheels"
    misfit = _engine_slot_misfit(bike.engine, setup) or _damper_misfit(bike, setup)
    if misfit:
        return misfit
    return "setup.payload_left:beyond_payload" if (setup.payload_left or 0) > len(bike.frame.payload) else None


def setup_misfit(bike: Bike, setup: Setup) -> str | None:
    """What keeps a setup from fitting a bike, as "path:code"; None when it fits."""
    engine, slot = bike.engine, _slot_misfit(bike, setup)
    if slot:
        return slot
    if isinstance(engine, Electric):
        if setup.pack_energy_j is None:
            return "setup.pack_energy_j:missing"
        if (setup.power_mode or 1) > len(engine.mode_power_shares):
            return "setup.power_mode:beyond_modes"
        return None
    if setup.tank_capacity_m3 is None:
        return "setup.tank_capacity_m3:missing"
    if isinstance(engine, Jetted) and setup.main_jet is None:
        return "setup.main_jet:missing"
    if isinstance(engine, Injected) and (setup.map_slot or 1) > len(engine.injection.map_shifts):
        return "setup.map_slot:beyond_maps"
    if setup.fill_m3 > setup.tank_capacity_m3 + 1e-9:
        return "setup.fuel_fill_m3:fill_over_tank"
    if isinstance(engine, Jetted) and setup.needle_clip > engine.carburettor.clip_positions:
        return "setup.needle_clip:clip_beyond_needle"
    if setup.fill_m3 <= unusable_of(bike.frame, setup):
        return "setup.fuel_fill_m3:fill_under_unusable"
    return None


class Inputs(Part):
    """Everything `evaluate` may know. `format` is the document's format."""

    format: Literal[1]
    bike: Bike
    setup: Setup
    parts: PartsBox = PartsBox()
    riders: Annotated[tuple[Rider, ...], Field(min_length=1, max_length=20)]
    race: Race
    courses: dict[str, Track] = Field(min_length=1, max_length=20)
    readings: Annotated[tuple[Reading, ...], Field(max_length=500)] = ()
    seed: int = Field(1, ge=0, le=2**31 - 1)

    @model_validator(mode="after")
    def _coupled(self) -> "Inputs":
        misfit = setup_misfit(self.bike, self.setup)
        if misfit:
            raise ValueError(misfit)
        for i, stage in enumerate(self.race.stages):
            if stage.course_key not in self.courses:
                raise ValueError(f"race.stages.{i}.course_key:course_missing")
        for i, entry in enumerate(self.race.entries):
            if entry.rider >= len(self.riders):
                raise ValueError(f"race.entries.{i}.rider:rider_missing")
        if self.race.relay is not None and len(self.riders) < 2:
            raise ValueError("race.relay:relay_alone")
        return self

    @property
    def rider(self) -> Rider:
        return self.riders[self.race.entries[0].rider]


#: pydantic's error types -> our codes. Anything else is `invalid`.
_CODES = {
    "missing": "missing", "extra_forbidden": "unknown_key", "greater_than_equal": "too_low", "less_than_equal": "too_high",
    "float_type": "not_a_number", "int_type": "not_a_whole_number", "int_from_float": "not_a_whole_number",
    "finite_number": "not_finite", "literal_error": "not_a_choice", "string_type": "not_text", "string_too_long": "too_long",
    "string_too_short": "too_short", "too_short": "too_few", "too_long": "too_many", "union_tag_invalid": "not_a_choice",
    "union_tag_not_found": "missing", "tuple_type": "not_a_list", "dict_type": "not_an_object", "model_type": "not_an_object",
    "model_attributes_type": "not_an_object", "bool_type": "not_true_or_false",
}  # fmt: skip
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


def refusals_of(error: ValidationError, prefix: str = "", root: type[Part] = Inputs) -> list[Refusal]:
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


def upgrade(document: Any) -> Any:
    """Bring a document of an older format to the newest. Format 1 is the first."""
    if not isinstance(document, dict):
        raise InputRefused(Refusal(path="", code="not_an_object"))
    return document


def load_inputs(document: Any) -> Inputs:
    """The document's door. Raises InputRefused with every refusal found."""
    try:
        return Inputs.model_validate(upgrade(document))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error)) from None


def dump_inputs(inputs: Inputs) -> dict[str, Any]:
    """The document of these inputs: only what was given, so that what was assumed stays assumed."""
    return inputs.model_dump(mode="json", exclude_unset=True) | {"format": 1}
