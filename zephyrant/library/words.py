"""The words of the trade and of ours, as the screen and the docs explain them."""

from difflib import get_close_matches

from zephyrant.loans import GLOSSARY


def explain(word: str) -> str:
    """What a word of an answer or of the trade means: `us_apr`, `effective`, `balloon`.

    Raises `KeyError` where it is not explained, with those that come near.

    >>> explain("effective").partition(",")[0]
    'What one lent has grown by after a year'
    """
    named = {**{term.title.lower(): term for term in GLOSSARY.values()}, **GLOSSARY}
    term = named.get(word) or named.get(word.lower())
    if term is None:
        near = ", ".join(get_close_matches(word.lower(), list(named), 3)) or "nothing near it"
        raise KeyError(f"“{word}” is not explained; there is {near}.")
    return term.says
