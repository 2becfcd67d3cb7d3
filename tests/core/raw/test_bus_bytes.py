"""Bytes of a bus by whole arrays, against the decoder that goes edge by edge."""

from __future__ import annotations

import time

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.edge_writer import parallel, two_wire
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import parallel_words, two_wire_words
from lesart.core.raw.decode.two_wire import TWO_WIRE
from lesart.core.raw.edges import HIGH, LOW, Edges, edges_of


def _same_by_both(wires: dict[str, Edges]) -> int:
    """The decoder's written and answered transfers, and the words, agree; how many bytes there were."""
    values, _ = read_table(TWO_WIRE.parameters, {}, "")
    decoded = TWO_WIRE.decode(wires, values)
    assert decoded.frames is not None
    written = [
        frame for frame in decoded.frames if frame.says.startswith("write") and "no device answers" not in frame.why
    ]
    words = two_wire_words(wires["clock"], wires["data"])
    assert words.value.tobytes() == b"".join(frame.data for frame in written)
    assert words.part.tolist() == [place for place, frame in enumerate(written) for _ in frame.data]
    assert words.start_s.tolist() == [frame.t for frame in written]
    return len(words)


@given(st.lists(st.binary(min_size=1, max_size=6), min_size=1, max_size=4), st.lists(st.integers(0, 400), max_size=4))
def test_a_bus_with_edges_that_were_missed(sent: list[bytes], missed: list[int]) -> None:
    """Real transmissions, some edges of them lost: what is left is read alike."""
    lines = two_wire([(1e-3, Transmission(each, True)) for each in sent], 0x3C, 1e5, 1.0)
    assert _same_by_both(lines) == sum(map(len, sent))
    clock = lines["clock"]
    kept = [place for place in range(len(clock)) if place not in missed]
    _same_by_both({"clock": edges_of(clock.t[kept], clock.level[kept], HIGH, 0.0, 1.0), "data": lines["data"]})


def _line(changes: list[int], first: int, at: list[float]) -> Edges:
    return edges_of(at[: len(changes)], changes, first, 0.0, at[-1] + 1.0)


lines = st.lists(st.sampled_from((LOW, HIGH)), max_size=120)
steps = st.lists(st.integers(0, 3), min_size=120, max_size=120)


@given(lines, lines, steps, steps, st.sampled_from((LOW, HIGH)), st.sampled_from((LOW, HIGH)))
def test_any_two_lines(
    clock: list[int], data: list[int], clock_at: list[int], data_at: list[int], first_clock: int, first_data: int
) -> None:
    """Whatever two lines do, both ways find the same bytes in the same transfers, at the same moments."""
    when = [np.cumsum([step + 1 for step in at]).astype(float).tolist() for at in (clock_at, data_at)]
    wires = {"clock": _line(clock, first_clock, when[0]), "data": _line(data, first_data, when[1])}
    _same_by_both(wires)


def test_a_million_edges_in_a_second() -> None:
    """Transfers of 32 bytes one behind the other: a million edges of the clock."""
    bits = 9 * 33
    transfers = 1_000_000 // (2 * bits)
    random = np.random.default_rng(5)
    one = np.concatenate([np.array([0, 1, 1, 1, 1, 0, 0, 0, 0]), np.tile([0] * 9, 32)])
    times, levels, data_t, data_level = [], [], [], []
    for place in range(transfers):
        t = place * (bits + 4.0)
        rises = t + 1.0 + np.arange(bits)
        times.append(np.column_stack((rises - 0.5, rises)).ravel())
        levels.append(np.tile([LOW, HIGH], bits))
        values = one.copy()
        values[9:] = np.where(np.arange(9, bits) % 9 == 8, 0, random.integers(0, 2, bits - 9))
        data_t.append(np.concatenate(([t], rises - 0.25)))
        data_level.append(np.concatenate(([LOW], values)))
        # The stop: the clock low, data low, the clock high, data high.
        end = t + bits + 1.0
        times.append(np.array([end, end + 1.0]))
        levels.append(np.array([LOW, HIGH]))
        data_t.append(np.array([end + 0.5, end + 1.5]))
        data_level.append(np.array([LOW, HIGH]))
    clock = edges_of(np.concatenate(times), np.concatenate(levels), HIGH)
    data = edges_of(np.concatenate(data_t), np.concatenate(data_level), HIGH)
    began = time.thread_time()
    words = two_wire_words(clock, data, 0x3C)
    assert time.thread_time() - began < 1.0
    assert len(words) == 32 * transfers
    assert (words.refused, words.broken) == (0, 0)


@given(
    st.lists(st.tuples(st.binary(min_size=1, max_size=8), st.booleans()), min_size=1, max_size=5),
    st.sampled_from((4, 8)),
)
def test_parallel_lines_there_and_back(sent: list[tuple[bytes, bool]], width: int) -> None:
    """Bytes at each strobe, or in halves; what is of one kind and comes at once is one transmission."""
    lines = parallel([(place * 0.1, Transmission(*each)) for place, each in enumerate(sent)], width, 40e-6, 1.0)
    data = [line for name, line in lines.items() if name.startswith("d")]
    words = parallel_words(lines["enable"], data, lines["command"], 1e-3)
    # These two bytes at the beginning are how a panel is set up, and mean none.
    assume(not b"".join(each for each, _ in sent).startswith(b"\x33\x32"))
    assert words.value.tobytes() == b"".join(each for each, _ in sent)
    assert words.is_data.tolist() == [is_data for each, is_data in sent for _ in each]
    assert words.part.tolist() == [place for place, (each, _) in enumerate(sent) for _ in each]


def test_a_panel_that_is_set_up_first() -> None:
    """Three times 3 and a 2 of one half each, then whole bytes."""
    lines = parallel([(0.0, Transmission(b"\x33\x32\x28\x0c", False)), (0.01, Transmission(b"A", True))], 4, 40e-6, 0.1)
    data = [lines[name] for name in ("d4", "d5", "d6", "d7")]
    words = parallel_words(lines["enable"], data, lines["command"], 1e-3)
    assert words.value.tolist() == [0x28, 0x0C, 0x41]
    assert words.is_data.tolist() == [False, False, True]
    assert len(parallel_words(edges_of([], [], LOW, 0.0, 1.0), data, None, 1e-3)) == 0
