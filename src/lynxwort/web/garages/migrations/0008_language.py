from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('garages', '0007_roles'),
    ]

    operations = [
        migrations.AddField(
            model_name='user',
            name='language',
            field=models.CharField(
                blank=True, choices=[('en', 'English'), ('es', 'Español')], default='', max_length=5
            ),
        ),
    ]
