"""Cells of tables that people open in a spreadsheet: words that it would take for a formula come with a mark before.

Source: OWASP, CSV injection.
"""

FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")
MARK = "'"


def defused(words: str) -> str:
    """Words as they go out."""
    return MARK + words if words.startswith(FORMULA_SIGNS) else words


def plain(cell: str) -> str:
    """Words as they come in again."""
    return cell[1:] if cell.startswith(MARK) and cell[1:].startswith(FORMULA_SIGNS) else cell
