"""What was worked out is taken again for the very same inputs, and for no others."""

import itertools
import sys
import threading

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.results.memo import KEPT_EDITS, Memo


class Told:
    """Counts how often it is asked."""

    def __init__(self):
        self.times = 0

    def __call__(self, *inputs):
        self.times += 1
        return inputs


VALUES = st.one_of(st.integers(0, 2), st.floats(0, 2), st.text("ab", max_size=2),
                   st.tuples(st.integers(0, 1), st.floats(0, 1)), st.booleans())


@given(st.lists(st.tuples(st.sampled_from(["", "p", "q"]), st.lists(VALUES, max_size=3)),
                max_size=12))
def test_a_memo_never_answers_with_what_was_made_of_other_inputs(asked):
    memo = Memo()
    for of, inputs in asked:
        memo = Memo(memo)
        told = memo(lambda *given: given, *inputs, of=of)
        assert told == tuple(inputs)
        assert [type(a) for a in told] == [type(a) for a in inputs]


def test_equal_values_are_the_same_and_arrays_only_the_very_same():
    made, array = Told(), np.arange(3)
    first = Memo()
    kept = first(made, (1, 2.5), array)
    later = Memo(first)
    assert later(made, (1, 2.5), array) is kept
    assert made.times == 1
    assert later(made, (1, 2.6), array) != kept
    assert made.times == 2


def test_two_makers_and_two_names_stand_apart():
    one, two, memo = Told(), Told(), Memo()
    memo(one, 1)
    memo(two, 1)
    memo(one, 1, of="other")
    assert (one.times, two.times) == (2, 1)


def test_what_is_not_asked_for_is_let_go_in_time():
    made, memo = Told(), Memo()
    memo(made, 1)
    for _ in range(KEPT_EDITS):
        memo = Memo(memo)
    memo(made, 1)
    assert made.times == 1, "kept through so many edits"
    for _ in range(KEPT_EDITS + 2):
        memo = Memo(memo)
    memo(made, 1)
    assert made.times == 2


def test_a_state_may_be_taken_over_while_another_thread_still_asks_of_it():
    memo, made, done, failed = Memo(), Told(), threading.Event(), []

    def ask():
        for number in itertools.count():
            if done.is_set():
                return
            memo(made, number, of=str(number % 5000))

    every = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    asking = threading.Thread(target=ask)
    asking.start()
    try:
        for _ in range(300):
            Memo(memo)
    except RuntimeError as error:
        failed.append(error)
    finally:
        done.set()
        asking.join()
        sys.setswitchinterval(every)
    assert not failed
