"""What is refused in more than one place, said once."""

from zephyrant.texts import worded


def no_payment(number: int | str, count: int) -> str:
    """That a loan of so many payments has none of this number."""
    return worded("There is no payment {number}: the loan has {count}.", number=number, count=count)
