#!/usr/bin/env bash
# Makes the clips of the demo class again with the built-in performer. Run it after ./lantern build.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
cli=${1:-$here/../../build/release/bin/jolly-lantern-cli}

film() { # file, then options of simulate
    local file=$1
    shift
    "$cli" simulate --form sparrow-tail --side R --quality 26 --sound -o "$here/$file" "$@"
}

film halloran-side.mp4 --body teacher --camera side --seed 301 --hall evening
film halloran-front.mp4 --body teacher --camera front --seed 302 --hall evening
# One practice, filmed by two cameras at once.
practice=(--body sturdy --seed 311 --hall morning --tempo 0.95 --fault stance-short=18cm --fault knee-past-toe=7cm --fault one-line=8cm)
film marit-side.mp4 --camera side "${practice[@]}"
film marit-front.mp4 --camera front "${practice[@]}"
film tobias-front.mp4 --body tall --camera front --seed 321 --hall evening --tempo 1.1 --fault knee-caves-lead=8cm
film priya-side.mp4 --body small --camera side --seed 331 --hall studio --fault lean-forward=9
