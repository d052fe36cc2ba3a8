count_up() { n=$((n + 1)); } # @def count_up
