#!/bin/sh
# What the tests need beside Node.js, each with what it is for. Installed from Debian's packages when missing and allowed; where that cannot
# be, the tests that need it are left out, which they say (vitest.config.ts). In a check of a change everything has to be there.
set -eu
PATH="$PATH:/usr/sbin:/sbin"
missing=""
want() { # PROGRAM PACKAGES WHY
  command -v "$1" >/dev/null 2>&1 && return
  missing="$missing $2"
  echo "  $2: $3"
}
why=$(mktemp)
{
  want chromium chromium "the console in a browser"
  want nginx nginx-light "websites and their caches"
  want apache2 apache2-bin "websites, WebDAV"
  want knotd knot "name servers and dynamic updates"
  want nsupdate bind9-dnsutils "dynamic updates by another hand"
  want unbound unbound "a resolver that caches"
  want sshd openssh-server "files by SFTP"
  want proftpd "proftpd-core proftpd-mod-crypto" "files by FTP under TLS"
  want exim4 exim4-daemon-light "mails that really go out"
  want faketime faketime "the same tests on other days"
} >"$why"
sh "$(dirname "$0")/docs.sh"
if [ -z "$missing" ]; then
  rm -f "$why"
  exit 0
fi
as=""
if [ "$(id -u)" != 0 ]; then
  if command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then as="sudo"; else as="no"; fi
fi
command -v apt-get >/dev/null 2>&1 || as="no"
if [ "$as" != no ]; then
  echo "The tests need these packages of Debian, which are installed now:"
  cat "$why"
  # shellcheck disable=SC2086
  if $as apt-get update -qq && DEBIAN_FRONTEND=noninteractive $as apt-get install -y -qq --no-install-recommends $missing >/dev/null; then
    rm -f "$why"
    exit 0
  fi
fi
echo "Not to be had here, and may not be installed:" >&2
cat "$why" >&2
rm -f "$why"
echo "Tests that need them are skipped. To have them run: apt-get install$missing" >&2
[ -z "${CI:-}" ]
