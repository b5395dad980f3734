# What ./start does instead of serving: sourced by it, with data, task, file, running and app set.

# on_database DATABASE COMMAND... : runs a command of the application on a database, under the owner's login.
on_database() {
  local database=$1; shift
  ConnectionStrings__Uncial=$(connection_of uncial_owner "$database") DOTNET_CONTENTROOT=$content dotnet "$app" "$@" 9>&-
}

# as_administrator DATABASE COMMAND... : the same under the administrator's login.
as_administrator() {
  local database=$1; shift
  ConnectionStrings__Uncial=$(connection "$database") DOTNET_CONTENTROOT=$content dotnet "$app" "$@" 9>&-
}

pg() {
  local program=$1; shift
  local host=127.0.0.1 port=${PGPORT_:-} user=uncial
  [ -z "$DATABASE_" ] || { host=$(given Host) port=$(given Port) user=$(given Username); }
  PGOPTIONS='-c client_min_messages=warning' PGPASSWORD=$PGPASS_ "$PG_BIN/$program" -h "$host" -p "${port:-5432}" -U "$user" "$@" 9>&-
}

# What a backup of Uncial holds; anything else is none. Nothing of it but rows is ever used.
known_kinds='SCHEMA|COMMENT|EXTENSION|FUNCTION|TABLE|SEQUENCE|SEQUENCE OWNED BY|DEFAULT|TABLE DATA|SEQUENCE SET'
known_kinds+='|CONSTRAINT|CHECK CONSTRAINT|FK CONSTRAINT|INDEX|TRIGGER'
strange_kinds() {
  "$PG_BIN/pg_restore" --list "$1" | sed -n 's/^[0-9][0-9]*; [0-9][0-9]* [0-9][0-9]* //p' \
    | grep -vE "^($known_kinds) (public|-) " | head -n 3 || true
}

# rows_of FILE [OPTION...] : the rows of a backup as text, from a program that is connected to nothing.
rows_of() { local from=$1; shift; "$PG_BIN/pg_restore" --data-only --no-owner --no-privileges "$@" -f - "$from"; }

sql() { pg psql -qAtX -v ON_ERROR_STOP=1 -d postgres -c "$1"; }

has_database() { [ -n "$(sql "select 1 from pg_database where datname = '$1'")" ]; }

# dump_into FILE : the shop at one moment, without the keys of this machine, and without who is signed in.
dump_into() {
  (umask 077; : > "$1")
  pg pg_dump -Fc --no-owner --no-privileges --schema=public --exclude-table-data=data_protection_keys \
    --exclude-table-data=sessions --exclude-table-data=pin_tries -f "$1" uncial
}

backup() {
  has_database uncial || die "there is no shop in $data yet."
  local part=$file.part
  (umask 077; : > "$part") || die "cannot write $file."
  dump_into "$part" || { rm -f "$part"; die "the backup failed; $file was not touched."; }
  pg pg_restore --list "$part" >/dev/null || { rm -f "$part"; die "the backup cannot be read back; $file was not touched."; }
  mv -f "$part" "$file"
  say "Backed up into $file ($(du -h "$file" | cut -f1)). It holds names and PINs in hashed form: keep it like the database."
}

# Into a database beside it whose tables and guards this program makes; checked there, and only then put in its place.
restore() {
  [ -r "$file" ] || die "cannot read $file."
  local dump=$file why work
  work=$(mktemp -d "$data/backup.XXXXXX")
  case $file in
    *.gpg)
      [ -s "$key_of_backups" ] \
        || { rm -rf "$work"; die "$file is encrypted: give the key with --key-of-backups FILE, as it stands on paper."; }
      tr -d ' \n\r-' < "$key_of_backups" | tr '[:lower:]' '[:upper:]' > "$work/key"
      dump=$work/dump
      unseal "$work" "$work/key" "$file" "$dump" 2>/dev/null \
        || { rm -rf "$work"; die "$file cannot be decrypted with that key. Nothing was changed."; } ;;
  esac
  if ! why=$(rehearse "$dump" uncial_restoring "$work"); then
    sql 'drop database if exists uncial_restoring with (force)' || true
    rm -rf "$work"
    printf '%s\n' "$why" | sed '$d' >&2
    die "$file: $(tail -n 1 <<<"$why") Nothing was changed."
  fi
  rm -rf "$work"
  printf '%s\n' "$why" | sed '$d' | tail -n 1
  if has_database uncial; then
    sql 'drop database if exists uncial_before_restore with (force)'
    sql 'alter database uncial rename to uncial_before_restore'
  fi
  sql 'alter database uncial_restoring rename to uncial'
  say "Restored from $file. What was there before is kept in the database uncial_before_restore until the next restore."
}

# Into a database beside it; only what was read whole and checked becomes the shop.
take_in() {
  [ -r "$file" ] || die "cannot read $file."
  if has_database uncial; then on_database uncial empty || exit 1; fi
  sql 'drop database if exists uncial_importing with (force)'
  as_administrator uncial_importing prepare
  if ! on_database uncial_importing import "$file"; then sql 'drop database if exists uncial_importing with (force)'; exit 1; fi
  sql 'drop database if exists uncial with (force)'
  sql 'alter database uncial_importing rename to uncial'
}

run_task() {
  if [ "$task" = certify ]; then
    mkdir -p "$data/tls"
    build
    . tools/lan.sh
    return 0
  fi
  if [ "$task" = backup-key ]; then
    mkdir -p "$data"; make_backup_key
    say "Backups of this shop are opened with this key. Keep it on paper, away from them and from this machine:"
    say_backup_key "$backup_key"
    return 0
  fi
  case $task in
    restore|import) [ -z "$running" ] || die "Uncial is running on this data: stop it first." ;;
    backup|export) [ ! -d "$file" ] && [ -d "$(dirname "$file")" ] || die "cannot write $file." ;;
  esac
  if [ -n "$running" ] || [ -f "$data/db-password" ] || [ -n "$DATABASE_" ] || [ "$task" = restore ] || [ "$task" = import ]; then :
  else die "there is no shop in $data yet."; fi
  [ -n "$installed" ] || need_tools
  ensure_postgres
  build
  cluster_up "$data" 9>&-
  [ -n "$running" ] || trap cluster_down EXIT
  case $task in
    back-up-now) command -v gpg >/dev/null 2>&1 || need_packages gpg
      has_database uncial || die "there is no shop in $data yet."
      back_up_now "uncial-$(date +%FT%H%M).backup.gpg" || exit 1
      say "Backed up, restored into a scratch database and checked: $(sed -n 's/^file=//p' "$data/backup.state")" ;;
    backup) backup ;;
    restore) restore ;;
    verify) has_database uncial || die "there is no shop in $data yet."; on_database uncial verify "$heads" ;;
    head) has_database uncial || die "there is no shop in $data yet."; on_database uncial head ;;
    export) has_database uncial || die "there is no shop in $data yet."; (umask 077; on_database uncial export "$file") ;;
    import) take_in ;;
  esac
}
