"""What people are called."""

from django.contrib.auth.models import User


def name_of(user: User) -> str:
    """The name of a user, else what they sign in with."""
    return user.get_full_name() or user.get_username()
