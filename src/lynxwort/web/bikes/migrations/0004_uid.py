"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("bikes", "bike").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("bikes", "setup").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("bikes", "revision").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])
    for row in apps.get_model("bikes", "draft").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])


class Migration(migrations.Migration):
    dependencies = [("bikes", "0003_alter_setup_options_revision_name_setup_name")]
    operations = [
        migrations.AddField("bike", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("setup", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("revision", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.AddField("draft", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("bike", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("setup", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("revision", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
        migrations.AlterField("draft", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
