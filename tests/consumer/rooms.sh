#!/usr/bin/env bash
# rooms.sh SOURCE: rooms include only what stands left of them, and what is under detail/ is nobody else's.
set -u
cd "$1" || exit 1
declare -A place=([game]=0 [search]=1 [rules]=1 [opponent]=2 [arena]=3 [lab]=4 [mpi]=4 [session]=5 [picture]=6 [link]=6 [tool]=7)
status=0
while IFS=: read -r file include; do
    room=$(sed -E 's#^(include/arvek|src)/([a-z]+)/.*#\2#' <<<"$file")
    other=$(sed -E 's#.*"arvek/([a-z]+)/.*#\1#' <<<"$include")
    [ -n "${place[$room]:-}" ] && [ -n "${place[$other]:-}" ] || continue
    if [ "$room" != "$other" ] && [ "${place[$other]}" -ge "${place[$room]}" ]; then
        echo "$file includes what does not stand left of it: $include"
        status=1
    fi
    if [ "$room" != "$other" ] && grep -q '/detail/' <<<"$include"; then
        echo "$file reaches into another room's detail: $include"
        status=1
    fi
done < <(grep -rHoE '#include "arvek/[a-z]+/[^"]+"' include/arvek src)
# Names of a namespace detail, used in another room than the one that declares them.
while read -r room name; do
    if ! grep -rqE "\b$name\b" "include/arvek/$room" "src/$room" --include=*.hpp --include=*.cpp -h ||
        ! grep -rhE "(struct|class|concept|using|enum|template|inline|constexpr|void|std::|bool|int|auto|[A-Za-z>&*]) *[&*]?\b$name\b *(\(|<|\{|=|;|:|final)" \
            "include/arvek/$room" "src/$room" | grep -qv "detail::$name"; then
        echo "$room uses detail::$name, which it does not declare"
        status=1
    fi
done < <(grep -rHoE 'detail::[A-Za-z_]+' include/arvek src --include=*.hpp --include=*.cpp |
    sed -E 's#^(include/arvek|src)/([a-z]+)/[^:]*:detail::(.*)#\2 \3#' | sort -u)
exit $status
