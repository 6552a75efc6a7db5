#!/usr/bin/env bash
# bare_debian.sh PACKAGES MIRROR: installs the packages in a bare Debian 12 of its own, takes the tour there, begins a project,
# builds it and plays it. As root; needs debootstrap and some minutes. `./run package` makes the packages.
set -euo pipefail
packages=$1 mirror=$2
root=$(mktemp -d)
trap 'umount "$root/proc" 2>/dev/null || true; rm -rf "$root"' EXIT
debootstrap --variant=minbase bookworm "$root" "$mirror" >/dev/null
mount -t proc proc "$root/proc"
cp "$packages"/*.deb "$root/root/"
cp /etc/resolv.conf /etc/hosts "$root/etc/"
cat >"$root/root/use.sh" <<'TEXT'
set -euo pipefail
export DEBIAN_FRONTEND=noninteractive LC_ALL=C
cd /root
apt-get update -qq
apt-get install -y -qq --no-install-recommends ./*.deb >/dev/null
arvek --version
arvek demo >tour
grep -q "A whole game, and a question afterwards" tour
apt-get install -y -qq --no-install-recommends g++ cmake make >/dev/null
arvek new cask_race >/dev/null
cmake -S cask_race -B cask_race/build >/dev/null
cmake --build cask_race/build >/dev/null
ctest --test-dir cask_race/build | grep "100% tests passed"
printf '1\n1\n1\n1\n1\n1\n' | cask_race/build/cask_race play cask_race --set casks=6 --opponent random | grep "The game is over"
TEXT
chroot "$root" bash /root/use.sh
echo "installed, toured, built and played on a bare Debian"
