#!/usr/bin/env bash
# Makes a release, installs what it needs, starts it twice, and compares what it computes with what the sources do. Part of ./test.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/../setup.sh"
work="$(mktemp -d "${TMPDIR:-/tmp}/bright-reel-release.XXXXXX")"
chmod 755 "$work"
release="$work/release"
started=""
trap '[ -z "$started" ] || end_process "$started"; rm -rf "$work"' EXIT
trap 'exit 130' INT TERM
unset DATABASE_URL BRIGHT_REEL_STORAGE BRIGHT_REEL_FOOTAGE BRIGHT_REEL_DEMO
told() { say "$*" >&2; exit 1; }

bash scripts/release/release.sh "$release" || told "The release could not be made."
[ ! -e "$release/app" ] && [ ! -e "$release/node_modules" ] || told "The release holds more than what runs."
export BRIGHT_REEL_DATA="$work/data" PORT HOST=127.0.0.1 POSTGRES_FSYNC=off
PORT="$(free_port)"
# start WHAT: until it answers.
start() {
  local began=$SECONDS try
  (cd "$release" && exec ./start) >"$work/start.log" 2>&1 &
  started=$!
  for ((try = 0; try < 600; try++)); do
    answer="$(node -e "fetch(process.argv[1]).then(async (r) => console.log(await r.text()), () => undefined)" "http://127.0.0.1:$PORT/ready")"
    [ "$answer" = ready ] && { say "$1: ready after $((SECONDS - began)) s"; return 0; }
    kill -0 "$started" 2>/dev/null || break
    sleep 0.3
  done
  tail -n 10 "$work/start.log" "$BRIGHT_REEL_DATA"/*.log >&2
  told "$1: it did not start."
}
start "The first time"
bad="$(node -e "
(async () => {
  const page = await (await fetch(process.argv[1])).text();
  if (!page.includes('Bright Reel')) return 'it is not ours';
  // Scripts in it come from functions of the server; what a bundler puts into those is not there in a browser.
  if (page.includes('__name(')) return 'a script in it asks for what only the server has';
  for (const [, path] of page.matchAll(/(?:href|src)=\"(\/assets\/[^\"]+)\"/g))
    if (!(await fetch(new URL(path, process.argv[1]))).ok) return path + ' is missing';
  return '';
})().then((bad) => console.log(bad), (error) => console.log(error.message));" "http://127.0.0.1:$PORT/")"
[ -z "$bad" ] || told "The first screen of the release is not whole: $bad"
for part in server worker standins; do [ -s "$BRIGHT_REEL_DATA/$part.pid" ] || told "The $part of the release does not run."; done
end_process "$started"
start "The second time"
end_process "$started"
started=""

# Made again into the same folder it keeps what lies there; a folder of something else is left alone.
mkdir -p "$release/data/local" "$work/album" && touch "$release/data/local/kept" "$work/album/photo"
bash scripts/release/release.sh "$release" >/dev/null && [ -e "$release/data/local/kept" ] && [ -d "$release/node_modules" ] || told "A release that was made again did not keep what was there."
! bash scripts/release/release.sh "$work/album" >/dev/null 2>&1 && [ -e "$work/album/photo" ] || told "A folder that holds no release was replaced."

for each in "$release" "$root"; do
  (cd "$each" && ./bright-reel analyze "$root/demo/media/child-laughs.mp4" --out "$work/$(basename "$each").json") >/dev/null || told "analyze did not work in $each."
done
cmp -s "$work/release.json" "$work/$(basename "$root").json" || told "What the release reads in a film is not what the sources read in it."
size="$(du -sm "$release" | cut -f1)"
say "The release with its packages takes $size MB."
[ "$size" -lt 350 ] || told "That is more than 350 MB."
