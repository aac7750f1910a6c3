#!/bin/sh
# What the tests need beside Node.js: Chromium for the console, name servers, a resolver, nginx, Apache, servers for SSH, FTP and mail for the
# tests against real servers, and faketime for the same tests on other days.
# Installed from Debian's packages when missing and allowed; otherwise says exactly what is missing, and fails.
set -eu
missing=""
command -v chromium >/dev/null 2>&1 || missing="$missing chromium"
PATH="$PATH:/usr/sbin:/sbin"
command -v nginx >/dev/null 2>&1 || missing="$missing nginx-light"
command -v apache2 >/dev/null 2>&1 || missing="$missing apache2-bin"
command -v knotd >/dev/null 2>&1 || missing="$missing knot"
command -v nsupdate >/dev/null 2>&1 || missing="$missing bind9-dnsutils"
command -v unbound >/dev/null 2>&1 || missing="$missing unbound"
command -v sshd >/dev/null 2>&1 || missing="$missing openssh-server"
command -v proftpd >/dev/null 2>&1 || missing="$missing proftpd-core proftpd-mod-crypto"
command -v exim4 >/dev/null 2>&1 || missing="$missing exim4-daemon-light"
command -v faketime >/dev/null 2>&1 || missing="$missing faketime"
sh "$(dirname "$0")/docs.sh"
[ -n "$missing" ] || exit 0
if [ "$(id -u)" = 0 ]; then
  as=""
elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
  as="sudo"
else
  echo "Missing for the tests:$missing. Install them (apt-get install$missing), then run make test again." >&2
  exit 1
fi
echo "Installing for the tests:$missing"
$as apt-get update -qq
DEBIAN_FRONTEND=noninteractive $as apt-get install -y -qq --no-install-recommends $missing >/dev/null
