"""A mixture log on the document's map."""

import argparse
from typing import Any

from lynxwort.cli.files import read_document, read_table
from lynxwort.cli.tongue import _
from lynxwort.core.errors import InputRefused, Refusal


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("log", help=_("a mixture log on the document's map"))
    verb.add_argument("file")
    verb.add_argument("--setup", required=True, help=_("the document"))
    verb.add_argument("--column", action="append", default=[], help=_("what=number of the column, from 1"))
    verb.add_argument("--gauge", type=float, default=14.7, help=_("air/fuel that the gauge shows at lambda 1"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """A mixture log on the document's map."""
    import numpy as np

    from lynxwort.core.model.bike import Electric, Injected, Injection
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.fuelling import logs

    inputs = load_inputs(read_document(arguments.setup))
    engine = inputs.bike.engine
    if isinstance(engine, Electric):
        raise InputRefused(Refusal(path="bike.engine.kind", code="burns_nothing"))
    columns, names, holes = read_table(arguments.file, logs.HEADINGS, arguments.column)
    made = (
        engine.injection if isinstance(engine, Injected) else Injection()
    )  # a carburettor's mixture is told on the usual axes, and has no trims
    rpm, throttle = np.array(made.rpm_axis), np.array(made.throttle_axis)
    log = logs.channels(columns, names, gauge_afr=arguments.gauge)
    found = logs.judge(
        log,
        rpm_axis=rpm,
        throttle_axis=throttle,
        part=made.target_part,
        full=made.target_full,
        idle_rpm=engine.idle_rpm,
    )
    shape = rpm.size, throttle.size
    present = np.reshape(inputs.setup.map_trims, shape) if inputs.setup.map_trims else np.zeros(shape)
    trims = logs.proposed_trims(present, found.binned, two_stroke=inputs.bike.is_two_stroke)
    binned = found.binned
    return {
        "columns": names,
        "rows": found.rows,
        "holes": holes,
        "kept_share": found.kept,
        "lag_s": found.lag_s,
        "rms_error": logs.rms(np.nan_to_num(binned.error), binned.hits),
        "rpm": list(made.rpm_axis),
        "throttle": list(made.throttle_axis),
        "hits": binned.hits.tolist(),
        "error": [[None if np.isnan(v) else float(v) for v in row] for row in binned.error],
        "sd": binned.sd.tolist(),
        "trims": trims.tolist() if isinstance(engine, Injected) else None,
    }
