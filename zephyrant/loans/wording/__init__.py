"""Numbers, dates and sentences in the reader's marks."""
