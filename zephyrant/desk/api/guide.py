"""The guide: what analysts come for, and its examples opened; the words that are explained."""

from ninja import Router, Schema

from zephyrant.desk import guide
from zephyrant.desk.guide import JobTold
from zephyrant.desk.preferences import marks_of
from zephyrant.loans import GLOSSARY, MARKS

from .base import REFUSALS, SignedIn

router = Router(by_alias=True)


class TermTold(Schema):
    """A word of the trade or of the desk: under which heading it stands, and what it means."""

    name: str
    title: str
    about: str
    says: str


class ExampleOpened(Schema):
    """The page of an example, which is now one's own."""

    to: str


@router.get("glossary", response={200: list[TermTold], **REFUSALS}, operation_id="getGlossary")
def get_glossary(request: SignedIn) -> list[TermTold]:
    """The words that are explained where they stand."""
    return [
        TermTold(name=name, title=term.title, about=term.about, says=term.says)
        for name, term in GLOSSARY.items()
    ]


@router.get("guide", response={200: list[JobTold], **REFUSALS}, operation_id="getGuide")
def get_guide(request: SignedIn) -> list[JobTold]:
    """What analysts come for, job by job."""
    return guide.jobs_told(MARKS[marks_of(request.user)])


@router.post(
    "guide/{slug:name}", response={201: ExampleOpened, **REFUSALS}, operation_id="startExample"
)
def start_example(request: SignedIn, name: str) -> tuple[int, ExampleOpened]:
    """The example of a job, as a case, a list or a table of the analyst's own."""
    return 201, ExampleOpened(to=guide.open_example(request.user, name))
