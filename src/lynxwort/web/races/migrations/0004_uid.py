"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("races", "course").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("races", "rider").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("races", "race").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])


class Migration(migrations.Migration):
    dependencies = [("races", "0003_others")]
    operations = [
        migrations.AddField("course", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("rider", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("race", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("course", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("rider", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("race", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
