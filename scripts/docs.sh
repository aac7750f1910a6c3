#!/bin/sh
# Websites for the tests of gathering: documentation as Debian's packages have it, unpacked into .tmp/docs and installed nowhere.
# Usage: docs.sh [--all]   without it the few that every run of the tests has time for. What cannot be had is left out, and told.
set -u
few="m4-doc exim4-doc-html postgresql-doc"
more="git-doc sqlite3-doc gnuplot-doc bind9-doc debian-policy apache2-doc"
[ "${1:-}" = --all ] && few="$few $more"
command -v apt-get >/dev/null 2>&1 || { echo "No apt-get here: the tests go without the websites of Debian's packages." >&2; exit 0; }
docs=$PWD/.tmp/docs
mkdir -p "$docs/packages"
for name in $few; do
  [ -e "$docs/packages/$name" ] && continue
  # The package of a version stands behind the one without.
  real=$name
  [ "$name" = postgresql-doc ] && real=$(apt-cache depends postgresql-doc 2>/dev/null | awk '/Depends:/ { print $2; exit }')
  folder=$(mktemp -d)
  if (cd "$folder" && { apt-get download -qq "$real" >/dev/null 2>&1 || { apt-get update -qq >/dev/null 2>&1; apt-get download -qq "$real" >/dev/null 2>&1; }; }) &&
    dpkg-deb -x "$folder"/*.deb "$docs"; then
    touch "$docs/packages/$name"
  else
    echo "$name cannot be had: the tests go without it." >&2
  fi
  rm -rf "$folder"
done
chmod -R a+rX "$docs"
