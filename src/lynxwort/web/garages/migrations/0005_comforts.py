from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('garages', '0004_session_round'),
    ]

    operations = [
        migrations.AddField(
            model_name='user',
            name='comforts',
            field=models.JSONField(blank=True, default=list),
        ),
    ]
