"""`make bench`: the first visit, and lists that grow.

What the first visit loads and how long it takes until the list can be used and a case is there, in
a browser that has kept nothing; and the server's time for a page of 5,000 and of 50,000 cases.
"""

import gzip
import json
import os
import re
import subprocess
import sys
import tempfile
from typing import Any

from playwright.sync_api import Browser, sync_playwright

from tools.bench import tell, timed
from tools.demo_server import ROOT, demo_server, enter

PORT = 8979
VISITS = 25

#: When the list, and the answer of a case, have been painted; and when a case was pressed.
_SEEN = """
window.seen = {};
addEventListener('click', () => { seen.pressed ??= performance.now() }, true);
new MutationObserver(() => {
  const parts = { list: '[aria-label=Cases] a', case: '[aria-label=Answer] output' };
  for (const [name, part] of Object.entries(parts)) {
    if (name in seen || !document.querySelector(part)) continue;
    seen[name] = null;
    requestAnimationFrame(() => setTimeout(() => { seen[name] = performance.now() }));
  }
}).observe(document, { childList: true, subtree: true, attributes: true });
"""


def first_bundle() -> None:
    """What the page names, and all it imports: what every visit loads before anything is shown."""
    built = ROOT / "web" / "dist"
    scripts = re.findall(r'(?:src|href)="/static/([^"]+\.js)"', (built / "index.html").read_text())
    if not scripts:
        raise AssertionError("the front end is not built")
    sizes = [len(gzip.compress((built / script).read_bytes(), 9)) for script in scripts]
    print(f"first bundle: {sum(sizes) / 1000:.1f} kB gzipped in {len(sizes)} files (aim 120)")


def visits(address: str) -> None:
    """The list and then a case, each time in a browser that knows the analyst and nothing else."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        page = browser.new_page()
        enter(page, address)
        # A server that has just begun makes its processes meanwhile.
        page.wait_for_timeout(15_000)
        known = page.context.storage_state()
        seen = [_visit(browser, known, address) for _ in range(VISITS)]
        browser.close()
    tell("first visit: the list of cases is there", [each["list"] for each in seen], "aim 500 ms")
    after = [each["case"] - each["pressed"] for each in seen]
    tell("then a case, from the press to its answer", after, "aim 300 ms")


def _visit(browser: Browser, known: Any, address: str) -> dict[str, float]:  # noqa: ANN401
    context = browser.new_context(storage_state=known, bypass_csp=True)
    page = context.new_page()
    page.add_init_script(_SEEN)
    page.goto(address)
    page.wait_for_function("seen.list")
    page.get_by_role("grid", name="Cases").get_by_role("link").first.click()
    page.wait_for_function("seen.case")
    seen: dict[str, float] = page.evaluate("seen")
    context.close()
    return seen


def lists() -> None:
    """A page of the list and of what is found, with 5,000 cases and with 50,000, at the server."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ |= {"ZEPHYRANT_DATA": folder, "ZEPHYRANT_DEMO": "on", "ZEPHYRANT_LOG": "off"}
        for job in ("migrate", "lay_demo"):
            subprocess.run([sys.executable, "manage.py", job, "-v0"], cwd=ROOT, check=True)
        os.environ["DJANGO_SETTINGS_MODULE"] = "zephyrant.site.settings"
        _pages()


def _pages() -> None:
    import django  # noqa: PLC0415

    django.setup()
    from django.test import Client  # noqa: PLC0415

    from zephyrant.desk.models import Case  # noqa: PLC0415

    seeds = list(Case.objects.filter(deleted_at=None))
    analyst = seeds[0].owner
    client = Client(headers={"host": "localhost"})
    client.force_login(analyst)
    for many in (5_000, 50_000):
        have = Case.objects.count()
        Case.objects.bulk_create(
            (
                Case(
                    owner=analyst,
                    name=f"{seed.name} {number}",
                    statement=seed.statement,
                    tags=seed.tags,
                    document=seed.document,
                    found=seed.found,
                    search=f"{seed.search}\n{number}",
                )
                for number in range(have, many)
                for seed in (seeds[number % len(seeds)],)
            ),
            batch_size=500,
        )
        aim = "aim 50 ms" if many == 5_000 else "no aim"
        for said, query in (
            ("newest first", ""),
            ("by name", "?sort=name"),
            ("its end", f"?start={many - 100}"),
            ("a word", "?q=press"),
            ("a number", f"?q={many - 1:,}"),
            ("six words, by name", "?q=a%20e%20i%20o%20r%20s&sort=name"),
        ):

            def asked(query: str = query) -> int:
                answer = client.get(f"/api/v1/cases{query}")
                return int(json.loads(answer.content)["total"])

            if not asked():
                raise AssertionError(f"an empty list was measured: {query}")
            tell(f"a page of {many:,} cases: {said}", timed(asked, 20), aim)


if __name__ == "__main__":
    first_bundle()
    lists()
    with demo_server(PORT) as address:
        visits(address)
