"""What is made of headers for the reference: doc_comments_test.py SOURCE."""

import pathlib
import subprocess
import sys
import tempfile
import unittest

source = pathlib.Path(sys.argv.pop())
program = source / "docs" / "site" / "doc_comments.py"


def prepared(path):
    return subprocess.run([sys.executable, program, path], capture_output=True, text=True, check=True).stdout


def of_text(text):
    with tempfile.NamedTemporaryFile("w", suffix=".hpp", encoding="utf-8") as file:
        file.write(text)
        file.flush()
        return prepared(file.name).split("\n")


class DocComments(unittest.TestCase):
    def test_every_line_of_every_header_keeps_its_number(self):
        headers = [each for each in (source / "include").rglob("*.hpp") if "detail" not in each.parts]
        self.assertGreater(len(headers), 100)
        for header in headers:
            before, after = header.read_text(encoding="utf-8").split("\n"), prepared(header).split("\n")
            self.assertEqual(len(before), len(after), header)
            for number, (old, new) in enumerate(zip(before, after), 1):
                # Code stays; what is said of it comes on top.
                if old.strip() and not old.strip().startswith("//") and number > 1 and "/**<" not in new:
                    self.assertTrue(new.endswith(old.strip()) or new == old, f"{header}, line {number}: {new}")

    def test_the_head_goes_to_the_type_that_it_names(self):
        head = ["#pragma once", "// Crane: lifts what it is told.", "//", "//     Crane crane;", "", "namespace arvek::wharf {"]
        self.assertEqual(of_text("\n".join([*head, "class Crane {};", "}"]))[:4],
                         ["/// @class arvek::wharf::Crane", "/// Lifts what it is told.", "///", "///     Crane crane;"])
        self.assertEqual(of_text("\n".join([*head, "struct Hoist {};", "}"]))[:2], ["/// @file", "/// Crane: lifts what it is told."])

    def test_several_names_have_each_what_is_said_of_them(self):
        self.assertEqual(of_text("#pragma once\n\nint a = 0, b = 1;  ///< both\n")[2], "int a = 0; /**< both */ int b = 1; /**< both */")
        self.assertEqual(of_text("#pragma once\n\n/// Both.\nstd::map<int, int> a{}, b{};\n")[2:4],
                         ["", "std::map<int, int> a{}; /**< Both. */ std::map<int, int> b{}; /**< Both. */"])
        # A function is no list of names, and what nothing is said of stays bare.
        for line in ("int add(int a, int b);  ///< the sum", "int a = 0, b = 1;", "std::map<int, int> both{};  ///< one name"):
            self.assertEqual(of_text(f"#pragma once\n\n{line}\n")[2], line)

    def test_what_every_type_declares_is_said_alike_unless_it_is_said(self):
        line = "    using Move = typename G::Move;"
        self.assertEqual(of_text(f"#pragma once\n\n{line}\n")[2], f"/** The game's. */ {line.strip()}")
        self.assertEqual(of_text(f"#pragma once\n\n    /// Something else.\n{line}\n")[3], line)


unittest.main()
