"""From a design to points, claims, removals and bytes.

It begins in `forecast/forecast.py`, function `forecast`, which goes through the stages in this order: `schedule` (when anything
happens), `retention` (which points there are, where, and until when: `holdings_of`), `volume` (what they take: `totals_of`),
`hardware` (what it takes of cartridges and devices). Each stage knows those before it and none after. What was computed
before is remembered in `memory` by what it depends on (`retention/keys.py`). docs/model.md has a part for each file.
"""
