"""What can be chosen in a loan document, and what each choice is called.

`{noun}` (of a payment period), `{currency}` and `{step}` (of rounding) stand to be filled.
"""

from typing import Final, Literal, NamedTuple, get_args

from zephyrant.texts import Said, Worded

from ..calendars.business_days import Roll
from ..calendars.dates import DayCount
from ..numbers.annuity import Timing
from .clauses import LEVELS, STRETCHES, Pay, VerbName
from .fields import OddDays, We
from .repayment import RepaidBy, StyleName


class _Choice(NamedTuple):
    label: str
    shown: str = ""


class Choice(_Choice):
    """What a choice is called where choices are listed; `shown`: in the sentence, if otherwise. In
    the language of whoever reads it."""

    __slots__ = ()

    #: What it is called where choices are listed.
    label = Said()
    #: What it is called in the sentence, if otherwise.
    shown = Said()

    @property
    def in_sentence(self) -> str:
        """What it is called in the sentence."""
        return self.shown or self.label


TIMING: Final[dict[Timing, Choice]] = {
    "in-arrears": Choice("end of each {noun}, in arrears", "end"),
    "in-advance": Choice("start of each {noun}, in advance", "start"),
}
#: The same where there is room for two words only.
TIMED: Final[Worded[Timing]] = Worded({"in-arrears": "in arrears", "in-advance": "in advance"})


class _Repaying(NamedTuple):
    label: str
    shown: str
    said: str
    is_regular: bool = True
    states_balance: bool = True


class Repaying(_Repaying):
    """A way of repaying: what it is called where ways are listed and in a sentence, and what is
    `said` of the payments; `is_regular`: they are all made; `states_balance`: what is left at the
    end is stated besides. In the language of whoever reads it."""

    __slots__ = ()

    #: What it is called where ways are listed.
    label = Said()
    #: What it is called in a sentence.
    shown = Said()
    #: What is said after so many payments; `{payment}` and other entries stand to be filled.
    said = Said()


REPAYMENT: Final[dict[RepaidBy, Repaying]] = {
    "level": Repaying("level payments", "level payments", "of {payment}"),
    "equal-principal": Repaying(
        "equal principal, interest on top",
        "equal principal",
        "of equal principal, the first {payment},",
    ),
    "percents": Repaying(
        "parts in percent, interest on top",
        "parts in percent",
        "of {percents} % of the principal, the first {payment},",
    ),
    "sculpted": Repaying(
        "sculpted to the cash flow",
        "sculpted payments",
        "sculpted to the cash flow,",
    ),
    "interest-only": Repaying(
        "interest only, principal at the end",
        "interest only until the end",
        "of interest alone, the first {payment}, and the principal with the last,",
    ),
    "at-the-end": Repaying(
        "all at the end, interest added",
        "all paid at the end",
        ", all paid at the end: {payment}",
        is_regular=False,
        states_balance=False,
    ),
    "over": Repaying(
        "level, as over a longer time",
        "payments as over a longer time",
        "of {payment}, as over {amortized_over}, the rest due with the last,",
        states_balance=False,
    ),
    "sum-of-digits": Repaying(
        "level, interest by sum-of-digits",
        "sum-of-digits",
        "of {payment}, interest shared out by sum-of-digits,",
        states_balance=False,
    ),
}
#: What floor and cap of a floating rate hold.
HELD: Final[dict[str, Choice]] = {
    "index": Choice("the index, before the margin", "index"),
    "rate": Choice("the rate, margin included", "rate"),
}
#: What becomes of the payments where a rate is reset.
AT_RESET: Final[dict[str, Choice]] = {
    "kept": Choice("the payments stay", "the payments stay"),
    "re-level": Choice("the payments are set anew", "the payments are set anew"),
}
DAY_COUNTS: Final[dict[DayCount, Choice]] = {
    "equal": Choice("every period alike"),
    "30/360": Choice("30/360"),
    "30E/360": Choice("30E/360"),
    "actual/365": Choice("actual/365"),
    "actual/360": Choice("actual/360"),
    "actual/actual": Choice("actual/actual"),
}
ODD_DAYS: Final[dict[OddDays, Choice]] = {
    "simple": Choice("simple interest"),
    "compound": Choice("compound interest"),
}
#: Where a payment goes that falls on a day on which banks are closed.
ROLLS: Final[dict[Roll, Choice]] = {
    "following": Choice("following: the next business day", "following"),
    "modified-following": Choice(
        "modified following: the next in the same month, else the last before",
        "modified following",
    ),
    "preceding": Choice("preceding: the last business day before", "preceding"),
}
#: To which day interest is counted where a payment is moved.
ADJUSTED: Final[dict[str, Choice]] = {
    "no": Choice("to the day it was due, unadjusted", "unadjusted"),
    "yes": Choice("to the day it is moved to, adjusted", "adjusted"),
}
PAYMENT_ROUNDING: Final = {
    "nearest": Choice("rounded to the nearest"),
    "up": Choice("rounded up to the next"),
    "none": Choice("not rounded"),
}
INTEREST_ROUNDING: Final = {
    "nearest": Choice("rounded to {step}"),
    "none": Choice("carried unrounded"),
}
OVERPAID: Final = {
    "cut": Choice("cut to what is owed"),
    "shown": Choice("shown as overpaid"),
}
TAKEN: Final[dict[str, Choice]] = {
    "from-proceeds": Choice("kept back from the proceeds"),
    "added": Choice("added to what is owed"),
    "apart": Choice("paid apart"),
}
PAY: Final[dict[Pay, Choice]] = {
    "nothing": Choice("nothing is paid"),
    "interest": Choice("only the interest is paid"),
}
DOWN_PAYMENT: Final = {
    "percent": Choice("percent of the price", "%"),
    "amount": Choice("an amount, {currency}", "{currency}"),
}
FEE: Final = {
    "percent": Choice("% of what is lent", "%"),
    "amount": Choice("an amount in {currency}", "{currency}"),
}
CHARGE: Final = {
    "percent": Choice("% a year", "% a year"),
    "amount": Choice("an amount in {currency}", "{currency}"),
}
CHARGED_OF: Final[dict[Literal["balance", "principal"], Choice]] = {
    "balance": Choice("of what is owed before it", "of the balance"),
    "principal": Choice("of what was lent", "of the principal"),
}
IN_COSTS: Final = {
    "yes": Choice("counted in the yearly costs"),
    "no": Choice("not counted in the yearly costs"),
}
STEP: Final = {
    "percent": Choice("percent", "%"),
    "amount": Choice("an amount in {currency}", "{currency}"),
}
THEN: Final = {
    "": Choice("the payment stays, the end moves", "the payment stays as it is"),
    "re-level": Choice("the payment is set anew, the end stays", "the payment is set anew"),
}


#: Those in which all rows of a table can be: by name alone.
BY_NAME: Final[tuple[StyleName, ...]] = get_args(StyleName)


class _Speaker(NamedTuple):
    label: str
    repaid: str
    without: str
    lent: str
    left: str
    there: str
    balloon: str


class Speaker(_Speaker):
    """How a loan reads to who speaks, in the language of whoever reads it."""

    __slots__ = ()

    #: What opens its sentence, and within it says that more comes or the rest.
    label = Said()
    #: What the payments do.
    repaid = Said()
    #: What is said where there are none.
    without = Said()
    #: What the amount is called.
    lent = Said()
    #: What is there at the end, where it stands alone.
    left = Said()
    #: What is there at the end, in the sentence.
    there = Said()
    #: What a balloon is called.
    balloon = Said()

    @property
    def within(self) -> str:
        """The opening where it stands inside a sentence."""
        return f"{self.label[0].lower()}{self.label[1:]}"


#: Who speaks, and the words that follow; no figure does.
WE: Final[dict[We, Speaker]] = {
    "lend": Speaker(
        *("We lend", "repaid by", "with no regular payments over", "lent", "Still owed at the end"),
        *("still owed", "Balloon, still owed at the end"),
    ),
    "borrow": Speaker(
        *("We borrow", "repaid by", "with no regular payments over", "borrowed"),
        *("Still owed at the end", "still owed", "Balloon, still owed at the end"),
    ),
    "put-aside": Speaker(
        *("We put aside", "paid out in", "with nothing paid out over", "put aside"),
        *("There at the end", "there", "There at the end"),
    ),
}


class _Verb(NamedTuple):
    label: str
    short: str
    figure: Literal["amount", "percent", "either", "none"]
    units: dict[str, Choice]
    is_stretch: bool
    may_level: bool


class Verb(_Verb):
    """What a clause does, in words of whoever reads it: `label` where verbs are listed, `short`
    where there is room for a word only. `figure`: in what its figure is; `either` of a percent and
    an amount. `units`: what those are then called."""

    __slots__ = ()

    #: What it is called where verbs are listed.
    label = Said()
    #: What it is called where there is room for a word only.
    short = Said()


def _verb(
    name: VerbName,
    label: str,
    short: str,
    figure: Literal["amount", "percent", "either", "none"] = "amount",
    units: dict[str, Choice] | None = None,
) -> Verb:
    return Verb(label, short, figure, units or {}, name in STRETCHES, name in LEVELS)


#: Every verb, in the order one looks for it.
VERBS_NAMED: Final[dict[VerbName, Verb]] = {
    "repay": _verb("repay", "more is repaid", "repaid"),
    "advance": _verb("advance", "more is lent", "lent"),
    "rate": _verb("rate", "another rate holds", "rate", "percent"),
    "payment": _verb("payment", "another payment is made", "payment"),
    "pay": _verb("pay", "nothing or interest only is paid", "", "none"),
    "step": _verb("step", "the payment grows", "grows", "either", STEP),
    "fee": _verb("fee", "a fee is taken", "fee", "either", FEE),
    "charge": _verb("charge", "a charge is collected", "charge", "either", CHARGE),
}
#: Where there is room for a word or two: what is paid in place of the payment.
PAY_SHORT: Final[Worded[Pay]] = Worded({"nothing": "nothing paid", "interest": "interest only"})
