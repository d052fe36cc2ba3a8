// Package mounts tells where files lie: on a disk of this machine, or on another one.
package mounts
