"""Dynamometer runs to the crank on a standard day."""

import argparse
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lynxwort.cli.files import read_document, read_table
from lynxwort.cli.tongue import _
from lynxwort.core.errors import InputRefused, Refusal


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("dyno", help=_("dynamometer runs to the crank on a standard day"))
    verb.add_argument("file", nargs="+")
    verb.add_argument("--setup", required=True, help=_("the document"))
    verb.add_argument("--place", choices=("wheel", "crank"), default="wheel")
    verb.add_argument(
        "--standard",
        choices=("none", "sae_j1349", "iso_1585", "din_70020"),
        default="none",
        help=_("what the sheet has corrected to"),
    )
    verb.add_argument("--temperature", type=float, default=20.0, help=_("of the run [°C]"))
    verb.add_argument("--pressure", type=float, default=1013.25, help=_("station pressure of the run [hPa]"))
    verb.add_argument("--humidity", type=float, default=50.0, help=_("of the run [%%]"))
    verb.add_argument("--column", action="append", default=[], help=_("what=number of the column, from 1"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Dynamometer runs to the crank on a standard day."""
    import numpy as np

    from lynxwort.core.errors import OutOfModelRange
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.air.moist import AirState
    from lynxwort.core.physics.drive import dyno

    inputs = load_inputs(read_document(arguments.setup))
    try:
        air = AirState(
            pressure_pa=100.0 * arguments.pressure,
            temperature_k=arguments.temperature + 273.15,
            relative_humidity=arguments.humidity / 100.0,
        )
    except OutOfModelRange as error:
        raise InputRefused(
            Refusal(path="air", code="out_of_model_range", low=error.low, high=error.high, unit=error.unit)
        ) from None
    runs, rows = [], []
    for path in arguments.file:
        columns, _names, holes = read_table(path, dyno.HEADINGS, arguments.column)
        rpm, torque, _seen = dyno.run_columns(columns)
        crank = dyno.crank_torque(
            torque,
            place=arguments.place,
            standard=arguments.standard,
            air=air,
            efficiency=inputs.bike.transmission.efficiency,
        )
        runs.append((rpm, crank))
        band = dyno.band_of(rpm, crank, float(rpm[0]), float(rpm[-1]))
        rows.append(
            {"file": Path(path).name, "holes": holes, "rpm": rpm.tolist(), "torque_nm": crank.tolist(), **asdict(band)}
        )
    repeat = dyno.repeatability(runs)
    return {
        "runs": rows,
        "repeatability": None if repeat is None else {"sd": repeat[0], "sd_high": repeat[1]},
        "factor_to_standard": dyno.to_standard_factor(arguments.standard, air),
        "mean_torque_nm": float(np.mean([r[1].mean() for r in runs])),
    }
