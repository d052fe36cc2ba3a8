// Package preprocess does for one file of C or C++ what the preprocessor does
// before a compiler reads it, as far as the file itself says enough: it works out
// which branches of conditional code a compiler on a common system takes, and
// puts in place, or takes away, the macros that a grammar cannot read through,
// such as those that open a namespace or give an attribute. Each offset of the
// text that comes of it leads back to the text as it is written.
package preprocess
