// Package clang asks libclang what the names in a file of C or C++ mean, where that is on
// the machine: through its stable interface in C, which is loaded at run time, and in a
// process of its own with limits on time and memory.
package clang
