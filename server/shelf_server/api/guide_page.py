"""The API as a page of the server's own: what docs/api.md says, browsable without any network and without scripts."""

import re
from collections.abc import Iterator
from html import escape

STYLE = (
    "body{max-width:60rem;margin:2rem auto;padding:0 1rem;font:16px/1.5 'Source Sans 3',sans-serif;color:#22202A;"
    "background:#F7F4EE}h1,h2,h3{font-family:Fraunces,serif;line-height:1.2}h3{border-top:1px solid #E2DCD0;padding-top:1rem}"
    "pre{background:#fff;border:1px solid #E2DCD0;padding:.75rem;overflow:auto;font-size:14px}code{font-size:.95em}"
    "table{border-collapse:collapse}td,th{border-bottom:1px solid #E2DCD0;padding:.15rem .75rem .15rem 0;text-align:left;"
    "vertical-align:top}a{color:#5A3E63}nav ul{columns:2}"
)


def guide_page(text: str) -> str:
    """The guide, which is written with headings, paragraphs, tables and fenced code alone, as HTML with a list of contents."""
    body = "\n".join(_blocks(text))
    titles = re.findall(r"^### `(.+)`$", text, flags=re.MULTILINE)
    contents = "".join(f'<li><a href="#{_anchor(one)}"><code>{escape(one)}</code></a></li>' for one in titles)
    body = body.replace("</h1>", f'</h1><nav aria-label="Contents"><ul>{contents}</ul></nav>', 1)
    head = f'<meta charset="utf-8"><title>The API of Rested Shelf</title><style>{STYLE}</style>'
    return f'<!doctype html><html lang="en"><head>{head}</head><body><main>{body}</main></body></html>'


def _blocks(text: str) -> Iterator[str]:
    for part in re.split(r"(^```.*?^```$)", text, flags=re.MULTILINE | re.DOTALL):
        if part.startswith("```"):
            yield f'<pre tabindex="0">{escape(part.split(chr(10), 1)[1].removesuffix("```").rstrip())}</pre>'
        else:
            yield from (_block(one.strip()) for one in part.split("\n\n") if one.strip())


def _block(text: str) -> str:
    if heading := re.match(r"(#{1,3}) (.+)$", text):
        level, words = len(heading[1]), heading[2]
        return f'<h{level} id="{_anchor(words.strip("`"))}">{_words(words)}</h{level}>'
    if text.startswith("|"):
        rows = [[cell.strip() for cell in line.strip("|").split(" | ")] for line in text.splitlines()]
        head, _, *rest = rows
        return "<table>" + _row(head, "th") + "".join(_row(one, "td") for one in rest) + "</table>"
    return f"<p>{_words(text)}</p>"


def _row(cells: list[str], kind: str) -> str:
    return f"<tr>{''.join(f'<{kind}>{_words(one)}</{kind}>' for one in cells)}</tr>"


def _words(text: str) -> str:
    code = re.sub(r"`([^`]+)`", r"<code>\1</code>", escape(text, quote=False))
    return re.sub(r"\[([^\]]+)\]\([^)]+\)", r"\1", code)


def _anchor(words: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")
