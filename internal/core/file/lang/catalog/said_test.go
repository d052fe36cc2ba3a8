package catalog_test

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
)

// Every language says all that there is to be said about one: what is forgotten
// would be a wrong answer without a word.
func TestNothingIsLeftUnsaid(t *testing.T) {
	for _, l := range catalog.All() {
		for _, missing := range unsaid(reflect.ValueOf(*l), l.Name) {
			t.Error(missing, "is not said; see package lang for the values that stand for none")
		}
	}
}

// unsaid are the fields of a value, and of the structures in it, that are as they
// are in a zero value.
func unsaid(v reflect.Value, name string) (missing []string) {
	for i := range v.NumField() {
		field, path := v.Field(i), name+"."+v.Type().Field(i).Name
		switch {
		case field.Type() == reflect.TypeFor[lang.Paths]():
			// words, of which a language without paths has none
		case field.Kind() == reflect.Struct:
			missing = append(missing, unsaid(field, path)...)
		case field.IsZero():
			missing = append(missing, path)
		}
	}
	return missing
}

// The test above finds what is missing.
func TestWhatIsLeftUnsaidIsFound(t *testing.T) {
	l := *catalog.All()[0]
	l.Scopes.Sees, l.Members.Overloads, l.Imports, l.Tests.Files = 0, 0, nil, nil
	assert.Equal(t, []string{"x.Tests.Files", "x.Scopes.Sees", "x.Members.Overloads", "x.Imports"}, unsaid(reflect.ValueOf(l), "x"))
}

func TestPathsAreSaidWhereThereAreModules(t *testing.T) {
	for _, l := range catalog.All() {
		if l.Scopes.Sees != lang.SeesModules {
			assert.Equal(t, lang.Paths{Between: l.Scopes.Paths.Between}, l.Scopes.Paths, l.Name)
			assert.Equal(t, l.Scopes.Namespaces.Is(), l.Scopes.Paths.Between != "", l.Name)
			continue
		}
		assert.Empty(t, unsaid(reflect.ValueOf(l.Scopes.Paths), l.Name))
		_, ok := l.Imports(nil).(lang.Tree)
		assert.True(t, ok, "%s does not say how its modules lie in files", l.Name)
	}
}

// Languages of one name differ only in their files.
func TestOneNameOneLanguage(t *testing.T) {
	first := map[string]*lang.Language{}
	for _, l := range catalog.All() {
		f := first[l.Name]
		if f == nil {
			first[l.Name] = l
			continue
		}
		assert.Equal(t, f.Family, l.Family, l.Name)
		assert.Equal(t, f.Code, l.Code, l.Name)
		assert.Equal(t, f.Scopes.Sees, l.Scopes.Sees, l.Name)
		assert.Equal(t, f.Members.Apart, l.Members.Apart, l.Name)
	}
}

// Comments can be written in every language that has any, whatever the ending
// of the file.
func TestComments(t *testing.T) {
	for _, l := range catalog.All() {
		for _, e := range l.Files.Extensions {
			s := catalog.Set().Signs("a" + e)
			assert.NotNil(t, s, e)
			if l.Name != "JSON" {
				assert.NotEmpty(t, s.Marks(), e)
			}
		}
	}
	assert.Equal(t, []string{"#"}, catalog.Set().Signs("a.pyi").Line)
	assert.Equal(t, []string{"//"}, catalog.Set().Signs("a.mts").Line)
	assert.Equal(t, []string{"<!--"}, catalog.Set().Signs("a.xml").Marks())
	assert.Nil(t, catalog.Set().Signs("a.unknown"))
}
