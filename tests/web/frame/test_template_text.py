"""The running text of templates as messages."""

import pytest
from bs4 import BeautifulSoup
from jinja2 import DictLoader, Environment
from markupsafe import Markup

from ufrin.language import Counted, language, using
from ufrin.web.frame.pages import with_words
from ufrin.web.frame.template_text import RunningText, message, with_messages


def rendered(template: str, **given: object) -> str:
    environment = Environment(loader=DictLoader({"page": template}), autoescape=True, extensions=[RunningText])
    return environment.get_template("page").render(**given)


@pytest.mark.parametrize(
    ("template", "page"),
    [
        ("<p>To the <b>Board</b>,\n  {{ name }}.</p>", "<p>To the <b>Board</b>, Wren &amp; Co.</p>"),
        ('<p>See <a href="/{{ name }}">this</a> first.</p>', '<p>See <a href="/Wren &amp; Co">this</a> first.</p>'),
        ("<p>{% if name %}Some{% else %}None{% endif %} of it</p>", "<p>Some of it</p>"),
        ('<i title="By {{ name }}">x</i>', '<i title="By Wren &amp; Co">x</i>'),
        ("<p>{{ 'a' }}, {{ 2 }}%: 100 % {{ '{' }}</p>", "<p>a, 2%: 100 % {</p>"),
        ("<p>Nothing {# of this #}is left out</p>", "<p>Nothing is left out</p>"),
        ("<script>const text = 'Left alone';</script>", "<script>const text = 'Left alone';</script>"),
        ("{{ 'Some' if name else 'None' }}", "Some"),
        ("<p>{</p>", "<p>{</p>"),
    ],
)
def test_an_english_page_is_what_its_template_says(template: str, page: str) -> None:
    assert rendered(template, name="Wren & Co") == page


@pytest.mark.parametrize(
    ("template", "message"),
    [
        ("<p>The box takes {{ say.figure(box.net_ml, 'volume') }}.</p>", "The box takes {net_ml}."),
        ("<p><a href='x'>Board</a> <a href='y'>Shelf</a></p>", None),
        ('<p>To <a href="x">Board</a> or <a href="y">Shelf</a>.</p>', "To <a>Board</a> or <a2>Shelf</a2>."),
        ('<li>{{ "Done" if one.is_done else "To do" }}</li>', "Done"),
        ('<input placeholder="Such as 12 mm">', "Such as 12 mm"),
        ("<td>{{ a }} × {{ b }}</td>", None),
    ],
)
def test_what_a_message_is(template: str, message: str | None) -> None:
    made = with_messages(template.replace("'", '"'))
    if message is None:
        assert '_("{' not in made
    else:
        assert f'_("{message}"' in made


def test_a_translation_may_move_gaps_and_links_and_stays_escaped() -> None:
    template = '<p>Choose <a href="/x">what you will cast</a>, and the families are ranked here.</p>'
    with using(language("de")):
        assert (
            rendered(template)
            == '<p>Wählen, <a href="/x">was gegossen wird</a>, und die Familien werden hier geordnet.</p>'
        )
        assert rendered("<p>The {{ half }} half</p>", half="<b>") == "<p>The &lt;b&gt; half</p>"


def test_a_text_in_the_gap_of_another_is_escaped_once() -> None:
    inner = Counted("{n} of {tin}'s times", "{n} of {tin}'s times", n=1, tin="A & B")
    for outer in (rendered("<p>By {{ why }}.</p>", why=inner), str(Markup("<p>By {}.</p>").format(inner))):
        assert BeautifulSoup(outer, "lxml").get_text() == "By 1 of A & B's times."


def test_a_sentence_that_is_markup_already_is_escaped_once() -> None:
    linked = with_words(message("The master's size, not {name}.", name="A & B"))
    assert BeautifulSoup(linked, "lxml").get_text() == "The master's size, not A & B."
    assert "/words#master" in linked
