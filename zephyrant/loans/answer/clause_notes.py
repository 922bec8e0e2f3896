"""What clauses come to beside each other: which gives way where, of what a fee is a percent."""

from collections.abc import Iterator

from zephyrant.texts import worded

from ..document.clauses import Share
from ..document.loan import Loan
from ..document.sentence import clause_in_words
from ..line.line import Line
from ..line.precedence import GivesWay
from ..wording.marks import Marks, Money, Percent, Sentence

#: Stretches in which a clause gives way that are told one by one.
_MOST_TOLD = 4


#: With more clauses than this nobody reads how each stands to each.
_MOST_NOTED = 100


def clause_notes(loan: Loan, line: Line, marks: Marks) -> tuple[tuple[str, ...], ...]:
    """Sentences for each clause, in the order of the document; none where there are very many."""
    if len(loan.clauses) > _MOST_NOTED:
        return ((),) * len(loan.clauses)
    ways = line.giving_way(len(loan.clauses))
    return tuple(
        (
            *_gives_way(loan, place, ways.get(place, []), marks),
            *_is_percent_of(loan, line, place, marks),
        )
        for place in range(len(loan.clauses))
    )


def _gives_way(loan: Loan, place: int, ways: list[GivesWay], marks: Marks) -> Iterator[str]:
    """A sentence for each clause that wins, with all the stretches in which it does."""
    is_of_rates = loan.clauses[place].verb == "rate"
    by_winner: dict[int, list[tuple[int, int]]] = {}
    for first, last, wins in ways:
        stretches = by_winner.setdefault(wins, [])
        if stretches and stretches[-1][1] == first - 1:
            stretches[-1] = stretches[-1][0], last
        else:
            stretches.append((first, last))
    for wins, stretches in by_winner.items():
        told = [_stretch_in_words(each, marks) for each in stretches[:_MOST_TOLD]]
        if len(stretches) > _MOST_TOLD:
            told.append(worded("{stretches} more stretches", stretches=len(stretches) - _MOST_TOLD))
        several = len(stretches) > 1 or stretches[0][0] != stretches[0][1]
        if is_of_rates:
            noun = worded("Periods") if several else worded("Period")
        else:
            noun = worded("Payments") if several else worded("Payment")
        listed = worded(" and ").join([", ".join(told[:-1]), told[-1]] if told[1:] else told)
        other = _in_words(loan, wins, marks)
        yield worded(
            "{noun} {listed}: “{other}” holds instead.", noun=noun, listed=listed, other=other
        )


def _stretch_in_words(stretch: tuple[int, int], marks: Marks) -> str:
    first, last = (marks.write(str(number)) for number in stretch)
    return first if first == last else worded("{first} to {last}", first=first, last=last)


def _in_words(loan: Loan, place: int, marks: Marks) -> str:
    """A clause in words; beyond those of the document stand the payments that are set anew."""
    if place >= len(loan.clauses):
        return worded("the payment is set anew")
    return clause_in_words(loan, loan.clauses[place], marks)


def _is_percent_of(loan: Loan, line: Line, place: int, marks: Marks) -> Iterator[str]:
    if not isinstance(loan.clauses[place].fee, Share):
        return
    terms, bases = line.terms, line.fee_bases(place)
    of = {advanced for _, advanced in bases}
    percent = Percent(terms.provisions[place].amount, 4, 0)
    if not of:
        yield worded("It is taken at no payment.")
    elif of == {0}:
        yield Sentence(
            "{percent} of the principal, {base}.",
            percent=percent,
            base=Money(terms.principal, loan.decimals),
        ).say(marks)
    elif len(bases) == 1:
        at, advanced = bases[0]
        yield Sentence(
            "{percent} of the {base} lent at the start."
            if at == 0
            else "{percent} of the {base} advanced there.",
            percent=percent,
            base=Money(advanced, loan.decimals),
        ).say(marks)
    else:
        yield Sentence(
            "{percent} of what is advanced at its place, else of the principal, {base}.",
            percent=percent,
            base=Money(terms.principal, loan.decimals),
        ).say(marks)
