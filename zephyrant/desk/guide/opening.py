"""An example of the guide opened: a case of one's own, a list of quotes, a table."""

import io
from collections.abc import Callable

from django.contrib.auth.models import User
from django.http import Http404

from zephyrant.desk import cases, heavy, quote_lists, tables
from zephyrant.desk.cases import Content
from zephyrant.desk.preferences import marks_of
from zephyrant.loans import MARKS
from zephyrant.loans.files import read_flows
from zephyrant.loans.said import said_loan
from zephyrant.loans.statement import QuoteList, remark, restate

from .examples import FLOWS, QUOTES, TABLE
from .jobs import JOBS, Job
from .telling import filled


def _said(user: User, job: Job) -> str:
    marks = marks_of(user)
    line = filled(job.line, MARKS[marks])
    said = heavy.answered(user.pk, heavy.never, said_loan, line, marks)
    if said.statement is None:
        raise Http404
    case = cases.start(user, Content(statement=said.statement))
    return f"/cases/{case.pk}" + (f"?show={job.show}" if job.show else "")


def _quotes(user: User, job: Job) -> str:
    return f"/rates/side-by-side/{quote_lists.start(user, QuoteList.model_validate(QUOTES)).pk}"


def _flows(user: User, job: Job) -> str:
    loan = heavy.answered(user.pk, heavy.never, read_flows, FLOWS, job.title, "EUR")
    statement = remark(restate(loan, "comma-point"), marks_of(user))
    return f"/cases/{cases.start(user, Content(statement=statement)).pk}"


def _table(user: User, job: Job) -> str:
    (table,) = tables.open_file(user, io.BytesIO(TABLE.encode()), "Five loans.csv")
    return f"/tables/{table.pk}"


_OPENS: dict[str, Callable[[User, Job], str]] = {
    "case": _said,
    "quotes": _quotes,
    "flows": _flows,
    "table": _table,
}


def open_example(user: User, name: str) -> str:
    """The example of a job, made the user's own; gives the address of its page.

    Raises `Http404` where there is no such job.
    """
    job = JOBS.get(name)
    if job is None:
        raise Http404
    return _OPENS[job.opens](user, job)
