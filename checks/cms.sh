# Sourced by the checks that ask a real CMS: a private server, the CMS from Debian's packages in a private folder, and two copies of a
# site in it. Expects 'check' (what is checked), 'web' if each copy is to have a folder of its own in it, and 'staging_prefix' if staging's tables are to have another prefix than live's. Gives 'work' (a folder that goes away), 'client', 'dump', 'cms', 'weftex' and 'quietly'.
here=$PWD
root=$(cd ../.. && pwd)
server=${MARIADB:-$root/store/target/mariadb}
work=$(mktemp -d)
pid=
trap '[ -z "$pid" ] || { kill "$pid"; wait "$pid" 2>/dev/null || true; }; rm -rf "$work"' EXIT

skip() {
  echo "checks/$check was skipped: $1"
  exit 0
}
quietly() { "$@" >"$work/log" 2>&1 || { cat "$work/log" >&2; return 1; }; }

if ! php -m 2>/dev/null | grep -q mysqli; then
  [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null || skip "php-cli and php-mysql are not installed"
  (apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends php-cli php-mysql) \
    >"$work/log" 2>&1 || skip "php-cli and php-mysql could not be installed"
fi
if [ -d /usr/share/wordpress ]; then
  cp -rL /usr/share/wordpress "$work/cms" 2>/dev/null || true
else
  mkdir "$work/deb"
  (cd "$work/deb" && { apt-get download wordpress || { apt-get update && apt-get download wordpress; }; }) >"$work/log" 2>&1 ||
    skip "the package wordpress could not be fetched"
  dpkg -x "$work"/deb/wordpress_*.deb "$work/deb/x"
  mv "$work/deb/x/usr/share/wordpress" "$work/cms"
fi
cp "$root/checks/cms-config.php" "$work/cms/wp-config.php"
[ -x "$server/bin/mariadbd" ] || skip "there is no $server; run the tests once"

# A server that starts takes away what others left in its folder for temporary tables.
mkdir "$work/tmp"
export LD_LIBRARY_PATH=$server/libs
CMS_PORT=$(python3 -c 'import socket; s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])')
export CMS_PORT CMS_FOLDER=$work/cms
quietly "$server/scripts/mariadb-install-db" --no-defaults --basedir="$server" --datadir="$work/data" --user="$(id -un)" \
  --auth-root-authentication-method=normal
"$server/bin/mariadbd" --no-defaults --basedir="$server" --datadir="$work/data" --user="$(id -un)" --skip-ssl --port="$CMS_PORT" \
  --bind-address=127.0.0.1 --socket="$work/s" --tmpdir="$work/tmp" --max-allowed-packet=64M >"$work/server.log" 2>&1 &
pid=$!
client=("$server/bin/mariadb" --no-defaults --skip-ssl -h127.0.0.1 -P"$CMS_PORT" -uroot)
dump=("$server/bin/mariadb-dump" --no-defaults --skip-ssl -h127.0.0.1 -P"$CMS_PORT" -uroot)
until "${client[@]}" -e 'SELECT 1' >/dev/null 2>&1; do sleep 0.2; done

prefix() { # prefix COPY
  if [ "$1" = staging ]; then echo "${staging_prefix:-skf_}"; else echo skf_; fi
}
cms() { # cms COPY SCRIPT ARGUMENTS...
  local copy=$1
  shift
  CMS_PREFIX=$(prefix "$copy") CMS_DATABASE=cms_$copy CMS_CONTENT=${web:+$web/$copy} env -u LD_LIBRARY_PATH php -d memory_limit=1G -d error_reporting='E_ALL & ~E_DEPRECATED' "$here/$1" "${@:2}"
}
weftex() { (cd "$work/site" && env -u LD_LIBRARY_PATH "$root/weftex" "$@"); }

# Makes the live copy with install.php, takes staging from it, and writes weftex.yaml.
make_copies() { # make_copies MODEL
  "${client[@]}" -e 'CREATE DATABASE cms_live CHARACTER SET utf8mb4; CREATE DATABASE cms_staging CHARACTER SET utf8mb4'
  quietly cms live install.php
  "${dump[@]}" cms_live | sed "s/\bskf_/$(prefix staging)/g" | "${client[@]}" cms_staging
  "${client[@]}" cms_staging -e "UPDATE $(prefix staging)options SET option_value = 'https://staging.skerrow.example' WHERE option_name IN ('home', 'siteurl')"
  mkdir -p "$work/site"
  quietly weftex pair --site skerrow --model "$1" \
    --staging "mariadb://root@127.0.0.1:$CMS_PORT/cms_staging" --staging-prefix "$(prefix staging)" \
    --live "mariadb://root@127.0.0.1:$CMS_PORT/cms_live" --live-prefix skf_
  grep -q 'address: "https://staging.skerrow.example"' "$work/site/weftex.yaml" || { echo "pair did not propose the address" >&2; exit 1; }
}
