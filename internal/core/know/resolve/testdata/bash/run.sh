#!/bin/bash
here=$(dirname "$0")
. lib/say.sh
source "$here/lib/count.sh"
say "$GREETING" # @use say @use GREETING
count_up # @use count_up
