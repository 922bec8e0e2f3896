"""What is bought, and what is paid of it at once."""

from decimal import Decimal
from typing import Final, Self

from pydantic import ConfigDict, model_validator

from zephyrant.texts import worded

from ..numbers.decimals import precise, to_step
from .fields import UNKNOWN, Amount, Percent, wrong, wrong_at
from .parts import ONE_OF_TWO, Part


class Down(Part):
    """What is paid of a price at once: a percent of it, or an amount."""

    model_config = ConfigDict(
        frozen=True, defer_build=True, extra="forbid", json_schema_extra=ONE_OF_TWO
    )

    percent: Percent | None = None
    amount: Amount | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise wrong(worded("A down payment is a percent of the price or an amount: state one."))
        if isinstance(self.percent, Decimal) and not 0 <= self.percent < 100:
            raise wrong_at(
                "percent", worded("A down payment is from 0 to below 100 % of the price.")
            )
        return self


#: Steps of an amount that is not rounded.
FINEST_SHARE: Final = Decimal("1e-20")


class Purchase(Part):
    """What is bought: the amount lent is the price less the down payment."""

    price: Amount
    down: Down

    @property
    def asked(self) -> str | None:
        """The path of the figure in it that is `"?"`, if one is."""
        figures = {
            "price": self.price,
            "down.percent": self.down.percent,
            "down.amount": self.down.amount,
        }
        return next((name for name, figure in figures.items() if figure == UNKNOWN), None)

    def lent(self, minor_unit: Decimal, **figures: Decimal) -> Decimal:
        """The amount lent, with `price`, `percent` or `amount` in place of what is stated."""
        price = figures.get("price", self.price)
        percent = figures.get("percent", self.down.percent)
        amount = figures.get("amount", self.down.amount)
        if not isinstance(price, Decimal):
            raise ValueError("a price that is asked for is no number yet")
        if isinstance(percent, Decimal):
            with precise():
                amount = to_step(price * percent / 100, minor_unit, "nearest")
        return price - Decimal(amount or 0)
