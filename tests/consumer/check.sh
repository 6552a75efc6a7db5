#!/usr/bin/env bash
# check.sh BUILD SOURCE: installs the build into a folder of its own and uses it from outside, as a user would.
set -euo pipefail
build=$1 source=$2
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export CMAKE_BUILD_PARALLEL_LEVEL=2

cmake --install "$build" --prefix "$work/installed" >/dev/null

# The game of one's own, with the whole tool.
cmake -S "$source/examples/own_game" -B "$work/own_game" -G Ninja -DCMAKE_PREFIX_PATH="$work/installed" \
    -DCMAKE_BUILD_TYPE=Debug -DCMAKE_CXX_FLAGS="-Wall -Wextra -Wpedantic -Wconversion -Werror" >/dev/null
cmake --build "$work/own_game" >/dev/null
cd "$work/own_game"
expect() {
    local wanted=$1
    shift
    local got
    got=$("$@" 2>&1) || true
    if ! grep -qF -- "$wanted" <<<"$got"; then
        echo "expected '$wanted' from: $*"
        echo "$got"
        exit 1
    fi
}
expect "crates on the quay" ./quayside games
expect '"total_finished": 128' ./quayside count quayside --depth 8 --format json
expect "win by 6 in 8" ./quayside decide quayside --algorithm alphabeta --depth 8
expect "score" ./quayside match quayside minimax random --games 10
expect "quayside: position: 'x' is none" ./quayside decide quayside --position x
expect "The game is over: " ./quayside play quayside --opponent random <<<$'left\nleft\nleft\nleft\nleft'
expect "Teal 23, Amber 17" ./quayside_opponent

# A chooser of one's own, by name.
cmake -S "$source/examples/own_chooser" -B "$work/own_chooser" -G Ninja -DCMAKE_PREFIX_PATH="$work/installed" \
    -DCMAKE_BUILD_TYPE=Debug -DCMAKE_CXX_FLAGS="-Wall -Wextra -Wpedantic -Wconversion -Werror" >/dev/null
cmake --build "$work/own_chooser" >/dev/null
expect "heaviest plays" "$work/own_chooser/own_chooser" decide quayside --opponent heaviest
expect "The Wary Loader, level 8 plays" "$work/own_chooser/own_chooser" decide quayside \
    --opponent "$source/examples/own_chooser/wary_loader.toml"

# The game with three bugs, which checking its rules must find.
cmake -S "$source/examples/broken_game" -B "$work/broken_game" -G Ninja -DCMAKE_PREFIX_PATH="$work/installed" \
    -DCMAKE_BUILD_TYPE=Debug >/dev/null
cmake --build "$work/broken_game" >/dev/null
for law in "move text, move_text(): two different moves" "no move, outcome(): it says that play goes on" \
    "hash, hash(): two different positions have one hash"; do
    expect "$law" "$work/broken_game/broken_game" check lock_keys
done

# A program that needs only the core must not need any other library.
mkdir "$work/core"
cat >"$work/core/CMakeLists.txt" <<'TEXT'
cmake_minimum_required(VERSION 3.25)
project(core_only LANGUAGES CXX)
set(CMAKE_DISABLE_FIND_PACKAGE_fmt TRUE)
find_package(arvek REQUIRED)
add_executable(core_only main.cpp second.cpp)
target_link_libraries(core_only PRIVATE arvek::arvek)
TEXT
# Two translation units with the same headers must link.
cp "$source/examples/own_game/quayside.hpp" "$work/core/"
cp "$source/examples/own_game/opponent_alone.cpp" "$work/core/main.cpp"
cat >"$work/core/second.cpp" <<'TEXT'
#include <arvek/arena/match.hpp>
#include <arvek/lab/count.hpp>
#include "quayside.hpp"
auto second() { return arvek::count_sequences(Quayside{}, Quayside{}.initial_position(), 3); }
TEXT
cmake -S "$work/core" -B "$work/core/build" -G Ninja -DCMAKE_PREFIX_PATH="$work/installed" \
    -DCMAKE_BUILD_TYPE=Debug >/dev/null
cmake --build "$work/core/build" >/dev/null
expect "Teal 23, Amber 17" "$work/core/build/core_only"

# A new project builds, holds to its own tests and plays as it stands.
"$work/installed/bin/arvek" new "$work/cask_race" >/dev/null
cmake -S "$work/cask_race" -B "$work/cask_race/build" -G Ninja -DCMAKE_PREFIX_PATH="$work/installed" \
    -DCMAKE_BUILD_TYPE=Debug -DCMAKE_CXX_FLAGS="-Wpedantic -Wconversion -Werror" >/dev/null
cmake --build "$work/cask_race/build" >/dev/null
expect "100% tests passed" ctest --test-dir "$work/cask_race/build"
expect "No fault" "$work/cask_race/build/cask_race" check cask_race --games 50
expect "The game is over: " "$work/cask_race/build/cask_race" play cask_race --set casks=6 --opponent random <<<$'1\n1\n1\n1\n1\n1'
expect "plays 1" "$work/cask_race/build/cask_race" decide cask_race
expect "is there already" "$work/installed/bin/arvek" new "$work/cask_race"
expect "cannot be the name of a game" "$work/installed/bin/arvek" new "$work/Cask-Race"
for name in class position install; do expect "has a meaning of its own" "$work/installed/bin/arvek" new "$work/$name"; done

# By pkg-config.
export PKG_CONFIG_PATH=$(dirname "$(find "$work/installed" -name arvek.pc)")
# shellcheck disable=SC2046
g++ -O0 -I"$source/examples/own_game" "$source/examples/own_game/opponent_alone.cpp" \
    $(pkg-config --cflags --libs arvek) -o "$work/by_pkg_config"
expect "Teal 23, Amber 17" "$work/by_pkg_config"
printf '#include <arvek/arvek.hpp>\n#include <arvek/tool/tool.hpp>\nint main() { arvek::tool::Tool tool("none"); return 0; }\n' >"$work/all.cpp"
# shellcheck disable=SC2046
g++ -O0 "$work/all.cpp" $(pkg-config --cflags --libs arvek-tool) -o "$work/all"

# As a part of another build: fetched, or in a folder of it.
for way in fetched folder; do
    mkdir "$work/$way"
    cp "$source/examples/own_game/quayside.hpp" "$work/$way/"
    cp "$source/examples/own_game/opponent_alone.cpp" "$work/$way/main.cpp"
    cat >"$work/$way/CMakeLists.txt" <<TEXT
cmake_minimum_required(VERSION 3.25)
project(user LANGUAGES CXX)
if("$way" STREQUAL "fetched")
  include(FetchContent)
  FetchContent_Declare(arvek SOURCE_DIR "$source")
  FetchContent_MakeAvailable(arvek)
else()
  add_subdirectory("$source" arvek)
endif()
add_executable(user main.cpp)
target_link_libraries(user PRIVATE arvek::arvek)
TEXT
    cmake -S "$work/$way" -B "$work/$way/build" -G Ninja -DCMAKE_BUILD_TYPE=Debug -DCMAKE_CXX_FLAGS=-O0 >/dev/null
done
cmake --build "$work/fetched/build" --target user >/dev/null
expect "Teal 23, Amber 17" "$work/fetched/build/user"
cmake --build "$work/folder/build" --target CMakeFiles/user.dir/main.cpp.o >/dev/null

# What the program says of itself.
for said in share/man/man1/arvek.1 share/bash-completion/completions/arvek share/zsh/vendor-completions/_arvek \
    share/fish/vendor_completions.d/arvek.fish; do
    [ -s "$work/installed/$said" ] || { echo "$said is missing"; exit 1; }
done
completes() {
    bash -c 'source "$1"; COMP_WORDS=(arvek "${@:2}"); COMP_CWORD=$(($# - 1)); _arvek_words; echo "${COMPREPLY[*]}"' - \
        "$work/installed/share/bash-completion/completions/arvek" "$@"
}
expect "workbench" completes work
expect "--depth" completes decide --dep

# The installed program finds its tour from anywhere.
cd /
expect "A whole game, and a question afterwards" "$work/installed/bin/arvek" demo
echo "installed and used"
