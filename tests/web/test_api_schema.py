"""The API does what its description says, whatever is sent: nothing fails, every answer fits."""

import datetime as dt

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis import GenerationMode
from schemathesis.specs.openapi.checks import positive_data_acceptance

from euhydra.store.tokens import Tokens
from euhydra.web.app import create_app

NOW = dt.datetime(2026, 7, 31, tzinfo=dt.UTC)
WAYS = {"/gardens/{garden}/today": "GET", "/gardens/{garden}/state": "GET",
        "/gardens/{garden}/readings": "POST", "/gardens/{garden}/forecast": "POST"}


@pytest.fixture
def described(gardens, reckoned):
    app = create_app(gardens, "http://testserver")
    for key, first in reckoned.items():
        app.state.shelf.lend(key, gardens.load(key).change, first)
    return schemathesis.openapi.from_asgi("/api/openapi.json", app)


def test_all_that_is_described_is_tried(described):
    assert {op.ok().path: op.ok().method.upper() for op in described.get_all_operations()} == WAYS


@pytest.mark.parametrize(("path", "mode"), [
    *((path, GenerationMode.POSITIVE) for path in WAYS),
    *((path, GenerationMode.NEGATIVE) for path, way in WAYS.items() if way == "POST")])
def test_whatever_is_sent_the_answer_is_one_that_is_described(described, gardens, path, mode):
    way = WAYS[path]
    held = Tokens(gardens.database).make("plot-27", "today" if way == "GET" else "readings",
                                         "Fuzz", NOW)
    seen = set()

    @settings(max_examples=40, deadline=None, derandomize=True, database=None,
              suppress_health_check=list(HealthCheck))
    @given(case=described[path][way].as_strategy(generation_mode=mode))
    def sent(case):
        case.path_parameters["garden"] = "plot-27"
        answer = case.call_and_validate(excluded_checks=[positive_data_acceptance],
                                        headers={"Authorization": f"Bearer {held}"})
        seen.add(answer.status_code)

    sent()
    assert (422 if mode is GenerationMode.NEGATIVE else 200) in seen
