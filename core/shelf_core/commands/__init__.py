"""The commands of the command line, a module each: `arguments` says what one takes, `run` does it."""
