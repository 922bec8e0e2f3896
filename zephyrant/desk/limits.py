"""How long what is typed and kept may be, and how much of it there may be."""

from typing import Final

MOST_NAME: Final = 200
MOST_NOTE: Final = 20_000
MOST_TAGS: Final = 20
MOST_TAG: Final = 40
#: Cases that are picked in the list at once: their keys go into an address.
MOST_PICKED: Final = 100
#: Habits of quoting, and their names.
MOST_PRESETS: Final = 30
MOST_PRESET_NAME: Final = 60
#: The name of an answer on a trail.
MOST_POINT_NAME: Final = 120
#: What is said of a case by whoever judges it, and how often.
MOST_SAID: Final = 2_000
MOST_COMMENTS: Final = 500
#: A table, a schedule or flows as text.
MOST_PASTED: Final = 900_000
#: What is asked: moments or values, a stretch of payments.
MOST_ASKED: Final = 2_000
MOST_STRETCH: Final = 200
#: Tokens of an analyst that hold, the name of one, and the days it may hold for.
MOST_TOKENS: Final = 20
MOST_TOKEN_NAME: Final = 60
MOST_TOKEN_DAYS: Final = 366
