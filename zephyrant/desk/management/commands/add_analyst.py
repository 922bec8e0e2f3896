"""`python manage.py add_analyst USERNAME`: a new analyst, with a first password."""

import secrets
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    """Add an analyst."""

    help = "Add an analyst and print a first password, to be changed after signing in."

    def add_arguments(self, parser: CommandParser) -> None:
        """The name to sign in with and the one to be called by."""
        parser.add_argument("username")
        parser.add_argument("--first-name", default="")
        parser.add_argument("--last-name", default="")
        parser.add_argument("--administrator", action="store_true", help="may add analysts too")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Add and print."""
        if User.objects.filter(username=options["username"]).exists():
            raise CommandError(f"There is an analyst {options['username']} already.")
        password = secrets.token_urlsafe(12)
        User.objects.create_user(
            options["username"],
            password=password,
            first_name=options["first_name"],
            last_name=options["last_name"],
            is_staff=options["administrator"],
            is_superuser=options["administrator"],
        )
        self.stdout.write(f"{options['username']} can sign in with {password}")
