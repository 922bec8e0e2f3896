"""A document read: from text or content, with what is wrong at its fields; and written."""

import json
from decimal import Decimal
from typing import Any, Final

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from zephyrant.texts import Worded, worded

from ..errors import FieldError, NotALoan
from .clauses import CHARGE_KINDS, FEE_KINDS
from .fields import in_quotes, is_missing
from .floating import RATE_KINDS
from .limits import MOST_TEXT
from .loan import Loan
from .repayment import REPAYMENT_KINDS

_SENTENCES: Final = Worded(
    {
        "json_invalid": "This is not JSON.",
        "model_type": "A group of fields in braces belongs here.",
        "model_attributes_type": "A loan document, an object in braces, belongs here.",
        "string_type": "Text belongs here.",
    }
)


def _sentence(error: ErrorDetails) -> str:
    kind, context = error["type"], error.get("ctx", {})
    if kind == "extra_forbidden":
        return worded(
            "Unknown key {loc}: the loan document has none of this name.",
            loc=in_quotes(error["loc"][-1]),
        )
    if kind == "literal_error":
        given = error.get("input")
        said = in_quotes(given) if isinstance(given, str | int | Decimal) else worded("This")
        return worded(
            "{said} is not known here. Write {expected}.", said=said, expected=context["expected"]
        )
    if kind == "missing" and error["loc"][-1] not in ("zephyrant", "currency"):
        return is_missing()
    if kind == "missing":
        example = "loan/1" if error["loc"][-1] == "zephyrant" else "EUR"
        return worded(
            'This is missing: a loan document says "{loc}": "{example}".',
            loc=error["loc"][-1],
            example=example,
        )
    if kind == "string_too_long":
        return worded("At most {max_length} characters fit here.", max_length=context["max_length"])
    return _SENTENCES.get(kind) or str(error["msg"])


#: The steps of a path that are no field of the document.
_KINDS: Final = (*FEE_KINDS, *CHARGE_KINDS, *REPAYMENT_KINDS, *RATE_KINDS)


def field_errors(errors: list[ErrorDetails], prefix: int = 0) -> tuple[FieldError, ...]:
    """Pydantic's errors as ours; `prefix` leading steps of each path are not the document's."""
    found = []
    for error in errors:
        path = ".".join(str(step) for step in error["loc"][prefix:] if step not in _KINDS)
        for field in error.get("ctx", {}).get("fields") or ("",):
            place = ".".join(step for step in (path, field) if step)
            found.append(FieldError(field=place, message=_sentence(error)))
    return tuple(found)


def check(content: object) -> Loan:
    """A loan from what JSON held; raises `NotALoan` with the path of each wrong field."""
    if not isinstance(content, dict):
        message = worded("This is not a loan document: an object in braces is expected.")
        raise NotALoan.at("", message)
    try:
        return Loan.model_validate(content)
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number of JSON")


def _no_twins(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    content = dict(pairs)
    if len(content) != len(pairs):
        names = [name for name, _ in pairs]
        twin = next(name for name in names if names.count(name) > 1)
        raise ValueError(f"the key {in_quotes(twin)} stands there twice")
    return content


def parse(text: str | bytes) -> Any:  # noqa: ANN401  (whatever JSON may hold)
    """JSON as strictly as money needs it: exact decimals, no NaN, no key twice.

    Raises `NotALoan` where the text is not JSON or is longer than `MOST_TEXT`.
    """
    if len(text) > MOST_TEXT:
        message = worded(
            "This is too long for a loan document: at most {most} characters.",
            most=f"{MOST_TEXT:,}",
        )
        raise NotALoan.at("", message)
    try:
        parsed = json.loads(
            text,
            parse_float=Decimal,
            parse_int=Decimal,
            parse_constant=_no_constant,
            object_pairs_hook=_no_twins,
        )
        json.dumps(parsed, ensure_ascii=False, default=str).encode()
    except UnicodeEncodeError:
        reason = worded("it holds half of a character")
    except UnicodeDecodeError:
        reason = worded("it is not UTF-8 text")
    except RecursionError:
        reason = worded("it is nested too deeply")
    except ValueError as error:
        reason = str(error)
    else:
        return parsed
    raise NotALoan.at("", worded("This is not JSON: {reason}.", reason=reason))


def read(text: str | bytes) -> Loan:
    """A loan from JSON text; raises `NotALoan`."""
    return check(parse(text))


def write(loan: Loan) -> dict[str, Any]:
    """The document as JSON holds it, without what was left out of it."""
    told = loan.model_dump(mode="json", exclude_unset=True, by_alias=True)
    if loan.purchase is not None:
        del told["principal"]
    return told
