#!/usr/bin/env bash
# release.sh FOLDER: lays what runs there, and nothing else: bundled programs, the screens, nets, start and command line.
# What is left to install are the few packages with code of the machine: npm ci --omit=dev, which ./start does there.
set -eu
cd "$(dirname "${BASH_SOURCE[0]}")/../.."
folder="$(realpath -m "${1:?release.sh FOLDER}")"
set +u
. scripts/setup.sh
set -u
need_node_packages
need_build
# What is replaced is a release and nothing else: a mistyped folder is left as it is.
[ ! -e "$folder" ] || [ -d "$folder/programs" ] || [ -z "$(ls -A "$folder")" ] || fail "$folder is not empty and holds no release. Name another folder; nothing was changed."
new="$folder.new"
rm -rf "$new"
mkdir -p "$new/scripts" "$new/build" "$new/demo"
say "Bundling"
node scripts/release/bundle.mjs "$new"
node --import tsx scripts/release/nets.ts "$new/nets"
cp -a build/client "$new/build/"
cp -a data/migrations "$new/programs/"
cp -a start bright-reel package.json package-lock.json .npmrc README.md CHANGELOG.md LICENSE THIRD_PARTY.md deploy "$new/"
cp -a scripts/setup.sh scripts/backup.sh "$new/scripts/"
# For whoever reads them; the application has its handbook in its build.
cp -a docs "$new/"
rm -rf "$new/docs/screenshots" "$new/docs/decisions"
# Packages that are installed already are taken along for as long as they are what is wanted, and what was kept there always.
for kept in node_modules data; do [ ! -d "$folder/$kept" ] || mv "$folder/$kept" "$new/"; done
rm -rf "$folder"
mv "$new" "$folder"
say "The release is in $folder ($(du -sm --exclude=node_modules "$folder" | cut -f1) MB without packages)."
