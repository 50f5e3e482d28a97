"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("readings", "reading").objects.filter(uid=None).only("pk"):
        row.uid, row.legacy_id = uuid.uuid4(), str(row.pk)
        row.save(update_fields=["uid", "legacy_id"])


class Migration(migrations.Migration):
    dependencies = [("readings", "0001_initial")]
    operations = [
        migrations.AddField("reading", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("reading", "legacy_id", models.CharField(blank=True, default="", editable=False, max_length=20)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("reading", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
