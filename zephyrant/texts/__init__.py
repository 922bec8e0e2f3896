"""Who reads, and every text in their language: below all that says anything.

English stands where it is said; what it is in another language stands in one file of that language
(`languages/de.po`), made from the catalogue of all texts (`zephyrant.pot`, by `make texts`).
"""

from .reading import (
    ENGLISH,
    Reading,
    for_each_reader,
    read_as,
    read_from_here,
    read_throughout,
    reading,
    tag,
)
from .translations import languages, look_in, looked_in, translation
from .wording import Said, Worded, counted, worded

__all__ = [
    "ENGLISH",
    "Reading",
    "Said",
    "Worded",
    "counted",
    "for_each_reader",
    "languages",
    "look_in",
    "looked_in",
    "read_as",
    "read_from_here",
    "read_throughout",
    "reading",
    "tag",
    "translation",
    "worded",
]
