"""Version 2 of the document: the lock of a target bounds what locks there can do, and two fields have other names.

In version 1 every lock held, so each target is raised to what its copies and step-downs ask of it: all figures stay.
"""

from django.db import migrations, models

RANK = {"none": 0, "liftable": 1, "final": 2}
NEW_NAMES = {"placement": "fill_order", "set_closes": "batch_closes"}


def raise_locks(apps, _schema):
    asked = {}
    for lock in apps.get_model("designs", "Lock").objects.select_related("copy", "step_down"):
        target = (lock.copy or lock.step_down).target_id
        asked[target] = max(asked.get(target, 0), RANK[lock.mode])
    for target in apps.get_model("designs", "Target").objects.filter(pk__in=asked):
        if asked[target.pk] > RANK[target.lock]:
            target.lock = next(mode for mode, rank in RANK.items() if rank == asked[target.pk])
            target.save(update_fields=["lock"])


def rename_in_history(apps, _schema):
    for change in apps.get_model("designs", "Change").objects.filter(list_name="targets").iterator():
        for side in ("before", "after"):
            entry = getattr(change, side)
            if entry:
                setattr(change, side, {NEW_NAMES.get(name, name): value for name, value in entry.items()})
        change.save(update_fields=["before", "after"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0004_scripts")]

    operations = [
        migrations.RemoveConstraint("target", "target_placement_is_known"),
        migrations.RemoveConstraint("target", "target_set_closes_is_known"),
        migrations.RenameField("target", "placement", "fill_order"),
        migrations.RenameField("target", "set_closes", "batch_closes"),
        migrations.AddConstraint(
            "target",
            models.CheckConstraint(
                condition=models.Q(("fill_order__in", ["in-order", "even", "with-chain"])), name="target_fill_order_is_known"
            ),
        ),
        migrations.AddConstraint(
            "target",
            models.CheckConstraint(
                condition=models.Q(
                    ("batch_closes__in", ["run", "day", "week", "month", "full"]),
                    ("batch_closes__isnull", True),
                    _connector="OR",
                ),
                name="target_batch_closes_is_known",
            ),
        ),
        migrations.RunPython(raise_locks, migrations.RunPython.noop),
        migrations.RunPython(rename_in_history, migrations.RunPython.noop),
    ]
