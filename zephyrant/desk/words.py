"""Everything that can be chosen and typed, what it is called on the screen, and how much of it
there may be: no screen knows names or limits of its own."""

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from babel import Locale
from ninja import Schema

from zephyrant.loans import (
    AIMS,
    COLUMNS_NAMED,
    CONVENTIONS,
    MARKS,
    OF_360_DAYS,
    PERIODS,
    QUOTINGS,
    RESULTS_NAMED,
    USUAL_COUNT,
    USUAL_TIME,
    YEAR_OF_DAYS,
    MarksName,
    choices,
    code_first,
    currencies,
    day_form,
    frequencies,
    month_names,
)
from zephyrant.loans.questions import (
    ANSWER_TITLE,
    CHARGES,
    MOST_BESIDE,
    PAYOFF_ROUNDINGS,
)
from zephyrant.loans.statement import (
    ENTRIES,
    INCOME_EACH,
    LINE_ENTRIES,
    MOST_QUOTES,
    QUOTE_ENTRIES,
    Entry,
)
from zephyrant.loans.tape import (
    ANSWERS,
    DISCOUNTED,
    FIELDS_NAMED,
    FLOWS_BY,
    ROUNDINGS,
    TOLD_NAMED,
    Defaults,
)
from zephyrant.tables import limits as table_limits
from zephyrant.tables.template import MOST_NAME as MOST_TEMPLATE_NAME
from zephyrant.texts import ENGLISH, for_each_reader, reading, worded

from . import limits, preferences, tokens


class CurrencyWord(Schema):
    """A currency of ISO 4217: its minor unit, and what payments in it are often rounded to."""

    code: str
    name: str
    decimals: int
    minor_unit: str
    steps: list[str]


class PeriodWord(Schema):
    """A period: its name in documents, how many make a year, its words."""

    name: str
    a_year: int
    often: str
    noun: str
    compounded: str


class MarksWord(Schema):
    """A way to write numbers."""

    name: MarksName
    group: str
    decimal: str
    pairs: bool


class DayWord(Schema):
    """How days are written: `{day}`, `{month}` and `{year}` stand in `text`; `months`: the twelve
    as they stand there; `padded`: the day has two digits always."""

    text: str
    months: list[str]
    padded: bool


class Option(Schema):
    """What can be chosen: its value, what it is called where it is listed and where it stands."""

    value: str
    label: str
    shown: str


class StyleWord(Schema):
    """A style of quoting: how it is said, what is said after it, and of what kind it is."""

    name: str
    said: str
    needs: str
    is_timed: bool
    is_scaled: bool
    is_compounded: bool
    is_of_a_loan: bool
    is_of_periods: bool


class QuotingWord(Schema):
    """A way of quoting that can be chosen, what it is called, what it stands under."""

    quoted: str
    compounding: str | None
    label: str
    under: str


class EntryWord(Schema):
    """What is typed: what it is called, what belongs there, whether it may be asked for."""

    title: str
    help: str
    may_be_asked: bool
    may_be_empty: bool


class ResultWord(Schema):
    """What comes of a loan: its name, what it is called in a sentence and alone; whether it is a
    percent, whether only a loan with dates has it, whether it is at a payment or over some."""

    name: str
    title: str
    alone: str
    is_percent: bool
    is_dated: bool
    is_placed: bool


class VerbWord(Schema):
    """What a clause does: what it is called, in what its figure is, and whether it holds for a
    stretch only and may be followed by a payment set anew."""

    name: str
    label: str
    figure: str
    units: list[Option]
    is_stretch: bool
    may_level: bool


class SpeakerWord(Schema):
    """Who speaks, and the words of the sentence that follow."""

    name: str
    label: str
    repaid: str
    without: str
    there: str


class RoundingWord(Schema):
    """A rounding all rows of a table can have."""

    label: str
    rounding: dict[str, Any]


class RepayingWord(Option):
    """A way of repaying, and what is said of the payments: its places are entries. Whether all
    payments are made, and whether what is left at the end is stated besides."""

    said: str
    is_regular: bool
    states_balance: bool


class ChoiceWords(Schema):
    """What can be chosen in a loan, and about one."""

    timing: list[Option]
    repaid: list[RepayingWord]
    repaid_rows: list[Option]
    day_counts: list[Option]
    odd_days: list[Option]
    rolls: list[Option]
    adjusted: list[Option]
    payment_rounding: list[Option]
    interest_rounding: list[Option]
    overpaid: list[Option]
    taken: list[Option]
    pay: list[Option]
    charged_of: list[Option]
    held: list[Option]
    at_reset: list[Option]
    in_costs: list[Option]
    down_payment: list[Option]
    then: list[Option]
    we: list[SpeakerWord]
    income_each: list[Option]
    charges: list[Option]
    payoff_rounding: list[Option]


class TableWords(Schema):
    """Tables of loans: what a column can be, what one of a result is called, what is answered where
    something has to be asked, the roundings on offer, which styles of quoting."""

    fields: dict[str, str]
    results: dict[str, str]
    answers: dict[str, str]
    counts: list[str]
    marks: list[str]
    roundings: list[RoundingWord]
    styles: list[Option]
    kinds: list[str]
    flows_by: list[Option]
    discounted: list[Option]


class Limits(Schema):
    """How long what is typed may be, and how much of it there may be."""

    name: int
    note: int
    tags: int
    tag: int
    typed: int
    asked: int
    stretch: int
    pasted: int
    preset_name: int
    point_name: int
    said: int
    pins: int
    picked: int
    quotes: int
    file_megabytes: int
    file_rows: int
    token_name: int
    template_name: int


class Words(Schema):
    """Everything that can be chosen and typed. `{n}`, `{often}`, `{noun}`, `{compounded}`,
    `{currency}`, `{step}`, `{place}` stand in words to be filled."""

    currencies: list[CurrencyWord]
    periods: list[PeriodWord]
    any_period: PeriodWord
    continuously: str
    marks: list[MarksWord]
    months: list[str]
    days: DayWord
    code_first: bool
    styles: list[StyleWord]
    quotings: list[QuotingWord]
    of_360_days: str
    year_of_days: str
    usual_time: str
    usual_count: str
    entries: dict[str, EntryWord]
    quote_entries: dict[str, EntryWord]
    line_entries: dict[str, EntryWord]
    results: list[ResultWord]
    answer_title: str
    columns: dict[str, str]
    list_columns: dict[str, str]
    verbs: list[VerbWord]
    choices: ChoiceWords
    table: TableWords
    limits: Limits
    token_may: list[Option]
    token_days: list[int]


def _options(named: Mapping[Any, choices.Choice]) -> list[Option]:
    return [
        Option(value=value, label=choice.label, shown=choice.in_sentence)
        for value, choice in named.items()
    ]


def _plain(named: Mapping[Any, str]) -> list[Option]:
    return [Option(value=value, label=label, shown=label) for value, label in named.items()]


def _entries(entries: Mapping[str, Entry]) -> dict[str, EntryWord]:
    return {
        name: EntryWord(
            title=entry.title,
            help=entry.help,
            may_be_asked=entry.may_be_asked,
            may_be_empty=entry.may_be_empty,
        )
        for name, entry in entries.items()
    }


def _currencies() -> list[CurrencyWord]:
    told = []
    language = reading().language
    # In English as ISO 4217 calls them, else as Unicode CLDR does.
    called = {} if language == ENGLISH.language else Locale.parse(language).currencies
    for each in sorted(currencies().values()):
        minor = f"{Decimal(1).scaleb(-each.decimals):f}"
        cash = ["0.05", "0.10"] if each.decimals == 2 else []
        told.append(
            CurrencyWord(
                code=each.code,
                name=called.get(each.code, each.name),
                decimals=each.decimals,
                minor_unit=minor,
                steps=list(dict.fromkeys([minor, *cash, "1", "10"])),
            )
        )
    return told


def _styles() -> list[StyleWord]:
    return [
        StyleWord(
            name=name,
            said=worded(style.said),
            needs=worded(style.needs),
            is_timed=style.is_timed,
            is_scaled=style.is_scaled,
            is_compounded=style.is_compounded,
            is_of_a_loan=style.is_of_a_loan,
            is_of_periods=style.is_of_periods,
        )
        for name, style in CONVENTIONS.items()
    ]


def _period(name: str, period: frequencies.Period, compounded: str) -> PeriodWord:
    return PeriodWord(
        name=name,
        a_year=period.a_year,
        often=period.often,
        noun=period.noun,
        compounded=compounded,
    )


def _choices() -> ChoiceWords:
    return ChoiceWords(
        timing=_options(choices.TIMING),
        repaid=[
            RepayingWord(
                value=name,
                label=repaying.label,
                shown=repaying.shown,
                said=repaying.said,
                is_regular=repaying.is_regular,
                states_balance=repaying.states_balance,
            )
            for name, repaying in choices.REPAYMENT.items()
        ],
        repaid_rows=_plain({style: choices.REPAYMENT[style].label for style in choices.BY_NAME}),
        day_counts=_options(choices.DAY_COUNTS),
        odd_days=_options(choices.ODD_DAYS),
        rolls=_options(choices.ROLLS),
        adjusted=_options(choices.ADJUSTED),
        payment_rounding=_options(choices.PAYMENT_ROUNDING),
        interest_rounding=_options(choices.INTEREST_ROUNDING),
        overpaid=_options(choices.OVERPAID),
        taken=_options(choices.TAKEN),
        pay=_options(choices.PAY),
        charged_of=_options(choices.CHARGED_OF),
        held=_options(choices.HELD),
        at_reset=_options(choices.AT_RESET),
        in_costs=_options(choices.IN_COSTS),
        down_payment=_options(choices.DOWN_PAYMENT),
        then=_options(choices.THEN),
        we=[
            SpeakerWord(
                name=name,
                label=speaker.label,
                repaid=speaker.repaid,
                without=speaker.without,
                there=speaker.there,
            )
            for name, speaker in choices.WE.items()
        ],
        income_each=_plain(
            {f"a {per}": worded("a {period}", period=PERIODS[per].noun) for per in INCOME_EACH}
        ),
        charges=_plain(CHARGES),
        payoff_rounding=_plain(PAYOFF_ROUNDINGS),
    )


def _table() -> TableWords:
    fields = Defaults.model_json_schema()["properties"]
    return TableWords(
        fields={str(name): title for name, title in FIELDS_NAMED.items()},
        results={name: named.alone for name, named in TOLD_NAMED.items()},
        answers=dict(ANSWERS),
        counts=fields["count_in"]["enum"],
        marks=[name for name in MARKS if name in ANSWERS],
        roundings=[
            RoundingWord(label=worded(title), rounding=rounding.model_dump(mode="json"))
            for title, rounding in ROUNDINGS
        ],
        styles=[
            Option(value=name, label=said, shown=said)
            for name, style in CONVENTIONS.items()
            if not style.is_timed
            for said in [worded(style.title if style.is_of_periods else style.said).split(", {")[0]]
        ],
        kinds=list(table_limits.KINDS),
        flows_by=_plain(FLOWS_BY),
        discounted=_plain({str(often): said for often, said in DISCOUNTED.items()}),
    )


def _limits() -> Limits:
    return Limits(
        name=limits.MOST_NAME,
        note=limits.MOST_NOTE,
        tags=limits.MOST_TAGS,
        tag=limits.MOST_TAG,
        typed=limits.MOST_NAME,
        asked=limits.MOST_ASKED,
        stretch=limits.MOST_STRETCH,
        pasted=limits.MOST_PASTED,
        preset_name=limits.MOST_PRESET_NAME,
        point_name=limits.MOST_POINT_NAME,
        said=limits.MOST_SAID,
        pins=MOST_BESIDE - 1,
        picked=limits.MOST_PICKED,
        quotes=MOST_QUOTES,
        file_megabytes=table_limits.MOST_BYTES // 1_000_000,
        file_rows=table_limits.MOST_ROWS,
        token_name=limits.MOST_TOKEN_NAME,
        template_name=MOST_TEMPLATE_NAME,
    )


@for_each_reader(maxsize=32)
def words() -> Words:
    """Everything that can be chosen and typed, as whoever reads it calls it."""
    return Words(
        currencies=_currencies(),
        periods=[
            _period(name, each, frequencies.compounded(name)) for name, each in PERIODS.items()
        ],
        any_period=_period("", frequencies.ANY, worded(frequencies.ANY_COMPOUNDED)),
        continuously=worded(frequencies.CONTINUOUSLY),
        marks=[
            MarksWord(name=name, group=marks.group, decimal=marks.decimal, pairs=marks.pairs)
            for name, marks in MARKS.items()
            if name != "plain"
        ],
        months=month_names(),
        code_first=code_first(),
        days=DayWord(**day_form()._asdict()),
        styles=_styles(),
        quotings=[
            QuotingWord(
                quoted=each.quoted,
                compounding=each.compounding,
                label=each.label,
                under=each.under,
            )
            for each in QUOTINGS
        ],
        of_360_days=worded(OF_360_DAYS),
        year_of_days=worded(YEAR_OF_DAYS),
        usual_time=USUAL_TIME,
        usual_count=str(USUAL_COUNT),
        entries=_entries(ENTRIES),
        quote_entries=_entries(QUOTE_ENTRIES),
        line_entries=_entries(LINE_ENTRIES),
        results=[
            ResultWord(
                name=name,
                title=each.title,
                alone=each.alone,
                is_percent=each.kind == "percent",
                is_dated=each.kind == "day",
                is_placed="{place}" in each.title,
            )
            for name in AIMS
            for each in [RESULTS_NAMED[name]]
        ],
        answer_title=worded(ANSWER_TITLE),
        columns={name: each.alone for name, each in COLUMNS_NAMED.items()},
        list_columns={str(name): head for name, head in preferences.COLUMNS.items()},
        verbs=[
            VerbWord(
                name=name,
                label=verb.label,
                figure=verb.figure,
                units=_options(verb.units),
                is_stretch=verb.is_stretch,
                may_level=verb.may_level,
            )
            for name, verb in choices.VERBS_NAMED.items()
        ],
        choices=_choices(),
        table=_table(),
        limits=_limits(),
        token_may=[
            Option(value=name, label=said, shown=name) for name, said in tokens.MAY_NAMED.items()
        ],
        token_days=list(tokens.DAYS),
    )
