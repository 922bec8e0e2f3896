"""The words of the trade and of the desk, each explained once: on the screen where it stands, in
the guide, in docs/glossary.md.

What is common practice, and what an authority rules, is said so. Results bear the names they have
in an answer.
"""

import re
from typing import Final, NamedTuple

from zephyrant.texts import Said


class _Term(NamedTuple):
    title: str
    about: str
    says: str


class Term(_Term):
    """A word, under which heading it stands, and what it means, in the language of whoever reads
    it."""

    __slots__ = ()

    #: The word.
    title = Said()
    #: The heading.
    about = Said()
    #: What it means.
    says = Said()


def _term(title: str, about: str, says: str) -> Term:
    """A term; a percent and its sign stay together."""
    return Term(title, about, re.sub(r"(?<=\d) %", "\u00a0%", says))


RATES: Final = "Rates"
LOAN: Final = "The loan"
RESULTS: Final = "What comes of it"
DESK: Final = "The desk"

GLOSSARY: Final[dict[str, Term]] = {
    # Rates
    "rate": _term(
        "Rate",
        RATES,
        "The price of a loan in percent. A percent says little until one knows how it is quoted: "
        "nominal or effective, compounded how often.",
    ),
    "nominal": _term(
        "Nominal rate",
        RATES,
        "A yearly percent that is divided, not rooted: 6 % compounded monthly charges 0.5 % each "
        "month, which comes to more than 6 % in a year. It says something only together with its "
        "compounding.",
    ),
    "effective": _term(
        "Effective rate",
        RATES,
        "What one lent has grown by after a year, interest on interest included: 6 % nominal, "
        "compounded monthly, is 6.1678 % effective. Effective rates can be compared as they stand.",
    ),
    "periodic": _term(
        "Rate of one payment period",
        RATES,
        "The percent charged from one payment to the next. Whatever the quote, this is what the "
        "loan is reckoned with.",
    ),
    "compounding": _term(
        "Compounded",
        RATES,
        "How often interest is added to what is owed and bears interest itself: monthly, "
        "half-yearly. It need not be as often as payments are made.",
    ),
    "continuous": _term(
        "Compounded continuously",
        RATES,
        "Compounded at every moment: in a year one grows to e to the power of the rate.",
    ),
    "flat": _term(
        "Flat rate",
        RATES,
        "Interest on the whole amount lent for the whole term, as if nothing were repaid "
        "meanwhile. The effective rate is, as a rule, nearly twice as high.",
    ),
    "simple": _term(
        "Simple interest",
        RATES,
        "Interest on the amount alone, in proportion to time, none on interest: usual for less "
        "than a year.",
    ),
    "discount": _term(
        "Discount",
        RATES,
        "Interest taken at the start, as a share of what is repaid at the end. One receives less "
        "and owes the full amount.",
    ),
    "one_clock": _term(
        "One clock",
        RATES,
        "How the quoted percent became the rate from one payment to the next: the quote counts "
        "time in one way, the payments in another.",
    ),
    "year_of_360": _term(
        "Year of 360 days",
        RATES,
        "The percent is for 360 days, so that 365 days bear 365/360 of it: common practice in "
        "money markets.",
    ),
    "day_count": _term(
        "Day count",
        RATES,
        "How days become parts of a year: by their number over 360 or 365, or by months of thirty "
        "days.",
    ),
    # The loan
    "principal": _term(
        "Amount lent, principal",
        LOAN,
        "What is lent and owed; of a payment the part that brings down what is owed.",
    ),
    "interest": _term(
        "Interest",
        LOAN,
        "What is charged for what is owed. Each payment pays it first; the rest of the payment is "
        "principal.",
    ),
    "business_days": _term(
        "Business days",
        LOAN,
        "The days on which banks are open: no weekends, no public holidays of the calendars named; "
        "closed where any of them is. A payment due on another day is made on one of these.",
    ),
    "roll": _term(
        "Following, modified following, preceding",
        LOAN,
        "Where a payment moves that is due on a closed day: to the next business day; to the next "
        "unless the month ends before it, then to the last; to the last before. Common practice.",
    ),
    "adjusted": _term(
        "Adjusted, unadjusted",
        LOAN,
        "Whether interest is counted to the day a payment is moved to, or to the day on which it "
        "was due. Common practice.",
    ),
    "payment": _term(
        "Payment",
        LOAN,
        "What is paid each time, interest and principal together; the same each time unless "
        "something is said.",
    ),
    "count": _term(
        "Number of payments",
        LOAN,
        "How many regular payments there are. With how often they are made it is the term.",
    ),
    "balance": _term(
        "Balance",
        LOAN,
        "What is still owed at a moment; at the end nothing, or a balloon.",
    ),
    "balloon": _term(
        "Balloon",
        LOAN,
        "What is still owed after the last regular payment, and due in one sum.",
    ),
    "in_arrears": _term(
        "In arrears",
        LOAN,
        "Payments at the end of each period: the first one a period after the money. Loans are "
        "usually paid so.",
    ),
    "in_advance": _term(
        "In advance",
        LOAN,
        "Payments at the start of each period: the first one together with the money. Rent and "
        "leases are usually paid so.",
    ),
    "down_payment": _term(
        "Down payment",
        LOAN,
        "What the buyer pays of the price at once; the rest is lent.",
    ),
    "odd_first_period": _term(
        "Odd first period",
        LOAN,
        "The time from the money to the first payment, where it is longer or shorter than the "
        "others.",
    ),
    "fee": _term(
        "Fee",
        LOAN,
        "A price beside the interest: kept back from what is paid out, added to what is owed, or "
        "paid apart.",
    ),
    "charge": _term(
        "Charges",
        LOAN,
        "What is collected with the payments and goes to others: insurance, taxes, service. They "
        "move no balance; yearly costs count them, unless it is said that they do not.",
    ),
    "points": _term(
        "Points",
        LOAN,
        "Percents of the amount lent, paid at the start, often for a lower rate.",
    ),
    "interest_only": _term(
        "Interest only",
        LOAN,
        "Payments of just the interest, so that what is owed stays as it is.",
    ),
    "equal_principal": _term(
        "Equal principal",
        LOAN,
        "Each payment repays the same part of what is lent, with the interest on top: payments "
        "fall with what is owed.",
    ),
    "sum_of_digits": _term(
        "Sum-of-digits",
        LOAN,
        "An old rule that shares interest out over the payments: of twelve the first bears 12 of "
        "78 parts, the next 11. Ended early, such a loan owes more than by the interest on what "
        "is owed.",
    ),
    "reckoned_over": _term(
        "As over a longer time",
        LOAN,
        "Level payments as a longer loan would have them, of which fewer are made: what they leave "
        "is due with the last.",
    ),
    "schedule": _term(
        "Schedule",
        LOAN,
        "Every payment with its interest, its principal and what is owed after it, to the cent. To "
        "amortize a loan is to repay it by such a schedule.",
    ),
    "rounding": _term(
        "Rounding",
        LOAN,
        "Payments and interest are rounded as cash is paid; the last payment settles what that "
        "leaves, so that every column adds up to the cent.",
    ),
    "floating": _term(
        "Floating rate",
        LOAN,
        "A rate that follows an index: a margin is added to what the index was when it was fixed, "
        "held by a floor or a cap. What is not fixed yet rests on a path that is stated.",
    ),
    "cover": _term(
        "Cover",
        LOAN,
        "How many times the cash flow of a period is to be its payments. With what is lent asked "
        "for it says what can be carried; sculpted payments hold it exactly.",
    ),
    "value": _term(
        "Loan to value",
        LOAN,
        "How much of the value of what is bought or built is lent at the most, in percent.",
    ),
    "payoff": _term(
        "Payoff",
        LOAN,
        "What settles a loan on a day: the balance with the interest accrued since the last "
        "payment, and what the contract charges for ending early.",
    ),
    "make_whole": _term(
        "Make-whole",
        LOAN,
        "A charge for ending early: what is still to be paid, discounted at a reference rate and a "
        "spread, less what is owed, and never less than nothing. Common practice.",
    ),
    "average_life": _term(
        "Average life",
        LOAN,
        "The time at which principal is repaid, each part weighted by its size: half a period more "
        "than half the term where equal parts are repaid. Common practice.",
    ),
    "duration": _term(
        "Duration",
        LOAN,
        "Macaulay: the time at which money comes, weighted by its worth at a stated rate. "
        "Modified: by how many percent a point more of that rate lowers it. Common practice.",
    ),
    "refinanced": _term(
        "Refinanced",
        LOAN,
        "A loan ended early, and what is then owed lent anew on other terms. It pays from the "
        "payment on after which one stays ahead, counting charge, fee and what is still owed.",
    ),
    # What comes of it
    "total_paid": _term(
        "Total paid", RESULTS, "All payments added up, the last one as it is paid."
    ),
    "total_interest": _term("Total interest", RESULTS, "All interest of the schedule added up."),
    "total_fees": _term("Total fees", RESULTS, "All fees added up, however they are taken."),
    "final_payment": _term(
        "Last payment",
        RESULTS,
        "The payment that brings the balance to where it is to be. It differs by what "
        "rounding left.",
    ),
    "end_date": _term("Ends on", RESULTS, "The day of the last payment."),
    "net_proceeds": _term(
        "Net proceeds",
        RESULTS,
        "What the borrower has in hand: all that is lent, less the fees kept back or paid apart at "
        "the start.",
    ),
    "total_cost": _term("Total cost", RESULTS, "Interest and fees together."),
    "per_thousand": _term(
        "Cost of each 1,000 lent", RESULTS, "The total cost, for each thousand that is lent."
    ),
    "yield_nominal": _term(
        "Lender’s yield",
        RESULTS,
        "The rate at which what the lender pays out and gets back are worth the same, fees "
        "included; nominal at the frequency of the payments.",
    ),
    "yield_effective": _term(
        "Lender’s yield, effective", RESULTS, "The same as an effective yearly rate."
    ),
    "us_apr": _term(
        "US actuarial APR",
        RESULTS,
        "The yearly rate a lender in the United States discloses: nominal, fees included, worked "
        "by the actuarial method of Regulation Z, appendix J.",
    ),
    "eu_aprc": _term(
        "EU APRC",
        RESULTS,
        "The annual percentage rate of charge of the European Union: effective, fees included, by "
        "the equation in the annex of the Consumer Credit Directive.",
    ),
    "lowest_cover": _term(
        "Lowest cover",
        RESULTS,
        "How many times the cash flow is what is regularly paid, in the period in which that is "
        "least. Balances, fees, charges and what is repaid on top do not count.",
    ),
    "loan_to_value": _term(
        "Loan to value", RESULTS, "What is lent, in percent of the value it is lent on."
    ),
    "slack_cover": _term(
        "The cover alone would lend more",
        RESULTS,
        "By how much more could be lent if the value did not hold it: the slack of the cover.",
    ),
    "slack_value": _term(
        "The value alone would lend more",
        RESULTS,
        "By how much more could be lent if the cover did not hold it: the slack of the value.",
    ),
    "carrying": _term(
        "Carrying amount",
        RESULTS,
        "What the loan stands at in the books where fees are spread over its life at the effective "
        "interest rate.",
    ),
    # The desk
    "unknown": _term(
        "The ?",
        DESK,
        "The figure to find. Put it in place of any figure; the others say what it is.",
    ),
    "line": _term(
        "The line",
        DESK,
        "The loan drawn over time: what is owed above, what is paid below. Point at it, drag over "
        "it, move clauses along it.",
    ),
    "clause": _term(
        "Clause",
        DESK,
        "Anything that departs from the regular run: another rate for a while, an extra repayment, "
        "a pause, a fee, more lent later.",
    ),
    "working": _term(
        "Working",
        DESK,
        "How the answer came about: each step with its formula, the formula with the figures in "
        "it, and what comes out.",
    ),
    "proof": _term(
        "Proof",
        DESK,
        "The loan rolled forward from the answer, payment by payment, ends where it should; and a "
        "second way of reckoning agrees.",
    ),
    "trail": _term(
        "Trail",
        DESK,
        "Every answer found in this case, newest first, each with what was given for it. One can "
        "go back to it, name it, or pin it beside the case.",
    ),
    "history": _term(
        "History",
        DESK,
        "What this case said earlier, who changed what and when. It can be brought back.",
    ),
    "review": _term(
        "Review",
        DESK,
        "A case put before somebody who is none of its authors, who comments on its figures, "
        "approves it or sends it back. Approved, it stays as it is.",
    ),
    "aim": _term(
        "Aim",
        DESK,
        "A question asked backwards: what a result is to be, and which figure may move for it.",
    ),
    "guess": _term(
        "Guess",
        DESK,
        "Something that was not said and was taken as is usual. It is marked, and can be said "
        "otherwise.",
    ),
    "side_by_side": _term(
        "Side by side",
        DESK,
        "Loans beside each other, figure by figure, each held against one of them, the base.",
    ),
    "what_if": _term(
        "What if",
        DESK,
        "Questions beside the loan as it stands: what moves the answer, paying more than is due, "
        "points for a lower rate, an early end. None of them changes the statement.",
    ),
}
