"""What password a token was made under."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("designs", "0006_state")]

    operations = [migrations.AddField("token", "made_under", models.CharField(default="", max_length=128))]
