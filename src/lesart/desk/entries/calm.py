"""``+`` in Calm: filters by their names or as people say them, filters for a wanted noise, and alarms."""

from __future__ import annotations

from lesart.core.calm import KINDS as FILTERS
from lesart.core.calm.record import intervals_s
from lesart.core.errors import RequestError
from lesart.desk.entries import chain
from lesart.desk.entries.alarms import add_alarm
from lesart.desk.entries.aloud.alarms import alarms_said, is_alarm
from lesart.desk.entries.aloud.filters import DAY, NOISE, filter_plainly, one_by_one
from lesart.desk.entries.aloud.instead.filters import instead_of
from lesart.desk.entries.aloud.over_time import to_midnight
from lesart.desk.entries.edit_result import Edited, Here, own_text
from lesart.desk.entries.laws.added_law import clock_s
from lesart.desk.entries.proposed_filters import proposed
from lesart.project.check import check_project
from lesart.project.model import Channel
from lesart.study.intervals import filters_interval_s


def add_filter(here: Here, typed: str) -> Edited:
    """Add a filter by its name, filters for a wanted noise, or an alarm."""
    state, channel = here.state, here.state.chosen
    if is_alarm(typed):
        return _with_alarms(here, channel, typed)
    if typed.startswith(chain.FILTERS_OF):
        return chain.add_filters_of(
            here.editor, here.text, channel, typed.removeprefix(chain.FILTERS_OF), state.project
        )
    if wanted := NOISE.match(typed):
        return proposed(here.editor, here.text, state, here.bench, typed[wanted.end() :])
    before = filters_interval_s(state.project, here.bench, channel)
    filters, made = channel.filters, list[Edited]()
    for each in one_by_one(typed):
        # What follows a decimation gets its samples more seldom.
        interval_s = intervals_s(filters, before)[-1]
        made.append(_one_filter(here, made[-1].text if made else here.text, each, interval_s))
        filters = check_project(made[-1].text, state.project).channels[channel.name].filters
    told = ", then ".join(each.deed.removeprefix("added: ") for each in made)
    return Edited(made[-1].text, f"added: {told}", made[0].select)


def _one_filter(here: Here, text: str, typed: str, interval_s: float) -> Edited:
    channel = here.state.chosen
    plain = filter_plainly(typed, interval_s, channel.unit)
    if plain.endswith(f"so far, every = {DAY}") and plain != typed:
        plain += to_midnight(clock_s(here))
    try:
        return chain.add_filter(here.editor, text, channel, plain, interval_s)
    except RequestError as error:
        begins = any(typed.lower().startswith(name) for name in FILTERS)
        if begins or not (instead := instead_of(typed, channel.unit)):
            raise
        raise RequestError(instead) from error


def _with_alarms(here: Here, channel: Channel, typed: str) -> Edited:
    """Add one alarm, or both of a range; the first is selected."""
    text = own_text(here.editor, here.state, "alarms")
    made: list[Edited] = []
    for said in alarms_said(typed, str(channel.unit)):
        made.append(add_alarm(here.editor, made[-1].text if made else text, channel, said))
    told = " and ".join(each.deed.removeprefix("added: ") for each in made)
    return Edited(made[-1].text, f"added: {told}", made[0].select)
