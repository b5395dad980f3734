# Backups that are made by themselves: sourced by start, with data, backups and app set; tools/tasks.sh beside it.
#
# A backup is a dump of one moment, encrypted by gpg (AES-256) with a key that lies in the data folder and on paper in the office. It counts
# only after the file in its folder was decrypted and restored into a scratch database, where every chain holds and its head is the shop's.

backup_key=$data/backup.key

# make_backup_key : 32 letters and digits, made once.
make_backup_key() {
  [ -s "$backup_key" ] && return 0
  (umask 077; head -c 20 /dev/urandom | base32 | tr -d '\n' > "$backup_key.part") && mv "$backup_key.part" "$backup_key"
}
say_backup_key() { fold -w 4 "$1" | tr '\n' ' ' | sed 's/ $//'; echo; }

# The keyring is of no use for a key of letters: gpg gets an empty one, which goes with the work folder.
seal() { gpg_in "$1" --symmetric --cipher-algo AES256 --compress-algo none --passphrase-file "$backup_key" -o "$3" "$2"; }
unseal() { gpg_in "$1" --decrypt --passphrase-file "$2" -o "$4" "$3"; }
gpg_in() {
  local home=$1/gpg; shift
  mkdir -p -m 700 "$home"
  gpg --homedir "$home" --batch --yes --quiet --no-options --pinentry-mode loopback "$@" 9>&-
}

# rehearse DUMP DATABASE WORK [HEADS] : restores a dump into a database of that name, brings it up to date, and checks it. Its last line is
# the head of the chain, or why it failed.
rehearse() {
  local dump=$1 database=$2 work=$3 heads_of=${4:-} strange
  sql "drop database if exists $database with (force)"
  PGPASSWORD='' "$PG_BIN/pg_restore" --list "$dump" >/dev/null 2>&1 || { echo "it is no backup of Uncial."; return 1; }
  strange=$(strange_kinds "$dump")
  [ -z "$strange" ] || { echo "it holds what no backup of Uncial does: $strange."; return 1; }
  as_administrator "$database" prepare || { echo "no database could be made for it."; return 1; }
  rows_of "$dump" --table=__EFMigrationsHistory > "$work/version" || { echo "it could not be read."; return 1; }
  rows_of "$dump" | on_database "$database" rehearse "$work/version" ${heads_of:+"$heads_of"}
}

# keep_backup NAME : makes a backup of that name in the folder of backups and proves it. Says why it failed.
keep_backup() {
  local name=$1 work file=$backups/$1 code=0
  work=$(mktemp -d "$data/backup.XXXXXX") || { echo "there is no room in $data."; return 1; }
  prove_backup "$work" "$file" || code=1
  sql 'drop database if exists uncial_rehearsal with (force)' || true
  gpgconf --homedir "$work/gpg" --kill all >/dev/null 2>&1 || true
  rm -rf "$work" "$file.part"
  return "$code"
}
prove_backup() {
  local work=$1 file=$2 before after
  mkdir -p "$backups" && [ -w "$backups" ] || { echo "$backups cannot be written to."; return 1; }
  make_backup_key || { echo "there is no room in $data."; return 1; }
  # Of a version without a chain there is no head to compare.
  before=$(on_database uncial head 2>/dev/null) || before=
  printf '%s\n' "$before" > "$work/heads"
  dump_into "$work/dump" || { echo "the database could not be read, or there is no room in $data."; return 1; }
  (umask 077; seal "$work" "$work/dump" "$file.part") || { echo "there is no room in $backups."; return 1; }
  rm -f "$work/dump"
  sync -f "$file.part"
  # What is proven is the file as it lies in its folder.
  unseal "$work" "$backup_key" "$file.part" "$work/dump" || { echo "it cannot be decrypted again."; return 1; }
  after=$(rehearse "$work/dump" uncial_rehearsal "$work" "$work/heads") || { tail -n 100 <<<"$after"; return 1; }
  after=$(tail -n 1 <<<"$after")
  case $before in
    [0-9]*)
      [ "$(on_database uncial head "${after%% *}" 2>/dev/null)" = "$after" ] \
        || { echo "its head is not one of the shop's chain."; return 1; } ;;
  esac
  mv -f "$file.part" "$file" && sync -f "$file"
  printf 'at=%s\nfile=%s\nsize=%s\nhead=%s\nfree=%s\nsame-disk=%s\n' "$(date -u +%FT%TZ)" "$file" "$(stat -c %s "$file")" \
    "${after%% *}" "$(df --output=avail -B1 "$backups" | tail -n 1 | tr -d ' ')" \
    "$([ -n "$CLUSTER" ] && [ "$(stat -c %d "$backups")" = "$(stat -c %d "$CLUSTER")" ] && echo yes || echo no)" > "$data/backup.state.part"
}

# Two o'clock of the night that was last.
last_night() {
  local two; two=$(date -d 'today 02:00' +%s)
  [ "$(date +%s)" -ge "$two" ] || two=$(date -d 'yesterday 02:00' +%s)
  echo "$two"
}

# backup_is_due : none was made since, the shop is older than that, and the last try that failed is an hour ago.
backup_is_due() {
  local two made born tried
  two=$(last_night)
  made=$(stat -c %Y "$data/backup.state" 2>/dev/null || echo 0)
  born=$(stat -c %Y "$data/db-password" 2>/dev/null || stat -c %Y "$data/keys.pfx" 2>/dev/null || date +%s)
  tried=$(stat -c %Y "$data/backup.failed" 2>/dev/null || echo 0)
  # What was made or tried in the future was so by a clock that was wrong.
  [ "$made" -le $(($(date +%s) + 3600)) ] || made=0
  { [ "$made" -lt "$two" ] && [ "$born" -lt "$two" ]; } || return 1
  [ "$tried" -gt "$(date +%s)" ] || [ $(($(date +%s) - tried)) -ge 3600 ]
}

# back_up_now NAME : one at a time, beside the work of the shop. What became of it stands in backup.state and backup.failed.
back_up_now() {
  local why
  exec 8>"$data/backup.lock"
  flock 8 # one that is being made is waited for
  if why=$(keep_backup "$1" 2>"$data/backup.log" 8>&-); then
    mv -f "$data/backup.state.part" "$data/backup.state"
    rm -f "$data/backup.failed"
    on_database uncial prune "$backups" >/dev/null 8>&- || true
    return 0
  fi
  why=$(tail -n 1 <<<"$why")
  printf 'at=%s\nwhy=%s\n' "$(date -u +%FT%TZ)" "$why" > "$data/backup.failed" 2>/dev/null || true
  say "The backup failed: $why"
  [ ! -s "$data/backup.log" ] || tail -n 3 "$data/backup.log" >&2
  return 1
}

# back_up_by_night : called every second by start; looks once a minute.
night='' night_looked=-60
back_up_by_night() {
  # Less than before: the clock was set back.
  [ $((SECONDS - night_looked)) -ge 60 ] || [ "$SECONDS" -lt "$night_looked" ] || return 0
  night_looked=$SECONDS
  { [ -z "$night" ] || ! kill -0 "$night" 2>/dev/null; } && backup_is_due || return 0
  (renice -n 19 -p "$BASHPID" >/dev/null 2>&1; back_up_now "uncial-$(date +%FT%H%M).backup.gpg") &
  night=$!
}

# back_up_before_change : a new version changes the tables of an old one only after that was backed up and the change was tried on the
# copy.
back_up_before_change() {
  local to
  has_database uncial || return 0
  to=$(as_administrator uncial pending)
  [ -n "$to" ] || return 0
  say "The database is of an older version. It is backed up, and the change is tried on the copy ..."
  as_administrator uncial prepare
  back_up_now "uncial-before-$to.backup.gpg" || {
    cluster_down
    die "this version does not take the database over. Nothing was changed: start the version before it, which serves on."
  }
}
