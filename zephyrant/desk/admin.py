"""The administration: analysts by Django's own pages, and the audit log. Cases are confidential and
not shown."""

from typing import Final

from django.contrib import admin
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse, HttpResponseForbidden, HttpResponseRedirect
from django.urls import reverse

from . import audit
from .models import AuditEntry, Token

admin.site.site_header = "Zephyrant"
admin.site.site_title = "Zephyrant"
#: Where administrators sign in: as everybody does, on the page, which then leads them here.
SIGN_IN: Final = "/?to=administration"


def sign_in(request: HttpRequest) -> HttpResponse:
    """The administration has no sign-in of its own: there is one for the whole desk, with one limit
    on attempts."""
    if admin.site.has_permission(request):
        return HttpResponseRedirect(reverse("admin:index"))
    if request.user.is_authenticated:
        return HttpResponseForbidden("This account may not administer the desk.\n", "text/plain")
    return HttpResponseRedirect(SIGN_IN)


def change_password(request: HttpRequest) -> HttpResponse:
    """Passwords are changed on the page, for the same reason."""
    return HttpResponseRedirect("/")


@admin.register(AuditEntry)
class AuditLog(admin.ModelAdmin):  # type: ignore[type-arg]
    """Read and taken out; nobody writes in it."""

    list_display = audit.COLUMNS
    list_filter = ("what", "at")
    search_fields = ("who", "about", "address", "request")
    date_hierarchy = "at"
    actions = ("as_csv",)

    @admin.action(description="Export as CSV")
    def as_csv(self, request: HttpRequest, entries: QuerySet[AuditEntry]) -> HttpResponse:
        """The chosen entries as a file."""
        response = HttpResponse(content_type="text/csv; charset=utf-8")
        response["Content-Disposition"] = 'attachment; filename="zephyrant-audit.csv"'
        audit.write(entries, response)  # type: ignore[arg-type]
        return response

    def has_add_permission(self, request: HttpRequest) -> bool:
        """Nobody may."""
        return False

    def has_change_permission(self, request: HttpRequest, obj: AuditEntry | None = None) -> bool:
        """Nobody may."""
        return False

    def has_delete_permission(self, request: HttpRequest, obj: AuditEntry | None = None) -> bool:
        """Nobody may."""
        return False


@admin.register(Token)
class TokensHeld(admin.ModelAdmin):  # type: ignore[type-arg]
    """What programs ask with; an administrator sees whose they are, and may end any by deleting
    it."""

    list_display = ("name", "owner", "begins", "may", "ends_at", "used_at", "revoked_at")
    list_filter = ("owner",)
    exclude = ("digest",)

    def has_add_permission(self, request: HttpRequest) -> bool:
        """A token is made by whose it is."""
        return False

    def has_change_permission(self, request: HttpRequest, obj: Token | None = None) -> bool:
        """Nobody may."""
        return False
