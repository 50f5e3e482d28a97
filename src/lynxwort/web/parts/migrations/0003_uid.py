"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("parts", "ownedpart").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])


class Migration(migrations.Migration):
    dependencies = [("parts", "0002_alter_ownedpart_options_and_more")]
    operations = [
        migrations.AddField("ownedpart", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("ownedpart", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
