"""What the loans of a kept table move: worked where it suits, the last few kept."""

import threading
import uuid
from collections import OrderedDict
from typing import Final

from zephyrant.loans import BudgetSpentError, NotALoan
from zephyrant.loans.tape import (
    Defaults,
    FlowsAsked,
    Portfolio,
    PortfolioAsked,
    TapeFlows,
    portfolio_of,
)
from zephyrant.tables.flows import flows_in
from zephyrant.texts import worded

from .export import Made
from .models import LoanTable
from .tables import kinds_of, not_yet

#: Tables whose flows a process keeps, so that another period or rate need not work them again.
_MOST_KEPT: Final = 4
_Key = tuple[uuid.UUID, str, str]
_kept: OrderedDict[_Key, TapeFlows] = OrderedDict()
_keeping = threading.Lock()


def portfolio(table: LoanTable, asked: PortfolioAsked, made: Made) -> Portfolio:
    """What a table moves; raises `NotALoan` where it has no result yet, or takes too long."""
    if table.state != "done":
        raise not_yet()
    flows = FlowsAsked(on=asked.on, early=asked.early)
    key = (table.pk, str(table.ended_at), flows.model_dump_json())
    with _keeping:
        found = _kept.get(key)
    if found is None:
        found = _worked(table, flows, made)
    with _keeping:
        _kept[key] = found
        _kept.move_to_end(key)
        while len(_kept) > _MOST_KEPT:
            _kept.popitem(last=False)
    return portfolio_of(found, asked)


def _worked(table: LoanTable, asked: FlowsAsked, made: Made) -> TapeFlows:
    source = LoanTable.objects.values_list("source", flat=True).get(pk=table.pk)
    defaults = Defaults.model_validate(table.defaults)
    try:
        flows: TapeFlows = made(
            flows_in, bytes(source), table.columns, kinds_of(table), defaults, asked
        )
    except BudgetSpentError:
        message = worded(
            "The flows of this table take more time than there is on the desk: give it in parts."
        )
        raise NotALoan.at("", message) from None
    return flows
