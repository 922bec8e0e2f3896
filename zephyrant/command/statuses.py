"""With what a command ends: the highest status of all it was asked."""

from typing import Final

ANSWERED: Final = 0
NO_ANSWER: Final = 1
NOT_A_DOCUMENT: Final = 2
OUR_FAULT: Final = 3
