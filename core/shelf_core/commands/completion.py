"""`completion`: a script with which a shell completes the commands and their options, made from the commands themselves."""

import importlib
import sys
from argparse import ArgumentParser, Namespace

from shelf_core.commands.names import COMMANDS

BASH = """# Completion of ./shelf for bash: source it, or keep it where bash looks for completions.
_shelf() {{
  local word=${{COMP_WORDS[COMP_CWORD]}}
  if [ "$COMP_CWORD" -eq 1 ]; then
    mapfile -t COMPREPLY < <(compgen -W "{commands}" -- "$word")
    return
  fi
  local options=
  case ${{COMP_WORDS[1]}} in
{cases}
  esac
  case $word in
  -?*) mapfile -t COMPREPLY < <(compgen -W "$options" -- "$word") ;;
  *) mapfile -t COMPREPLY < <(compgen -f -- "$word") ;;
  esac
}}
complete -F _shelf ./shelf shelf
"""
ZSH = "autoload -U +X bashcompinit && bashcompinit\n" + BASH.replace("for bash: source it", "for zsh: source it")


def arguments(parser: ArgumentParser) -> None:
    """The shell."""
    parser.add_argument("shell", choices=["bash", "zsh"])


def run(chosen: Namespace) -> int:
    """Print the script."""
    cases = "\n".join(f'  {name}) options="{" ".join(_options(name))}" ;;' for name in COMMANDS)
    script = BASH if chosen.shell == "bash" else ZSH
    sys.stdout.write(script.format(commands=" ".join(COMMANDS), cases=cases))
    return 0


def _options(name: str) -> list[str]:
    parser = ArgumentParser(add_help=True)
    importlib.import_module(f"shelf_core.commands.{COMMANDS[name].module}").arguments(parser)
    return sorted(option for action in parser._actions for option in action.option_strings if option.startswith("--"))
