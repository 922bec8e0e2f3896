"""What clauses come to beside each other: which gives way where, of what a fee is a percent."""

from collections.abc import Iterator
from itertools import groupby

from .cut import fee_bases, overruled
from .document import Loan
from .line import Terms
from .parts import Share
from .sentence import clause_in_words
from .words import Marks, Money, Number, Percent, Sentence

#: Stretches in which a clause gives way that are told one by one.
_MOST_TOLD = 4
#: Kinds of clauses of which one wins; the others add up.
_COMPETING = ("payment", "pay", "rate")


def clause_notes(loan: Loan, terms: Terms, marks: Marks) -> tuple[tuple[str, ...], ...]:
    """Sentences for each clause, in the order of the document."""
    return tuple(tuple(_notes(loan, terms, place, marks)) for place in range(len(loan.clauses)))


def _notes(loan: Loan, terms: Terms, place: int, marks: Marks) -> Iterator[str]:
    verb = loan.clauses[place].verb
    rivals = {"payment", "pay"} if verb == "payment" else {verb}
    others = [clause for number, clause in enumerate(loan.clauses) if number != place]
    anew = verb == "payment" and any(clause.then for clause in others)
    if verb in _COMPETING and (anew or any(clause.verb in rivals for clause in others)):
        yield from _gives_way(loan, terms, place, marks)
    if isinstance(loan.clauses[place].fee, Share):
        yield from _is_percent_of(loan, terms, place, marks)


def _gives_way(loan: Loan, terms: Terms, place: int, marks: Marks) -> Iterator[str]:
    noun = "Period" if loan.clauses[place].verb == "rate" else "Payment"
    where = enumerate(overruled(terms, place))
    # Numbers that follow each other with the same winner have one difference to their place.
    runs = [
        [number for _, (number, _) in run] + [wins]
        for (_, wins), run in groupby(where, key=lambda each: (each[1][0] - each[0], each[1][1]))
    ]
    for *numbers, wins in runs[:_MOST_TOLD]:
        text = "{noun} {first}: “{other}” holds instead."
        if len(numbers) > 1:
            text = "{noun}s {first} to {last}: “{other}” holds instead."
        yield Sentence(
            text,
            noun=noun,
            first=Number(numbers[0]),
            last=Number(numbers[-1]),
            other=_in_words(loan, wins, marks),
        ).say(marks)
    if len(runs) > _MOST_TOLD:
        more = Sentence(
            "It gives way in {more} more stretches.", more=Number(len(runs) - _MOST_TOLD)
        )
        yield more.say(marks)


def _in_words(loan: Loan, place: int, marks: Marks) -> str:
    """A clause in words; beyond those of the document stand the payments that are set anew."""
    if place >= len(loan.clauses):
        return "the payment is set anew"
    return clause_in_words(loan, loan.clauses[place], marks)


def _is_percent_of(loan: Loan, terms: Terms, place: int, marks: Marks) -> Iterator[str]:
    fee = loan.clauses[place].fee
    if not isinstance(fee, Share) or not isinstance(
        terms.puts[place].amount, type(terms.principal)
    ):
        return
    bases = fee_bases(terms, place)
    of = {advanced for _, advanced in bases}
    percent = Percent(terms.puts[place].amount, 4, 0)
    if not of:
        yield "It is taken at no payment."
    elif of == {0}:
        yield Sentence(
            "{percent} of the principal, {base}.",
            percent=percent,
            base=Money(terms.principal, loan.decimals),
        ).say(marks)
    elif len(bases) == 1:
        at, advanced = bases[0]
        yield Sentence(
            "{percent} of the {base} " + ("lent at the start." if at == 0 else "advanced there."),
            percent=percent,
            base=Money(advanced, loan.decimals),
        ).say(marks)
    else:
        yield Sentence(
            "{percent} of what is advanced at its place, else of the principal, {base}.",
            percent=percent,
            base=Money(terms.principal, loan.decimals),
        ).say(marks)
