"""What every row has that may travel to another machine."""

import uuid

from django.db import models


class Travelling(models.Model):
    """uid: names the row everywhere outside this database: documents, calendars, back-ups of a garage. Primary keys
    stay inside.
    """

    uid = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)

    class Meta:
        abstract = True
