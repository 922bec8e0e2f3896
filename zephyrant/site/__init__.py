"""The Django project: settings, addresses, and how it is served."""
