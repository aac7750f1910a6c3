#!/bin/sh
# Every test against real servers and real websites, those included that `make test` has no time for. Installs what they need from
# Debian's packages.
set -eu
sh scripts/need.sh
sh scripts/docs.sh --all
sudo=""
[ "$(id -u)" = 0 ] || sudo="sudo -n"
for name in pelican dropbear-bin openssh-sftp-server lighttpd lighttpd-mod-webdav lighttpd-mod-openssl bind9 libsodium23 libwrap0; do
  dpkg -s "$name" >/dev/null 2>&1 ||
    DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "$name" >/dev/null ||
    echo "$name cannot be had: the tests go without it." >&2
done
# Debian installs no two servers for FTP beside each other: these are unpacked.
mkdir -p .tmp/servers
for name in vsftpd pure-ftpd pure-ftpd-common; do
  folder=$(mktemp -d)
  (cd "$folder" && apt-get download -qq "$name" >/dev/null 2>&1) && dpkg-deb -x "$folder"/*.deb .tmp/servers ||
    echo "$name cannot be had: the tests go without it." >&2
  rm -rf "$folder"
done
npx vitest run test/real --reporter=verbose
