"""From runs to points, claims, removals and bytes: a file for each section of docs/model.md."""
