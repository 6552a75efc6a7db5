#!/usr/bin/env bash
# headers.sh COMPILER SOURCE: every header that users include compiles by itself, keeps to its budget of preprocessed lines and
# brings no library but the standard one.
set -u
compiler=$1 source=$2
status=0
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
text=$work/header.ii report=$work/report
cd "$source/include" || exit 1
while read -r header; do
    "$compiler" -std=c++20 -E -I . -include "$header" -x c++ /dev/null >"$text" 2>"$report" &&
        "$compiler" -std=c++20 -fsyntax-only -Wall -Wextra -Wpedantic -Werror -x c++-cpp-output "$text" 2>"$report" || {
        echo "$header does not compile by itself:"
        cat "$report"
        status=1
        continue
    }
    lines=$(wc -l <"$text")
    case $header in
        arvek/arvek.hpp) budget=140000 ;;
        arvek/link/table_game.hpp) budget=117500 ;;
        arvek/tool/* | arvek/session/* | arvek/link/*) budget=115000 ;;
        arvek/opponent/thinking.hpp) budget=90000 ;;
        arvek/lab/*check*.hpp | arvek/lab/watched.hpp | arvek/opponent/game_kit.hpp) budget=110500 ;;
        arvek/opponent/make_opponent.hpp | arvek/opponent/registry.hpp | arvek/opponent/compiled.hpp | arvek/arena/match.hpp | arvek/arena/league*.hpp) budget=108500 ;;
        arvek/arena/game_pool.hpp | arvek/arena/record.hpp | arvek/mpi/*.hpp) budget=77000 ;;
        arvek/opponent/profile.hpp | arvek/lab/reference.hpp | arvek/lab/book.hpp) budget=86000 ;;
        arvek/search/learned_evaluator.hpp | arvek/search/luck_solver.hpp) budget=82000 ;;
        arvek/lab/learning_record.hpp) budget=88000 ;;
        arvek/search/any_solver.hpp | arvek/search/position_features.hpp) budget=87500 ;;
        arvek/opponent/*.hpp | arvek/search/*.hpp | arvek/lab/*.hpp | arvek/picture/*.hpp) budget=79000 ;;
        arvek/rules/*.hpp | arvek/game/any_game.hpp | arvek/game/table.hpp | arvek/game/seen_so_far.hpp) budget=64000 ;;
        arvek/game/game.hpp | arvek/game/score.hpp | arvek/game/move_list.hpp) budget=22000 ;;
        *) budget=60000 ;;
    esac
    if [ "$lines" -gt "$budget" ]; then
        echo "$header is $lines lines with all it includes, over its budget of $budget"
        status=1
    fi
    if grep -qE '^# [0-9]+ "/usr/include/(fmt|nlohmann|toml\+\+|CLI|spdlog|histedit|eigen3)' "$text"; then
        echo "$header includes a library that users should not need"
        status=1
    fi
    printf '%-45s %6d lines\n' "$header" "$lines"
done < <(find arvek -name '*.hpp' -not -path '*/detail/*' | sort)
exit $status
