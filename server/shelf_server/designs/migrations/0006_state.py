"""A name of each revision that never comes again. Rows that are there get theirs one by one."""

import uuid

from django.db import migrations, models


def name_states(apps, _schema):
    for design in apps.get_model("designs", "Design").objects.all():
        design.state = uuid.uuid4()
        design.save(update_fields=["state"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0005_document_version_2")]

    operations = [
        migrations.AddField("design", "state", models.UUIDField(default=uuid.uuid4)),
        migrations.RunPython(name_states, migrations.RunPython.noop),
    ]
