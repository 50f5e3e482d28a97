"""All addresses under bench/: each station's pages, then the bench's own."""

from lynxwort.web.bench import urls as bench
from lynxwort.web.stations.chassis import urls as chassis
from lynxwort.web.stations.damping import urls as damping
from lynxwort.web.stations.drive import urls as drive
from lynxwort.web.stations.fuelling import urls as fuelling
from lynxwort.web.stations.range import urls as range_

urlpatterns = [
    *chassis.urlpatterns,
    *damping.urlpatterns,
    *drive.urlpatterns,
    *fuelling.urlpatterns,
    *range_.urlpatterns,
    *bench.urlpatterns,
]
