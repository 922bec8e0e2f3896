"""Nothing typed is lost, nothing newer overwritten, nobody else let in."""

import re

from axes.models import AccessAttempt
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from playwright.sync_api import APIResponse, Page, Route, expect

from zephyrant.desk.demo import CASES, COLLEAGUE
from zephyrant.desk.models import Case, Revision, Share

from .base import BrowserTest

SAVED = re.compile("^Saved")


class KeptSafe(BrowserTest):
    def cider(self) -> Case:
        return Case.objects.get(name__startswith="Cider press")

    def saved(self, page: Page | None = None) -> None:
        """The page says it is saved, and nothing waits in the browser."""
        page = page or self.page
        expect(page.get_by_role("status").filter(has_text=SAVED)).to_be_visible()
        waiting = "Object.keys(localStorage).filter(key => key.startsWith('zephyrant-draft:'))"
        self.until(lambda: not page.evaluate(waiting), "nothing waits in the browser", page)

    def conflict(self) -> tuple[Page, Page]:
        """Two windows on one case: the rate changed in the other, the count here."""
        page = self.open("Cider press")
        self.answers("938.82")
        other = page.context.new_page()
        other.goto(page.url)
        self.answers("938.82", other)
        # Where a field has the focus, what another window saves does not show up.
        self.figure("Number of payments").focus()
        self.figure("Rate", other).fill("6.10")
        # 933.34: mpmath, as said in test_case_page.
        self.answers("933.34", other)
        self.saved(other)
        self.figure("Number of payments").fill("48")
        expect(page.get_by_role("alert").filter(has_text="changed elsewhere")).to_be_visible()
        self.assertEqual(self.cider().statement["count"], "60")
        return page, other

    def test_two_windows_figure_by_figure(self) -> None:
        page, _ = self.conflict()
        table = page.get_by_role("alert").get_by_role("table")
        expect(table).to_contain_text("6.10")
        page.get_by_role("button", name="Go on with what is chosen").click()
        self.saved()
        kept = self.cider().statement
        self.assertEqual((kept["percent"], kept["count"]), ("6.10", "48"))

    def test_two_windows_all_from_here_or_elsewhere(self) -> None:
        page, other = self.conflict()
        page.get_by_role("button", name="All from elsewhere").click()
        self.answers("933.34")
        expect(self.figure("Number of payments")).to_have_value("60")
        self.figure("Rate").focus()
        self.figure("Number of payments", other).fill("72")
        self.until(lambda: self.cider().statement["count"] == "72", "saved in the other")
        other.close()
        self.figure("Rate").fill("5.00")
        page.get_by_role("button", name="All from here").click()
        self.saved()
        kept = self.cider().statement
        self.assertEqual((kept["percent"], kept["count"]), ("5.00", "60"))

    def test_offline_and_back(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.context.set_offline(True)
        self.figure("Amount lent").fill("50,000")
        expect(page.get_by_text("Not saved: offline, will retry")).to_be_visible()
        page.context.set_offline(False)
        self.saved()
        self.assertEqual((self.cider().document or {})["principal"], "50000")

    def test_a_closed_tab_loses_nothing_typed_not_even_half(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        context, address = page.context, page.url
        context.set_offline(True)
        self.figure("Amount lent").fill("50,0oo")
        page.wait_for_function("Object.values(localStorage).some(it => it.includes('50,0oo'))")
        page.close()
        context.set_offline(False)
        again = context.new_page()
        again.goto(address)
        expect(self.figure("Amount lent", again)).to_have_value("50,0oo")
        self.saved(again)
        self.assertEqual(self.cider().statement["principal"], "50,0oo")
        self.assertEqual((self.cider().document or {})["principal"], "48250")

    def test_an_expired_session_loses_nothing(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        # What is asked meanwhile waits for the session's end: once the page knows of it, nothing
        # can be typed.
        held: list[Route] = []
        ended = False

        def hold(route: Route) -> None:
            if ended:
                route.continue_()
            else:
                held.append(route)

        page.route("**/api/v1/**", hold)
        self.figure("Rate").fill("6.10")
        expect(self.figure("Rate")).to_have_value("6.10")
        Session.objects.all().delete()
        ended = True
        for route in held:
            route.continue_()
        expect(page.get_by_text("Your session ended.")).to_be_visible()
        page.get_by_role("button", name="Enter the demo desk").click()
        self.saved()
        expect(self.figure("Rate")).to_have_value("6.10")
        # The answer refused meanwhile is asked for again.
        self.answers("933.34")
        self.assertEqual(self.cider().statement["percent"], "6.10")

    def test_an_answer_from_before_signing_in_ends_no_session(self) -> None:
        page = self.window()
        held: list[tuple[Route, APIResponse]] = []
        page.route("**/api/v1/words", lambda route: held.append((route, route.fetch())), times=1)
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Enter the demo desk").click()
        expect(page.get_by_role("heading", name="Cases")).to_be_visible()
        late, refusal = held[0]
        self.assertEqual(refusal.status, 401)
        with page.expect_response("**/api/v1/words") as heard:
            late.fulfill(response=refusal)
        heard.value.finished()
        page.evaluate("() => new Promise((done) => setTimeout(done))")
        self.open("Cider press", page)
        expect(page.get_by_text("Your session ended.")).to_have_count(0)

    def test_a_revision_brought_back(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        self.figure("Rate").fill("6.10")
        self.saved()
        page.keyboard.press("Escape")
        self.figure("Number of payments").fill("48")
        page.get_by_role("button", name="History").click()
        sheet = page.get_by_role("dialog")
        expect(sheet).to_contain_text("number of payments 60 to 48")
        expect(sheet).to_contain_text("rate 6.35 % to 6.10 %")
        expect(sheet).to_contain_text("Maren Tolliver")
        sheet.get_by_role("listitem").last.get_by_role("button", name="Open").click()
        expect(sheet).to_contain_text("Answer then: 938.82")
        sheet.get_by_role("listitem").last.get_by_role("button", name="Bring back").click()
        expect(self.figure("Rate")).to_have_value("6.35")
        expect(self.figure("Number of payments")).to_have_value("60")
        self.answers("938.82")
        self.assertEqual(Revision.objects.filter(case=self.cider()).count(), 4)

    def test_a_newer_core_that_answers_differently_is_told(self) -> None:
        revision = self.cider().revisions.get()
        assert revision.answer
        revision.answer["value"] = "938.80"
        revision.engine = "zephyrant-loans 0.0.9"
        revision.save()
        page = self.open("Cider press")
        expect(page.get_by_role("alert")).to_contain_text(
            "the answer was 938.80, now 938.82 (0.02)"
        )

    def test_shared_for_reading_and_for_changing(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Share").click()
        page.get_by_label("Edda Quarrie may").select_option("may read it")
        self.until(Share.objects.filter(may_edit=False).exists, "shared for reading")
        theirs = self.as_colleague(page.url)
        # The link survived signing in.
        self.answers("938.82", theirs)
        expect(theirs.get_by_text("what you change here is not kept")).to_be_visible()
        asked: list[str] = []
        theirs.on("request", lambda each: asked.append(each.method))
        self.figure("Rate", theirs).fill("5")
        month = (1 + 0.05 / 2) ** (1 / 6) - 1
        self.answers(f"{48250 * month / (1 - (1 + month) ** -60):,.2f}", theirs)
        # Whoever may change a case has it saved at once as they leave it.
        theirs.get_by_role("link", name="Zephyrant").click()
        expect(self.listed(theirs)).not_to_have_count(0)
        self.assertEqual(asked.count("PUT"), 0)
        self.assertEqual(self.cider().statement["percent"], "6.35")

    def test_signing_in_is_throttled(self) -> None:
        page = self.window()
        page.goto(self.live_server_url)
        for _ in range(5):
            page.get_by_label("Name", exact=True).fill("demo-analyst")
            page.get_by_label("Password").fill("guess")
            page.get_by_role("button", name="Sign in").click()
            expect(page.get_by_role("alert")).to_be_visible()
            expect(page.get_by_label("Password")).to_have_value("")
        expect(page.get_by_role("alert")).to_contain_text("Too many attempts")
        self.assertGreaterEqual(AccessAttempt.objects.get().failures_since_start, 5)
        self.accessible(page)

    def test_administrators_come_in_by_the_same_door(self) -> None:
        User.objects.filter(username=COLLEAGUE[0]).update(is_staff=True, is_superuser=True)
        page = self.as_colleague(f"{self.live_server_url}/admin/desk/token/")
        expect(page.get_by_role("heading", name="Site administration")).to_be_visible()
        self.assertTrue(page.url.endswith("/admin/"), page.url)

    def test_signing_out(self) -> None:
        page = self.page
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.assertEqual(page.evaluate("Object.keys(localStorage).join()"), "")


class TheList(BrowserTest):
    def test_found_as_one_types(self) -> None:
        page = self.page
        rows = self.listed()
        for typed, count in (
            ("hask", 4),
            ("48,250", 1),
            ("938.82", 1),
            ("#growers", 5),
            ("committee orrin", 1),
            ("no such thing", 0),
            ("", len(CASES)),
        ):
            with self.subTest(typed):
                page.get_by_role("searchbox", name="Find a case").fill(typed)
                expect(rows).to_have_count(count)

    def test_deleted_undone_and_brought_back_from_the_bin(self) -> None:
        page = self.page
        rows = self.listed()
        for _ in range(2):
            page.get_by_role("button", name="What to do with Kiln").click()
            page.get_by_role("menuitem", name="Delete").click()
            expect(rows).to_have_count(len(CASES) - 1)
            page.get_by_role("button", name="Undo").click()
            expect(rows).to_have_count(len(CASES))
        page.get_by_role("button", name="What to do with Kiln").click()
        page.get_by_role("menuitem", name="Delete").click()
        page.get_by_role("link", name="Bin", exact=True).click()
        expect(page.get_by_text("kept until")).to_be_visible()
        self.accessible()
        page.get_by_role("button", name="Bring back").click()
        expect(page.get_by_text("The bin is empty.")).to_be_visible()

    def test_copied_and_taken_out(self) -> None:
        page = self.page
        with page.expect_download() as download:
            page.get_by_role("button", name="What to do with Cider press").click()
            page.get_by_role("menuitem", name="Export as a document").click()
        self.assertEqual(download.value.suggested_filename, "cider-press-orrin-daughters.json")
        taken = download.value.path().read_bytes()
        page.get_by_label("Loan document to open").set_input_files(
            {"name": "press.json", "mimeType": "application/json", "buffer": taken}
        )
        self.answers("938.82")
        page.get_by_role("navigation").get_by_role("link", name="Cases").click()
        page.get_by_role("button", name="What to do with Kiln").click()
        page.get_by_role("menuitem", name="Copy").click()
        expect(page.get_by_label("Name of the case")).to_have_value("Kiln, Tarn Pottery (copy)")

    def test_opening_many_documents_is_stopped_and_gone_on_with(self) -> None:
        page = self.page
        taken = page.request.get(f"{self.live_server_url}/api/v1/cases/file?kind=json").body()

        def hold(route: Route) -> None:
            """Never answered: as long as one waits."""

        page.route("**/from-documents?*", hold, times=1)
        field = page.get_by_label("Loan document to open")
        field.set_input_files({"name": "all.json", "mimeType": "application/json", "buffer": taken})
        page.get_by_role("button", name="Stop").click()
        expect(page.get_by_text("opened all together or not at all")).to_be_visible()
        self.accessible()
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_text(f"{len(CASES)} cases opened.")).to_be_visible()
        expect(page.get_by_text("opened all together or not at all")).to_have_count(0)

    def test_all_cases_taken_out_as_a_zip_are_taken_in_again(self) -> None:
        page = self.page
        taken = page.request.get(f"{self.live_server_url}/api/v1/cases/file?kind=zip").body()
        field = page.get_by_label("Loan document to open")
        field.set_input_files({"name": "all.zip", "mimeType": "application/zip", "buffer": taken})
        expect(page.get_by_text(f"{len(CASES)} cases opened.")).to_be_visible()
        twice = page.request.get(f"{self.live_server_url}/api/v1/cases/file?kind=json").json()
        half = twice[: len(CASES)]
        self.assertEqual(sorted(map(str, twice)), sorted(map(str, half + half)))
        damaged = taken[: len(taken) // 2]
        field.set_input_files({"name": "all.zip", "mimeType": "application/zip", "buffer": damaged})
        expect(page.get_by_role("alert")).to_contain_text("This zip cannot be read")

    def test_tags_and_a_note(self) -> None:
        page = self.open("Six looms")
        page.get_by_label("Add a tag").fill("Weavers")
        page.keyboard.press("Enter")
        page.get_by_label("Note").fill("Ask for the order book.")
        self.until(Case.objects.filter(note__contains="order book").exists, "the note kept")
        page.reload()
        expect(page.get_by_label("Note")).to_have_value("Ask for the order book.")
        expect(page.get_by_text("weavers")).to_be_visible()
