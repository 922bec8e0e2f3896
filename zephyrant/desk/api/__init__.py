"""The API: one short function an endpoint; what comes in and goes out stands in its signature.

Things are nouns, listed, got, started, saved, deleted; what is asked of a loan, of a rate or of
quotes stands under `ask/` by the noun of what is answered. The version stands in the path.
"""

from .asking import router as asking
from .base import api
from .beside import router as beside
from .cases import router as cases
from .guide import router as guide
from .indices import router as indices
from .making import router as making
from .presets import router as presets
from .quotes import router as quotes
from .rates import router as rates
from .reviews import router as reviews
from .revisions import router as revisions
from .session import router as session
from .several import router as several
from .sharing import router as sharing
from .solving import router as solving
from .table_templates import on_tables as templates_on_tables
from .table_templates import router as table_templates
from .tables import router as tables
from .tokens import router as tokens

api.add_router("", solving, tags=["Solving"])
api.add_router("ask", asking, tags=["Asking a loan"])
api.add_router("ask", rates, tags=["Asking about rates"])
api.add_router("cases", cases, tags=["Cases"])
api.add_router("cases", several, tags=["Several cases"])
api.add_router("cases", revisions, tags=["Revisions of a case"])
api.add_router("cases", reviews, tags=["Reviews of a case"])
api.add_router("cases", beside, tags=["Beside a case"])
api.add_router("", sharing, tags=["Sharing"])
api.add_router("quote-lists", quotes, tags=["Lists of quotes"])
api.add_router("tables", tables, tags=["Tables of loans"])
api.add_router("tables", templates_on_tables, tags=["Tables of loans"])
api.add_router("table-templates", table_templates, tags=["Tables of loans"])
api.add_router("files", making, tags=["Files"])
api.add_router("indices", indices, tags=["Indices"])
api.add_router("", guide, tags=["The guide"])
api.add_router("presets", presets, tags=["The analyst"])
api.add_router("tokens", tokens, tags=["Tokens"])
api.add_router("", session, tags=["The analyst"])

__all__ = ["api"]
