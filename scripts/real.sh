#!/bin/sh
# Every test against real servers and real websites, those included that `make test` has no time for. Installs what they need from
# Debian's packages.
set -eu
sh scripts/need.sh
sh scripts/docs.sh --all
sudo=""
[ "$(id -u)" = 0 ] || sudo="sudo -n"
for name in pelican vsftpd pure-ftpd dropbear-bin openssh-sftp-server lighttpd lighttpd-mod-webdav bind9; do
  dpkg -s "$name" >/dev/null 2>&1 ||
    DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "$name" >/dev/null ||
    echo "$name cannot be had: the tests go without it." >&2
done
npx vitest run test/real --reporter=verbose
