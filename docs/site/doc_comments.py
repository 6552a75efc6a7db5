#!/usr/bin/env python3
"""Prepares a header for Doxygen: what the headers say once, where people read it, is said where Doxygen looks for it.

- The comment at the head of a file describes the file, and the type that it names first ("MoveList: where a game ...").
- A comment of a declaration with several names holds for each of them.
- What every type declares alike, such as operator== or the position of its game, has one text here.

Every line keeps its number, so that what Doxygen says of a line holds for the header.
"""

import re
import sys

ALIKE = [
    (r"using (Position|Move|View) = (typename G::\1|Any\1);", "The game's."),
    (r"(?:friend )?(?:constexpr )?bool operator==\((const (\w+)(<.*>)?& \w*, const \w+(<.*>)?& \w*|const \w+&(, const \w+&)?)\)", "Whether both are the same in every part."),
    (r"friend constexpr auto operator<=>", "In the usual order."),
    (r"(\w+)\(const G&.*\) -> \1<G>;", "For the game's own type."),
    (r"(\w+)\(const \1& \w+\)( noexcept)?", "A copy."),
    (r"(\w+)\(\1&& ?\w*\) noexcept", "Takes over what the other holds."),
    (r"(\w+)& operator=\(const \1& \w+\)", "Becomes a copy."),
    (r"(\w+)& operator=\(\1&& ?\w*\) noexcept", "Takes over what the other holds."),
]


def head_of_file(lines):
    """The comment at the head as documentation of the file and of the type that it names."""
    end = 1
    while end < len(lines) and lines[end].startswith("//"):
        end += 1
    head = [line[2:] for line in lines[1:end]]
    if not head:
        return lines
    named = re.match(r" (\w+)(?: and \w+)?: (.*)", head[0])
    kind = named and next((m[1] for m in (re.match(rf"(class|struct) {named[1]}\b", line) for line in lines) if m), None)
    text = ["///" + line for line in head]
    if kind:
        text[0] = f"/// {named[2][0].upper()}{named[2][1:]}"
    space = next((m[1] for m in (re.match(r"namespace ([\w:]+) \{", line) for line in lines) if m), "arvek")
    # In the place of '#pragma once', so that every line keeps its number.
    return [f"/// @{kind} {space}::{named[1]}" if kind else "/// @file", *text, *lines[end:]]


def names_of(declaration):
    """The parts of "type a = 1, b{};": the type, and each name with its value; None where it is no such thing."""
    depth, parts, start = 0, [], 0
    for at, letter in enumerate(declaration):
        if letter in "<({[":
            depth += 1
        elif letter in ">)}]":
            depth -= 1
        elif letter == "," and depth == 0:
            parts.append(declaration[start:at])
            start = at + 1
    parts.append(declaration[start:])
    first = re.fullmatch(r"(\s*(?:[\w:]+|<.*>)+(?:\s*[&*])?) (\w+\b.*)", parts[0])
    if len(parts) < 2 or not first or not all(re.match(r"\s*\w+\s*(=|\{|$)", part) for part in parts[1:]):
        return None
    return first[1], [first[2], *(part.strip() for part in parts[1:])]


def several_names(lines):
    before = []
    for line in lines:
        if line.strip().startswith("///"):
            before.append(line)
            continue
        found = re.fullmatch(r"(\s*[^/()]*?);(?:\s*///< ?(.*))?", line)
        names = found and "," in found[1] and names_of(found[1])
        text = " ".join([*(each.strip()[3:].strip() for each in before), (found and found[2]) or ""]).strip()
        if names and text:
            yield from [""] * len(before)
            yield " ".join(f"{names[0].strip()} {name}; /**< {text} */" for name in names[1])
        else:
            yield from before
            yield line
        before = []
    yield from before


def said_alike(lines):
    above = ""
    for line in lines:
        text = next((text for form, text in ALIKE if re.match(r"\s*(?:constexpr )?" + form, line)), None)
        is_said = "//" in line or above.strip().startswith("///")
        above = line
        yield line if is_said or not text else f"/** {text} */ {line.strip()}"


def main():
    with open(sys.argv[1], encoding="utf-8") as file:
        lines = file.read().split("\n")
    print("\n".join(said_alike(several_names(head_of_file(lines)))), end="")


main()
