"""The picture of the packages in ARCHITECTURE.md, made from the code's own imports. `python -m docs.imports` writes it anew."""

from pathlib import Path

import grimp

PAGE = Path(__file__).resolve().parent.parent / "ARCHITECTURE.md"
BEGIN, END = "<!-- imports: written by docs/imports.py -->", "<!-- end of imports -->"
ROOTS = ("shelf_core", "shelf_server")
HIDDEN = ("shelf_server.settings", "shelf_server.urls", "shelf_server.wsgi")


def picture() -> str:
    """Boxes for the packages, an arrow where one imports another, in Mermaid; what follows from other arrows is left out."""
    graph = grimp.build_graph(*ROOTS)
    boxes = sorted(box for root in ROOTS for box in graph.find_children(root) if box not in HIDDEN)
    for box in boxes:
        graph.squash_module(box)
    arrows = {box: {other for other in boxes if graph.direct_import_exists(importer=box, imported=other)} for box in boxes}
    lines = ["```mermaid", "flowchart TD"]
    for root in ROOTS:
        lines += [
            f"  subgraph {root}",
            *(f"    {_name(box)}[{box.split('.')[1]}]" for box in boxes if box.startswith(root)),
            "  end",
        ]
    for box in boxes:
        lines += [f"  {_name(box)} --> {_name(other)}" for other in sorted(_first_steps(box, arrows))]
    return "\n".join([*lines, "```"])


def _name(box: str) -> str:
    return box.replace(".", "_")


def _first_steps(box: str, arrows: dict[str, set[str]]) -> set[str]:
    """Those that are imported without being reached through another one that is."""
    return {other for other in arrows[box] if not any(_leads(middle, other, arrows) for middle in arrows[box] - {other})}


def _leads(start: str, end: str, arrows: dict[str, set[str]]) -> bool:
    seen, waiting = set(), [start]
    while waiting:
        here = waiting.pop()
        if here == end:
            return True
        if here not in seen:
            seen.add(here)
            waiting += arrows[here]
    return False


def with_picture(page: str) -> str:
    """The page with the picture in its place."""
    before, rest = page.split(BEGIN)
    return f"{before}{BEGIN}\n{picture()}\n{END}{rest.split(END)[1]}"


if __name__ == "__main__":
    PAGE.write_text(with_picture(PAGE.read_text()))
