"""An answer as a notebook shows it: its sentence, the figure found, the line drawn, its facts."""

from collections.abc import Iterator
from html import escape
from typing import Final

from zephyrant.loans import Answer, Loan, Marks
from zephyrant.outlets.picture import Picture, picture_of
from zephyrant.outlets.told import Rows, Told, tell, years_of

_WIDE: Final = 640
_TALL: Final = 150
_BASE: Final = 105
#: Colours that read on white and on black.
_OWED, _PRINCIPAL, _INTEREST, _FOUND = "#7f9a9a", "#2f8a8f", "#9a86bd", "#c2570c"


def html_of(loan: Loan, answer: Answer, marks: Marks) -> str:
    """The answer in HTML that stands alone."""
    parts = "".join(_parts(tell(loan, answer, marks), answer, marks))
    return f'<div style="max-width:{_WIDE}px">{parts}</div>'


def _parts(told: Told, answer: Answer, marks: Marks) -> Iterator[str]:
    yield f"<p><strong>{escape(told.name)}</strong><br>{escape(told.sentence)}</p>"
    if told.aim:
        yield f"<p>{escape(told.aim)}</p>"
    if told.reason:
        yield f"<p><strong>There is no answer.</strong> {escape(told.reason)}</p>"
        return
    if told.figure:
        large = f'<strong style="font-size:1.7em;color:{_FOUND}">'
        figure = " ".join(
            f"{large}{escape(text)}</strong>" if is_it else escape(text)
            for text, is_it in told.figure
        )
        yield f"<p>{escape(told.label)}<br>{figure}</p>"
    yield "".join(f"<div>{escape(line)}</div>" for line in told.lines)
    picture = picture_of(answer)
    if picture:
        yield drawn(picture)
    yield _table(told.facts, "Results", headed=False)
    for title, table in (("Fees", told.fees), ("Would fit", told.fitting)):
        if table:
            yield _table(table, title)
    if answer.by_year:
        yield _table(years_of(answer, marks), "Year by year")
    if told.proof:
        yield f"<p><strong>Proof.</strong> {escape(told.proof)}</p>"


def drawn(picture: Picture) -> str:
    """The line as SVG: what is owed above, what is paid below."""
    last = len(picture.owed) - 1
    step = _WIDE / last
    points = " ".join(
        f"{at * step:.1f},{_BASE - share * (_BASE - 4):.1f}"
        for at, share in enumerate(picture.owed)
    )
    wide = max(0.6, step * picture.together * 0.65)
    bars = "".join(_bars(picture, step, wide))
    return (
        f'<svg viewBox="0 0 {_WIDE} {_TALL}" width="100%" role="img" '
        'aria-label="What is owed over time, above; what each payment is made of, below">'
        f'<polygon points="0,{_BASE} {points} {_WIDE},{_BASE}" fill="{_OWED}" opacity="0.25"/>'
        f'<polyline points="{points}" fill="none" stroke="{_OWED}" stroke-width="1.5"/>'
        f'<line x1="0" x2="{_WIDE}" y1="{_BASE}" y2="{_BASE}" stroke="{_OWED}"/>{bars}</svg>'
    )


def _bars(picture: Picture, step: float, wide: float) -> Iterator[str]:
    for number, bar in enumerate(picture.bars, 1):
        x, top = number * picture.together * step - wide, _BASE + 2.0
        for share, colour in ((bar.principal, _PRINCIPAL), (bar.interest, _INTEREST)):
            tall = share * (_TALL - _BASE - 4)
            yield (
                f'<rect x="{x:.1f}" y="{top:.1f}" width="{wide:.1f}" height="{tall:.1f}" '
                f'fill="{colour}"/>'
            )
            top += tall


def _table(of: Rows, caption: str, *, headed: bool = True) -> str:
    def row(cells: tuple[str, ...], tag: str) -> str:
        sides = ["left", *["right"] * (len(cells) - 1)]
        told = zip(cells, sides, strict=True)
        return "".join(
            f'<{tag} style="text-align:{side}">{escape(cell)}</{tag}>' for cell, side in told
        )

    body = "".join(f"<tr>{row(cells, 'td')}</tr>" for cells in of.rows)
    head = f"<thead><tr>{row(of.heads, 'th')}</tr></thead>" if headed else ""
    title = f'<caption style="text-align:left">{escape(caption)}</caption>'
    return f'<table style="margin:1em 0">{title}{head}<tbody>{body}</tbody></table>'
