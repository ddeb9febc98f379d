"""Every operation of the service, asked what its own document allows and what it does not: no failure, nothing undocumented.

Examples are drawn anew but from one seed, so that a run can be repeated.
"""

from __future__ import annotations

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, seed, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from oddswap.api.app import create_app
from oddswap.store.demo import load_demo
from oddswap.store.models import database
from oddswap.store.opening import open_store

CHECKS = (not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance)
OWN = {"Host": "127.0.0.1"}
# A search takes seconds, and what it answers is checked elsewhere.
LONG = r"(match|reach|purchases|progress|try-out|detail|accepted|events|restore|cards|card|card.pdf|weeks|log)$"
schema = schemathesis.openapi.from_asgi("/api/openapi.json", create_app(), headers=OWN)


@pytest.fixture(scope="module", autouse=True)
def store(tmp_path_factory):
    open_store(tmp_path_factory.mktemp("fuzz") / "t.db")
    load_demo()
    yield
    if not database.is_closed():
        database.close()


def examples(most):
    return settings(
        max_examples=most, deadline=None, database=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck)
    )


@schema.exclude(path_regex=LONG).parametrize()
@examples(6)
@seed(20)
def test_no_operation_fails_or_answers_what_it_does_not_document(case):
    case.call_and_validate(checks=CHECKS, headers=OWN)


@pytest.mark.nightly
@schema.parametrize()
@examples(60)
@seed(21)
def test_the_same_for_longer_with_searches(case):
    case.call_and_validate(checks=CHECKS, headers=OWN)


class Workflow(schema.exclude(path_regex=LONG).as_state_machine()):
    """What one operation answers is asked of the next: made, read, changed, put away, deleted."""

    def validate_response(self, response, case, **options):
        case.validate_response(response, checks=CHECKS)

    def get_call_kwargs(self, case):
        return {"headers": OWN}


TestWorkflow = Workflow.TestCase
TestWorkflow.settings = settings(
    max_examples=8, stateful_step_count=8, deadline=None, database=None, phases=[Phase.generate],
    suppress_health_check=list(HealthCheck), derandomize=True,
)  # fmt: skip
