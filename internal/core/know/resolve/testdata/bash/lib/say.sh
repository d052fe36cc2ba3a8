source ./count.sh
GREETING=hello # @def GREETING
say() { echo "$1"; count_up; } # @def say @use count_up
