"""What is bolted on: items with their mass at their place, the brakes, and what the wheels stand on."""

import re
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.bike.cooling import Cooling
from lynxwort.core.model.bike.electrics import Electrics
from lynxwort.core.model.bike.frame import Payload
from lynxwort.core.model.bike.tyre import OnWheel
from lynxwort.core.model.days import checked_day

ItemGroup = Literal["protection", "controls", "wheels", "brakes", "carrying", "cooling", "electrics", "other"]
ITEM_GROUPS: tuple[str, ...] = ItemGroup.__args__  # type: ignore[attr-defined]
#: what an item moves with
ItemOn = Literal["sprung", "steered", "front_wheel", "rear_wheel"]
ITEM_ON: tuple[str, ...] = ItemOn.__args__  # type: ignore[attr-defined]
Need = Literal["must", "nice"]
#: when something draws its watts
When = Literal["always", "night", "stopped", "hot"]
Fluid = Literal["dot3", "dot4", "dot5_1"]
_ID = re.compile(r"^[a-z0-9]+(?:_[a-z0-9]+)*$")
_MONTH = re.compile(r"^(?:19|20)\d{2}-(?:0[1-9]|1[0-2])$")


class Shifts(Part):
    """What an item moves besides its mass: added to the facts and settings of these names."""

    drag_area_m2: float = quantity(-0.2, 0.4, "m^2", "ratio", 0.0, source="assumption: none")
    """added to the drag area"""
    ground_clearance_m: float = quantity(-0.08, 0.08, "m", "travel", 0.0, source="assumption: none")
    """added to the ground clearance"""
    bar_up_m: float = quantity(-0.06, 0.1, "m", "travel", 0.0, source="assumption: none")
    """added to how far the bars are raised"""
    bar_ahead_m: float = quantity(-0.06, 0.06, "m", "travel", 0.0, source="assumption: none")
    """added to how far the bars are ahead"""
    seat_up_m: float = quantity(-0.08, 0.08, "m", "travel", 0.0, source="assumption: none")
    """added to how far the seat is raised"""
    peg_down_m: float = quantity(-0.03, 0.06, "m", "travel", 0.0, source="assumption: none")
    """added to how far the pegs are lowered"""
    offset_change_m: float = quantity(-0.015, 0.015, "m", "travel", 0.0, source="assumption: none")
    """added to the offset of the clamps"""
    radiator_share: float = quantity(-0.6, 1.0, "1", "share", 0.0, source="assumption: none")
    """added to the radiators' face, as a share of it"""
    radiator_air_share: float = quantity(-0.6, 0.3, "1", "share", 0.0, source="assumption: none")
    """added to the air that comes to the radiators"""
    generator_low_w: float = quantity(-500.0, 500.0, "W", "watts", 0.0, source="assumption: none")
    """added to what the generator gives at its first point"""
    generator_high_w: float = quantity(-500.0, 500.0, "W", "watts", 0.0, source="assumption: none")
    """added to what the generator gives at its second point"""


NO_SHIFTS = Shifts()


class Item(Part):
    """Something bolted on, and what it does."""

    id: str = Field(min_length=1, max_length=24, json_schema_extra={"unit": "", "kind": "text"})
    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what you call it"""
    group: ItemGroup = choice("other", source="assumption")
    need: Need = choice("nice", source="assumption")
    """whether the race cannot be started without it"""
    because: str = Field("", max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "not said"})
    """why one says so"""
    mass_kg: float = quantity(0.0, 40.0, "kg", "mass")
    """what it weighs"""
    removed_kg: float = quantity(0.0, 40.0, "kg", "mass", 0.0, source="assumption: nothing comes off for it")
    """what comes off for it, on the same scale"""
    ahead_m: float = quantity(-0.6, 2.0, "m", "length")
    """ahead of the rear axle"""
    height_m: float = quantity(0.0, 2.0, "m", "length")
    """above the ground"""
    on: ItemOn = choice("sprung", source="assumption")
    """what it moves with"""
    gyration_share: float = quantity(0.0, 1.0, "1", "share", 0.0, source="assumption: it does not turn")
    """on a wheel and turning with it: its radius of gyration against the wheel's radius"""
    aside_m: float = quantity(0.0, 0.6, "m", "travel", 0.0, source="assumption: in the middle")
    """on what steers: how far from the steering axis it sits, each side"""
    damper_clicks: int | None = quantity(1, 40, "1", "count", None, source="no steering damper")
    """a steering damper: its clicks from lightest to heaviest"""
    weighed_with: bool = Field(False, json_schema_extra={"unit": "", "kind": "", "source": "assumption: put on since"})
    """whether it was on when the bike was weighed"""
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """what it costs, in one's own money"""
    work_s: float | None = quantity(0.0, 720_000.0, "s", "hours", None, source="not said")
    """work to put it on"""
    watts_w: float = quantity(0.0, 1000.0, "W", "watts", 0.0, source="assumption: none")
    """what it draws from the generator"""
    duty_share: float = quantity(0.0, 1.0, "1", "share", 1.0, source="assumption: all the time that it is on")
    """for how much of that time it draws"""
    when: When = choice("always", source="assumption")
    """when it draws: always, in the dark, standing, or once the coolant is hot"""
    lamp_cd: float = quantity(0.0, 500_000.0, "1", "candela", 0.0, source="assumption: no head lamp")
    """a head lamp: its brightest spot"""
    air_m3_per_s: float = quantity(0.0, 0.5, "m^3/s", "air_flow", 0.0, source="assumption: no fan")
    """a fan: air that it draws through the radiators"""
    after: Annotated[tuple[Annotated[str, Field(min_length=1, max_length=24)], ...], Field(max_length=12)] = Field(
        (), json_schema_extra={"unit": "", "kind": "list", "source": "assumption: nothing before it"}
    )
    """ids of what must be on before it"""
    arrives: str | None = Field(
        None, max_length=10, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: it is here"}
    )
    """day on which it arrives, like 2027-04-02"""
    spent: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """what it really cost"""
    worked_s: float | None = quantity(0.0, 720_000.0, "s", "hours", None, source="not said")
    """work that it really took"""
    shifts: Shifts = NO_SHIFTS

    @field_validator("id")
    @classmethod
    def _id(cls, value: str) -> str:
        if not _ID.match(value):
            raise ValueError("not_a_slug")
        return value

    @field_validator("arrives")
    @classmethod
    def _day(cls, value: str | None) -> str | None:
        return checked_day(value)

    @property
    def net_kg(self) -> float:
        """What it adds [kg], what came off for it taken away."""
        return self.mass_kg - self.removed_kg


class Rode(Payload):
    """Something that rode along at its place; of negative mass where something is missing that the bike was weighed
    with.
    """

    mass_kg: float = quantity(-40.0, 40.0, "kg", "mass")
    on: ItemOn = choice("sprung", source="assumption")


#: what rides along, each at its place
Aboard = tuple[Rode, ...]


class Brake(Part):
    """What of a brake stays when rotor, master and pads are changed."""

    thickness_m: float = quantity(1e-3, 8e-3, "m", "bore", 3e-3, source="assumption")
    """thickness of the rotor"""
    pistons_m: Annotated[tuple[Annotated[float, Field(ge=0.008, le=0.05)], ...], Field(min_length=1, max_length=4)] = (
        Field(
            (0.024, 0.024),
            json_schema_extra={"unit": "m", "kind": "bore", "source": "assumption: two of 24 mm on one side"},
        )
    )
    """diameters of the caliper's pistons on one side"""
    lever_ratio: float = quantity(2.0, 12.0, "1", "factor", 6.0, source="assumption")
    """lever: from pivot to finger over from pivot to the master's piston"""
    fluid: Fluid = choice("dot4", source="assumption")
    """what is stamped on the cap"""
    fluid_from: str | None = Field(
        None, max_length=7, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: a year old"}
    )
    """year and month in which the fluid was last changed, like 2026-03"""

    @field_validator("fluid_from")
    @classmethod
    def _month(cls, value: str | None) -> str | None:
        if value is not None and not _MONTH.match(value):
            raise ValueError("not_a_month")
        return value


class RearBrake(Brake):
    """The same behind, where a foot works it."""

    pistons_m: Annotated[tuple[Annotated[float, Field(ge=0.008, le=0.05)], ...], Field(min_length=1, max_length=4)] = (
        Field(
            (0.025,), json_schema_extra={"unit": "m", "kind": "bore", "source": "assumption: one of 25 mm on one side"}
        )
    )
    """diameters of the caliper's pistons on one side"""
    lever_ratio: float = quantity(2.0, 12.0, "1", "factor", 5.0, source="assumption")
    """pedal: from pivot to foot over from pivot to the master's piston"""


class Kit(Part):
    """What is bolted on to a bike, can be, or stands on its wheels."""

    items: Annotated[tuple[Item, ...], Field(max_length=40)] = ()
    """what is bolted on or can be; the setup says which are on"""
    front_brake: Brake = Brake()
    rear_brake: RearBrake = RearBrake()
    front_tyre: OnWheel = OnWheel()
    rear_tyre: OnWheel = OnWheel()
    front_wheel_inertia_kg_m2: float = quantity(0.1, 3.0, "kg*m^2", "inertia", 0.52, source="assumption")
    """turning inertia of the front wheel with its tyre"""
    rear_wheel_inertia_kg_m2: float = quantity(0.1, 3.0, "kg*m^2", "inertia", 0.73, source="assumption")
    """turning inertia of the rear wheel with its tyre and sprocket"""

    bar_mount_hz: float | None = quantity(5.0, 400.0, "1/s", "frequency", None, source="assumption: bolted hard")
    """frequency at which the bars sway on soft mounts"""
    clutch_plates: int | None = quantity(1, 16, "1", "count", None, source="to count in the manual")
    """friction plates of the clutch"""
    clutch_outer_m: float = quantity(0.05, 0.25, "m", "preload", 0.138, source="assumption")
    """friction plates, outer diameter"""
    clutch_inner_m: float = quantity(0.03, 0.22, "m", "preload", 0.109, source="assumption")
    """friction plates, inner diameter"""
    clutch_spring_n: float | None = quantity(100.0, 10_000.0, "N", "force", None, source="to measure on a scale")
    """force of all clutch springs together, clutch shut"""
    cooling: Cooling = Cooling()
    electrics: Electrics = Electrics()
    stroke_m: float | None = quantity(0.02, 0.15, "m", "preload", None, source="from the manual")
    """stroke of the engine, for the revs of a sound test"""
    build_from: str | None = Field(
        None, max_length=10, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: nothing is planned"}
    )
    """day on which the work begins, like 2027-03-20"""
    build_day_s: float = quantity(600.0, 57_600.0, "s", "hours", 7200.0, source="assumption: an evening of two hours")
    """work that a day has"""
    bag_kg: float = quantity(0.0, 15.0, "kg", "mass", 1.5, source="assumption")
    """spares and tools that the bum bag carries"""
    toolbox_kg: float = quantity(0.0, 20.0, "kg", "mass", 3.0, source="assumption")
    """and that the bike carries"""
    chase_truck: Literal["none", "reached"] = choice("none", source="assumption")
    """whether a truck with spares can be reached from the course"""

    @field_validator("build_from")
    @classmethod
    def _day(cls, value: str | None) -> str | None:
        return checked_day(value)

    @property
    def damper(self) -> Item | None:
        """The steering damper on the list."""
        return next((i for i in self.items if i.damper_clicks), None)

    @model_validator(mode="after")
    def _apart(self) -> "Kit":
        if len({i.id for i in self.items}) < len(self.items):
            raise ValueError("items:ids_alike")
        return self

    def item(self, identity: str) -> Item | None:
        """The item of an id."""
        return next((i for i in self.items if i.id == identity), None)
