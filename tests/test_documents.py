"""That what is told about Ufrin stands beside it: pictures, links, licences, and nothing fetched from elsewhere."""

import ast
import re
import tomllib
from collections.abc import Iterator
from pathlib import Path

from ufrin import __version__

ROOT = Path(__file__).parents[1]
VENDOR = ROOT / "src" / "ufrin" / "web" / "static" / "vendor"
SHIPPED = [
    path
    for kind in ("*.html", "*.css", "*.js")
    for path in (ROOT / "src" / "ufrin" / "web").rglob(kind)
    if "vendor" not in path.parts
]


def documented(node: ast.AST) -> Iterator[tuple[str, set[str], set[str]]]:
    """Yield the class or function with the names that its docstring gives, and those that it has."""
    if not isinstance(node, ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
        return
    text = ast.get_docstring(node) or ""
    if "Parameters\n---" not in text:
        return
    section = re.split(r"\n\n(?:Returns|Raises|Yields|Examples)\n-", text.split("Parameters\n")[1])[0]
    named = {
        name.strip().lstrip("*")
        for names in re.findall(r"^(\*{0,2}[a-z]\w*(?:, [a-z]\w*)*) : ", section, flags=re.MULTILINE)
        for name in names.split(",")
    }
    makers = [one for one in ast.walk(node) if isinstance(one, ast.FunctionDef) and one.name == "__init__"]
    fields = {
        one.target.id
        for one in ast.iter_child_nodes(node)
        if isinstance(one, ast.AnnAssign)
        if isinstance(one.target, ast.Name) and not one.target.id.startswith("_")
    }
    if isinstance(node, ast.ClassDef) and not fields and not makers:
        return  # a subclass is made as its parent is
    takes = node if not isinstance(node, ast.ClassDef) else makers[0] if makers and not fields else None
    if takes is not None:
        every = (*takes.args.posonlyargs, *takes.args.args, *takes.args.kwonlyargs, takes.args.vararg, takes.args.kwarg)
        fields = {one.arg for one in every if one is not None} - {"self", "cls"}
    yield node.name, named, fields


def test_a_docstring_that_lists_parameters_lists_those_there_are() -> None:
    found = [
        (file.name, *one)
        for file in (ROOT / "src" / "ufrin").rglob("*.py")
        for node in ast.walk(ast.parse(file.read_text()))
        for one in documented(node)
    ]
    assert len(found) > 500
    assert [(file, name, named ^ there) for file, name, named, there in found if named != there] == []


def test_links_lead_somewhere() -> None:
    links = [
        (page.name, link, page.parent)
        for page in (*ROOT.glob("*.md"), *(ROOT / "docs").glob("*.md"))
        for link in re.findall(r"\]\(([^)#]+)\)", page.read_text())
    ]
    assert len(links) > 50
    assert [(page, link) for page, link, at in links if not (link.startswith("https://") or (at / link).exists())] == []


def test_every_picture_is_shown_and_there_are_not_too_many() -> None:
    pictures = {path.name for path in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert 0 < len(pictures) < 20
    assert set(re.findall(r"screenshots/([\w-]+\.png)", (ROOT / "README.md").read_text())) == pictures


def test_every_shipped_package_has_its_version_and_licence() -> None:
    told = tomllib.loads((VENDOR / "versions.toml").read_text())
    assert {name.split("/")[-1] for name in told} == {path.name for path in VENDOR.iterdir() if path.is_dir()}
    for name, row in told.items():
        assert row["version"]
        assert row["licence"]
        assert (VENDOR / name.split("/")[-1] / "LICENSE").exists()


def test_the_notice_names_every_package_that_is_shipped() -> None:
    notice = " ".join((ROOT / "NOTICE").read_text().split())
    for versions in (VENDOR, ROOT / "tests" / "browser" / "vendor"):
        for name, row in tomllib.loads((versions / "versions.toml").read_text()).items():
            assert name in notice
            assert row["version"] in notice
            assert row["licence"] in notice


def test_pages_fetch_nothing_from_elsewhere_and_need_no_inline_style_or_script() -> None:
    assert len(SHIPPED) > 100
    for file in SHIPPED:
        text = re.sub(r'xmlns="[^"]+"', "", file.read_text())
        assert not re.search(r"(https?:)?//[a-z]", re.sub(r"^\s*//.*$", "", text, flags=re.MULTILINE)), file
        if file.suffix == ".html":
            assert not re.search(r"\sstyle=|<style|\son\w+=|<script(?![^>]*\ssrc=)", text), file


def test_pinned_with_hashes_and_without_addresses() -> None:
    for file in (ROOT / "requirements").glob("*.txt"):
        text = file.read_text()
        assert "://" not in text
        assert "--index" not in text
        pins = re.findall(r"^[a-z0-9][\w.-]*==.*$", text, flags=re.MULTILINE)
        assert pins
        assert all(pin.endswith("\\") for pin in pins)
        assert text.count("--hash=sha256:") >= len(pins)


def test_the_changelog_has_this_version() -> None:
    assert f"## {__version__}" in (ROOT / "CHANGELOG.md").read_text()


def test_each_test_that_the_list_of_safety_names_is_there() -> None:
    listed = re.findall(r"`(test_\w+)(…?)", (ROOT / "docs" / "security.md").read_text())
    written = {
        name for file in (ROOT / "tests").rglob("test_*.py") for name in re.findall(r"def (test_\w+)", file.read_text())
    }
    assert len(listed) > 15
    assert [
        name for name, more in listed if not any(one == name or (more and one.startswith(name)) for one in written)
    ] == []
