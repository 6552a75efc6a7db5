#!/usr/bin/env bash
# snippets.sh COMPILER SOURCE: every snippet of code at the head of a public header, and every one in the README, compiles.
#
# A snippet in a header is a block of comment lines with five spaces before the text. It is compiled as members of a game,
# as definitions or as statements, whichever it looks like, with what snippets.hpp takes for granted. An ellipsis stands
# for nothing, or for one value where one is needed.
set -u
compiler=$1 source=$2
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$source" || exit 1

{
    # By the installed name, as a user would.
    find include/arvek -name '*.hpp' -not -path '*/detail/*' | sort | sed 's|^include/\(.*\)|#include <\1>|'
    echo '#include "tests/consumer/snippets.hpp"'
    find include/arvek -name '*.hpp' -not -path '*/detail/*' | sort | while read -r header; do
        # A message as a user sees it, which is no code.
        [ "$header" = include/arvek/game/input_error.hpp ] && continue
        awk -v header="$header" '
            function line_directive(number) { return "#line " number " \"" header "\"\n" }
            function open_braces(    i, all) {
                for (i = 1; i <= count; ++i) all = all line[i]
                return gsub(/\{/, "", all) - gsub(/\}/, "", all)
            }
            function close_block(    i, name, kind, body) {
                if (!count) return
                ++blocks
                name = header; gsub(/[^a-z0-9]/, "_", name); name = name "_" blocks
                if (line[1] ~ /^(struct|class|int main|TEST|enum) ?/) kind = "definitions"
                else if (line[1] ~ /^\{"/) kind = "element"
                else if (line[1] ~ /^template|\) const( \{|;)/) kind = "members"
                else kind = "statements"
                for (i = 1; i <= count; ++i) {
                    if (line[i] ~ /override \{ \.\.\. \}/) sub(/\{ \.\.\. \}/, "{ return {}; }", line[i])
                    sub(/for \(\.\.\.\)/, "for (const int move : {1, 2})", line[i])
                    gsub(/\{ ?\.\.\. ?\}/, "{}", line[i])
                    sub(/\) \.\.\./, ") (void)0;", line[i])
                }
                cards = header ~ /view|worlds|equilibrium/
                game = header ~ /quantities/ ? "using MyGame = Targeting;\n" : cards ? "using MyGame = CardGame;\nextern const CardGame game;\nextern const CardGame::View view;\n" : ""
                base = cards ? "::CardGame" : "::MyGame"
                one_a_line = kind == "members"
                for (i = 1; i <= count; ++i) if (line[i] !~ /^[a-z].*;/ || line[i] ~ /^ /) one_a_line = 0
                printf "namespace %s {\n%s", name, game
                if (one_a_line)
                    for (i = 1; i <= count; ++i)
                        printf "struct Members%d : %s {\n%s%s\n};\n", i, base, line_directive(at[i]), line[i]
                else {
                    if (kind == "members") printf "struct Members : %s {\n", base
                    if (kind == "element") printf "const arvek::Suggester<MyGame> one[] = {\n"
                    if (kind == "statements") printf "[[maybe_unused]] auto use() {\n"
                    printf "%s", line_directive(at[1])
                    for (i = 1; i <= count; ++i) print line[i]
                    if (kind != "definitions") print kind == "statements" ? "}" : "};"
                }
                print "}"
                count = 0
            }
            /^\/\/     / { line[++count] = substr($0, 8); at[count] = FNR; next }
            count && open_braces() > 0 && /^\/\/$/ { next }              # an empty line within
            { close_block() }
            /^#include/ { exit }
            END { close_block() }
        ' "$header"
    done
} >"$work/headers.cpp"

# The README: its blocks of C++ belong together, one after the other.
awk '
    /^```cpp/ { inside = 1; ++blocks; print "#line " FNR + 1 " \"README.md\""; next }
    /^```/ { if (inside && blocks == 2) print "}"; inside = 0 }
    !inside { next }
    /^#include/ { next }
    /^    \.\.\.$/ {                                         # the rest of the game, which the example has
        print "struct Parameters { int crates = 8; } parameters; static constexpr std::array<int, 12> weights{};"
        print "std::string position_text(const Position&) const; Position read_position(std::string_view) const;"
        print "std::string move_text(const Position&, const Move&) const; };"
        next
    }
    /^const Quayside game;/ { print "void use(Quayside::Position position, std::uint64_t seed) {" }
    { print }
' README.md >"$work/readme.body"
{
    echo '#include <array>'
    echo '#include <gtest/gtest.h>'
    grep -h '^#include' README.md
    cat "$work/readme.body"
} >"$work/readme.cpp"

status=0
for file in headers readme; do
    "$compiler" -std=c++20 -fsyntax-only -w -I include -I . "$work/$file.cpp" || status=1
done
found=$(grep -c '^namespace ' "$work/headers.cpp")
blocks=$(grep -c '^#line' "$work/readme.cpp")
echo "$found snippets of headers and $blocks of the README"
if [ "$found" -lt 55 ] || [ "$blocks" -lt 4 ]; then
    echo "too few: some were not found"
    status=1
fi
exit $status
