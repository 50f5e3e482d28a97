"""A station's notches by whole pages, for a browser without scripts: the same rows and outcomes, plain forms."""

import json

from django.http import Http404, HttpResponse
from django.views.decorators.http import require_GET

from lynxwort.core.report import STATIONS
from lynxwort.web.bench import rows
from lynxwort.web.bench.present import findings
from lynxwort.web.bench.views import kept_bench
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request


def _sides(row: rows.Row) -> list[tuple[str, str, rows.Cell]]:
    """The steps there are of a row: sign, the move as a form sends it, the cell."""
    cells = (("−", row.less), ("+", row.more))
    return [
        ("" if row.signed else sign, json.dumps([[row.tunable, float(cell.value or 0.0)]]), cell)
        for sign, cell in cells
        if cell
    ]


@require_GET
def plain(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """What a station says and its notches, one group of them at a time, each a form of its own."""
    if station not in STATIONS:
        raise Http404
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    closed = rows.notch_groups(bench, station, request.preset, compute=False)
    wanted = request.GET.get("group") or (closed[0].id if closed else "")
    groups = rows.notch_groups(bench, station, request.preset, compute=True, opened={wanted})
    shown = next((g for g in groups if g.id == wanted), None)
    context = findings(bench, station, request.preset, compute=True) | {
        "groups": [(g.id, g.name, g.id == wanted) for g in groups if g.name],
        "rows": [(row, _sides(row)) for row in shown.rows] if shown else [],
    }
    return room(request, bench, station, "plain", context)
