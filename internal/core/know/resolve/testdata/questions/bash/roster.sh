#!/bin/bash
level=3 # @is level @value level

quiet() { echo 1; } # @is quiet @called quiet = alert

alert() { # @is alert @calls alert = quiet
    if [ "$level" -gt "$(quiet)" ]; then # @ref quiet call @ref level read @value level
        level=4 # @ref level write @value level
    fi
}

forgotten() { :; } # @unused

alert # @ref alert call
