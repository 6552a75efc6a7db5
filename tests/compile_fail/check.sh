#!/usr/bin/env bash
# check.sh COMPILER INCLUDES SOURCE [wrong-only]: the source must compile with -DSOUND; without it, it must fail, with every
# sentence that an "// expect: " line of it gives, and in at most 12 lines.
set -u
compiler=$1 source=$3 what=${4:-both}
IFS=';' read -ra folders <<<"$2"
flags=(-std=c++20 -fsyntax-only -fno-diagnostics-color)
for folder in "${folders[@]}"; do flags+=(-I "$folder"); done

if [ "$what" != wrong-only ] && ! report=$("$compiler" "${flags[@]}" -DSOUND "$source" 2>&1); then
    echo "the sound variant does not compile:"
    echo "$report"
    exit 1
fi
if report=$("$compiler" "${flags[@]}" "$source" 2>&1); then
    echo "the wrong variant compiles"
    exit 1
fi
status=0
while read -r sentence; do
    if ! grep -qF -- "$sentence" <<<"$report"; then
        echo "not said: $sentence"
        status=1
    fi
done < <(sed -n 's|^// expect: ||p' "$source")
# What counts are the lines that say something: no echo of the source, no carets, no "required from" trail.
said=$(grep -cE '(error|note):' <<<"$report")
if [ "$said" -gt 12 ]; then
    echo "$said lines of errors and notes, more than 12"
    status=1
fi
[ $status -eq 0 ] || echo "$report"
exit $status
