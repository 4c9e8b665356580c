"""Names of what transfers pass and of what holds them, as people know them."""

from shelf_core.design.document import Design
from shelf_core.nights.moving import BY_PRIORITY

_PLAIN = {
    "source": "waiting for its source",
    "window": "waiting for its window",
    "stream": "waiting for a free stream",
    "scan": "finding what changed",
    "mount": "loading a cartridge",
    "machine": "reading speed of the machine",
    "no way": "no line leads there",
}


def named_label(label: str, design: Design) -> str:
    """What a label of a resource, or of what held a transfer, says with the names of the design.

    Labels are made of ids, as tables for programs have them: `target disk write`, `link ab a-b`, `stream of disk`.
    """
    if label.endswith(BY_PRIORITY):
        return f"{named_label(label.removesuffix(BY_PRIORITY), design)}, behind what comes first"
    return _PLAIN.get(label) or _Names(design).known.get(label, label)


class _Names:
    """The labels that a design can have, by the names of its parts."""

    def __init__(self, design: Design) -> None:
        self.known: dict[str, str] = {}
        sites = {site.id: site.name or site.id for site in design.sites}
        for site, name in sites.items():
            self.known[f"site {site} read"] = f"Storage of {name}, read"
            self.known[f"site {site} write"] = f"Storage of {name}, written"
            self.known[f"site {site} network"] = f"Network of {name}"
        for target in design.targets:
            name = target.name or target.id
            self.known[f"target {target.id} read"] = f"{name}, read"
            self.known[f"target {target.id} write"] = f"{name}, written"
            self.known[f"stream of {target.id}"] = f"speed of one transfer on {name}"
        for link in design.links:
            one, other = link.sites
            name = link.name or f"Line between {sites.get(one, one)} and {sites.get(other, other)}"
            self.known[f"link {link.id}"] = name
            self.known[f"stream of link {link.id}"] = f"speed of one transfer on {name}"
            for begin, end in ((one, other), (other, one)):
                self.known[f"link {link.id} {begin}-{end}"] = f"{name}, to {sites.get(end, end)}"
