"""Parts of the report's HTML that its sections share."""


def figures(heads: list[str], rows: list[list[str]], words: int = 1) -> str:
    """A table whose first columns are words and whose others are figures. Cells are HTML."""
    sides = ["" if place < words else ' class="n"' for place in range(len(heads))]
    head = "".join(f'<th scope="col"{side}>{text}</th>' for side, text in zip(sides, heads, strict=True))
    lines = [_line(row, sides) for row in rows]
    return f"<table><thead><tr>{head}</tr></thead><tbody>{''.join(lines)}</tbody></table>"


def _line(row: list[str], sides: list[str]) -> str:
    first, *rest = row
    cells = "".join(f"<td{side}>{text}</td>" for side, text in zip(sides[1:], rest, strict=True))
    return f'<tr><th scope="row" class="of">{first}</th>{cells}</tr>'
