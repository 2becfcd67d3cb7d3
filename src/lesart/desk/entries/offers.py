"""Offers of what can be added, from the registries: each as it is typed, with a description; usual ones first."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from lesart.core import calm
from lesart.core.errors import LesartError
from lesart.core.glass.faces.arrange import arrange
from lesart.core.glass.faces.item_parameters import TEXTS
from lesart.core.glass.faces.items import ITEMS, ONLY_PIXELS
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.parameters import Parameter
from lesart.core.step import Step
from lesart.core.wire.hookup import End, Hookup, is_free
from lesart.core.wire.sums import SUMS
from lesart.desk.entries.aloud.packing import PACKED
from lesart.desk.entries.chain import FILTERS_OF, LAWS_OF, end_of_laws, fitting_kinds
from lesart.desk.entries.edit_result import Here
from lesart.desk.entries.offered_files import files_in, lines_and_files, tasks
from lesart.desk.entries.offered_values import other_units
from lesart.desk.entries.raw import columns_of
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.made import begins_with
from lesart.desk.entries.recipes.recipe import Recipe
from lesart.desk.entries.recipes.shown.displays import displays
from lesart.desk.in_front import face_in_front
from lesart.desk.state import State
from lesart.project.tables.wiring import kinds_of
from lesart.study.project_loop import loop_of
from lesart.study.views import Offer, Offers

SAYS = {
    "label": "a text",
    "text": "a text not known beforehand, in a number of cells",
    "field": "a reading in its cells",
    "bar": "a reading as a bar",
    "alarm": "a text while an alarm is on",
    "box": "a frame, or a filled area",
    "trend": "a reading over time",
    "dial": "a reading as a hand",
    "spectrum": "how loud each frequency is",
    "bubble": "moved by two readings",
    "picture": "one of the project",
}
"""Each kind of item in words."""
OF_A_CHANNEL = ("field", "bar", "alarm", "trend", "dial", "spectrum")


def offers_at(here: Here) -> Offers:
    """Offers in the open step and leaf."""
    found = OFFERS.get(here.state.step)
    return found(here) if found is not None else {}


def _takes(parameters: tuple[Parameter, ...]) -> str:
    """Values that may follow a name, with defaults: ``; capacity, sensitivity, zero 0 mV/V``."""
    asked = [f"{each.title} {'' if each.default is None else each.default}".strip() for each in parameters]
    return f"; {', '.join(asked)}" if asked else ""


def _told(parameters: tuple[Parameter, ...]) -> str:
    """Values that have to follow a name: parameters without a default."""
    asked = [each for each in parameters if each.default is None and not each.optional and each.kind != "part"]
    return f"; then {', '.join(each.title for each in asked)}" if asked else ""


def _of_law(here: Here) -> Offers:
    """Laws that accept the present unit; others have no input here."""
    state = here.state
    fits, missing = fitting_kinds(state.chosen, state.project.hookup.parts)
    found = [Offer(kind.name, kind.title + _takes(kind.parameters)) for kind in fits]
    found += [Offer(kind.name, f"{kind.title}; the hook-up has no part for it yet", False) for kind in missing]
    unit = end_of_laws(state.chosen)
    others = [each for each in state.project.channels.values() if each.laws and each.name != state.channel]
    found += [
        Offer(f"{LAWS_OF}{each.name}", "as that channel has them")
        for each in others
        if each.unit_raw.same_dimension(unit)
    ]
    signals = _signals(state)
    return {"": (*found, *signals) if state.chosen.laws else (*signals, *found)}


def _of_raw(here: Here) -> Offers:
    """Offers in Raw: what the channel is, where not stated; columns that nothing reads; files and lines."""
    state = here.state
    source = state.project.sources[state.chosen.source]
    try:
        columns = columns_of(here.bench.capture(source), source, state.project)
    except LesartError:
        columns = ()
    left = [column for column, reader in columns if not reader]
    free = [column for column in left if column not in state.project.channels]
    found = [Offer(f"{column} = {column}", "another channel, of this column") for column in free]
    found += [Offer("new < ", "another capture, or a line that is listened to", False)]
    signals = _signals(state)
    return {
        "": (*found, *signals) if state.chosen.laws else (*signals, *found),
        "=": tuple(Offer(column, "a column of this capture") for column in left),
        **lines_and_files(state, here.folder),
    }


def _of_pace(here: Here) -> Offers:
    state = here.state
    if state.leaf_of(Step.PACE) == "trace":
        return {"": tuple(Offer(name, "a trace of edges") for name in files_in(here.folder, (".vcd",)))}
    buses = dict.fromkeys(task.bus for task in loop_of(state.project, here.bench).tasks if task.bus)
    return {"": tuple(tasks(state, buses))}


def _of_calm(here: Here) -> Offers:
    state = here.state
    unit = state.chosen.unit
    middle = (state.chosen.lowest + state.chosen.highest) / 2
    usual = ("median", "mean", "exponential", "low-pass")
    kinds = [*(calm.KINDS[name] for name in usual if name in calm.KINDS)]
    kinds += [kind for name, kind in calm.KINDS.items() if name not in usual]
    found = [Offer(kind.name, kind.title + _takes(kind.parameters)) for kind in kinds]
    found.append(Offer(f"alarm above {middle:g} {unit}".removesuffix(" 1"), "an alarm; or below"))
    others = (each for each in state.project.channels.values() if each.filters and each.name != state.channel)
    found += [Offer(f"{FILTERS_OF}{each.name}", each.says, each.unit.same_dimension(unit)) for each in others]
    found.append(Offer("noise ", f"in {unit.step}: the cheapest filters that leave no more", False))
    return {"": tuple(found)}


def _of_true(here: Here) -> Offers:
    state = here.state
    unit = state.chosen.unit
    middle = (state.chosen.lowest + state.chosen.highest) / 2
    value = f"{middle:.3g} {unit}".removesuffix(" 1")
    return {"": (Offer(value, "what is really there at the cursor; ± how far that may be off"),)}


def _of_wire(here: Here) -> Offers:
    state = here.state
    hookup = state.project.hookup
    if state.leaf_of(Step.WIRE) == "sums":
        return {"=": tuple(_sums())}
    kinds = [
        Offer(kind.name, kind.says + _told(kind.parameters), not _told(kind.parameters))
        for kind in kinds_of(state.project.tables).values()
    ]
    pins = tuple(_pins(hookup))
    between = [part for part in hookup.parts.values() if part.kind.group == "between"]
    return {
        "": pins,
        "=": tuple(kinds),
        ">": pins,
        " through ": tuple(Offer(part.name, part.kind.name) for part in between),
    }


def _sums() -> Iterator[Offer]:
    for kind in SUMS.values():
        yield Offer(kind.name, kind.says)


def _pins(hookup: Hookup) -> Iterator[Offer]:
    """Pins, free ones first."""
    ends = [(end, pin) for end, pin in hookup.ends()]
    for end, pin in sorted(ends, key=lambda each: not _is_open(hookup, each[0])):
        yield Offer(str(end), ", ".join(pin.roles), False)


def _is_open(hookup: Hookup, end: End) -> bool:
    return is_free(hookup, end) and not hookup.pin(end).optional


def _of_glass(here: Here) -> Offers:
    state = here.state
    panels = state.project.panels
    leaf = state.leaf_of(Step.GLASS)
    if leaf == "panels there are" or not panels:
        return {"": _displays()}
    if leaf != "items":
        return {}
    panel = panels.get(state.panel) or next(iter(panels.values()))
    pixels = panel.grid is not None
    words = [word for word in ITEMS if word in OF_A_CHANNEL and (pixels or word not in ONLY_PIXELS)]
    found = [Offer(f"{word} {state.channel}", SAYS[word]) for word in words]
    found += [Offer(f"field {state.channel} in {unit}", SAYS["field"]) for unit in other_units(state.chosen.unit)]
    found += [Offer(f"text {kind}", SAYS["text"]) for kind in TEXTS[1:]] + [Offer("text ", SAYS["text"], False)]
    found += [Offer("label ", SAYS["label"], False), Offer("face ", "another page of this panel", False)]
    found += [Offer("arrange", "all items, by rules")]
    found += [Offer(f"refit {name}", "this face on another panel") for name in _refits(state, panel.name)]
    if pixels:
        found += [Offer("box", SAYS["box"]), Offer("bubble ", f"two channels, A / B: {SAYS['bubble']}", False)]
        found += [Offer(f"picture {name}", SAYS["picture"]) for name in state.project.tables.get("pictures", {})]
    others = [name for name in state.project.channels if name != state.channel]
    found += [Offer(f"{word} {name}", SAYS[word]) for word in words for name in others]
    return {"": (*found, *_displays())}


def _refits(state: State, front: str) -> list[str]:
    """Panels on which at least one item of the face in front fits."""
    face = face_in_front(state)
    if face is None or not face.items:
        return []
    others = (panel for name, panel in state.project.panels.items() if name != front)
    return [panel.name for panel in others if arrange(face.items, panel).items]


def _displays() -> tuple[Offer, ...]:
    """Displays with how they are driven, and what follows from that; or the panel alone."""
    whole = [Offer(name, f"{says}; with the channel on it") for name, says in displays().items()]
    return (*whole, *(Offer(name, "an empty panel; a name may follow") for name in CATALOGUE))


def _signals(state: State) -> tuple[Offer, ...]:
    """What the chosen channel may be, by the unit of its raw values."""
    return tuple(
        Offer(recipe.begins, _of_recipe(recipe))
        for recipe in SIGNALS.values()
        if begins_with(recipe, state.project.channels[state.channel])
    )


def _of_recipe(recipe: Recipe) -> str:
    """The description of a recipe, with what is assumed by default."""
    usual = ", ".join(f"{ask.word} {ask.usual}" for ask in recipe.asks)
    return f"{recipe.says}; {usual}"


def _of_pack(here: Here) -> Offers:
    """Offers in Pack: properties of a processor, and how the channel is computed."""
    return {"": tuple(Offer(said, means) for said, means in PACKED.items())}


OFFERS: Mapping[Step | None, Callable[[Here], Offers]] = {
    Step.WIRE: _of_wire,
    Step.RAW: _of_raw,
    Step.LAW: _of_law,
    Step.TRUE: _of_true,
    Step.CALM: _of_calm,
    Step.GLASS: _of_glass,
    Step.PACE: _of_pace,
    Step.PACK: _of_pack,
}
"""Offers by step."""
