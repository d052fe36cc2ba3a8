package java

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

var trying = &lang.Trying{
	Proposing: []string{"pom.xml", "build.gradle", "build.gradle.kts"},
	Propose: func(name string, _ []byte) []lang.Command {
		if name == "pom.xml" {
			return []lang.Command{{Line: "mvn compile"}, {Line: "mvn test"}}
		}
		return []lang.Command{{Line: "gradle build"}, {Line: "gradle test"}}
	},
	Runners: []lang.Runner{
		{Name: "Maven", Program: "mvn", Marks: []string{"pom.xml"}, Suits: noProgram, Command: maven, Reports: "target/surefire-reports/TEST-*.xml"},
		{Name: "Gradle, by the project's own script", Program: "./gradlew", Marks: []string{"gradlew"}, Suits: noProgram, Command: gradle("./gradlew"), Reports: gradleReports},
		{Name: "Gradle", Program: "gradle", Marks: []string{"build.gradle", "build.gradle.kts", "settings.gradle"}, Suits: noProgram, Command: gradle("gradle"), Reports: gradleReports},
	},
	IsTest: func(d *facts.Def, head []byte) bool { return d.Kind.IsCallable() && testMark.Match(head) },
}

// testMark is one of the annotations of tests.
var testMark = regexp.MustCompile(`@(?:[\w.]+\.)?(?:Test|ParameterizedTest|RepeatedTest|TestFactory|TestTemplate)\b`)

const gradleReports = "**/build/test-results/test/TEST-*.xml"

// noProgram says whether the tests of a file are no program of their own.
func noProgram(test, _ []byte) bool {
	return !bytes.Contains(test, []byte("static void main("))
}

// sources are the folders below which the folders of packages lie.
var sources = []string{"src/test/java/", "src/integrationTest/java/", "test/java/", "test/", "src/"}

// classOf is the full name of the class in a file.
func classOf(file string) string {
	for _, s := range sources {
		if _, rest, ok := strings.Cut("/"+file, "/"+s); ok {
			file = rest
			break
		}
	}
	return strings.ReplaceAll(strings.TrimSuffix(file, ".java"), "/", ".")
}

// testMethod is the class of a test within its file, and its method.
func testMethod(w lang.TestsWanted, t lang.TestName) (class, name string) {
	class = classOf(w.Files[t.File])
	if n := len(t.Names); n > 0 {
		for _, inner := range t.Names[min(1, n-1) : n-1] {
			class += "$" + inner
		}
		name = t.Names[n-1]
	}
	return class, name
}

func maven(w lang.TestsWanted) []string {
	var tests []string
	for _, t := range w.Tests {
		class, name := testMethod(w, t)
		if name == path.Base(strings.ReplaceAll(class, ".", "/")) { // the class as a whole
			tests = append(tests, class)
		} else {
			tests = append(tests, class+"#"+name)
		}
	}
	if len(tests) == 0 {
		for _, f := range w.Files {
			tests = append(tests, classOf(f))
		}
	}
	args := []string{"mvn", "-B", "-Dstyle.color=always"}
	if len(tests) > 0 {
		args = append(args, "-Dtest="+strings.Join(tests, ","), "-DfailIfNoTests=false", "-Dsurefire.failIfNoSpecifiedTests=false")
	}
	return append(args, "test")
}

func gradle(program string) func(w lang.TestsWanted) []string {
	return func(w lang.TestsWanted) []string {
		args := []string{program, "test", "--console=plain"}
		for _, t := range w.Tests {
			class, name := testMethod(w, t)
			args = append(args, "--tests", class+"."+name)
		}
		if len(w.Tests) == 0 {
			for _, f := range w.Files {
				args = append(args, "--tests", classOf(f))
			}
		}
		return args
	}
}
