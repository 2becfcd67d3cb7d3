"""Commands that are ended by a signal, whenever it comes."""

from __future__ import annotations

import os
import signal
import threading
import time

import pytest

from lesart.cli.ended import Ended, ended_by_signals


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT])
def test_a_signal_ends_it_and_its_handler_goes(number: signal.Signals) -> None:
    before = signal.getsignal(number)
    with ended_by_signals() as ended:
        assert not ended.wait(0.0)
        threading.Timer(0.05, os.kill, (os.getpid(), number)).start()
        assert ended.wait(10.0)
        assert ended.wait()
    assert signal.getsignal(number) is before


def test_signals_in_whatever_moment_of_many_waits_are_heard() -> None:
    """Thousands come while it waits, looks and begins to wait; none of them hangs it."""
    stopped = threading.Event()

    def pester() -> None:
        while not stopped.is_set():
            os.kill(os.getpid(), signal.SIGTERM)
            time.sleep(0.0002)

    heard = 0
    with ended_by_signals():
        teller = threading.Thread(target=pester)
        teller.start()
        began = time.monotonic()
        while time.monotonic() - began < 1.0:
            with ended_by_signals() as ended:
                heard += ended.wait(0.01)
        stopped.set()
        teller.join(timeout=10)
    assert not teller.is_alive()
    assert heard > 20


def test_another_thread_may_say_so() -> None:
    ended = Ended()
    threading.Timer(0.02, ended.tell).start()
    assert ended.wait(10.0)
    assert ended.wait(0.0)
