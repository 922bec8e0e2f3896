"""Where a figure stands in a document, as a value."""

from typing import Final, NamedTuple

from zephyrant.texts import worded

from .named import FIGURES_NAMED, Kind, Named


class FigurePath(NamedTuple):
    """The steps to a figure: payment, rate.percent, purchase.down.amount, clauses.2.step.percent
    (clauses by their place in the list, from 0)."""

    steps: tuple[str, ...]

    def __str__(self) -> str:
        """As it is written."""
        return ".".join(self.steps)

    @property
    def name(self) -> str:
        """What the figure is called where it stands: "percent", "repay"."""
        return self.steps[-1]

    @property
    def clause(self) -> int | None:
        """The place of its clause; None where it is in none."""
        return int(self.steps[1]) if self.steps[0] == "clauses" else None

    @property
    def verb(self) -> str:
        """What its clause does; nothing where it is in none."""
        return self.steps[2] if self.steps[0] == "clauses" else ""

    @property
    def is_of_purchase(self) -> bool:
        """Whether it is a figure of what is bought."""
        return self.steps[0] == "purchase"

    @property
    def is_rate(self) -> bool:
        """Whether it is a rate of interest, the loan's or a clause's."""
        return self.steps[-2:] == ("rate", "percent") or self.floats

    @property
    def floats(self) -> bool:
        """Whether it is a figure of a floating rate that can be asked for."""
        return self in (MARGIN, FIRST)

    @property
    def is_step(self) -> bool:
        """Whether payments grow by it."""
        return self.verb == "step"

    @property
    def is_percent(self) -> bool:
        """Whether it is a percent of any kind."""
        return self.name in ("percent", "growth", "highest") or self.steps[0] == "rate"

    @property
    def is_payment(self) -> bool:
        """Whether it is a payment, or what payments grow by."""
        return self.name in ("payment", "amount") and self.steps[0] not in ("purchase", "value")

    @property
    def kind(self) -> Kind:
        """Of what kind it is."""
        if self.is_percent:
            return "percent"
        if self == COVER_RATIO:
            return "ratio"
        return "count" if self in (COUNT, AMORTIZED_OVER) else "money"

    @property
    def named(self) -> Named:
        """What it is called, in words."""
        if self.steps[0] == "indices":
            return Named(worded("shift of the index"), "percent")
        if self.clause is not None:
            return Named(worded("figure of clause {clause}", clause=self.clause + 1), self.kind)
        return FIGURES_NAMED[str(self)]


def figure_path(text: str) -> FigurePath:
    """The path that is written so; `rate` is that of the loan's own."""
    return RATE if text == "rate" else FigurePath(tuple(text.split(".")))


PRINCIPAL: Final = FigurePath(("principal",))
RATE: Final = FigurePath(("rate", "percent"))
#: What is added to the index, and the whole rate until the first reset.
MARGIN: Final = FigurePath(("rate", "margin"))
FIRST: Final = FigurePath(("rate", "first"))
COUNT: Final = FigurePath(("count",))
PAYMENT: Final = FigurePath(("payment",))
BALANCE: Final = FigurePath(("balance",))
#: How many payments a level one is reckoned over, where fewer are made.
AMORTIZED_OVER: Final = FigurePath(("amortized_over",))
#: How many times the cash flow is the payments.
COVER_RATIO: Final = FigurePath(("cover", "ratio"))
#: One part of what is shared out, on the line.
PART: Final = FigurePath(("part",))
