# What ./start does instead of serving: sourced by it, with data, task, file, running and app set.

# on_database DATABASE COMMAND... : runs a command of the application on a database, under the owner's login.
on_database() {
  local database=$1; shift
  ConnectionStrings__Uncial=$(connection_of uncial_owner "$database") DOTNET_CONTENTROOT=$PWD/src/Uncial.Web dotnet "$app" "$@" 9>&-
}

# as_administrator DATABASE COMMAND... : the same under the administrator's login.
as_administrator() {
  local database=$1; shift
  ConnectionStrings__Uncial=$(connection "$database") DOTNET_CONTENTROOT=$PWD/src/Uncial.Web dotnet "$app" "$@" 9>&-
}

pg() {
  local program=$1; shift
  PGOPTIONS='-c client_min_messages=warning' PGPASSWORD=$PGPASS_ "$PG_BIN/$program" -h 127.0.0.1 -p "$PGPORT_" -U uncial "$@" 9>&-
}

# What a backup of Uncial holds; anything else is none. Nothing of it but rows is ever used.
known_kinds='SCHEMA|COMMENT|EXTENSION|FUNCTION|TABLE|SEQUENCE|SEQUENCE OWNED BY|DEFAULT|TABLE DATA|SEQUENCE SET'
known_kinds+='|CONSTRAINT|CHECK CONSTRAINT|FK CONSTRAINT|INDEX|TRIGGER'
strange_kinds() {
  "$PG_BIN/pg_restore" --list "$file" | sed -n 's/^[0-9][0-9]*; [0-9][0-9]* [0-9][0-9]* //p' \
    | grep -vE "^($known_kinds) (public|-) " | head -n 3 || true
}

# rows_of FILE [OPTION...] : the rows of a backup as text, from a program that is connected to nothing.
rows_of() { local from=$1; shift; "$PG_BIN/pg_restore" --data-only --no-owner --no-privileges "$@" -f - "$from"; }

sql() { pg psql -qAtX -v ON_ERROR_STOP=1 -d postgres -c "$1"; }

has_database() { [ -n "$(sql "select 1 from pg_database where datname = '$1'")" ]; }

backup() {
  has_database uncial || die "there is no shop in $data yet."
  local part=$file.part
  (umask 077; : > "$part") || die "cannot write $file."
  # Without the keys of this machine, and without who is signed in.
  pg pg_dump -Fc --no-owner --no-privileges --schema=public --exclude-table-data=data_protection_keys \
    --exclude-table-data=sessions --exclude-table-data=pin_tries -f "$part" uncial \
    || { rm -f "$part"; die "the backup failed; $file was not touched."; }
  pg pg_restore --list "$part" >/dev/null || { rm -f "$part"; die "the backup cannot be read back; $file was not touched."; }
  mv -f "$part" "$file"
  say "Backed up into $file ($(du -h "$file" | cut -f1)). It holds names and PINs in hashed form: keep it like the database."
}

# Into a database beside it whose tables and guards this program makes; checked there, and only then put in its place.
restore() {
  [ -r "$file" ] || die "cannot read $file."
  PGPASSWORD='' "$PG_BIN/pg_restore" --list "$file" >/dev/null 2>&1 || die "$file is no backup of Uncial. Nothing was changed."
  local strange; strange=$(strange_kinds)
  [ -z "$strange" ] || die "$file holds what no backup of Uncial does: $strange. Nothing was changed."
  sql 'drop database if exists uncial_restoring with (force)'
  give_up() { sql 'drop database if exists uncial_restoring with (force)' || true; die "$1 Nothing was changed."; }
  as_administrator uncial_restoring prepare || give_up "no database could be made for it."
  rows_of "$file" --table=__EFMigrationsHistory | on_database uncial_restoring make || give_up "its version is not known here."
  rows_of "$file" | on_database uncial_restoring fill || give_up "$file could not be read to its end."
  on_database uncial_restoring verify || give_up "its history does not hold."
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
  case $task in
    restore|import) [ -z "$running" ] || die "Uncial is running on this data: stop it first." ;;
    backup|export) [ ! -d "$file" ] && [ -d "$(dirname "$file")" ] || die "cannot write $file." ;;
  esac
  if [ -n "$running" ] || [ -f "$data/db-password" ] || [ "$task" = restore ] || [ "$task" = import ]; then :
  else die "there is no shop in $data yet."; fi
  need_tools
  ensure_postgres
  build
  cluster_up "$data" 9>&-
  [ -n "$running" ] || trap cluster_down EXIT
  case $task in
    backup) backup ;;
    restore) restore ;;
    verify) has_database uncial || die "there is no shop in $data yet."; on_database uncial verify "$heads" ;;
    head) has_database uncial || die "there is no shop in $data yet."; on_database uncial head ;;
    export) has_database uncial || die "there is no shop in $data yet."; (umask 077; on_database uncial export "$file") ;;
    import) take_in ;;
  esac
}
