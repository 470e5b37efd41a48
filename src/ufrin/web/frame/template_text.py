"""The running text of templates as messages of the catalogue, without a mark on every sentence.

A template is written in plain English. Before it is compiled, each run of text is turned into a call of ``_`` with the
text as its message, so that no sentence can be forgotten::

    <p>The box takes {{ say.figure(box.net_ml, "volume") }}. <a href="{{ links.board() }}">Board</a> first.</p>

becomes the message ``The box takes {net_ml}. <a>Board</a> first.`` Blocks such as paragraphs, list items and statements
end a run; links and the like stay in it, so that a translation may move them. Words inside of statements and
expressions are written ``_("...")``, and so are those that are counted: ``counted("{n} piece", "{n} pieces", n=2)``.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field

from jinja2 import Environment
from jinja2.ext import Extension
from markupsafe import Markup

from ufrin.language import in_use, with_decimals

_TAG = r"</?[a-zA-Z](?:\{\{.*?\}\}|\{%.*?%\}|\{\#.*?\#\}|\"(?:\{\{.*?\}\}|\{%.*?%\}|[^\"])*\"|[^>\"])*>"
_PIECE = re.compile(
    r"(?P<comment>\{\#.*?\#\})|(?P<statement>\{%.*?%\})|(?P<expression>\{\{.*?\}\})"
    r"|(?P<verbatim><(?:script|style)\b.*?</(?:script|style)>|<!.*?>)|(?P<tag>" + _TAG + r")|(?P<text>[^<{]+|[<{])",
    re.DOTALL,
)
_INLINE = frozenset(
    ("a", "abbr", "b", "cite", "code", "em", "i", "kbd", "small", "span", "strong", "sub", "sup", "time")
)
_READ_ALOUD = re.compile(
    r"\b(?P<name>title|aria-label|aria-description|placeholder|alt|data-(?:ask|words)[a-z-]*)="
    r"\"(?P<value>(?:\{\{.*?\}\}|\{%.*?%\}|[^\"])*)\"",
    re.DOTALL,
)
_ENTITY = re.compile(r"&#?\w+;")
_WORD = re.compile(r"[^\W\d_]{2}")
_NAME = re.compile(r"[A-Za-z_]\w*")
_LITERAL = re.compile(r"\"([^\"]*)\"")
_EITHER = re.compile(r"(?P<one>\"[^\"]*\") if (?P<when>.*?)(?: else (?P<other>\"[^\"]*\"))?", re.DOTALL)


@dataclass(slots=True)
class _Piece:
    kind: str
    source: str
    within: "list[_Piece]" = field(default_factory=list)  # of an element
    end: str = ""

    @property
    def tag(self) -> str:
        found = _NAME.search(self.source)
        return found[0].lower() if found else ""


def _cut(source: str) -> list[_Piece]:
    return [_Piece(str(found.lastgroup), found[0]) for found in _PIECE.finditer(source)]


def _nested(pieces: list[_Piece]) -> list[_Piece]:
    """Put what stands between the tags of an inline element into it; tags without their other half stay alone."""
    open_at: list[int] = []
    made: list[_Piece] = []
    for piece in pieces:
        if piece.kind == "statement" or (piece.kind == "tag" and piece.tag not in _INLINE):
            open_at.clear()
        elif piece.kind == "tag" and not piece.source.startswith("</"):
            open_at.append(len(made))
        elif piece.kind == "tag" and open_at and made[open_at[-1]].tag == piece.tag:
            start = open_at.pop()
            made[start:] = [_Piece("element", made[start].source, made[start + 1 :], piece.source)]
            continue
        elif piece.kind == "tag":
            open_at.clear()
        made.append(piece)
    return made


def _has_words(pieces: list[_Piece]) -> bool:
    return any(piece.kind == "text" and _WORD.search(_ENTITY.sub("", piece.source)) for piece in pieces)


def _is_constant(piece: _Piece) -> bool:
    """Return whether an expression gives punctuation alone, such as "; " between the items of a list."""
    inner = piece.source[2:-2].strip()
    either = _EITHER.fullmatch(re.sub(r"\s+", " ", inner))
    literals = [either["one"], either["other"] or '""'] if either else [inner]
    return all(re.fullmatch(r"\"[^\"]*\"", one) and not _WORD.search(one) for one in literals)


def _inside(expression: str) -> str:
    """Return an expression without its braces; of words to choose from, each is a message of its own."""
    inner = expression[2:-2].strip("-+ \n")
    either = _EITHER.fullmatch(re.sub(r"\s+", " ", inner))
    if not either:
        return inner
    words = [f"_({one})" if one and _WORD.search(one) else one for one in (either["one"], either["other"])]
    return f"{words[0]} if {either['when']}" + (f" else {words[1]}" if words[1] else "")


def _shown(expression: str) -> str:
    """Return an expression whose numbers are read, not computed with: they have the language's decimal sign."""
    return expression.replace('"|format(', '"|written_as(')


_FORMATTED = re.compile(
    r"\"[^\"]*\"\|(?:format|written_as)\((.*)\)|(?:say|parts)\.\w+\((.*)\)|counted\(.*n=(.*)\)", re.DOTALL
)


def _gap_name(inner: str) -> str:
    """Return a name that tells a translator what goes into a gap."""
    formatted = _FORMATTED.fullmatch(inner)
    if formatted:
        inner = next(group for group in formatted.groups() if group)
    elif " if " in inner:
        literal = _LITERAL.search(inner)
        inner = (
            literal[1].strip().lower().replace(" ", "_")
            if literal and _WORD.search(literal[1])
            else inner.split(" if ")[0]
        )
    inner = re.split(r"[|,]", inner)[0]
    inner = re.sub(r"\([^()]*\)|\[[^\[\]]*\]|\"[^\"]*\"", "", inner)
    names = [name for name in _NAME.findall(inner) if name not in ("length", "abs", "not", "and", "or", "is")]
    return next((name for name in reversed([one.strip("_").lower() for one in names]) if name), "word")


class _Message:
    """One message being put together: its words, its gaps and its tags."""

    def __init__(self) -> None:
        self.words: list[str] = []
        self.gaps: dict[str, str] = {}
        self.tags: dict[str, str] = {}

    def _free(self, name: str, taken: dict[str, str], content: str) -> str:
        number, free = 1, name
        while taken.get(free, content) != content:
            number += 1
            free = f"{name}{number}"
        taken[free] = content
        return free

    def add(self, piece: _Piece) -> None:
        if piece.kind == "text":
            self.words.append(piece.source.replace("{", "{{").replace("}", "}}"))
        elif piece.kind == "expression":
            expression = _shown(_inside(piece.source))
            self.words.append("{" + self._free(_gap_name(expression), self.gaps, expression) + "}")
        elif piece.kind == "element":
            name = piece.tag
            if piece.source != f"<{name}>":
                name = self._free(name, self.tags, _attributes(piece.source))
            self.words.append(f"<{name}>")
            for one in piece.within:
                self.add(one)
            self.words.append(f"</{name}>")

    def written(self) -> str:
        text = re.sub(r"\s+", " ", "".join(self.words)).strip()
        quoted = text.replace("\\", "\\\\").replace('"', '\\"')
        sets = "".join(f"{{% set _tag_{name} %}}{tag}{{% endset %}}" for name, tag in self.tags.items())
        arguments = [f'"{quoted}"']
        arguments += [f"{name}={expression}" for name, expression in self.gaps.items()]
        arguments += [f"tag_{name}=_tag_{name}" for name in self.tags]
        return sets + "{{ _(" + ", ".join(arguments) + ") }}"


def _attributes(tag: str) -> str:
    """Write the attributes that are read aloud or shown as messages."""

    def spoken(found: re.Match[str]) -> str:
        return f'{found["name"]}="{with_messages(found["value"])}"'

    return _READ_ALOUD.sub(spoken, tag)


def _plain(piece: _Piece) -> str:
    if piece.kind == "tag":
        return _attributes(piece.source)
    if piece.kind == "element":
        return _attributes(piece.source) + _written(piece.within) + piece.end
    if piece.kind == "expression":
        return "{{ " + _shown(_inside(piece.source)) + " }}"
    return piece.source


def _said(run: list[_Piece]) -> str:
    """Write one run without blocks and statements."""
    if not _has_words(run):
        return "".join(_plain(piece) for piece in run)
    first = next(i for i, piece in enumerate(run) if not _is_outside(piece))
    last = max(i for i, piece in enumerate(run) if not _is_outside(piece)) + 1
    message = _Message()
    for piece in run[first:last]:
        message.add(piece)
    source = "".join(piece.source for piece in run[first:last])
    before, after = source[: len(source) - len(source.lstrip())], source[len(source.rstrip()) :]
    outside = ["".join(map(_plain, pieces)) for pieces in (run[:first], run[last:])]
    return outside[0] + before + message.written() + after + outside[1]


def _is_outside(piece: _Piece) -> bool:
    """Return whether it need not be in the message when it stands at its edge."""
    if piece.kind == "text":
        return not piece.source.strip()
    return piece.kind == "comment" or (piece.kind == "element" and not _holds_words(piece.within))


def _holds_words(pieces: list[_Piece]) -> bool:
    return _has_words(pieces) or any(piece.kind == "element" and _holds_words(piece.within) for piece in pieces)


def _written(pieces: list[_Piece]) -> str:
    out: list[str] = []
    run: list[_Piece] = []
    for piece in pieces:
        if piece.kind in ("text", "element") or (piece.kind == "expression" and not _is_constant(piece)):
            run.append(piece)
        elif piece.kind == "comment":
            out.append(_said(run) + piece.source)
            run = []
        else:
            out.append(_said(run) + _plain(piece))
            run = []
    return "".join(out) + _said(run)


def with_messages(source: str) -> str:
    """Return a template with its running text as messages.

    Parameters
    ----------
    source : str
        As its author wrote it.

    Returns
    -------
    str
        With a call of ``_`` for each run; as many lines as before, or fewer.

    Examples
    --------
    >>> with_messages("<p>To the <b>Board</b>, {{ person.name }}.</p>")
    '<p>{{ _("To the <b>Board</b>, {name}.", name=person.name) }}</p>'
    """
    return _written(_nested(_cut(source)))


class RunningText(Extension):
    """Turn the running text of templates into messages."""

    def __init__(self, environment: Environment) -> None:
        super().__init__(environment)
        environment.globals.update(_=message, counted=counted)
        environment.filters["written_as"] = _written_as

    def preprocess(self, source: str, name: str | None, filename: str | None = None) -> str:
        """Do it before the template is read."""
        return with_messages(source)


def _written_as(pattern: str, *numbers: object) -> str:
    return with_decimals(pattern % numbers)


def message(words: str, **gaps: object) -> Markup:
    """Return a message of a template in the language in use.

    Parameters
    ----------
    words : str
        In English, with gaps and tags.
    gaps : object, by name
        What goes into them, escaped where it is not markup; ``tag_a`` is how the tag ``<a>`` begins.

    Returns
    -------
    Markup
        For a page.
    """
    return _filled(in_use().messages.gettext(words), gaps)


def counted(one: str, several: str, *, n: int, **gaps: object) -> Markup:
    """Return a message that counts something.

    Parameters
    ----------
    one, several : str
        For 1 and for any other number, which is the gap ``{n}``.
    n : int
        The number.
    gaps : object, by name
        The other gaps.

    Returns
    -------
    Markup
        For a page.
    """
    return _filled(in_use().messages.ngettext(one, several, n), {"n": n, **gaps})


def _filled(found: str, gaps: Mapping[str, object]) -> Markup:
    for name in gaps:
        if name.startswith("tag_"):
            tag = name.removeprefix("tag_")
            found = found.replace(f"<{tag}>", f"{{{name}}}").replace(f"</{tag}>", f"</{tag.rstrip('0123456789')}>")
    shown = {name: with_decimals(str(gap)) if isinstance(gap, float) else gap for name, gap in gaps.items()}
    return Markup(found).format(**shown)  # noqa: S704 - the catalogue is ours, and what goes into the gaps is escaped
