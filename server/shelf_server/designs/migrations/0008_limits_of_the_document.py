
"""The database refuses what the document's own types refuse.

Rows that are there are not looked at: a design from before a limit opens, says what is wrong, and can be mended.
"""

from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('designs', '0007_tokens_end_with_a_password'),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name='copy',
            name='copy_take_by_is_known',
        ),
        migrations.RemoveConstraint(
            model_name='design',
            name='design_week_starts_on_a_weekday',
        ),
        migrations.RemoveConstraint(
            model_name='target',
            name='target_batch_closes_is_known',
        ),
        migrations.RemoveConstraint(
            model_name='workload',
            name='workload_hot_percent_in_range',
        ),
        migrations.RemoveConstraint(
            model_name='workload',
            name='workload_reduction_is_positive',
        ),
        AddConstraintNotValid(
            model_name='copy',
            constraint=models.CheckConstraint(condition=models.Q(('rotation_scheme__in', ['fifo', 'hanoi', 'gfs'])), name='copy_rotation_scheme_is_known'),
        ),
        AddConstraintNotValid(
            model_name='copy',
            constraint=models.CheckConstraint(condition=models.Q(('rotation_sets__gte', 1), ('rotation_sets__lte', 64)), name='copy_rotation_sets_in_range'),
        ),
        AddConstraintNotValid(
            model_name='copy',
            constraint=models.CheckConstraint(condition=models.Q(('rotation_weekly_on__in', ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'])), name='copy_rotation_weekly_on_is_known'),
        ),
        AddConstraintNotValid(
            model_name='copy',
            constraint=models.CheckConstraint(condition=models.Q(('rotation_years__gte', 0), ('rotation_years__lte', 150)), name='copy_rotation_years_in_range'),
        ),
        AddConstraintNotValid(
            model_name='copy',
            constraint=models.CheckConstraint(condition=models.Q(('take_by__in', ('all', 'kinds', 'runs', 'rungs'))), name='copy_take_by_is_known'),
        ),
        AddConstraintNotValid(
            model_name='design',
            constraint=models.CheckConstraint(condition=models.Q(('week_starts__in', ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'])), name='design_week_starts_is_known'),
        ),
        AddConstraintNotValid(
            model_name='design',
            constraint=models.CheckConstraint(condition=models.Q(('correlation__gte', 0), ('correlation__lte', 1)), name='design_correlation_in_range'),
        ),
        AddConstraintNotValid(
            model_name='ladder',
            constraint=models.CheckConstraint(condition=models.Q(('floor__gte', 0), ('floor__lte', 1000000)), name='ladder_floor_in_range'),
        ),
        AddConstraintNotValid(
            model_name='opening',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['full', 'synthetic', 'differential', 'incremental', 'snapshot', 'log'])), name='opening_kind_is_known'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('capacity_tb_month__gte', 0), ('capacity_tb_month__lte', 1000000000000.0)), name='prices_capacity_tb_month_in_range'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('requests_thousand__gte', 0), ('requests_thousand__lte', 1000000000000.0)), name='prices_requests_thousand_in_range'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('retrieval_tb__gte', 0), ('retrieval_tb__lte', 1000000000000.0)), name='prices_retrieval_tb_in_range'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('traffic_tb__gte', 0), ('traffic_tb__lte', 1000000000000.0)), name='prices_traffic_tb_in_range'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('cartridge__gte', 0), ('cartridge__lte', 1000000000000.0)), name='prices_cartridge_in_range'),
        ),
        AddConstraintNotValid(
            model_name='prices',
            constraint=models.CheckConstraint(condition=models.Q(('cartridge_month__gte', 0), ('cartridge_month__lte', 1000000000000.0)), name='prices_cartridge_month_in_range'),
        ),
        AddConstraintNotValid(
            model_name='recent',
            constraint=models.CheckConstraint(condition=models.Q(('keep_points__gte', 0), ('keep_points__lte', 1000000)), name='recent_keep_points_in_range'),
        ),
        AddConstraintNotValid(
            model_name='recent',
            constraint=models.CheckConstraint(condition=models.Q(('keep_superseded_extra__gte', 0)), name='recent_keep_superseded_extra_in_range'),
        ),
        AddConstraintNotValid(
            model_name='rung',
            constraint=models.CheckConstraint(condition=models.Q(('keep_periods__gte', 0), ('keep_periods__lte', 1000000)), name='rung_keep_periods_in_range'),
        ),
        AddConstraintNotValid(
            model_name='target',
            constraint=models.CheckConstraint(condition=models.Q(('minimum_days__gte', 0), ('minimum_days__lte', 3660)), name='target_minimum_days_in_range'),
        ),
        AddConstraintNotValid(
            model_name='target',
            constraint=models.CheckConstraint(condition=models.Q(('slots__gte', 0)), name='target_slots_in_range'),
        ),
        AddConstraintNotValid(
            model_name='target',
            constraint=models.CheckConstraint(condition=models.Q(('drives__gte', 0)), name='target_drives_in_range'),
        ),
        AddConstraintNotValid(
            model_name='target',
            constraint=models.CheckConstraint(condition=models.Q(('batch_closes__in', ['run', 'day', 'week', 'month', 'full'])), name='target_batch_closes_is_known'),
        ),
        AddConstraintNotValid(
            model_name='target',
            constraint=models.CheckConstraint(condition=models.Q(('used_growth_percent__gt', -100), ('used_growth_percent__lte', 10000)), name='target_used_growth_percent_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('growth_low__gt', -100), ('growth_low__lte', 10000)), name='unknown_growth_low_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('growth_high__gt', -100), ('growth_high__lte', 10000)), name='unknown_growth_high_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('change_low__gt', 0), ('change_low__gte', 0), ('change_low__lte', 100)), name='unknown_change_low_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('change_high__gte', 0), ('change_high__lte', 100)), name='unknown_change_high_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('reduction_low__gte', 0.01), ('reduction_low__lte', 10000)), name='unknown_reduction_low_in_range'),
        ),
        AddConstraintNotValid(
            model_name='unknown',
            constraint=models.CheckConstraint(condition=models.Q(('reduction_high__gte', 0.01), ('reduction_high__lte', 10000)), name='unknown_reduction_high_in_range'),
        ),
        AddConstraintNotValid(
            model_name='workload',
            constraint=models.CheckConstraint(condition=models.Q(('hot_percent__gt', 0), ('hot_percent__lte', 100)), name='workload_hot_percent_in_range'),
        ),
        AddConstraintNotValid(
            model_name='workload',
            constraint=models.CheckConstraint(condition=models.Q(('annual_growth_percent__gt', -100), ('annual_growth_percent__lte', 10000)), name='workload_annual_growth_percent_in_range'),
        ),
        AddConstraintNotValid(
            model_name='workload',
            constraint=models.CheckConstraint(condition=models.Q(('reduction__gte', 0.01), ('reduction__lte', 10000)), name='workload_reduction_in_range'),
        ),
        AddConstraintNotValid(
            model_name='workload',
            constraint=models.CheckConstraint(condition=models.Q(('change_reduction__gte', 0.01), ('change_reduction__lte', 10000)), name='workload_change_reduction_in_range'),
        ),
        AddConstraintNotValid(
            model_name='workload',
            constraint=models.CheckConstraint(condition=models.Q(('alike_percent__gte', 0), ('alike_percent__lte', 100)), name='workload_alike_percent_in_range'),
        ),
    ]
