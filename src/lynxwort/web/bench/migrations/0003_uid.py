"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("bench", "felt").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("bench", "pairing").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])


class Migration(migrations.Migration):
    dependencies = [("bench", "0002_felt")]
    operations = [
        migrations.AddField("felt", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("pairing", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("felt", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("pairing", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
