"""Django's SQLite, with those who write waiting in turn."""
