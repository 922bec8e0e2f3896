"""What a line says put together as a loan document, with what was guessed and what is wrong."""

from dataclasses import replace
from fractions import Fraction
from typing import Final, cast

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..document.reading import check
from ..document.repaid import as_document
from ..document.repayment import RepaidBy
from ..errors import NotALoan
from ..numbers.decimals import plain
from ..statement.parsing import Reading
from ..statement.typed_amounts import read_balance
from .bounds_read import figures_needed, read_bounds
from .clause_facts import SaidClause, clause_of
from .days_read import read_business_days
from .draft import Draft, flat
from .figures import Unsaid, Value
from .noted import noted
from .phrase import Fact
from .rates_in_turn import rate_from_the_start, rates_after_each_other
from .read import Piece
from .slots import currency_in, frequency
from .usual import Usual

#: Figures that a loan is made of, in the order in which they are named where they are missing.
_FIGURES: Final = ("principal", "rate.percent", "count", "payment")
_BOUGHT: Final = ("purchase.price", "purchase.down")


class Assembling(Draft):
    """The document of a line, put together figure by figure."""

    usual = Usual()

    def document(self) -> Loan | None:
        """The loan that the line says; none where it is wrong or something is missing."""
        rate_from_the_start(self)
        currency = self._currency()
        every = self._every()
        self.figures = replace(self.figures, currency=currency, every=every)
        rates_after_each_other(self)
        self.content |= {"zephyrant": "loan/1", "currency": currency}
        self._amounts()
        self._rate()
        self._count()
        self._repaid()
        read_bounds(self)
        self.content["every"] = every
        self._payment()
        self._choices()
        read_business_days(self)
        self._clauses()
        self._balance()
        self._unknown()
        return None if self.errors else self.checked()

    def _currency(self) -> str:
        for fact in self.facts:
            _, code, is_guess = currency_in(fact.said)
            if code and fact.field != "we":
                self.put("currency", code, fact, guess=is_guess)
        if "currency" not in self.content:
            self.put("currency", self.figures.currency, None, guess=True)
        return str(self.content["currency"])

    def _every(self) -> frequencies.Frequency:
        for fact in self.of("every"):
            self.put("every", frequency(fact.said), fact)
        if "every" not in self.content:
            self.put("every", self._told_by_the_term() or self.figures.every, None, guess=True)
        every: frequencies.Frequency = self.content.pop("every")
        return every

    def _told_by_the_term(self) -> frequencies.Frequency | None:
        """How often it is paid, where both the payments and their years are said."""
        counts = [int(fact.said) for fact in self.of("count") if fact.said.isdecimal()]
        if not counts:
            return None
        yearly = replace(self.figures, every=360 * 7)
        for fact in self.of("term"):
            with self.at(fact):
                a_year = Fraction(counts[0] * 360 * 7, yearly.counted(fact.said) or 1)
                if a_year.denominator == 1:
                    return frequencies.named(int(a_year))
        return None

    def _amounts(self) -> None:
        """What is lent, or bought."""
        bare = self.of("bare")
        bought = self.of("price", "down")
        if bought and not self.of("price") and bare:
            bare[0] = replace(bare[0], field="price", guess=True)
            bought.insert(0, bare.pop(0))
        for fact in bought:
            with self.at(fact):
                self._bought(fact)
        lent = self.of("principal")
        if bought:
            asked = [fact for fact in lent if fact.said == UNKNOWN]
            for fact in asked:
                self.put("purchase.price", UNKNOWN, fact)
            lent = [fact for fact in lent if fact not in asked]
        elif not lent and bare:
            lent = [bare.pop(0)]
        for fact in lent:
            with self.at(fact):
                value = Value(UNKNOWN) if fact.said == UNKNOWN else self.figures.amount(fact.said)
                self.put("principal", value.value, fact, guess=value.guess)
        for fact in noted(self, bare):
            begin, end = self.span(fact.begin, fact.end)
            self.wrong(
                worded(
                    "Say what {line} is: pays {line}, or {line} left at the end.",
                    line=self.line[begin:end],
                ),
                fact,
            )

    def _bought(self, fact: Fact) -> None:
        if fact.field == "price":
            value = self.figures.amount(fact.said)
            self.put("purchase.price", value.value, fact, guess=value.guess)
            return
        value, in_percent = self.figures.either(fact.said)
        kind = "percent" if in_percent or fact.said == UNKNOWN else "amount"
        self.put(f"purchase.down.{kind}", value.value, fact, guess=value.guess)

    def _rate(self) -> None:
        for fact in self.of("rate"):
            with self.at(fact):
                quote, is_guess = self.figures.quote(fact)
                self.put("rate.percent", quote["percent"], fact)
                for name in ("quoted", "compounding"):
                    if name in quote:
                        self.put(f"rate.{name}", quote[name], fact, guess=is_guess)
                if "quoted" not in quote and "compounding" not in quote:
                    self._quoted_as_usual()

    def _quoted_as_usual(self) -> None:
        """How the analyst quotes, where that is not what is meant anyhow."""
        quoted, compounding = self.usual.quoted, self.usual.compounding
        if quoted != "nominal":
            self.put("rate.quoted", quoted, None, guess=True)
        elif compounding is not None and compounding != self.figures.every:
            self.put("rate.compounding", compounding, None, guess=True)

    def _count(self) -> None:
        for fact in self.of("count", "term"):
            with self.at(fact):
                value = UNKNOWN if fact.said == UNKNOWN else self.figures.count(fact.said).value
                self.put("count", value if value == UNKNOWN else int(value), fact)
        for fact in self.of("none"):
            # Where the time is said nothing is paid in it.
            if "count" in self.content:
                self.put("payment", "0", fact)
            else:
                self.put("count", 0, fact)

    def _payment(self) -> None:
        for fact in self.of("payment", "income"):
            with self.at(fact):
                reader = self.figures.income if fact.field == "income" else self.figures.amount
                value = Value(UNKNOWN) if fact.said == UNKNOWN else reader(fact.said)
                self.put("payment", value.value, fact, guess=value.guess)
        is_aside = any(fact.said == "put-aside" for fact in self.of("we"))
        is_aside |= self.content.get("we") == "put-aside"
        if "payment" not in self.content and (is_aside or self.content.get("count") == 0):
            self.content["payment"] = "0"

    def _repaid(self) -> None:
        for fact in self.of("repaid"):
            with self.at(fact):
                if fact.said == "percents":
                    self._parts(fact)
                    continue
                over = fact.more.get("over", "")
                if over and over != UNKNOWN:
                    over = int(self.figures.count(over).value)
                by = cast(RepaidBy, fact.said)
                for name, value in as_document(by, over=over).items():
                    self.put(name, value, fact)

    def _parts(self, fact: Fact) -> None:
        """Parts in percent: as many as there are payments, where these are not said."""
        percents = self.figures.percents(fact.more["parts"])
        self.put("repayment", "; ".join(percents), fact)
        self.content["repayment"] = {"percents": percents}
        if "count" not in self.content:
            self.put("count", len(percents), fact, guess=True)

    def _choices(self) -> None:
        for fact in self.of("we", "timing", "odd_days"):
            self.put(fact.field, fact.said.lower(), fact)
        for fact in self.of("day_count"):
            said = fact.said.lower().replace("actual", "act").replace("act", "actual")
            self.put("day_count", "30E/360" if said == "30e/360" else said, fact)
        for fact in self.of("start", "first_payment"):
            with self.at(fact):
                self.put(fact.field, self.figures.day(fact.said).value, fact)
        for fact in self.of("rounding"):
            with self.at(fact):
                self.put("rounding.payment", fact.said, fact)
                if fact.more["to"]:
                    self.put("rounding.to", self.figures.amount(fact.more["to"]).value, fact)
        self.content.setdefault("timing", "in-arrears")

    def _clauses(self) -> None:
        count = self.content.get("count")
        many = count if isinstance(count, int) else None
        for fact in self.of("clause"):
            with self.at(fact):
                self._clause(clause_of(fact, self.figures, many), fact)

    def _clause(self, said: SaidClause, fact: Fact) -> None:
        clauses = self.content.setdefault("clauses", [])
        number = len(clauses)
        clauses.append(said.content)
        begin, end = self.span(fact.begin, fact.end)
        self.spans[f"clauses.{number}"] = begin, end
        for name, value in flat(said.content):
            self.read.append(
                Piece(
                    text=self.line[begin:end],
                    field=f"clauses.{number}.{name}",
                    value=value,
                    guess=fact.guess or name in said.guesses,
                )
            )

    def _balance(self) -> None:
        for fact in self.of("balance"):
            with self.at(fact):
                if fact.said == UNKNOWN:
                    self.put("balance", UNKNOWN, fact)
                    continue
                value, in_percent = self.figures.either(fact.said)
                if in_percent:
                    value = self._share(fact)
                self.put("balance", value.value, fact, guess=value.guess)

    def _share(self, fact: Fact) -> Value:
        """A balance in percent of what is lent."""
        lent = self.content.get("principal")
        if "purchase" in self.content:
            lent = self._lent_of_the_price()
        principal = Reading(value=None if lent is None else str(lent))
        reading = read_balance(fact.said, self.figures.marks, self.figures.currency, principal)
        if reading.value is None:
            raise Unsaid(reading.error or worded("A share needs the amount lent."))
        return Value(reading.value)

    def _lent_of_the_price(self) -> str | None:
        stand_in = {"rate": {"percent": "5"}, "count": 1, "payment": UNKNOWN}
        named = {name: self.content[name] for name in ("zephyrant", "currency", "purchase")}
        try:
            lent = check({**named, **stand_in}).principal
        except NotALoan:
            return None
        return lent if isinstance(lent, str) else plain(lent)

    def _unknown(self) -> None:
        """The one figure that is missing is the one to find; two are asked for."""
        asked = [piece.field for piece in self.read if piece.value == UNKNOWN]
        is_aside = self.content.get("we") == "put-aside"
        if is_aside and "clauses" in self.content and "principal" not in self.content:
            self.put("principal", "0", None, guess=True)
        stated = {piece.field for piece in self.read} | set(self.content)
        lent: tuple[str, ...] = ("principal",)
        if "purchase" in self.content:
            lent = _BOUGHT
            stated |= {"purchase.down" for name in stated if name.startswith("purchase.down")}
        left = ("balance",) if is_aside or self.content.get("payment") == "0" else ()
        figures = figures_needed(self.content, (*lent, *_FIGURES[1:], *left))
        missing = [name for name in figures if name not in stated]
        if missing == ["balance"] and asked:
            missing = []
        if len(missing) == 1 and not asked:
            name = "purchase.down.percent" if missing[0] == "purchase.down" else missing[0]
            self.put(name, UNKNOWN, None)
        elif missing and not self.errors:
            self._tell_missing(missing, asked)
        elif not asked and self.of("asked") and not missing:
            self.wrong(
                worded("Everything is stated: say what the ? stands for."), self.of("asked")[0]
            )
        if "balance" not in self.content:
            self.content["balance"] = "0"

    def _tell_missing(self, missing: list[str], asked: list[str]) -> None:
        self.missing = missing
        named = _listed([f"the {self.named(name)}" for name in missing])
        if asked:
            are = worded("is") if len(missing) == 1 else worded("are")
            self.wrong(
                worded(
                    "The {asked} is asked for, and {named} {are} not stated: state {them} too.",
                    asked=self.named(asked[0]),
                    named=named,
                    are=are,
                    them=worded("it") if len(missing) == 1 else worded("them"),
                )
            )
        else:
            self.wrong(
                worded(
                    "Not stated are {named}: one of them can be found, state the others.",
                    named=named,
                )
            )


def _listed(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
