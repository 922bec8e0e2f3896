"""The figures and results of a loan by name: what people call them, and of what kind they are."""

from typing import Final, Literal, NamedTuple

from zephyrant.texts import Said, worded

#: Money in the loan's currency, a percent, a count of payments, a day, how many times.
Kind = Literal["money", "percent", "count", "day", "ratio"]


class _Named(NamedTuple):
    title: str
    kind: Kind
    full: str = ""


class Named(_Named):
    """What a figure or a result is called in a sentence, and its kind; `full`: what it is called
    where it stands alone, if that is more. In the language of whoever reads it."""

    __slots__ = ()

    #: What it is called in a sentence.
    title = Said()
    #: What it is called alone, if that is more.
    full = Said()

    @property
    def alone(self) -> str:
        """What it is called where it stands alone."""
        return self.full or self.title[0].upper() + self.title[1:]

    @property
    def with_article(self) -> str:
        """ "a total paid", "an end date"."""
        if self.title[0] in "aeioAEIO":
            return worded("an {title}", title=self.title)
        return worded("a {title}", title=self.title)


#: What a document states, by path; of clauses it is told by what they do.
FIGURES_NAMED: Final = {
    "principal": Named("amount lent", "money"),
    "purchase.price": Named("price", "money"),
    "purchase.down.amount": Named("down payment", "money"),
    "purchase.down.percent": Named("down payment", "percent"),
    "rate.percent": Named("rate", "percent"),
    "rate.margin": Named("margin", "percent"),
    "rate.first": Named("first rate", "percent"),
    "rate.floor": Named("floor", "percent"),
    "rate.cap": Named("cap", "percent"),
    "count": Named("number of payments", "count"),
    "payment": Named("payment", "money"),
    "balance": Named("balance at the end", "money"),
    "amortized_over": Named("payments it is reckoned over", "count"),
    "cover.cash_flow": Named("cash flow", "money"),
    "cover.growth": Named("growth of the cash flow", "percent"),
    "cover.ratio": Named("cover", "ratio", "Cover of the payments"),
    "value.amount": Named("value", "money", "Value it is lent on"),
    "value.highest": Named("highest loan to value", "percent"),
}
#: The columns of a schedule.
COLUMNS_NAMED: Final = {
    "number": Named("number", "count", "Payment no."),
    "date": Named("due", "day"),
    "scheduled": Named("scheduled for", "day", "Scheduled for"),
    "opening": Named("opening", "money", "Opening balance"),
    "advance": Named("lent", "money"),
    "fee": Named("fee added", "money"),
    "interest": Named("interest", "money"),
    "principal": Named("principal", "money"),
    "payment": Named("payment", "money"),
    "repay": Named("on top", "money", "Repaid on top"),
    "charge": Named("charges", "money", "Charges"),
    "closing": Named("closing", "money", "Closing balance"),
    "actuarial_closing": Named("actuarial", "money", "Actuarial closing balance"),
    "carrying": Named("carrying amount", "money"),
    "cover_ratio": Named("cover", "ratio", "Cover"),
    "loan_to_value": Named("loan to value, %", "percent", "Loan to value, %"),
}
#: What comes of it; `{place}` is to be filled.
RESULTS_NAMED: Final = {
    "payment": Named("payment", "money"),
    "total_paid": Named("total paid", "money"),
    "total_interest": Named("total interest", "money"),
    "total_fees": Named("total fees", "money"),
    "total_charges": Named("total charges", "money"),
    "final_payment": Named("last payment", "money"),
    "balance_due": Named("balance due with the last", "money", "Balance due with the last payment"),
    "net_proceeds": Named("net proceeds", "money"),
    "total_cost": Named("total cost", "money", "Total cost: interest and fees"),
    "count": Named("number of payments", "count"),
    "end_date": Named("end date", "day", "Ends on"),
    "periodic": Named("rate of one payment period", "percent"),
    "nominal": Named("nominal rate", "percent", "Nominal rate a year"),
    "effective": Named("effective rate", "percent", "Effective rate a year"),
    "lowest_cover": Named("lowest cover", "ratio"),
    "loan_to_value": Named("loan to value", "percent"),
    "slack_cover": Named("more by the cover alone", "money", "The cover alone would lend more"),
    "slack_value": Named("more by the value alone", "money", "The value alone would lend more"),
    "balance": Named("balance after payment {place}", "money"),
    "interest": Named("interest of payments {place}", "money"),
    "per_thousand": Named("cost of each 1,000 lent", "money"),
    "yield_nominal": Named("lender’s yield", "percent", "Lender’s yield, nominal"),
    "yield_effective": Named("lender’s yield", "percent", "Lender’s yield, effective a year"),
    "us_apr": Named(
        "US yearly rate",
        "percent",
        "US actuarial APR, nominal",
    ),
    "eu_aprc": Named("EU yearly rate", "percent", "EU APRC, effective"),
}


def result_named(name: str) -> Named:
    """A result by its name, those at a payment or over a stretch of them too: `balance@24`,
    `interest@13-24`."""
    plain, _, place = name.partition("@")
    named = RESULTS_NAMED[plain]
    return named._replace(title=named.title.format(place=place)) if place else named
