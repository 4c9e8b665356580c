"""Ways between sites over links."""

from typing import NamedTuple

from shelf_core.design.links import Link


class Hop(NamedTuple):
    """A link that is passed, from one of its sites to the other."""

    link: Link
    begin: str
    end: str


def way_between(links: list[Link], begin: str, end: str) -> tuple[Hop, ...] | None:
    """The way with the fewest links; of equals the one whose links' places in the document, sorted, come first.

    Within a site there is no link, and without any links none limits anything: both are an empty way. None where there are
    links but none leads there.

    >>> [hop.link.id for hop in way_between([Link(id="ab", sites=["a", "b"]), Link(id="bc", sites=["b", "c"])], "c", "a")]
    ['bc', 'ab']
    """
    if begin == end or not links:
        return ()
    ways: dict[str, list[tuple[int, ...]]] = {begin: [()]}
    reached = {begin}
    while ways:
        if end in ways:
            return _hops(links, begin, min(ways[end], key=sorted))
        further: dict[str, list[tuple[int, ...]]] = {}
        for site, so_far in ways.items():
            for place, link in enumerate(links):
                if site in link.sites:
                    other = link.sites[1] if link.sites[0] == site else link.sites[0]
                    if other not in reached:
                        further.setdefault(other, []).extend((*one, place) for one in so_far)
        reached |= further.keys()
        # Of the ways to a site the best alone is needed: what follows is the same for all.
        ways = {site: [min(found, key=sorted)] for site, found in further.items()}
    return None


def _hops(links: list[Link], begin: str, places: tuple[int, ...]) -> tuple[Hop, ...]:
    hops, site = [], begin
    for place in places:
        one, other = links[place].sites
        there = other if one == site else one
        hops.append(Hop(links[place], site, there))
        site = there
    return tuple(hops)
