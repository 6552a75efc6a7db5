#!/usr/bin/env bash
# two_hosts.sh ARVEK ARVEK_MPI: a league over MPI on two hosts, which are network namespaces of this machine, comes to what one
# process comes to. Status 77, skipped, where namespaces cannot be made.
set -u
arvek=$1 arvek_mpi=$2
one=arvek_a_$$ other=arvek_b_$$
work=$(mktemp -d)
clean_up() {
    ip netns del "$one" 2>/dev/null
    ip netns del "$other" 2>/dev/null
    rm -rf "$work"
}
trap clean_up EXIT
command -v mpirun >/dev/null && command -v ip >/dev/null || exit 77
ip netns add "$one" 2>/dev/null && ip netns add "$other" 2>/dev/null || exit 77
ip link add va$$ type veth peer name vb$$ 2>/dev/null || exit 77
ip link set va$$ netns "$one" && ip link set vb$$ netns "$other" || exit 77
ip netns exec "$one" ip addr add 10.77.0.1/24 dev va$$
ip netns exec "$other" ip addr add 10.77.0.2/24 dev vb$$
for name in "$one va$$" "$other vb$$"; do
    read -r space device <<<"$name"
    ip netns exec "$space" ip link set "$device" up
    ip netns exec "$space" ip link set lo up
done
# How the first host reaches the other: in place of a remote shell.
cat >"$work/agent" <<END
#!/bin/bash
shift
exec ip netns exec $other /bin/sh -c "\$*"
END
chmod +x "$work/agent"
export OMPI_ALLOW_RUN_AS_ROOT=1 OMPI_ALLOW_RUN_AS_ROOT_CONFIRM=1
league=(league lanterns standard@3 ruled random --games 20 --format json)
"$arvek" "${league[@]}" >"$work/alone" || exit 1
timeout 100 ip netns exec "$one" mpirun --mca plm_rsh_agent "$work/agent" --mca btl tcp,self \
    --mca btl_tcp_if_include 10.77.0.0/24 --mca oob_tcp_if_include 10.77.0.0/24 \
    --host 10.77.0.1:1,10.77.0.2:2 -n 3 "$arvek_mpi" "${league[@]}" >"$work/together" || exit 1
timed='/seconds/d'
diff <(sed "$timed" "$work/alone") <(sed "$timed" "$work/together")
