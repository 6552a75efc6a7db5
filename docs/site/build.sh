#!/usr/bin/env bash
# Builds the site: build.sh FOLDER. The reference by Doxygen, the guide by Sphinx; any warning is an error.
# Ends with 77 where one of them is not installed.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/../.."
out=$(realpath -m "${1:?build.sh FOLDER}")
# Debian's own Python: another one that comes first in PATH does not see its packages.
command -v doxygen >/dev/null && /usr/bin/python3 -c 'import myst_parser, furo' 2>/dev/null || exit 77

release=$(sed -nE 's/#define ARVEK_VERSION_(MAJOR|MINOR|PATCH) ([0-9]+)/\2/p' include/arvek/version.hpp | paste -sd.)
mkdir -p "$out/parts"
(
    cat docs/site/Doxyfile
    echo "OUTPUT_DIRECTORY = $out"
    echo "GENERATE_TAGFILE = $out/parts/names.xml"
    echo "PROJECT_NUMBER = $release"
) >"$out/parts/Doxyfile"
doxygen "$out/parts/Doxyfile"
ARVEK_TAGS=$out/parts/names.xml ARVEK_RELEASE=$release /usr/bin/python3 -m sphinx -q -W --keep-going -b html -c docs/site -d "$out/parts/pages" . "$out"
# Another style sheet that the theme would take from a web server's own folders.
sed -i '/^@import url(\/javascript/d' "$out/_static/styles/furo.css"
echo '<!doctype html><title>Arvek</title><meta http-equiv="refresh" content="0; url=README.html"><a href="README.html">Arvek</a>' >"$out/index.html"
echo "$out/index.html"
