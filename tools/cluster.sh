# A PostgreSQL cluster of our own: sourced by start and test. Loopback only, own port, never the system's cluster. Or, where DATABASE_ is
# set to a connection string, a database elsewhere that is looked after by somebody else.
DATABASE_=''

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
  if [ -n "$DATABASE_" ]; then CLUSTER='' PGPASS_=$(given Password); return 0; fi
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
  # Of a server that was killed the last backends may still hold its port for a moment; whoever serves knows it by that port alone.
  for _ in $(seq 50); do
    { [ -n "$PGPORT_" ] && (exec 3<>"/dev/tcp/127.0.0.1/$PGPORT_") 2>/dev/null; } || break
    sleep 0.1
  done
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
  [ -z "$DATABASE_" ] || return 0
  as_pg "$PG_BIN/pg_ctl" -D "$CLUSTER" -m fast -w stop >/dev/null 2>&1 || true
}

# connection DATABASE : the administrator's. connection_of LOGIN DATABASE : that of uncial_owner, uncial_app or uncial_practice, whose
# passwords follow from the administrator's as Logins.cs says. Statements are not prepared by themselves: a schema that changes under a
# pooled connection spoils them.
connection() {
  if [ -n "$DATABASE_" ]; then printf '%s;Database=%s' "$DATABASE_" "$1"; return; fi
  printf 'Host=127.0.0.1;Port=%s;Username=uncial;Password=%s;Database=%s' "$PGPORT_" "$PGPASS_" "$1"
}
connection_of() {
  local password as
  # Perl comes with Debian's PostgreSQL. No password stands among the arguments of a program, where everybody reads it.
  password=$(PASS=$PGPASS_ LOGIN=$1 perl -MDigest::SHA=hmac_sha256_hex -e 'print hmac_sha256_hex($ENV{LOGIN}, $ENV{PASS})')
  as="Username=$1;Password=$password;Database=$2"
  if [ -n "$DATABASE_" ]; then printf '%s;%s' "$(rest_of_given)" "$as"; return; fi
  printf 'Host=127.0.0.1;Port=%s;%s' "$PGPORT_" "$as"
}

# Of a database elsewhere: given KEY prints a value of its connection string, rest_of_given what is no login's.
given() { tr ';' '\n' <<<"$DATABASE_" | sed -n "s/^ *$1 *= *//Ip" | tail -n 1; }
rest_of_given() { tr ';' '\n' <<<"$DATABASE_" | grep -viE '^ *(Username|Password|Database) *=' | paste -sd ';'; }

# use_database FILE : a database elsewhere from now on; FILE holds the connection string of its administrator on one line.
use_database() {
  local key
  DATABASE_=$(tr -d '\r\n' < "$1")
  for key in Host Username Password; do
    [ -n "$(given "$key")" ] || die "$1 names no $key. It holds one line, such as
  Host=db.example;Port=5432;Username=uncial_admin;Password=...;SSL Mode=VerifyFull;Root Certificate=/etc/uncial/db-ca.pem"
  done
  [ -z "$(given Database)" ] || die "$1 names a Database; it is called uncial, and is made where it is missing."
  [ "$(stat -c %a "$1" | tail -c 3)" = 00 ] || die "$1 holds a password and others may read it: chmod 600 $1"
  case $(given 'SSL Mode') in
    Disable) PGSSLMODE=disable ;; Allow) PGSSLMODE=allow ;; ''|Prefer) PGSSLMODE=prefer ;; Require) PGSSLMODE=require ;;
    VerifyCA) PGSSLMODE=verify-ca ;; VerifyFull) PGSSLMODE=verify-full ;;
    *) die "$1: SSL Mode is Disable, Allow, Prefer, Require, VerifyCA or VerifyFull." ;;
  esac
  # For PostgreSQL's own programs, which make and read backups.
  export PGSSLMODE PGSSLROOTCERT; PGSSLROOTCERT=$(given 'Root Certificate')
  case $(given Host) in
    localhost|127.*|::1|/*) ;;
    *) case $PGSSLMODE in
      verify-*) ;;
      *) say "Warning: SSL Mode in $1 is not VerifyFull: whoever stands between reads and changes what is measured." >&2 ;;
    esac ;;
  esac
}

need_tools() {
  command -v dotnet >/dev/null 2>&1 || die "the .NET 10 SDK is missing: install it and start again."
  dotnet --list-sdks | grep '^10\.' >/dev/null || die "the .NET 10 SDK is missing; found: $(dotnet --version 2>/dev/null)."
  command -v node >/dev/null 2>&1 && command -v npm >/dev/null 2>&1 || need_packages nodejs npm
}
