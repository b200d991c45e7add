"""A line: what feeds it, what flows along it, its trees."""

from datetime import date
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.catch import CaughtOnOut
from june_shade.api.schemas.common import In, Out, quantity
from june_shade.api.schemas.drip import DripFinding, DripLook, DripPart


class LieIO(In):
    """Where a tree of a line stands, measured by itself."""

    tree_id: UUID
    along_m: float = quantity("m", "From the valve, along the row", gt=0, le=5000)
    up_m: float = quantity("m", "Above the valve, below it under 0", ge=-200, le=200)


class SupplyIn(In):
    """What feeds a line and how its row lies; null = not measured."""

    static_head_m: float | None = quantity("m", "Head with nothing running", None, gt=0, le=150)
    open_flow_l_per_h: float | None = quantity("L/h", "Flow of the open pipe, by bucket", None, gt=0, le=50000)
    regulator_head_m: float | None = quantity("m", "Head behind the regulator", None, gt=0, le=150)
    lead_m: float | None = quantity("m", "From the valve to the first tree", None, gt=0, le=1000)
    spacing_m: float | None = quantity("m", "From tree to tree", None, gt=0, le=200)
    rise_percent: float | None = quantity("%", "Slope away from the valve, up positive.", None, ge=-60, le=60)
    bearing_deg: float | None = quantity("deg", "Way the row goes, 0 north, 90 east.", None, ge=0, le=360)
    offset_m: float | None = quantity("m", "Lateral right of the trunks, left below 0", None, ge=-20, le=20)
    bore_mm: float | None = quantity("mm", "Inside diameter of the lateral", None, gt=0, le=200)
    lie: list[LieIO] = Field(
        [], max_length=500, description="Trees that stand unevenly; the others as spacing and slope have them."
    )
    version: int | None = None


class SupplyOut(SupplyIn, Out):
    """What feeds a line, as stored."""

    model_config = Out.model_config

    id: UUID
    site_id: UUID
    name: str
    closed_on: date | None = Field(description="Since when nothing hangs on it any more.")


class LateralOut(Out):
    """A lateral as it is reckoned with."""

    bearing_deg: float = quantity("deg", "Bearing")
    feed_bearing_deg: float = quantity("deg", "Feed bearing")
    offset_m: float = quantity("m", "Offset")
    bore_mm: float = quantity("mm", "Bore")
    static_m: float = quantity("m", "Static")
    open_l_per_h: float = quantity("L/h", "Open")
    regulated_m: float | None = quantity("m", "Regulated")


class RowFlowOut(Out):
    """What flows along a row."""

    inlet_head_m: float = quantity("m", "Inlet head")
    flow_l_per_h: float = quantity("L/h", "Flow")
    fastest_m_s: float = quantity("m/s", "Fastest")
    uniformity_percent: float = quantity("%", "Uniformity")
    worst: int
    short_supply: bool
    findings: list[DripFinding]


class OnLineOut(Out):
    """A tree of a line."""

    id: UUID
    tag: str
    place: str
    common: str
    accepted: bool
    chainage_m: float = quantity("m", "Chainage")
    height_m: float = quantity("m", "Height")
    tee_head_m: float = quantity("m", "Tee head")
    look: DripLook


class StripOut(Out):
    """The root zone of a hedge as one strip."""

    from_m: float = quantity("m", "Where it begins along the row")
    length_m: float = quantity("m", "Length")
    width_m: float = quantity("m", "As wide as its roots reach")
    flow_l_per_h_m: float = quantity("L/h/m", "What its living plants' emitters give along it")
    dose_l_m: float = quantity("L/m", "What they give along it in one run")


class GapOut(Out):
    """Where a tree of the line died or went. lost_l: what of a run falls where nobody's roots are."""

    tree_id: UUID
    tag: str
    ended_on: date
    chainage_m: float = quantity("m", "Chainage")
    closed: bool = Field(description="What was laid for it is stopped up.")
    flow_l_per_h: float = quantity("L/h", "What its emitters give")
    lost_l: float = quantity("L", "Lost in one run")
    emitters: list[list[float]] = Field(description="Places beside it, east and north [m].")


class GapIn(In):
    """Whether what was laid for a tree that is gone was closed."""

    closed: bool


class LinePageOut(Out):
    """A line as a whole."""

    line: SupplyOut
    site_name: str
    today: date
    accepted: bool
    anew: bool
    hedge: bool
    left_out: int
    length_m: float = quantity("m", "Length")
    run_min: float = quantity("min", "Run")
    least_min: float = quantity("min", "Least")
    uneven: bool = Field(description="Its trees want too different run times.")
    litres: float = Field(description="What all of them get in one run [L].", json_schema_extra={"unit": "L"})
    strip: StripOut | None = Field(description="Null where the line is no hedge.")
    gaps: list[GapOut]
    assumed: list[str]
    lateral: LateralOut
    flow: RowFlowOut
    trees: list[OnLineOut]
    caught: CaughtOnOut | None
    parts: list[DripPart]


class LineRowOut(Out):
    """A line in a site's list."""

    id: UUID
    name: str
    trees: int
    laid: int
    flow_l_per_h: float | None = quantity("L/h", "Flow")
    codes: list[str]
    problem: Sentence
