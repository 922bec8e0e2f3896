"""Files that take long: how much of one is there."""

import uuid

from ninja import Router, Schema

from zephyrant.desk import heavy

from .base import REFUSALS, SignedIn

router = Router(by_alias=True)


class Growing(Schema):
    """How much of a file is there, from 0 to 1; null before it is begun, and after its end."""

    share: float | None


@router.get(
    "{uuid:making}/progress", response={200: Growing, **REFUSALS}, operation_id="getFileProgress"
)
def get_file_progress(request: SignedIn, making: uuid.UUID) -> Growing:
    """How much is there of the file that was asked for under this name (`making`)."""
    return Growing(share=heavy.share(request.user.pk, making))
