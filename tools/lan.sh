# Serving the shop's network over TLS: sourced by start, with data, app, port, plain, cert, key, names and anew set.
# Sets address and inside; apart hides the key of the authority from what serves.

export Network__Certificates=$data/tls
certify() {
  Network__Names=$names DOTNET_CONTENTROOT=$content dotnet "$app" certify "$@" 9>&-
}

if [ -n "$cert" ]; then
  # Names that it is for are read from the certificate; the first that is no pattern is printed.
  host=${names%% *}
  [ -n "$host" ] || host=$(hostname)
else
  if [ -n "$certified" ]; then
    [ -r "$data/tls/server.pem" ] || die "there is no certificate in $data/tls yet: ./start --certify makes one."
    hosts=$(cat "$data/tls/hosts")
  else
    mkdir -p "$data/tls"
    hosts=$(certify $anew 2> "$data/tls/said") || { cat "$data/tls/said" >&2; exit 1; }
    printf '%s\n' "$hosts" > "$data/tls/hosts"
    grep -v '^Fingerprint' "$data/tls/said" || true
  fi
  host=${names%% *}
  if [ -z "$host" ]; then
    # Tablets find NAME.local where something answers for it; else by number.
    number=$(tr ' ' '\n' <<<"$hosts" | grep -E '^[0-9.]+$' | grep -v '^127\.' | head -n 1 || true)
    if pgrep -x avahi-daemon >/dev/null 2>&1; then host=${hosts%% *}; else host=${number:-localhost}; fi
  fi
fi
address=https://$host inside=https://127.0.0.1:$port
[ "$port" = 443 ] || address+=:$port

say_trust() {
  [ -z "$cert" ] || return 0
  say "Fingerprint to compare on each tablet:"
  sed -n 's/^Fingerprint.*: //p' "$data/tls/said" | tr ':' ' ' | fold -w 48 | sed 's/^/  /'
  local number; number=$(tr ' ' '\n' <<<"$hosts" | grep -E '^[0-9.]+$' | grep -v '^127\.' | head -n 1 || true)
  [ "$plain" = 0 ] || [ -z "$number" ] || say "How to trust it on a tablet: http://$number:$plain"
  case $host in
    *.local|localhost|*[!0-9.]*) ;;
    *) say "Give this machine a fixed address, or a name with --name: $host is printed on tags." ;;
  esac
}

# renew : once an hour, what ends soon or lacks an address is made anew. What serves finds it by itself.
renewed=$(date +%s)
renew() {
  [ -z "$cert$certified" ] || return 0
  local passed=$(($(date +%s) - renewed))
  [ "$passed" -ge 3600 ] || [ "$passed" -lt 0 ] || return 0 # less than nothing: the clock was set back
  renewed=$(date +%s)
  certify >/dev/null 2> "$data/tls/renewed" || cat "$data/tls/renewed" >&2
}

# apart COMMAND... : runs it where the folder of the authority's key is empty, without the right to look behind that.
apart=
if [ -z "$cert$certified$task" ]; then
  hide='mount -t tmpfs -o size=4k,mode=0 none "$0" && exec "$@"'
  if [ "$(id -u)" = 0 ]; then
    rights='--no-new-privs --inh-caps=-all --bounding-set=-all,+dac_override,+net_bind_service'
    apart() { exec unshare --mount --propagation private sh -c "$hide" "$data/tls/authority" setpriv $rights "$@"; }
  else
    # It is root of a namespace of its own there, which lets it mount, and gives that up before anything else runs.
    rights='--no-new-privs --inh-caps=-all --bounding-set=-all'
    apart() { exec unshare --map-root-user --mount --propagation private sh -c "$hide" "$data/tls/authority" setpriv $rights "$@"; }
  fi
  if (apart true) >/dev/null 2>&1; then apart=yes
  else say "The key of the authority lies open to what serves: this system lets no program run apart (unshare)."; fi
fi
