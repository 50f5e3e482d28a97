"""What rode along stands in every reading: until now, what the bike carries; from now on, what it carried then."""

from django.db import migrations


def fill(apps, _editor):
    for row in apps.get_model("readings", "reading").objects.select_related("bike"):
        under = row.document["under"]
        if under.get("aboard") is not None:
            continue
        payload = row.bike.document["frame"].get("payload") or []
        left = under["setup"].get("payload_left") or 0
        under["aboard"] = payload[: max(len(payload) - left, 0)]
        row.save(update_fields=["document"])


class Migration(migrations.Migration):
    dependencies = [("readings", "0002_uid"), ("bikes", "0001_initial")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
