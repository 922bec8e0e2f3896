"""What is asked of a loan: solved, swept over values of its figures, aimed at a result."""

import json
from collections.abc import Callable, Iterable, Mapping
from datetime import date
from decimal import Decimal
from itertools import product
from pathlib import Path
from typing import Any, Final, NamedTuple

from zephyrant import loans
from zephyrant.documents import read_file
from zephyrant.loans import MARKS, Loan, MarksName, NotALoan
from zephyrant.loans.questions import ANSWER, MOST_POINTS, Axis, sensitivity_of
from zephyrant.loans.said import LineError, Piece, read_line, read_stated
from zephyrant.loans.statement import read_values, restate

from .answers import Answer
from .frames import Column, Frame, Kind

#: A loan as it may be stated: a line, a path of a document, a document, one solved before.
Stated = str | Path | Mapping[str, Any] | Loan | Answer | None
_USUAL: Final[MarksName] = "comma-point"


class _Read(NamedTuple):
    """A loan as it was stated, and how each piece of a line was read."""

    loan: Loan
    read: tuple[Piece, ...] = ()


def _loan(stated: Stated, figures: Mapping[str, Any], marks: MarksName = _USUAL) -> _Read:
    """The loan that is stated; `figures` are put in the place of those of a document."""
    if stated is None:
        said = read_stated(figures, MARKS[marks])
        assert said.loan is not None  # noqa: S101  (else it raises)
        return _Read(said.loan, said.read)
    read = _of(stated, marks)
    if not figures:
        return read
    content = _standing(read.loan)
    bought = dict(content.pop("purchase", {}))
    if "principal" in figures:
        bought = {}
    for name in ("price", "down"):
        if name in figures:
            bought.pop(name, None)
            content.pop("principal", None)
    if bought:
        content["purchase"] = bought
    return _loan(None, {**content, **figures}, marks)


def _standing(loan: Loan) -> dict[str, Any]:
    """What a document states, its amounts as the numbers they are: nothing is read again."""
    content = {name: value for name, value in loans.write(loan).items() if name != "zephyrant"}
    for name in ("principal", "payment", "balance"):
        if content.get(name, "?") != "?":
            content[name] = Decimal(content[name])
    return content


def _of(stated: str | Path | Mapping[str, Any] | Loan | Answer, marks: MarksName) -> _Read:
    if isinstance(stated, Loan):
        return _Read(stated)
    if isinstance(stated, Answer):
        return _Read(loans.check(stated.document))
    if isinstance(stated, Mapping):
        return _Read(loans.check(_plain(stated)))
    if isinstance(stated, Path):
        return _Read(read_file(str(stated)))
    if not isinstance(stated, str):
        raise TypeError(f"a loan is stated by a line, a document or a path, not {type(stated)}")
    if stated.lstrip()[:1] == "{":
        return _Read(loans.read(stated))
    line = read_line(stated, MARKS[marks])
    if line.loan is None:
        raise NotALoan(LineError(message=each.message, at=each.at) for each in line.errors)
    return _Read(line.loan, line.read)


def _plain(content: Mapping[str, Any]) -> Any:  # noqa: ANN401  (as JSON holds it)
    """A document as JSON holds it, whatever days and numbers it was made of."""
    return json.loads(json.dumps(content, default=_written))


def _written(value: object) -> object:
    if isinstance(value, Mapping):
        return dict(value)
    if isinstance(value, date | Decimal):
        return str(value)
    return list(value) if isinstance(value, Iterable) else str(value)


def solve(stated: Stated = None, /, *, marks: MarksName = _USUAL, **figures: Any) -> Answer:  # noqa: ANN401
    """A loan solved.

    It is stated by its figures, by a line of words, by a loan document (a mapping, its JSON, or the
    path of a file of JSON, YAML or TOML), or is one that was solved before; `figures` beside these
    take the place of theirs. A figure is a number, or what one would say: `rate="6.35 % compounded
    half-yearly"`, `count="5 years"`, `principal="48k"`, `clauses=["at 12 repay 5,000"]`. One is
    `"?"`; the one that is not stated is the one to find. Where nothing says otherwise it is in EUR,
    paid monthly. `marks`: how numbers are written, in texts and in what is told. Raises
    `zephyrant.NotALoan` with every reason at its field.

    >>> answer = solve(principal=48250, rate="6.35 % compounded half-yearly", count=60)
    >>> answer.value
    Decimal('938.82')
    >>> answer.schedule[0].interest
    Decimal('252.01')
    >>> answer.totals.final_payment
    Decimal('939.00')
    >>> solve("196k USD, 11 years monthly, pays 1,990, rate?").value
    Decimal('5.5777713785')
    >>> solve(answer, count="?", payment=1000).value
    Decimal('56')
    >>> solve(rate="6 %", count=144, cover={"cash_flow": 186000, "ratio": "1.30"}).value
    Decimal('1221813.60')
    """
    read = _loan(stated, figures, marks)
    return Answer(read.loan, loans.solve(read.loan, MARKS[marks]), MARKS[marks], read.read)


def aim(
    stated: Stated = None,
    /,
    *,
    figure: str,
    target: Decimal | float | str | date,
    by: str,
    marks: MarksName = _USUAL,
    **figures: Any,  # noqa: ANN401
) -> Answer:
    """A loan in which the figure `by` is moved until the result `figure` has the value `target`,
    unrounded; the `?` is found anew at each step.

    Results: `payment total_paid total_interest final_payment count effective us_apr eu_aprc
    end_date`, `balance@24` after a payment, `interest@13-24` over a stretch. What came of it stands
    in `answer.aim`. Raises `zephyrant.NotALoan`.

    >>> loan = "48,250 at 6.35 % over 5 years"
    >>> answer = aim(loan, figure="total_interest", target=9000, by="principal")
    >>> answer.aim.value
    Decimal('53016.68')
    """
    loan = _loan(stated, figures, marks).loan
    told = target.isoformat() if isinstance(target, date) else str(target)
    content = {**loans.write(loan), "aim": {"figure": figure, "is": told, "by": _path(by)}}
    return solve(content, marks=marks)


def sweep(
    stated: Stated = None,
    /,
    *,
    over: Mapping[str, Iterable[Decimal | float | str] | str],
    results: Iterable[str] = (ANSWER,),
    **figures: Any,  # noqa: ANN401
) -> Frame[Any]:
    """Results of a loan for every value of one or two of its figures, a row for each; at most 2,500
    of them.

    `over`: the values of each figure, by its name or its path in the document
    (`clauses.0.repay`), as numbers or as one would type them (`"5 to 8 by 0.5"`). `results`: the
    `answer`, or what `aim` knows. A last column tells the `reason` where a loan has no answer.
    Raises `zephyrant.NotALoan`.

    >>> loan = "48,250 at 6.35 % over 5 years"
    >>> table = sweep(loan, over={"rate": [6, 6.5]}, results=["answer", "total_interest"])
    >>> [(str(row.rate), str(row.answer)) for row in table]
    [('6', '932.81'), ('6.5', '944.07')]
    """
    loan = loans.aimed(_loan(stated, figures).loan)
    axes = [
        Axis(path=_path(name), values=_values(loan, _path(name), values))
        for name, values in over.items()
    ]
    wanted = list(results)
    swept = sensitivity_of(loan, axes, wanted)
    points = list(product(*(axis.values for axis in axes)))
    columns = {
        name: Column("decimal", values)
        for name, values in zip(over, zip(*points, strict=True), strict=True)
    }
    for name in wanted:
        texts = [cell for row in swept["results"][name] for cell in row]
        columns[name] = _told(name, texts)
    reasons = [swept["reasons"].get(str(place)) for place in range(len(points))]
    return Frame({**columns, "reason": Column("text", reasons)})


def _path(name: str) -> str:
    """A figure's path by what it is called for short."""
    return {"rate": "rate.percent", "price": "purchase.price"}.get(name, name)


def _values(
    loan: Loan, path: str, values: Iterable[Decimal | float | str] | str
) -> tuple[Decimal, ...]:
    if not isinstance(values, str):
        return tuple(Decimal(str(value)) for value in values)
    try:
        return read_values(values, loans.figure_path(path), restate(loan, _USUAL), MOST_POINTS)
    except ValueError as error:
        raise NotALoan.at(path, str(error)) from None


def _told(name: str, texts: list[str | None]) -> Column:
    """Texts of a result as what they stand for."""
    kinds: dict[str, tuple[Kind, Callable[[str], Any]]] = {
        "end_date": ("day", date.fromisoformat),
        "count": ("whole", int),
    }
    kind, of = kinds.get(name, ("decimal", Decimal))
    return Column(kind, [None if text is None else of(text) for text in texts])
