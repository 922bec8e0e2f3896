"""What is kept: cases, their revisions and shares, and what an analyst prefers."""

import uuid
from datetime import timedelta
from typing import Final

from django.conf import settings
from django.db import models

#: How long a deleted case can be brought back.
BIN_KEEPS: Final = timedelta(days=30)


class Case(models.Model):
    """A loan an analyst works on.

    `statement` is what stands on the page, as typed; `document` the whole loan document last
    read from it (null until there is one). `found` and `listed` are what the list shows of its
    answer and its figures, `calling` by what it is called without a name, `search` is what
    searching looks through, and `amount` to `answer` what the list is sorted by (null for what is
    not there or not known). `asides` is what is asked beside the statement, and what it is pinned
    beside. `follows`: the approved case beside which it is a new version.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="cases"
    )
    name = models.CharField(max_length=200, blank=True)
    statement = models.JSONField()
    note = models.TextField(blank=True)
    tags = models.JSONField(default=list)
    document = models.JSONField(null=True)
    found = models.JSONField(null=True)
    listed = models.JSONField(null=True)
    calling = models.JSONField(null=True)
    search = models.TextField(blank=True)
    amount = models.FloatField(null=True)
    rate = models.FloatField(null=True)
    payment = models.FloatField(null=True)
    effective = models.FloatField(null=True)
    years = models.FloatField(null=True)
    asked = models.CharField(max_length=60, blank=True)
    answer = models.FloatField(null=True)
    asides = models.JSONField(default=dict)
    follows = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, related_name="followed_by"
    )
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-changed_at"]
        indexes = [
            # All that the list sorts by and looks through: no case is read to find its place.
            models.Index(
                fields=[
                    "owner",
                    "deleted_at",
                    "-changed_at",
                    "id",
                    "name",
                    "created_at",
                    "amount",
                    "rate",
                    "payment",
                    "effective",
                    "years",
                    "asked",
                    "answer",
                    "search",
                ],
                name="cases_as_listed",
            ),
            models.Index(fields=["deleted_at"]),
        ]

    def __str__(self) -> str:
        return self.name or "Unnamed case"


class QuoteList(models.Model):
    """Quotes an analyst compares; `content` as typed."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="quote_lists"
    )
    name = models.CharField(max_length=200, blank=True)
    content = models.JSONField()
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-changed_at"]
        indexes = [models.Index(fields=["owner", "deleted_at", "-changed_at"])]

    def __str__(self) -> str:
        return self.name or "Unnamed list of quotes"


class Share(models.Model):
    """A colleague who may read a case, and perhaps change it."""

    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="shares")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    may_edit = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["case", "user"], name="one_share_each")]

    def __str__(self) -> str:
        return f"{self.case} for {self.user}"


class Revision(models.Model):
    """A case as it stood: its content, the answer it had and the core that gave it.

    A series of changes to the same figures by one analyst is one revision: `began_at` is its
    first save, `saved_at` its last.
    """

    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    began_at = models.DateTimeField()
    saved_at = models.DateTimeField()
    changed = models.JSONField(default=list)
    statement = models.JSONField()
    note = models.TextField(blank=True)
    tags = models.JSONField(default=list)
    document = models.JSONField(null=True)
    answer = models.JSONField(null=True)
    engine = models.CharField(max_length=60)

    class Meta:
        ordering = ["-number"]
        constraints = [
            models.UniqueConstraint(fields=["case", "number"], name="revisions_are_numbered")
        ]

    def __str__(self) -> str:
        return f"{self.case}, revision {self.number}"


class Review(models.Model):
    """A case put before somebody else to be judged, as it stood in a revision.

    `asked`: what the reviewer is told; `said`: what they said of it. Names stay when their people
    leave. `engine`: the core that answers it as it is judged.
    """

    OPEN, APPROVED, SENT_BACK, TAKEN_BACK = "open", "approved", "sent-back", "taken-back"

    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="reviews")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="reviews")
    number = models.PositiveIntegerField()
    state = models.CharField(max_length=20, default=OPEN)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    by_name = models.CharField(max_length=300)
    put_up_at = models.DateTimeField()
    asked = models.TextField(blank=True)
    reviewer = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="reviews"
    )
    reviewer_name = models.CharField(max_length=300)
    ended_at = models.DateTimeField(null=True)
    ended_by_name = models.CharField(max_length=300, blank=True)
    said = models.TextField(blank=True)
    engine = models.CharField(max_length=60, blank=True)

    class Meta:
        ordering = ["-number"]
        indexes = [models.Index(fields=["reviewer", "state"])]
        constraints = [
            models.UniqueConstraint(fields=["case", "number"], name="reviews_are_numbered"),
            models.UniqueConstraint(
                fields=["case"], condition=models.Q(state="open"), name="one_open_review"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.case}, review {self.number}: {self.state}"


class Comment(models.Model):
    """What somebody said of a figure of a case (`figure`: its path or its name; empty: of the whole
    case), and what that came to then, as a plain decimal."""

    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="comments")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="comments")
    figure = models.CharField(max_length=120, blank=True)
    stood = models.CharField(max_length=120, null=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    by_name = models.CharField(max_length=300)
    at = models.DateTimeField()
    text = models.TextField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.case}, {self.figure or 'the whole'}: {self.text}"


class TrailPoint(models.Model):
    """An answer once found in a case, with the statement it was found for.

    `digest` is that of the document: an answer is listed once, however often one returns to it.
    `left`: a field was left on it, so that it was no answer to half a figure.
    """

    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="trail")
    number = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    found_at = models.DateTimeField()
    left = models.BooleanField(default=False)
    name = models.CharField(max_length=120, blank=True)
    statement = models.JSONField()
    document = models.JSONField()
    answer = models.JSONField()

    class Meta:
        ordering = ["-number"]
        constraints = [
            models.UniqueConstraint(fields=["case", "number"], name="trail_points_are_numbered"),
            models.UniqueConstraint(fields=["case", "digest"], name="trail_points_differ"),
        ]

    def __str__(self) -> str:
        return f"{self.case}, answer {self.number}"


class LoanTable(models.Model):
    """A table of loans: the file as it was read, how it is matched, and what came of it.

    `source` and `result` are columns of texts (Parquet), `kinds` what those of the file held there
    (see `zephyrant.tables.kinds`); `looked` is what the cells of some columns
    say of how they are written, so that they are looked at once. `state` tells how far it is:
    matching, waiting, running, done, cancelled or failed. `done` rows are solved, kept in parts
    until all are; `beat_at` is when who works on it was last heard of.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="loan_tables"
    )
    name = models.CharField(max_length=200)
    names = models.JSONField()
    notes = models.JSONField(default=list)
    rows = models.PositiveIntegerField()
    source = models.BinaryField()
    kinds = models.JSONField(default=list)
    columns = models.JSONField(default=dict)
    defaults = models.JSONField(default=dict)
    looked = models.JSONField(null=True)
    state = models.CharField(max_length=12, default="matching")
    done = models.PositiveIntegerField(default=0)
    why = models.TextField(blank=True)
    result = models.BinaryField(null=True)
    summary = models.JSONField(null=True)
    asked_at = models.DateTimeField(null=True)
    began_at = models.DateTimeField(null=True)
    beat_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created_at"]
        indexes = [models.Index(fields=["state", "asked_at"])]

    def __str__(self) -> str:
        return self.name


class TablePart(models.Model):
    """Rows of a table that are solved, until all are."""

    table = models.ForeignKey(LoanTable, on_delete=models.CASCADE, related_name="parts")
    first = models.PositiveIntegerField()
    content = models.BinaryField()

    class Meta:
        ordering = ["first"]

    def __str__(self) -> str:
        return f"{self.table} from row {self.first}"


class TableMatch(models.Model):
    """How an analyst matched the columns of a file with these names, for the next one like it."""

    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="table_matches"
    )
    digest = models.CharField(max_length=64)
    columns = models.JSONField()
    defaults = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "digest"], name="one_match_each")]

    def __str__(self) -> str:
        return f"Match of {self.owner}"


class TableTemplate(models.Model):
    """A match of columns kept by a name: the document (see `zephyrant.tables.template`), and
    whether everyone on the desk may take it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="table_templates"
    )
    name = models.CharField(max_length=80)
    content = models.JSONField()
    shared = models.BooleanField(default=False)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_template_each")]

    def __str__(self) -> str:
        return self.name


class KeptIndex(models.Model):
    """An index that floating rates follow, by its name: what it was fixed at and when. Without an
    owner it came from the feed and is everyone's."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="indices", null=True
    )
    name = models.CharField(max_length=60)
    fixings = models.JSONField()
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["owner", "name"], name="one_index_each"),
            models.UniqueConstraint(
                fields=["name"], condition=models.Q(owner=None), name="one_index_of_the_feed"
            ),
        ]

    def __str__(self) -> str:
        return self.name


class Preferences(models.Model):
    """How an analyst reads and writes numbers, quotes rates, which columns the list of cases has,
    how a new case begins and how files are made (null: as for everyone)."""

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="preferences"
    )
    marks = models.CharField(max_length=20, default="comma-point")
    presets = models.JSONField(null=True)
    columns = models.JSONField(null=True)
    begins = models.JSONField(null=True)
    files = models.JSONField(null=True)

    def __str__(self) -> str:
        return f"Preferences of {self.user}"


class AuditEntry(models.Model):
    """What somebody did: signed in, shared, took out or deleted. `who` stays when they leave."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    who = models.CharField(max_length=150)
    what = models.CharField(max_length=20)
    about = models.CharField(max_length=300, blank=True)
    address = models.CharField(max_length=64, blank=True)
    request = models.CharField(max_length=64, blank=True)

    class Meta:
        ordering = ["-at", "-pk"]
        verbose_name_plural = "audit log"

    def __str__(self) -> str:
        return f"{self.at:%Y-%m-%d %H:%M} {self.who}: {self.what} {self.about}".strip()


class Token(models.Model):
    """A key by which a program asks in an analyst's name: what it may, until when. It is shown once
    and kept as its SHA-256; `begins` is what it is told apart by."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tokens"
    )
    name = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True)
    begins = models.CharField(max_length=16)
    may = models.JSONField(default=list)
    made_at = models.DateTimeField(auto_now_add=True)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at"]

    def __str__(self) -> str:
        return f"{self.name} ({self.begins}…)"
