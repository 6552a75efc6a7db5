"""The guide as a site: the README and docs/*.md, with links to headers leading into the reference."""

import os
import posixpath
import re
import xml.etree.ElementTree

import pygments.lexers

root = os.path.abspath(os.path.join(os.path.dirname(__file__), "..", ".."))
release = os.environ["ARVEK_RELEASE"]

project = "Arvek"
copyright = "the Arvek authors"
extensions = ["myst_parser"]
root_doc = "README"
include_patterns = ["README.md", "CHANGELOG.md", "CONTRIBUTING.md", "docs/*.md"]
myst_heading_anchors = 3
html_theme = "furo"
html_title = f"Arvek {release}"
html_static_path = ["static"]
html_css_files = ["guide.css"]
templates_path = ["templates"]
html_sidebars = {"**": ["sidebar/brand.html", "sidebar/search.html", "sidebar/scroll-start.html", "sidebar/navigation.html",
                        "sidebar/reference.html", "sidebar/scroll-end.html"]}
html_show_sourcelink = False
pygments_style = "sas"  # of those for a light ground, one whose every colour can be read
pygments_dark_style = "monokai"

GUIDE = """
```{{toctree}}
:hidden:
:caption: {caption}

{pages}
```
"""
PAGES = {
    "Begin": ["which_search", "recipes", "mistakes", "how_to_add"],
    "Opponents": ["writing_opponents", "levels", "techniques", "monte_carlo", "programs"],
    "Work on them": ["workbench", "checking", "lab", "learning"],
    "For programs": ["rpc", "performance", "measurements", "compile_time", "architecture"],
}


def pages_of_headers():
    """Where the reference has each header, as its tag file says."""
    tags = xml.etree.ElementTree.parse(os.environ["ARVEK_TAGS"]).getroot()
    return {os.path.relpath(os.path.join(each.findtext("path"), each.findtext("name")), root): each.findtext("filename")
            for each in tags.iter("compound") if each.get("kind") == "file"}


def links_that_lead_on(app, docname, source):
    folder = posixpath.dirname(docname)

    def lead_on(found):
        text, link = found[1], found[2]
        path = posixpath.normpath(posixpath.join(folder, link.partition("#")[0]))
        if "://" in link or link.startswith("#") or path.endswith((".md", ".png")):
            return found[0]
        header = app.pages_of_headers.get(path)
        if header:
            return f'<a class="reference" href="{"../" * docname.count("/")}api/{header}">{text}</a>'
        if not os.path.exists(os.path.join(root, path)):
            raise ValueError(f"{docname}: nothing is at {link}")
        return text  # a folder, or a file of another kind: its name stands for it

    source[0] = re.sub(r"(?<!!)\[([^\]\[]*)\]\(([^()\s]+)\)", lead_on, source[0])
    if docname == root_doc:
        source[0] += "".join(GUIDE.format(caption=caption, pages="\n".join(f"docs/{page}" for page in pages))
                             for caption, pages in PAGES.items())
        source[0] += GUIDE.format(caption="The project", pages="CHANGELOG\nCONTRIBUTING")


def setup(app):
    app.pages_of_headers = pages_of_headers()
    app.add_lexer("rpc", pygments.lexers.TextLexer)  # messages with what they are answered by
    app.connect("source-read", links_that_lead_on)
