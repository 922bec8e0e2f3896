"""The phrases of clauses: what is done, and where, in either order."""

from collections.abc import Iterable
from typing import Any, Final

from .phrase import ClausePhrase, Fact, Found, Says, clause
from .places import WHOLE
from .slots import PAYMENTS

_PAYMENT: Final = "(?:(?:the |it |then )?(?:pays?|paying|payments?(?: is| are| of| becomes?)?))"
_REPAY: Final = (
    "(?:(?:another |one )?(?:repay(?:ing|s)?|repaid|overpay(?:ing|s)?|lump(?: sum)?(?: of)?|"
    "extra(?: payment)?(?: of)?))"
)
_REPAID: Final = "(?:(?:is |are )?(?:extra|on top|more|too|repaid(?: on top)?|as a lump sum))"
_ADVANCE: Final = "(?:(?:we )?(?:advanc(?:e|es|ing)|draw(?:s|ing)?)(?: another)?)"
_MORE: Final = "(?:(?:we )?(?:lend|borrow|put aside|add)(?: another)?)"
_GROWS: Final = (
    "(?:(?:the )?(?:payments? )?(?P<way>grow(?:s|ing)?|ris(?:e|es|ing)|step(?:s|ping)?(?: up)?|"
    "increas(?:e|es|ing)|fall(?:s|ing)?|decreas(?:e|es|ing))(?: by)?)"
)
_FEE: Final = (
    "(?:(?:(?:arrangement|opening|closing|processing|origination|set-?up|service) )?fees?)"
)
_HOW: Final = (
    "(?:,? ?(?:(?:is|are) )?(?P<how>(?:kept|held) back(?: from (?:the )?proceeds)?|withheld|"
    "deducted|"
    "(?:taken |kept )?from (?:the )?proceeds|"
    "added(?: to (?:the )?(?:balance|loan|principal|what is owed))?|"
    "(?:paid )?(?:apart|separately|in cash)))"
)
_MONEY_LENT: Final = "(?:principal|loan|amount (?:lent|borrowed))"
_OF_IT: Final = f"(?: of (?:what is (?:lent|borrowed|put aside)|the {_MONEY_LENT}))"
_NOTHING: Final = (
    "(?:(?:pays? )?nothing(?: is)?(?: paid| due)?|no payments?|"
    "(?:payments? )?(?:is |are )?(?:paused?|deferred|skipped|skip))"
)
_INTEREST: Final = "(?:io|(?:pays? )?(?:interest[ -]only|only (?:the )?interest)(?: is)?(?: paid)?)"


def _clause(verb: str, found: Found, said: str = "", default: str = "", **more: Any) -> Fact:  # noqa: ANN401
    then = {"then": "re-level"} if found.levels else {}
    return found.fact("clause", said, verb=verb, place=found.place or default, then=then, **more)


def _money(verb: str) -> Says:
    """Money moved: at a place, or each time, in the whole loan where no stretch is said."""

    def says(found: Found) -> Iterable[Fact]:
        per = found["per"]
        yield _clause(verb, found, found["amount"], WHOLE if per else "", per=per)

    return says


def _rate(found: Found) -> Iterable[Fact]:
    yield _clause("rate", found, found["percent"], modes=found["modes"])


def _pay(what: str) -> Says:
    """Paused; a time without a place is the first of the loan."""
    return lambda found: [_clause("pay", found, what, f"for the first {found['time']}")]


def _step(found: Found) -> Iterable[Fact]:
    falls = found["way"].lower().startswith(("fall", "decreas"))
    yield _clause(
        "step", found, found["figure"], falls=falls, each=found["integer"], time=found["each"]
    )


def _fee(found: Found) -> Iterable[Fact]:
    per = found["per"]
    said = found["figure"] or f"{found['points']} %"
    yield _clause("fee", found, said, WHOLE if per else "at the start", how=found["how"], per=per)


def _charge(found: Found) -> Iterable[Fact]:
    more = {name: found[name] for name in ("per", "of", "name", "apart")}
    yield _clause("charge", found, found["figure"], WHOLE, **more)


#: What is collected for whom, and whether yearly costs count it.
_CHARGED_OF: Final = "(?:(?: a year| yearly)? (?P<of>of the (?:balance|principal)))?"
_CHARGE: Final = "(?P<name>insurance|tax(?:es)?|service(?: charges?)?)"
_NOT_COUNTED: Final = "(?P<apart>,? (?:not|un)[ -]?counted in the yearly costs)?"

CLAUSES: Final[tuple[ClausePhrase, ...]] = (
    clause(f"{_REPAY} {{amount}}(?: {_REPAID})?", _money("repay")),
    clause(f"{{amount}} {_REPAID}", _money("repay")),
    clause(f"{_REPAY} {{amount}}(?: {_REPAID})? ?{{per}}", _money("repay"), needs_place=False),
    clause(f"{{amount}} ?{{per}} {_REPAID}", _money("repay"), needs_place=False),
    clause(f"{{amount}} {_REPAID} ?{{per}}", _money("repay"), needs_place=False),
    clause(f"{_ADVANCE} {{amount}}(?: more)?(?: ?{{per}})?", _money("advance")),
    clause(f"{_MORE} {{amount}} more(?: ?{{per}})?", _money("advance")),
    clause("{amount}(?: more)? (?:is |are )?(?:advanced|drawn)", _money("advance")),
    clause("{amount} more (?:is |are )?lent", _money("advance")),
    clause("(?:at |(?:the )?rate (?:is |of )?)?{percent}{modes}", _rate, is_stretch=True),
    clause(f"{_PAYMENT} {{amount}}(?: ?{{per}})?", _money("payment")),
    clause("{amount} ?{per}", _money("payment")),
    clause(f"(?:an?|1) (?:(?:single|last|odd) )?{PAYMENTS} of {{amount}}", _money("payment")),
    clause(_INTEREST, _pay("interest")),
    clause(f"{_INTEREST}(?: for)? {{time}}", _pay("interest"), needs_place=False),
    clause(_NOTHING, _pay("nothing")),
    clause(f"{_NOTHING} for {{time}}", _pay("nothing"), needs_place=False),
    clause(
        f"{_GROWS} {{figure}}(?:,? every {{integer}}(?: payments?)?"
        "|,? (?P<each>a year|each year|every year|yearly|every {time}))?",
        _step,
        needs_place=False,
        is_stretch=True,
    ),
    clause(
        f"(?:a )?charge of {{figure}}{_CHARGED_OF}(?: ?{{per}})?(?: is)?(?: collected)?"
        f"(?: for (?P<name>[a-z]+(?:[ -][a-z]+){{0,2}}))?{_NOT_COUNTED}",
        _charge,
        needs_place=False,
    ),
    clause(
        f"{{figure}}{_CHARGED_OF}(?: ?{{per}})?(?: for| of)? {_CHARGE}{_NOT_COUNTED}",
        _charge,
        needs_place=False,
    ),
    clause(
        f"{_CHARGE}(?: of| is|:)? {{figure}}{_CHARGED_OF}(?: ?{{per}})?{_NOT_COUNTED}",
        _charge,
        needs_place=False,
    ),
    clause(
        f"(?:an? )?{{figure}}(?: ?{{per}})? {_FEE}(?: ?{{per_}})?{_HOW}?", _fee, needs_place=False
    ),
    clause(
        f"(?:an? )?{_FEE}(?: of)?:? {{figure}}{_OF_IT}?(?: ?{{per}})?{_HOW}?",
        _fee,
        needs_place=False,
    ),
    clause(f"(?P<points>[0-9][0-9.,]*|[0-9]+ [0-9]/[0-9]) points?{_HOW}?", _fee, needs_place=False),
    clause("{figure} (?:is |are )?(?P<how>(?:kept|held) back|withheld)", _fee, needs_place=False),
)
