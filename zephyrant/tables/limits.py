"""What files of tables are read on the desk, and how much of them."""

from typing import Final

MOST_BYTES: Final = 50_000_000
MOST_ROWS: Final = 200_000
MOST_COLUMNS: Final = 200
#: Bytes a packed file may hold once it is unpacked.
MOST_UNPACKED: Final = 400_000_000
#: What a file is told by is what is in it; these are the names such files have.
KINDS: Final = (
    *(".csv", ".txt", ".tsv", ".xlsx", ".xls"),
    *(".jsonl", ".ndjson", ".json", ".parquet", ".arrow", ".feather", ".gz"),
)
#: Different tables of one workbook that are read at once.
MOST_TABLES_OF_A_FILE: Final = 10
