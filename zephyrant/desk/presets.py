"""Quoting habits an analyst has named: how a desk quotes its rates, ready to be chosen."""

from typing import Final

from django.contrib.auth.models import User
from ninja import Schema
from pydantic import Field

from zephyrant.loans.statement import Quoting

from .limits import MOST_PRESET_NAME
from .preferences import keep, kept


class Preset(Schema):
    """A named way to quote."""

    name: str = Field(min_length=1, max_length=MOST_PRESET_NAME)
    quoting: Quoting


#: What everyone starts from.
FIRST: Final = (
    Preset(name="Fixed: half-yearly", quoting=Quoting(quoted="nominal", compounding="half-year")),
    Preset(name="Floating: monthly", quoting=Quoting(quoted="nominal", compounding="month")),
    Preset(name="Effective a year", quoting=Quoting(quoted="effective")),
    Preset(name="Dealer: flat", quoting=Quoting(quoted="flat")),
    Preset(
        name="Money market: 90 days, 360",
        quoting=Quoting(quoted="simple", over="90 days", year_days=360),
    ),
)


def presets_of(user: User) -> list[Preset]:
    """The habits of a user, those to start from where none were kept."""
    chosen = kept(user, "presets")
    if chosen is None:
        return list(FIRST)
    return [Preset.model_validate(each) for each in chosen]


def keep_presets(user: User, presets: list[Preset]) -> None:
    """These habits and no others."""
    stored = [preset.model_dump(mode="json") for preset in presets]
    keep(user, presets=stored)
