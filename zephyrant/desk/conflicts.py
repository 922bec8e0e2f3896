"""Two versions of a case, saved from two places: what they say otherwise, to be chosen from."""

from ninja import Schema

from zephyrant.loans import MarksName
from zephyrant.loans.statement import changed_figures, differing

from .cases import Content


class VersionDifference(Schema):
    """What two versions of a case say otherwise: what it is called, what each says, the fields that
    say so, of the statement or beside it; whether mine is what was changed."""

    name: str
    title: str
    mine: str
    theirs: str
    fields: list[str]
    is_mine: bool


def differences(
    mine: Content, theirs: Content, base: Content, marks: MarksName
) -> list[VersionDifference]:
    """Each thing that two versions say otherwise. What only they changed is theirs."""
    changed_here = changed_figures(base.statement, mine.statement)
    told = [
        VersionDifference(
            name=name,
            title=title,
            mine=one,
            theirs=other,
            fields=list(fields),
            is_mine=name in changed_here,
        )
        for name, title, one, other, fields in differing(mine.statement, theirs.statement, marks)
    ]
    for name in ("note", "tags"):
        here, there, before = (getattr(each, name) for each in (mine, theirs, base))
        if here != there:
            told.append(
                VersionDifference(
                    name=name,
                    title=name,
                    mine=_beside(here),
                    theirs=_beside(there),
                    fields=[name],
                    is_mine=here != before,
                )
            )
    return told


def _beside(value: str | list[str]) -> str:
    text = value if isinstance(value, str) else ", ".join(value)
    return text or "nothing"
