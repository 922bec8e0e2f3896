"""What the PDFs share: pages, what is told of them, fonts, styles, a canvas that numbers them."""

import threading
import unicodedata
from collections.abc import Callable
from datetime import UTC, datetime
from itertools import groupby
from pathlib import Path
from typing import IO, Any, Final
from xml.sax.saxutils import escape

import font_source_sans_pro
import font_source_serif_pro
from arabic_reshaper import reshape
from bidi.algorithm import get_display
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.cidfonts import UnicodeCIDFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate

from zephyrant.loans import ENGINE, look, write_day
from zephyrant.texts import reading, tag

from .reader import PaperName, Reader

INK, SOFT, RULE = HexColor("#12201d"), HexColor("#51605b"), HexColor("#c5cec9")
_FONTS: Final = {
    "Sans": (font_source_sans_pro, "SourceSansPro-Regular.ttf"),
    "Sans-Bold": (font_source_sans_pro, "SourceSansPro-Semibold.ttf"),
    "Serif": (font_source_serif_pro, "SourceSerifPro-Regular.ttf"),
    "Serif-Bold": (font_source_serif_pro, "SourceSerifPro-Semibold.ttf"),
}


#: For names in scripts that those lack, in the order they are asked: Greek to Arabic; Chinese and
#: Japanese. Korean is left to what readers of PDF bring along.
_WIDE: Final = {"Wide": "DejaVuSans.ttf", "East": "DroidSansFallbackFull.ttf"}
_KOREAN: Final = "HYGothic-Medium"


def register() -> None:
    """The fonts made known to the library, once."""
    known = pdfmetrics.getRegisteredFontNames()
    for name, (package, file) in _FONTS.items():
        if name not in known:
            found = next(Path(str(package.__file__)).parent.rglob(file))
            pdfmetrics.registerFont(TTFont(name, str(found)))
    if _KOREAN not in known:
        pdfmetrics.registerFont(UnicodeCIDFont(_KOREAN))
    for name, file in _WIDE.items():
        if name not in known:
            pdfmetrics.registerFont(TTFont(name, str(Path(__file__).parent / "fonts" / file)))


def _has(font: str, letter: str) -> bool:
    return ord(letter) in pdfmetrics.getFont(font).face.charToGlyph


def _as_seen(text: str) -> str:
    """Text of scripts that run from right to left in the order and the forms it is printed in."""
    if not any(unicodedata.bidirectional(letter) in ("R", "AL") for letter in text):
        return text
    return "\n".join(get_display(reshape(line)) for line in text.split("\n"))


def in_fonts(text: str, font: str) -> list[tuple[str, str]]:
    """A text in runs, each with a font that has its letters: `font` wherever it has them."""
    text = _as_seen(text)

    def font_of(letter: str) -> str:
        if letter.isspace() or _has(font, letter):
            return font
        otherwise = _KOREAN if unicodedata.name(letter, "").startswith("HANGUL") else font
        return next((name for name in _WIDE if _has(name, letter)), otherwise)

    return [(name, "".join(run)) for name, run in groupby(text, key=font_of)]


def in_markup(text: str, font: str) -> str:
    """Plain text as a paragraph of a font takes it, in fonts that have its letters."""
    runs = [
        escape(run) if name == font else f'<font name="{name}">{escape(run)}</font>'
        for name, run in in_fonts(text, font)
    ]
    return "".join(runs).replace("\n", "<br/>")


def written(text: str, style: ParagraphStyle) -> Paragraph:
    """A paragraph of plain text; lines stay lines."""
    return Paragraph(in_markup(text, style.fontName), style)


def _style(name: str, font: str, size: float, **more: Any) -> ParagraphStyle:  # noqa: ANN401
    return ParagraphStyle(
        name, fontName=font, fontSize=size, leading=size * 1.3, textColor=INK, **more
    )


TITLE = _style("title", "Serif-Bold", 19, spaceAfter=6)
SENTENCE = _style("sentence", "Serif", 11.5, spaceAfter=8)
LABEL = _style("label", "Sans", 10, spaceBefore=4)
LARGE = _style("large", "Sans-Bold", 27, spaceAfter=2)
REASON = _style("reason", "Serif-Bold", 14, spaceAfter=4)
BODY = _style("body", "Sans", 9.5)
HEAD = _style("head", "Serif-Bold", 12.5, spaceBefore=10, spaceAfter=4)


class _Numbered(Canvas):
    """A canvas that knows how many pages there are when it draws their feet."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:  # noqa: ANN401
        super().__init__(*args, **kwargs)
        self.pages: list[dict[str, Any]] = []
        self.foot = ""
        self.wide = 0.0

    def showPage(self) -> None:  # noqa: N802
        self.pages.append(dict(self.__dict__))
        self._startPage()
        look()

    def save(self) -> None:
        for number, page in enumerate(self.pages, 1):
            self.__dict__.update(page)
            self.setFont("Sans", 8)
            self.setFillColor(SOFT)
            at = 18 * mm
            for font, run in in_fonts(self.foot, "Sans"):
                self.setFont(font, 8)
                self.drawString(at, 10 * mm, run)
                at += pdfmetrics.stringWidth(run, font, 8)
            self.setFont("Sans", 8)
            self.drawRightString(self.wide - 18 * mm, 10 * mm, f"{number} / {len(self.pages)}")
            super().showPage()
        super().save()


#: What is found in the outline of a document.
_BOOKMARKED: Final = {"title": 0, "head": 1}
_MARGIN: Final = 18 * mm
_one_at_a_time: Final = threading.Lock()


class Pages(SimpleDocTemplate):
    """A document for a reader: on their paper, with its title, its language and who made it, and
    with its headings as bookmarks."""

    def __init__(
        self, out: IO[bytes], title: str, reader: Reader, *, lies: bool = False, says: str = ""
    ) -> None:
        size = _PAPERS[reader.paper]
        super().__init__(
            out,
            pagesize=landscape(size) if lies else size,
            leftMargin=_MARGIN,
            rightMargin=_MARGIN,
            topMargin=16 * mm,
            bottomMargin=18 * mm,
            title=title,
            author=reader.author or "Zephyrant",
            subject=says,
            creator=ENGINE,
            lang=tag(reading().language),
        )

    def afterFlowable(self, flowable: Flowable) -> None:  # noqa: N802
        """A heading that has come on its page is bookmarked there."""
        level = _BOOKMARKED.get(getattr(getattr(flowable, "style", None), "name", ""))
        if level is None:
            return
        key = f"at-{self.page}-{id(flowable)}"
        self.canv.bookmarkPage(key)
        self.canv.addOutlineEntry(flowable.getPlainText(), key, level)

    def write(self, story: list[Any]) -> None:
        """Writes what is told; its pages are numbered."""
        foot = numbered(f"{self.title} · {ENGINE}", self.pagesize[0])
        # The library's fonts remember which letters a document uses: one document at a time.
        with _one_at_a_time:
            self.build(story, canvasmaker=foot)


_PAPERS: Final[dict[PaperName, tuple[float, float]]] = {"a4": A4, "letter": LETTER}


def numbered(foot: str, wide: float) -> Callable[..., Canvas]:
    """A canvas for pages so wide, with the foot, the day and the number of each on it."""

    def canvas(*args: Any, **kwargs: Any) -> _Numbered:  # noqa: ANN401
        made = _Numbered(*args, **kwargs)
        text = f"{foot} · {write_day(datetime.now(UTC).date())}"
        made.foot = simpleSplit(text, "Sans", 8, wide - 66 * mm)[0]
        made.wide = wide
        return made

    return canvas


#: The height of a row of one line in the grid: its size, its leading, what is above and below.
GRID_ROW: Final = 8.5 * 1.2 + 1.5 + 2
GRID: Final = [
    ("FONT", (0, 0), (-1, -1), "Sans", 8.5),
    ("FONT", (0, 0), (-1, 0), "Sans-Bold", 8.5),
    ("ALIGN", (1, 0), (-1, -1), "RIGHT"),
    ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
    ("LINEBELOW", (0, 1), (-1, -1), 0.25, RULE),
    ("TOPPADDING", (0, 0), (-1, -1), 1.5),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
]
