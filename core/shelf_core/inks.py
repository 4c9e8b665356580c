"""Inks that the page and the report share, on light ground."""

PART_INKS = (
    "#704F7B", "#CDB894", "#3C5C78", "#B79FBE", "#2F5452", "#DBA79C",
    "#8C8578", "#9DB3C4", "#7A4A2E", "#A9B97E", "#4A4458", "#E0C7DD",
)  # fmt: skip
"""Parts of a whole that mean nothing by their colour: told apart by hue and by how dark they are."""
