// Package report reads what other tools say of a project: reports of the Static Analysis Results Interchange Format 2.1.0, JUnit
// XML, the Test Anything Protocol, what go test -json prints, and any output that names places. A report is not trusted: it may be
// cut off, wrong, or larger than memory, and it may name files that are not there; what could be read of it is told.
package report
