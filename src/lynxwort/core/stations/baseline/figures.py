"""Figures of Baseline."""

from lynxwort.core.figures import figure
from lynxwort.core.report import Figure
from lynxwort.core.stations.baseline import week
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.baseline.serviced import service_figures


def figures(given: BaselineInput) -> list[Figure]:
    ids = (
        given.springs.offsets.used
        + given.springs.loads.weighed.used
        + given.springs.geometry.used
        + given.factor.used
        + ((given.good.id,) if given.good else ())
        + given.learned.used
    )
    return [
        figure(
            "baseline.readings_used",
            len(ids),
            readings=ids,
            basis="measured",
            formula="readings not struck out that the model can use",
            source="Baseline",
        ),
        *service_figures(given),
        *week.figures(given.before, given.log, given.use),
    ]
