"""A statement worked so that it can be kept: with what tells of it where it stands among others."""

from typing import NamedTuple

from ..answer.answer import AnswerHead
from ..document.calling import Calling, calling_of
from ..document.reading import check
from ..questions.in_a_list import LoanListed, listed
from .statement import Statement
from .working import Worked, work


class Kept(NamedTuple):
    """A statement worked, without its schedule; what it is called without a name, and what a list
    says of it: None where it is not whole."""

    worked: Worked
    calling: Calling | None
    listed: LoanListed | None


def keep_worked(worked: Worked) -> Kept:
    """The same with what tells of it."""
    answer = worked.answer
    head = None if answer is None else AnswerHead.model_construct(**dict(answer))
    lean = worked.model_copy(update={"answer": head, "told": None, "schedule": None})
    if worked.document is None:
        return Kept(lean, None, None)
    loan = check(worked.document)
    return Kept(lean, calling_of(loan), None if answer is None else listed(loan, answer))


def work_to_keep(statement: Statement) -> Kept:
    """A statement read, checked and solved, with what tells of it; raises as `work` does."""
    return keep_worked(work(statement))
