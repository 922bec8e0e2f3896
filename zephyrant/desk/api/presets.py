"""An analyst's quoting habits."""

from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import presets
from zephyrant.desk.limits import MOST_PRESETS
from zephyrant.desk.presets import Preset

from .base import REFUSALS, SignedIn

router = Router(by_alias=True)


class PresetsKept(Schema):
    """All the quoting habits of an analyst."""

    presets: list[Preset] = Field(max_length=MOST_PRESETS)


@router.get("", response={200: list[Preset], **REFUSALS}, operation_id="listPresets")
def list_presets(request: SignedIn) -> list[Preset]:
    """The analyst's quoting habits."""
    return presets.presets_of(request.user)


@router.put("", response={200: list[Preset], **REFUSALS}, operation_id="savePresets")
def save_presets(request: SignedIn, chosen: PresetsKept) -> list[Preset]:
    """These quoting habits and no others."""
    presets.keep_presets(request.user, chosen.presets)
    return presets.presets_of(request.user)
