"""An analyst's tokens: made, listed, revoked; by whoever is signed in, never by a token."""

from datetime import datetime
from uuid import UUID

from django.views.decorators.debug import sensitive_variables
from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import tokens
from zephyrant.desk.limits import MOST_TOKEN_DAYS, MOST_TOKEN_NAME
from zephyrant.desk.token_rights import MAY, May

from .base import A_NAME, PAGE, REFUSALS, SignedIn, Start, noted

router = Router(by_alias=True)


class TokenAsked(Schema):
    """A token that is to be made: its name, what it may, for how many days."""

    name: str = Field(min_length=1, max_length=MOST_TOKEN_NAME, pattern=A_NAME)
    may: list[May] = Field(min_length=1, max_length=len(MAY))
    days: int = Field(ge=1, le=MOST_TOKEN_DAYS)


class TokenHeld(Schema):
    """A token as it is listed; the key itself is kept nowhere."""

    id: UUID
    name: str
    begins: str
    may: list[May]
    made_at: datetime
    ends_at: datetime
    used_at: datetime | None
    revoked_at: datetime | None
    holds: bool = True


class TokenMade(TokenHeld):
    """A new token, with its key, which is shown this once."""

    key: str


class TokenList(Schema):
    """A page of tokens."""

    items: list[TokenHeld]
    total: int


@router.get("", response={200: TokenList, **REFUSALS}, operation_id="listTokens")
def list_tokens(request: SignedIn, start: Start = 0) -> TokenList:
    """Your tokens, the newest first; those that ended of late, too."""
    held = tokens.of(request.user)
    items = [TokenHeld.from_orm(token) for token in held[start : start + PAGE]]
    return TokenList(items=items, total=held.count())


@router.post("", response={201: TokenMade, **REFUSALS}, operation_id="startToken")
@sensitive_variables()
def start_token(request: SignedIn, asked: TokenAsked) -> tuple[int, TokenMade]:
    """A new token. Its key is told once: send it as `Authorization: Bearer KEY`."""
    token, key = tokens.make(request.user, asked.name.strip(), asked.may, asked.days)
    noted(request, "token made", str(token))
    held = TokenHeld.from_orm(token)
    return 201, TokenMade(**held.model_dump(), key=key)


@router.delete("{uuid:token_id}", response={204: None, **REFUSALS}, operation_id="deleteToken")
def delete_token(request: SignedIn, token_id: UUID) -> tuple[int, None]:
    """End a token at once."""
    noted(request, "token revoked", str(tokens.revoke(request.user, token_id)))
    return 204, None
