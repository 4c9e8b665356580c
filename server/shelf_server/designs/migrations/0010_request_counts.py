from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('designs', '0009_account_of_a_target'),
    ]

    operations = [
        migrations.CreateModel(
            name='RequestCount',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('who', models.CharField(max_length=100)),
                ('minute', models.BigIntegerField()),
                ('times', models.PositiveIntegerField(default=1)),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('who', 'minute'), name='request_count_once_per_minute')],
            },
        ),
        # What is counted may be lost, and is written often: it need not go through the log.
        migrations.RunSQL(
            "ALTER TABLE designs_requestcount SET UNLOGGED", "ALTER TABLE designs_requestcount SET LOGGED"
        ),
    ]
