"""Loaded before all else by the process that forks: while the rest is loaded nothing is looked through for what can go.

All of that stays (`loaded` says so at its end), and looking through it again and again takes an eighth of the start.
"""

import gc

gc.disable()
