"""Which points there are, where, and until when: from what is brought to a copy to the holdings of every target."""
