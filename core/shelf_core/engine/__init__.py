"""From a design to points, claims, removals and bytes.

It begins in `forecast/forecast.py`, function `forecast`, which goes through the stages in this order: `schedule` (when anything
happens), `retention` (which points there are, where, and until when: `holdings_of`), `volume` (what they take: `totals_of`),
`hardware` (what it takes of cartridges and devices). Each stage knows those before it and none after. What was computed
before is remembered in `memory` by what it depends on (`retention/keys.py`). docs/model.md has a part for each rule.

Within `retention`, `resolved` first gives each copy all that it refers to, so that what follows reads no id and no text of the
document; then `copies` asks for what is brought to it (`brought`, `arrivals`) and what becomes of that (`lives`: claims, locks,
moves, removals); `holdings` says which workloads it is for. Within `volume`, `counts` counts things, `sizes` says what a source
holds and what changes, `pieces` which of it lies there when, `ledger` adds up the days.
"""
