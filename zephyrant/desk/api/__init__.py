"""The API: one short function an endpoint; what comes in and goes out stands in its signature."""

from .asking import router as asking
from .base import api
from .beside import router as beside
from .cases import router as cases
from .making import router as making
from .quotes import router as quotes
from .rates import router as rates
from .revisions import router as revisions
from .session import router as session
from .sharing import router as sharing
from .solving import router as solving
from .tables import router as tables

api.add_router("", solving)
api.add_router("", asking)
api.add_router("", rates)
api.add_router("", quotes)
api.add_router("", session)
api.add_router("cases", cases)
api.add_router("cases", revisions)
api.add_router("cases", beside)
api.add_router("", sharing)
api.add_router("tables", tables)
api.add_router("making", making)

__all__ = ["api"]
