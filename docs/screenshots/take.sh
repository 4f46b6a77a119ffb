#!/usr/bin/env bash
# Takes the pictures of this folder from the demo library, on a screen of its own.
set -euo pipefail
program=$(realpath "$1")
here=$(cd "$(dirname "$0")" && pwd)
library=$(mktemp -d)
trap 'rm -rf "$library"' EXIT
shoot() { # picture, then options
    local picture=$1
    shift
    LANTERN_NO_DIALOG=1 QT_QPA_PLATFORM=xcb xvfb-run -a -s "-screen 0 1280x800x24" "$program" --demo --library "$library" --shoot "$here/$picture" "$@"
}
shoot review-front.png --clip 5
shoot review-builtin.png --clip 6
# By now the second clip of the same practice is extracted too.
shoot review-side.png --clip 3 --bench beside
shoot review-over.png --clip 3 --bench over
shoot review-mend.png --clip 3 --bench mend
shoot review-figure.png --clip 5 --bench figure
shoot review-dusk.png --clip 3 --bench beside --dusk
shoot desk.png --place desk
QT_QPA_PLATFORM=offscreen "$program" --sheet "$here/postures.png" # one key moment of every posture
