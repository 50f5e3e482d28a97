"""Verbs for the process beside the server, of every kind that it may be asked for."""

import os
import time

from django.db import OperationalError

from lynxwort.core.errors import InputRefused, Refusal


def doubled(payload, step):
    step(0.5, ["half"])
    return {"twice": 2 * payload["n"], "pid": os.getpid()}


def refused(payload, _step):
    raise InputRefused(Refusal(path="file", code="too_large", high=2.0))


def locked(payload, _step):
    raise OperationalError("database is locked")


def broken(payload, _step):
    raise KeyError("nothing")


def greedy(payload, _step):
    return len([bytearray(10_000_000) for _ in range(400)])


def for_ever(payload, _step):
    time.sleep(600)


def gone(payload, _step):
    os._exit(9)
