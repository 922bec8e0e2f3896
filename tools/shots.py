"""`make shots`: the pictures in docs/screenshots, made from the demo data."""

from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, sync_playwright

from tools.demo_server import ROOT, demo_server, enter, open_case

FOLDER = ROOT / "docs" / "screenshots"
PORT = 8978
ADDRESS = f"http://127.0.0.1:{PORT}"


def cases(page: Page) -> None:
    page.get_by_role("link", name="Cider press").wait_for()


def case(page: Page) -> None:
    open_case(page, ADDRESS, "Cider press")
    page.get_by_role("slider").focus()
    for _ in range(2):
        page.keyboard.press("PageUp")


def working(page: Page) -> None:
    open_case(page, ADDRESS, "Kiln, Tarn")
    page.keyboard.press("w")
    page.get_by_role("dialog").wait_for()


def rates(page: Page) -> None:
    page.get_by_role("link", name="Rates", exact=True).click()
    page.get_by_label("Percent as quoted").fill("6.35")
    page.get_by_role("table").wait_for()


def quotes(page: Page) -> None:
    page.goto(f"{ADDRESS}/rates/side-by-side")
    page.get_by_role("link", name="Offers for the second press").click()
    page.get_by_label("Ranked").wait_for()


def dated(page: Page) -> None:
    open_case(page, ADDRESS, "Apple store")
    page.get_by_label("Owed at").fill("15 Mar 2029, every 12")
    page.get_by_label("Totals of").fill("2028")
    page.get_by_text("payments 2 to 13").wait_for()
    page.mouse.wheel(0, 480)


def clauses(page: Page) -> None:
    open_case(page, ADDRESS, "Cider hall")


def guide(page: Page) -> None:
    page.goto(f"{ADDRESS}/guide")
    page.get_by_role("heading", name="What is the payment?").wait_for()


def aim(page: Page) -> None:
    open_case(page, ADDRESS, "Boat shed")
    page.get_by_role("img", name="the aim is").wait_for()


def _what_if(page: Page, name: str) -> None:
    open_case(page, ADDRESS, "Cider press")
    page.get_by_role("button", name="What if").click()
    page.get_by_role("menuitem", name=name).click()


def moves(page: Page) -> None:
    _what_if(page, "What moves it")
    page.get_by_label("Second figure varied", exact=True).select_option("count")
    page.get_by_role("table", name="What moves it").get_by_title("as it stands").wait_for()


def review(page: Page) -> None:
    open_case(page, ADDRESS, "Smokehouse")
    page.get_by_role("button", name="1 comment on Rate").click()
    page.get_by_role("list", name="Comments").get_by_role("listitem").wait_for()


def trail(page: Page) -> None:
    open_case(page, ADDRESS, "Cider press")
    page.get_by_role("button", name="Trail").click()
    page.get_by_role("list", name="Trail").wait_for()


def side_by_side(page: Page) -> None:
    open_case(page, ADDRESS, "Cider press")
    page.get_by_role("link", name="Side by side").click()
    page.get_by_role("table", name="Side by side").wait_for()


def table(page: Page) -> None:
    page.goto(f"{ADDRESS}/tables")
    page.get_by_role("list", name="Tables").get_by_role("link").first.click()
    page.get_by_role("button", name="open row 1 as a case").wait_for()


def flows(page: Page) -> None:
    table(page)
    page.get_by_role("link", name="What it moves, by period").click()
    page.get_by_role("img").first.wait_for()


def no_answer(page: Page) -> None:
    open_case(page, ADDRESS, "Oyster rafts")


def mistake(page: Page) -> None:
    open_case(page, ADDRESS, "Orchard netting")
    page.get_by_label("Payment", exact=True).fill("6,450 or so")
    page.get_by_role("alert").wait_for()


def long(page: Page) -> None:
    open_case(page, ADDRESS, "Water turbine")


Shot = tuple[str, Callable[[Page], None], dict[str, Any]]
# The last ones change cases, so they come last.
SHOTS: list[Shot] = [
    ("cases", cases, {}),
    ("case", case, {}),
    ("case-dark", long, {"color_scheme": "dark"}),
    ("case-narrow", case, {"viewport": {"width": 400, "height": 860}}),
    ("working", working, {}),
    ("no-answer", no_answer, {}),
    ("mistake", mistake, {}),
    ("rates", rates, {}),
    ("quotes", quotes, {}),
    ("dated", dated, {"viewport": {"width": 1280, "height": 900}}),
    ("clauses", clauses, {"viewport": {"width": 1280, "height": 1100}}),
    ("aim", aim, {}),
    ("moves", moves, {}),
    ("review", review, {}),
    ("trail", trail, {}),
    ("side-by-side", side_by_side, {"viewport": {"width": 1280, "height": 1100}}),
    ("table", table, {"viewport": {"width": 1280, "height": 900}}),
    ("flows", flows, {"viewport": {"width": 1280, "height": 900}}),
    ("guide", guide, {}),
]


def main() -> None:
    with demo_server(PORT), sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        for name, arrange, options in SHOTS:
            look: dict[str, Any] = {"viewport": {"width": 1280, "height": 800}, "locale": "en-DE"}
            look |= options
            context = browser.new_context(**look)
            page = context.new_page()
            enter(page, ADDRESS)
            arrange(page)
            page.wait_for_timeout(400)
            # Nothing is pointed at: no hint lies over what is shown.
            page.mouse.move(640, 2)
            page.wait_for_timeout(300)
            page.screenshot(path=FOLDER / f"{name}.png")
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
