"""Every row that may travel gets a uid: added empty, filled, then unique."""

import uuid

from django.db import migrations, models


def fill(apps, _editor):
    for row in apps.get_model("garages", "garage").objects.filter(uid=None).only("pk"):
        row.uid = uuid.uuid4()
        row.save(update_fields=["uid"])


class Migration(migrations.Migration):
    dependencies = [("garages", "0002_user_theme_user_unit_choices")]
    operations = [
        migrations.AddField("garage", "uid", models.UUIDField(default=None, editable=False, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("garage", "uid", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
    ]
