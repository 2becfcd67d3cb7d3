"""Which cases of a test are run where only some are."""

from __future__ import annotations

from tests.drawn_cases import LEAST, ONE_IN, drawn, split


def test_a_part_is_run_in_the_order_it_stands_in() -> None:
    """The same for the same name, and another part for another one."""
    cases = [f"case {number}" for number in range(120)]
    first, again, other = (drawn(cases, cases, run) for run in ("a", "a", "b"))
    assert len(first) == len(other) == 120 // ONE_IN
    assert first == again == sorted(first, key=cases.index)
    assert first != other


def test_no_case_is_left_out_for_ever() -> None:
    """Within a hundred runs every one of a hundred has come."""
    cases = [str(number) for number in range(100)]
    assert {case for run in range(100) for case in drawn(cases, cases, str(run))} == set(cases)


def test_a_test_with_few_cases_has_all_of_them_run() -> None:
    """So does one without cases, whatever others have."""
    cases = ["alone", *(f"few {n}" for n in range(LEAST)), *(f"many {n}" for n in range(5 * ONE_IN))]
    kept, left = split(cases, [case.split()[0] for case in cases], cases, "run")
    assert kept[: 1 + LEAST] == cases[: 1 + LEAST]
    assert len(kept) == 1 + LEAST + 5
    assert sorted(kept + left) == sorted(cases)
