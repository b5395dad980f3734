# A PostgreSQL cluster of our own: sourced by start and test. Loopback only, own port, never the system's cluster.

say() { printf '%s\n' "$*"; }
die() { printf 'uncial: %s\n' "$*" >&2; exit 1; }

as_admin() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null 2>&1; then sudo "$@"; else return 1; fi
}

# need_packages PACKAGE... : installs Debian packages that are missing.
need_packages() {
  say "Installing $* from Debian's packages ..."
  as_admin apt-get update -qq >/dev/null 2>&1 || true
  # The package would start a cluster of the system's own; this one brings its own instead.
  as_admin env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null 2>&1 \
    || die "cannot install $*; install it by hand (apt-get install $*) and start again."
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

ensure_postgres() {
  [ -n "$(pg_bin)" ] && [ -x "$(pg_bin)/initdb" ] || need_packages postgresql
  PG_BIN=$(pg_bin)
  [ -x "$PG_BIN/initdb" ] || die "PostgreSQL is installed but its programs are not under /usr/lib/postgresql."
}

# PostgreSQL refuses to run as root; root hands the cluster to the account that Debian's package made.
as_pg() {
  # From the root folder: the account may not be allowed into this one.
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

# One that nobody listens on, below those that are given out to any program that asks.
free_port() {
  local port
  for _ in $(seq 200); do
    port=$((31000 + RANDOM % 1700))
    (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null || { echo "$port"; return; }
  done
  die "no port is free from 31000 to 32700."
}

# cluster_place DIR : prints where the cluster of DIR can live. Below a folder that the postgres account cannot enter
# (root's home, say) it moves to /var/lib/uncial, one folder for each data folder.
cluster_place() {
  if [ "$(id -u)" != 0 ] || as_pg test -x "$1" 2>/dev/null; then printf '%s/cluster' "$1"; return; fi
  local place="/var/lib/uncial/$(printf '%s' "$1" | sha256sum | cut -c1-16)"
  mkdir -p "$place" && chmod 755 /var/lib/uncial "$place"
  printf '%s/cluster' "$place"
}

# cluster_up DIR [FAST] : starts the cluster of a data folder, making it first where there is none; sets PGPORT_ and PGPASS_.
cluster_up() {
  local dir=$1 fast=${2:-} cluster
  cluster=$(cluster_place "$dir")
  CLUSTER=$cluster
  if [ ! -f "$cluster/PG_VERSION" ]; then
    rm -rf "$cluster"; mkdir -p "$cluster"
    (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=\n' > "$dir/db-password")
    local pw; pw=$(mktemp); cat "$dir/db-password" > "$pw"
    if [ "$(id -u)" = 0 ]; then chown -R postgres: "$cluster" "$pw"; fi
    as_pg "$PG_BIN/initdb" -D "$cluster" -U uncial -A scram-sha-256 --pwfile="$pw" -E UTF8 --locale=C.UTF-8 ${fast:+--no-sync} >/dev/null \
      || { rm -f "$pw"; die "PostgreSQL could not make its cluster in $cluster."; }
    rm -f "$pw"
  fi
  PGPASS_=$(cat "$dir/db-password")
  if as_pg "$PG_BIN/pg_ctl" -D "$cluster" status >/dev/null 2>&1; then
    PGPORT_=$(sed -n 4p "$cluster/postmaster.pid")
    [ "$(cat "$dir/db-port" 2>/dev/null)" = "$PGPORT_" ] && return 0
    as_pg "$PG_BIN/pg_ctl" -D "$cluster" -m fast -w stop >/dev/null 2>&1 || true
  fi
  PGPORT_=$(cat "$dir/db-port" 2>/dev/null || true)
  if [ -z "$PGPORT_" ] || (exec 3<>"/dev/tcp/127.0.0.1/$PGPORT_") 2>/dev/null; then PGPORT_=$(free_port); fi
  printf '%s\n' "$PGPORT_" > "$dir/db-port"
  # Up to 66 connections of one instance (docs/operations.md), and of what is done by hand.
  local speed=""
  # Of the tests: many shops at once have their databases in it.
  [ -n "$fast" ] && speed="-c max_connections=300 -c fsync=off -c full_page_writes=off -c synchronous_commit=off"
  # Own session: Ctrl-C in the terminal reaches start alone, which then stops the database in good order.
  as_pg setsid "$PG_BIN/pg_ctl" -D "$cluster" -w -t 60 -l "$cluster/server.log" \
    -o "-p $PGPORT_ -c max_connections=200 -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $speed" start \
    >/dev/null 2>&1 </dev/null \
    || die "PostgreSQL did not start; see $cluster/server.log."
}

cluster_down() {
  as_pg "$PG_BIN/pg_ctl" -D "$CLUSTER" -m fast -w stop >/dev/null 2>&1 || true
}

# connection DATABASE : the administrator's. connection_of LOGIN DATABASE : that of uncial_owner, uncial_app or uncial_practice, whose
# passwords follow from the administrator's as Logins.cs says. Statements are not prepared by themselves: a schema that changes under a
# pooled connection spoils them.
connection() { printf 'Host=127.0.0.1;Port=%s;Username=uncial;Password=%s;Database=%s' "$PGPORT_" "$PGPASS_" "$1"; }
connection_of() {
  local password
  # Perl comes with Debian's PostgreSQL. No password stands among the arguments of a program, where everybody reads it.
  password=$(PASS=$PGPASS_ LOGIN=$1 perl -MDigest::SHA=hmac_sha256_hex -e 'print hmac_sha256_hex($ENV{LOGIN}, $ENV{PASS})')
  printf 'Host=127.0.0.1;Port=%s;Username=%s;Password=%s;Database=%s' "$PGPORT_" "$1" "$password" "$2"
}

need_tools() {
  command -v dotnet >/dev/null 2>&1 || die "the .NET 10 SDK is missing: install it and start again."
  dotnet --list-sdks | grep '^10\.' >/dev/null || die "the .NET 10 SDK is missing; found: $(dotnet --version 2>/dev/null)."
  command -v node >/dev/null 2>&1 && command -v npm >/dev/null 2>&1 || need_packages nodejs npm
}
