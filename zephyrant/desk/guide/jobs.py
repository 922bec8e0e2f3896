"""The jobs of the guide. Numbers stand in braces, as plain decimals: they are told in the marks of
whoever reads them. The examples are our own."""

from typing import Final, NamedTuple


class Job(NamedTuple):
    """What somebody comes for, what to do, and an example.

    `line`: the example as one says it; `show`: the sheet that is open then. `opens`: what the
    example is, where it is no loan. `answer`: what it comes to, as far as that is one figure.
    """

    title: str
    when: str
    steps: tuple[str, ...]
    line: str = ""
    answer: str = ""
    show: str = ""
    opens: str = "case"


JOBS: Final[dict[str, Job]] = {
    "payment": Job(
        "What is the payment?",
        "The amount, the rate and the term are agreed; the payment is not, and perhaps something "
        "is to be left at the end.",
        (
            "On the list of cases press i and say the loan in a line; Enter opens it.",
            "The payment stands there large, under it what is paid and charged in all.",
            "For a balloon press b and type it: {8000} left at the end makes the payment {864.63}.",
        ),
        line="{43700} at {5.4} % over 48 months",
        answer="Each monthly payment is {1014.32}",
    ),
    "rate": Job(
        "Which rate is that?",
        "An offer names an amount and its payments, and no rate.",
        (
            "Say the amount and the payments, and ask for the rate.",
            "The rate stands as it is quoted, nominal; the effective one beside it is the one to "
            "compare. Total interest stands under what is paid.",
        ),
        line="{86500}, 24 monthly payments of {4150}, rate?",
        answer="The rate is {13.923769} %",
    ),
    "true-cost": Job(
        "What does it cost with its fees?",
        "Points or a fee are kept back, so that less is paid out than is owed.",
        (
            "Say the fee behind the loan, or under the sentence of a case: 2 % fee kept back.",
            "Net proceeds, the lender’s yield and both yearly costs tell it with the fee; the "
            "payment stays as it was.",
        ),
        line="{128400} at {5.85} % over 9 years, 2 % fee kept back",
        answer="Each monthly payment is {1532.03}",
    ),
    "how-often": Job(
        "The same loan paid more often, or at another rate",
        "Monthly, quarterly or yearly: what does it change?",
        (
            "In the sentence choose how often (v and a letter); whether the term or the number of "
            "payments stays is asked.",
            "Change the rate: the answer follows at every key.",
            "Trail (z) keeps each answer. Pin those to compare, then look at them side by side.",
        ),
        line="{62400} at {5.9} % over 6 years, quarterly",
        answer="Each quarterly payment is {3106.23}",
    ),
    "how-long": Job(
        "How long does it take?",
        "What can be paid is known, how many payments that takes is not.",
        (
            "Say what is paid; the number of payments is what is missing.",
            "What is owed after some of them: press o and type 9, or every 12.",
            "To end in 40 payments: press m, type 40, then put ? for the payment.",
        ),
        line="{38700} at {4.6} % paying {815} a month",
        answer="It is repaid by {53} monthly payments",
    ),
    "capacity": Job(
        "How much can they borrow?",
        "A payment they can carry, or a share of an income, and the terms you lend at.",
        (
            "Say the payment and ask for the amount.",
            "From an income: say it as {32} % of {4850}, or take “Payment from an income” under "
            "the sentence.",
        ),
        line="{735} a month at {6.9} % over 7 years, amount?",
        answer="The amount lent is {48857.20}",
    ),
    "interest-of": Job(
        "Interest and principal of some payments",
        "The books need the interest of a year, or of a stretch of payments.",
        (
            "Press x and type the stretches: 1; 1-12; 253-264; all.",
            "Or drag over the line: what the stretch adds up to stands under it.",
            "Press j and type 131 to go to that row of the schedule.",
        ),
        line="{148600} at {5.7} % over 22 years",
        answer="Each monthly payment is {988.88}",
    ),
    "last-payment": Job(
        "Whole payments and a smaller last one",
        "They pay a round sum each month; the last payment settles what is left.",
        (
            "Say what they pay: the number of payments is rounded up to a whole one.",
            "The last payment stands among the results, and in the last row of the schedule.",
            "Export (f) gives the schedule as a table or as a workbook with live arithmetic.",
        ),
        line="{54000} at {6.2} % paying {1175} a month, how long?",
        answer="It is repaid by {53} monthly payments",
    ),
    "in-advance": Job(
        "Payments in advance",
        "A lease, or anything paid at the start of each month.",
        (
            "Say in advance, or choose start instead of end in the sentence.",
            "The first payment goes out with the money, so that less is charged.",
            "For many of them at once see “A table of loans”.",
        ),
        line="{22300} at {7.4} %, 36 payments in advance",
        answer="Each monthly payment is {688.40}",
    ),
    "round-payment": Job(
        "A payment in round figures",
        "Nobody pays {772.08}: payments are rounded up to tens.",
        (
            "Choose how payments are rounded, under the sentence, or say it.",
            "The last payment takes up what that changes.",
            "What is owed after a year: press o and type 12.",
        ),
        line="{45800} at {6.6} % over 6 years, payment rounded up to 10",
        answer="Each monthly payment is {780.00}",
    ),
    "purchase": Job(
        "A price, a down payment and a balloon",
        "Something is bought; a part is paid at once, a part is left to the end.",
        (
            "Say the price, the down payment and the balloon, or take “Price and down payment” "
            "under the sentence.",
            "Which price does a payment of {1150} carry? Put {1150} for the payment and ? for the "
            "price: {179916.52}.",
        ),
        line="price {186000}, 22 % down, balloon {31500}, 12 years at {5.15} %",
        answer="Each monthly payment is {1194.25}",
    ),
    "equal-principal": Job(
        "Equal principal, or interest only",
        "What is lent is repaid in equal parts with the interest on top, or only at the end.",
        (
            "Say so in the line, or choose it where the sentence says what the payments are (key "
            "the comma): equal principal, parts in percent, interest only, all at the end.",
            "The payment is the first one; the schedule shows how they fall.",
            "Level payments as over a longer time, the rest due with the last: 60 payments, as "
            "over 25 years.",
        ),
        line="{96000} at {5.75} % over 5 years, equal principal",
        answer="The first monthly payment is {2060.00}",
    ),
    "charges": Job(
        "Insurance or a service charge beside the payment",
        "Something is collected with every payment that is neither principal nor interest.",
        (
            "Say it behind the loan, or under the sentence of a case: insurance {18.50} a month; a "
            "percent of the balance does, too.",
            "The payment stays principal and interest; a note tells what it is with its charges. "
            "They have a column of their own.",
            "Both yearly costs count them. Where the rule does not, say so in the clause.",
        ),
        line="{48250} at {6.35} % over 5 years, insurance {18.50} a month",
        answer="Each monthly payment is {940.68}",
    ),
    "cover": Job(
        "What a cash flow and a value let be lent",
        "A firm repays out of what it earns, and what it gives as security has a value.",
        (
            "Under the sentence choose “Cash flow and cover” and “Value it is lent on”, state "
            "them, and ask what can be lent within them.",
            "The lesser of the two is lent: a note says which binds, and by how much more the "
            "other alone would lend. Cover and loan to value stand in the schedule and under the "
            "line, year by year.",
            "To hold the cover exactly, let the payments follow the cash flow: choose sculpted "
            "payments in the sentence.",
        ),
        line="cash flow {186000} a year, cover {1.3}, {6} % over 12 years, worth {2000000}, up to "
        "{65} %",
        answer="The amount lent is {1221813.60}",
    ),
    "days": Job(
        "Payments on business days",
        "A payment that falls on a weekend or a holiday is made on a business day.",
        (
            "State the day it is lent on, then choose “Business days” under the sentence: the "
            "calendars (countries, TARGET, or several together), where payments move, and to which "
            "day interest is counted.",
            "The schedule bears the days on which payments are made; those that are moved have the "
            "day beside them that they were scheduled for.",
            "The EU yearly cost takes the days on which money moves, the US one those on which it "
            "was due.",
        ),
        line="{48250} at {6} % over 12 months, lent 31 January 2026, actual/360, on business days "
        "of TARGET, modified following, adjusted",
        answer="Each monthly payment is {4153.25}",
    ),
    "floating": Job(
        "A rate that follows an index",
        "The rate is an index plus a margin, fixed anew every half-year.",
        (
            "State the loan, then choose “Floating rate” under the sentence: the margin, the "
            "bounds, how often it is reset, and whether payments are set anew then.",
            "Take the fixings of an index that is kept on the desk, or paste your own, a day and a "
            "percent on each line. What is not fixed yet is flat unless you state a path, or shift "
            "it by percentage points.",
            "A note says on which path the answer rests; the rates stand under the line where they "
            "begin. To see several paths side by side vary the shift under “What if”.",
        ),
        line="{240000} at {4.15} %, 40 quarterly payments",
        answer="Each quarterly payment is {7361.50}",
    ),
    "monthly-rate": Job(
        "The rate of a month",
        "You know the payment and want what is charged from one payment to the next.",
        (
            "Ask for the rate; the rate of one payment period stands among the results.",
            "To state it so, choose the rate of a payment period where the sentence says how it "
            "is quoted.",
        ),
        line="{24900}, 36 months in advance, pays {765}, rate?",
        answer="The rate is {7.057933} %",
    ),
    "what-moves-it": Job(
        "What moves the payment?",
        "The rate is not fixed yet: how much does an eighth do, and a longer term?",
        (
            "Press y. Vary the rate by eighths around the stated one: ± {0.75} by 1/8.",
            "Add the number of payments: 6, 8, 10, 12 years.",
            "Each cell opens as a case of its own.",
        ),
        line="{74200} at {6.375} % over 10 years",
        answer="Each monthly payment is {837.81}",
        show="moves",
    ),
    "quotes": Job(
        "Which offer is cheapest?",
        "Several rates, each quoted in its own way.",
        (
            "Press q and v: quotes side by side. a adds a list, and in it a line for each quote.",
            "They are ranked by what a year really costs; with an amount and a term also by the "
            "payment.",
        ),
        opens="quotes",
    ),
    "rates-in-turn": Job(
        "Other rates by year, and lumps",
        "The rate changes every year and large sums are repaid in between: what closes it?",
        (
            "Say each rate with its place, and each lump; or add them as clauses.",
            "The line shows where each stands; drag one to move it.",
        ),
        line="{96300} for 3 years, yearly, pays 0, {7.1} % for the first year, from year 2 at "
        "{6.4} %, from year 3 at {6.9} %, at 1 repay {21000}, at 2 repay {38500}, what is left?",
        answer="Still owed at the end is {52267.78}",
    ),
    "highest-rate": Job(
        "The highest rate at which it works",
        "They pay {4350} and no more; how far may the rate rise?",
        (
            "State the payment and the number of payments and ask for the rate: above it the loan "
            "is not repaid in time.",
            "Or aim: take “Aim at a result” and say which figure may move for it.",
        ),
        line="{296000}, 96 months, pays {4350}, rate?",
        answer="The rate is {9.088098} %",
    ),
    "put-aside": Job(
        "Putting money aside",
        "A sum now and something every month: what is there after some years?",
        (
            "Say what is put aside now and each month. The sentence begins with “We put aside”.",
            "What is put aside each month is a clause; what is there at the end is the ?.",
        ),
        line="put aside {2350}, adding {85} a month, {3.2} %, 8 years, what is there?",
        answer="There at the end is {12320.21}",
    ),
    "paying-more": Job(
        "What if they pay more?",
        "More each month than is due, or another payment instead of it.",
        (
            "Press + (or under “What if” choose “Paying more”): an extra each "
            "month, a lump, or another payment.",
            "Both loans stand beside each other: how much sooner it ends, what interest is saved.",
        ),
        line="{71500} at {6.3} % over 20 years",
        answer="Each monthly payment is {524.70}",
        show="more",
    ),
    "owed-at": Job(
        "What is owed at some moment?",
        "After a year, after payment 100, on a day.",
        (
            "Press o and type the moments: every 12; 100. With dates also a day.",
            "Or move the cursor along the line with the arrow keys.",
        ),
        line="{104000} at {6.45} % over 15 years",
        answer="Each monthly payment is {903.10}",
    ),
    "early-end": Job(
        "Settled early, on a day",
        "They want to repay all on a day between two payments.",
        (
            "Give the loan its dates: say lent 15 March 2027, or take “Dates” under the sentence.",
            "Press . (or under “What if” choose “Settled early”) and type the day: "
            "balance, accrued interest, and what the contract charges: a percent, one that falls "
            "from year to year, months of interest, an amount, a make-whole, a part of each year "
            "free of it.",
            "To hold it against another offer choose “Refinanced”: from when on it pays, and what "
            "the saving is worth.",
        ),
        line="{64000} at {7.2} % over 6 years, lent 15 March 2027",
        answer="Each monthly payment is {1097.29}",
        show="settled",
    ),
    "works": Job(
        "Money lent in parts",
        "A building: advances in the first year, interest only until it stands, winters paused, a "
        "fee kept back.",
        (
            "Say each part as a clause, or paste them as lines under the sentence.",
            "The yearly costs count the fee and every date.",
        ),
        line="{120000} at {6.4} % over 5 years, lent 1 March 2027, at 4 advance {60000}, at 8 "
        "advance {45000}, interest only for the first year, {1.5} % fee kept back, nothing in Dec "
        "Jan Feb",
        answer="From payment 13 the monthly payment is {7170.42}",
    ),
    "flows": Job(
        "Only days and amounts",
        "No loan round them: money went out and came back on some days. Which rate is that?",
        (
            "On the list press p (or choose Flows) and paste the table: a day and an amount a "
            "line, below zero what goes out.",
            "Every rate that fits is found; where there are several the curve shows why.",
        ),
        opens="flows",
        answer="The rate is {11.296792} %",
    ),
    "side-by-side": Job(
        "Two variants for the committee",
        "One page with both, figure by figure.",
        (
            "On the list pick the cases with Space and press v; or pin answers from the trail of a "
            "case.",
            "Choose which is the base; Export (f) gives it as pages to print.",
        ),
        line="{48250} at {6.35} % compounded half-yearly over 5 years",
        answer="Each monthly payment is {938.82}",
    ),
    "committee": Job(
        "Before the committee",
        "Somebody else has to look at it and approve it before it is filed.",
        (
            "In the case press ; and put it up for review by a colleague; nobody who changed it "
            "can judge it.",
            "They find it on their list, comment on its figures, approve it or send it back.",
            "Approved, it stays as it is: a change is a new version beside it. The statement to "
            "file (f) says who, when and by which version of the core.",
        ),
        line="{52900} at {6.15} % over 5 years",
        answer="Each monthly payment is {1026.40}",
        show="review",
    ),
    "table": Job(
        "A table of loans",
        "A file with a loan a row, each with its own figure missing.",
        (
            "Press g and open the file (CSV, workbook, Parquet ...), or drop it on the page; or "
            "press p and paste it.",
            "Say which column is what; put ? where a figure is to be found. “Templates” keeps that "
            "by a name for the next file.",
            "Rows that are no loans are told one by one; the result is a table again.",
            "“What it moves, by period” adds up principal, interest and balance, with average "
            "life, duration and early repayment.",
        ),
        opens="table",
    ),
}
