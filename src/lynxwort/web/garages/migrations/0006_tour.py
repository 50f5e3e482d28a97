from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('garages', '0005_comforts'),
    ]

    operations = [
        # who is here already knows the way
        migrations.AddField(
            model_name='user',
            name='tour',
            field=models.PositiveSmallIntegerField(default=6),
        ),
        migrations.AlterField(
            model_name='user',
            name='tour',
            field=models.PositiveSmallIntegerField(default=0),
        ),
    ]
