"""The sheet: the regions of the screen from top to bottom, arranged for its size and drawn from a scene.

It decides nothing: keys are up to the application, texts to the desk.
"""

from __future__ import annotations

import textwrap
from dataclasses import replace

from textual.app import ComposeResult
from textual.containers import Horizontal
from textual.screen import Screen

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step
from lesart.study.views import Edit, Offers, Picture
from lesart.tui import pages, regions
from lesart.tui.paint import piece, rule
from lesart.tui.panels.room import PLAIN, Means, Room
from lesart.tui.sizes import Size, size_of
from lesart.tui.theme import Palette, style
from lesart.tui.walk_stop import Walk
from lesart.tui.widgets.lines import Lines
from lesart.tui.widgets.offers import MOST_SHOWN, OfferList, longest
from lesart.tui.widgets.typed import Take, TypedLine
from lesart.tui.workspace import WorkspaceView

BLANK = Picture(project="", channel="", capture="", cursor="", playing="", rate="", unsaved=False, hand="")
LONGEST_MESSAGE = 4
LEAST_TYPED = 34
"""Least columns for typing after a question."""
TALL, BROAD = 56, 190
"""Sizes of screen from which notes and panels get more room."""


@dataclass(frozen=True)
class Recent:
    """A recent project, and whether it has unsaved work."""

    folder: str
    unsaved: bool = False


@dataclass(frozen=True)
class Scene:
    """All that the sheet is drawn from. ``page`` is work, keys, margin, glass or notes; ``begun``: a desk is coming.

    ``progress`` says how far a file is read, while one is. ``from_welcome``: Lesart was started without a project, and
    escape leads back to where one is chosen.
    """

    palette: Palette
    picture: Picture = BLANK
    page: str = "work"
    values_focused: bool = False
    trouble: tuple[str, ...] = ()
    progress: str = ""
    subject: str = ""
    begun: bool = False
    from_welcome: bool = False
    recent: tuple[Recent, ...] = ()
    walk: Walk | None = None
    means: Means = PLAIN

    @property
    def is_plain(self) -> bool:
        """True where there is no picture to arrange regions for."""
        return bool(self.trouble) or self.picture is BLANK


class Sheet(Screen[None]):
    """Draw with ``draw``; ask with ``ask`` or, over a value, with ``ask_in_place``."""

    AUTO_FOCUS = ""

    def __init__(self) -> None:
        super().__init__()
        self._arrangement: object = None
        self._scene: Scene | None = None
        # Kept as an attribute: a tick may ask whether something is typed while the screen is being removed.
        self.typed = TypedLine(id="edit")
        """The input line."""

    def compose(self) -> ComposeResult:
        """Regions from top to bottom."""
        yield Lines(id="title", ground="raised")
        yield Lines(id="thread", ground="raised")
        with Horizontal(id="middle"):
            yield Lines(id="margin")
            yield WorkspaceView(id="workspace")
            yield Lines(id="glass")
        with Horizontal(id="foot"):
            yield Lines(id="notes", ground="raised")
            yield Lines(id="glass-foot")
        yield Lines(id="walk", ground="raised")
        yield Lines(id="message")
        yield Lines(id="keys", ground="raised")
        yield OfferList(id="offers")
        yield self.typed

    def on_option_list_option_selected(self, event: OfferList.OptionSelected) -> None:
        """Put a clicked offer into the line; where nothing has to follow it, enter it."""
        event.stop()
        self.typed.take_offered(event.option_index)

    @property
    def room(self) -> Size:
        """The arrangement for the window."""
        return size_of(self.size.width, self.size.height)

    @property
    def has_regions(self) -> bool:
        """True between composing and removal of the regions: a picture may come at any time."""
        return self.is_mounted and self.typed in self.children

    def on_mount(self) -> None:
        """Connect the line to the list of offers: it passes on typed text and selection keys."""
        self.typed.offers = self.query_one("#offers", OfferList)

    def draw(self, scene: Scene) -> None:
        """Draw the scene in the present size."""
        if not self.typed.busy and scene.picture.preview is not None:
            scene = replace(scene, picture=replace(scene.picture, preview=None))  # nothing is typed any more
        palette, picture, width = scene.palette, scene.picture, self.size.width
        self._scene = scene
        self._arrange(scene)
        base, faint = style(palette, "text", "raised"), style(palette, "faint", "raised")
        small = self.room in (Size.SMALL, Size.TINY)
        title = regions.name_line(palette) if scene.is_plain else regions.title_line(palette, picture, width)
        self._lines("title").show([title], base, faint)
        seen = self._seen(picture)
        thread = (
            [regions.thread_line(palette, seen, width), rule(palette, width)]
            if small
            else regions.thread_lines(palette, seen, width)
        )
        self._lines("thread").show(thread, base, faint)
        self._draw_sides(scene)
        self._draw_workspace(scene)
        if scene.walk is not None:
            rows = regions.walk_lines(palette, *scene.walk.says, scene.walk.number, width)
            self._lines("walk").styles.height = len(rows)
            self._lines("walk").show(rows, base, faint)
        if not self.typed.busy:  # else a question is there
            tone = "rubric" if picture.message_is_fault else "text"
            self.say(palette, scene.progress or picture.message, "ochre" if scene.progress else tone)
        keys = regions.KEYS_PLAIN if scene.is_plain else regions.KEYS_SMALL if small else regions.KEYS_WIDE
        self._lines("keys").show([regions.keys_line(palette, width, keys)], base, faint)

    @staticmethod
    def _seen(picture: Picture) -> Picture:
        """The preview of what is typed, if known; else the present picture."""
        return picture.preview or picture

    def say(self, palette: Palette, words: str, tone: str) -> None:
        """Show a sentence above the keys, on as many lines as needed."""
        message = self._lines("message")
        lines = textwrap.wrap(words, max(self.size.width - 2, 20))[:LONGEST_MESSAGE] or [""]
        message.styles.height = len(lines)
        rows = [[piece(palette, f" {line}", tone)] for line in lines]
        message.show(rows, style(palette, "text"), style(palette, "faint"))

    def scroll_body(self, pages_down: int) -> None:
        """Scroll the workspace."""
        body = self._lines("body")
        body.scroll_lines(pages_down * max(body.size.height - 2, 1))

    # Typing

    def ask(
        self,
        palette: Palette,
        question: str,
        text: str,
        take: Take,
        trouble: str = "",
        offers: Offers | None = None,
        tries: Take | None = None,
    ) -> None:
        """Ask on the message line; when asked again, with the ``trouble`` of the text above it.

        ``offers`` may be typed; ``tries`` is called with the present text.
        """
        question = _shortened(question, self.size.width - LEAST_TYPED)
        why = textwrap.wrap(trouble, max(self.size.width - 2, 20))[: LONGEST_MESSAGE - 1]
        rows = [[piece(palette, f" {line}", "rubric")] for line in why] + [[piece(palette, f" {question}", "ochre")]]
        message = self._lines("message")
        message.styles.height = len(rows)
        message.show(rows, style(palette, "text"), style(palette, "faint"))
        # It is the last line above the keys, however many lines the region had before.
        place = (message.region.x + 1 + len(question), self.size.height - 1 - self._lines("keys").size.height)
        width = min(max(message.region.width - len(question) - 2, 10), max(self.size.width - place[0], 4))
        if offers:
            above = self.size.height - 1 - self._lines("keys").size.height - len(rows)
            self.typed.offers.open(offers, 1, above, max(self.size.width - 2, 20))
        self.typed.tries = tries
        self.typed.ask(place, width, text, take, asked=question, again=bool(trouble))

    def ask_in_place(
        self, palette: Palette, edit: Edit, take: Take, offers: Offers | None = None, tries: Take | None = None
    ) -> None:
        """Ask over a value in its place; on the message line when it is not visible."""
        place = self.query_one("#workspace", WorkspaceView).place_of(edit)
        said = f"{edit.label}: {edit.help}"
        if place is None:
            self.ask(palette, f"{said}  ", edit.written, take, offers=offers, tries=tries)
            return
        self.typed.tries = tries
        self.say(palette, said, "ochre")
        if offers:
            self._offer_beside(place, offers)
        self._open_typed(place[0], place[1], max(place[2] + 6, 14), edit.written, take)

    def _offer_beside(self, place: tuple[int, int, int], offers: Offers) -> None:
        """Place offers below the value, or above it at the foot of the screen."""
        x, y, _ = place
        width = min(longest(offers) + 2, max(self.size.width - 2, 20))
        left = max(min(x, self.size.width - width - 1), 0)
        below = self.size.height - 1 - self._lines("keys").size.height
        fits_below = below - y >= min(MOST_SHOWN, max(map(len, offers.values())))
        self.typed.offers.open(offers, left, y + 1 if fits_below else y - 1, width, grows_down=fits_below)

    def _open_typed(self, x: int, y: int, width: int, text: str, take: Take) -> None:
        self.typed.ask((x, y), min(width, max(self.size.width - x, 4)), text, take)

    # Regions

    def _draw_sides(self, scene: Scene) -> None:
        palette, picture = scene.palette, scene.picture
        base, faint = style(palette, "text"), style(palette, "faint")
        raised = style(palette, "text", "raised")
        seen = self._seen(picture)
        margin = self._lines("margin")
        rows = regions.margin_lines(
            palette,
            seen,
            margin.size.width,
            focused=not scene.values_focused,
            variants=self.room is not Size.MIDDLE,
        )
        margin.show(rows, base, faint)
        width = self._lines("notes").size.width or self.size.width
        if self.has_class("-folded"):
            notes, chosen = [regions.notes_folded(palette, picture)], 0
        else:
            notes, chosen = regions.notes_lines(palette, picture, width)
        self._lines("notes").show(notes, raised, style(palette, "faint", "raised"), chosen)
        glass = self._lines("glass")
        room = Room(max(glass.size.width - 1, 1), max(glass.size.height, 1))
        glass.show(regions.glass_lines(palette, seen.glass, room, scene.means), base, faint)
        foot = self._lines("glass-foot")
        room = Room(max(foot.size.width - 1, 1), max(foot.size.height, 1))
        foot.show(regions.glass_lines(palette, seen.glass[:1], room, scene.means), base, faint)

    def _draw_workspace(self, scene: Scene) -> None:
        view, palette = self.query_one("#workspace", WorkspaceView), scene.palette
        width = view.size.width or self.size.width
        if self.room is Size.TINY:
            view.show_plain(*pages.tiny_page(palette, self.size.width, self.size.height), palette)
        elif scene.page == "keys":
            view.show_plain(*pages.keys_page(palette, width, *_of_place(scene)), palette)
        elif scene.trouble:
            view.show_plain(
                *pages.trouble_page(palette, scene.subject, scene.trouble, width, scene.from_welcome), palette
            )
        elif not scene.begun:
            recent = [(each.folder, each.unsaved) for each in scene.recent]
            view.show_plain(*pages.welcome_page(palette, recent, width), palette)
        elif scene.is_plain:
            view.show_plain(*pages.opening_page(palette, scene.subject), palette)
        else:
            # Preview the evidence only; rows stay where they are, since one of them may be typed over.
            is_, would = scene.picture.workspace, self._seen(scene.picture).workspace
            view.show(
                replace(is_, chart=would.chart, cells=would.cells, glass=would.glass),
                palette,
                scene.means,
                values_focused=scene.values_focused,
            )

    def _arrange(self, scene: Scene) -> None:
        """Show the regions for this size."""
        size = self.room
        for each in Size:
            self.set_class(size is each, f"-{each.value}")
        self.set_class(size is Size.WIDE and self.size.height >= TALL, "-tall")
        self.set_class(size is Size.WIDE and self.size.width >= BROAD, "-broad")
        page = scene.page if size is Size.SMALL else "work"
        sides = size in (Size.WIDE, Size.MIDDLE) and not scene.is_plain
        large = scene.picture.workspace.step is Step.GLASS or scene.page == "keys"
        # In Glass the panel comes first: notes give way to it, except one that was gone to.
        folded = sides and large and scene.page == "work" and not _is_at_note(scene)
        self.set_class(folded, "-folded")
        shown = {
            "margin": sides or page == "margin",
            "workspace": page in ("work", "keys"),
            "glass": (sides and size is Size.WIDE and not large) or page == "glass",
            "foot": sides or page == "notes",
            "middle": page != "notes",
            "glass-foot": size is Size.MIDDLE and not folded,
            "walk": scene.walk is not None and not scene.is_plain and size is not Size.TINY,
            "thread": not scene.is_plain and size is not Size.TINY,
            **dict.fromkeys(("title", "message", "keys"), size is not Size.TINY),
        }
        for name, display in shown.items():
            self.query_one(f"#{name}").display = display
        if (arrangement := (self.size, shown, folded)) != self._arrangement:
            # Regions know their widths only once they have been laid out.
            self._arrangement = arrangement
            self.call_after_refresh(self._draw_again)

    def _draw_again(self) -> None:
        if self._scene is not None:
            self.draw(self._scene)

    def _lines(self, name: str) -> Lines:
        return self.query_one(f"#{name}", Lines)


def _shortened(question: str, room: int) -> str:
    """A question shortened to leave room for typing; a cut is marked."""
    return question if len(question) <= room else f"{question[: max(room - 3, 8)].rstrip()}…: "


def _is_at_note(scene: Scene) -> bool:
    """True where a note was gone to."""
    return any(note.chosen for note in scene.picture.notes)


def _of_place(scene: Scene) -> tuple[Step | None, str]:
    """The open step and what ``+`` accepts there; empty without a project."""
    if scene.is_plain:
        return None, ""
    return scene.picture.workspace.step, scene.picture.workspace.adds
