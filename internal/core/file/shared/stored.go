package shared

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// begun is how a statement of SQL in a string begins, or goes on where it is put together; followed is what else is in the
// first.
var (
	begun    = regexp.MustCompile(`^\s*(?i:select|insert\s+into|update|delete\s+from|with|create\s+\w+|alter\s+table|drop\s+table|replace\s+into|truncate)\s`)
	goneOn   = regexp.MustCompile(`^\s*(?:FROM|WHERE|(?:LEFT |RIGHT |INNER |OUTER |CROSS )*JOIN|ORDER BY|GROUP BY|SET|VALUES|AND|RETURNING)\s`)
	followed = regexp.MustCompile(`(?i)\s(?:from|into|set|table|view|index|values|as)\s`)
)

// isStatement says whether a string is one of SQL.
func isStatement(value []byte) bool {
	if len(value) < 10 {
		return false
	}
	head := bytes.TrimLeft(value, " \t\r\n")
	n := 0
	for n < len(head) && n < 9 && 'a' <= head[n]|0x20 && head[n]|0x20 <= 'z' {
		n++
	}
	if !mayBegin[strings.ToLower(string(head[:n]))] {
		return false
	}
	return begun.Match(value) && followed.Match(value) || goneOn.Match(value)
}

// mayBegin are the words with which statements, and parts of them, begin.
var mayBegin = set("select", "insert", "update", "delete", "with", "create", "alter", "drop", "replace", "truncate", "from", "where", "left", "right", "inner", "outer", "cross",
	"join", "order", "group", "set", "values", "and", "returning")

// spoken is a part of a statement: a text in it, what is put in, or a word.
var spoken = regexp.MustCompile(`'[^']*'|--[^\n]*|[:$@%][\w(){}]+|"(\w+)"|[A-Za-z_]\w*`)

// ownWords are those of SQL itself, in small letters.
var ownWords = set(strings.Fields(`select from where and or not null is in as on join left right inner outer full cross using order by group having limit
	offset insert into values update set delete create table view index unique primary key foreign references constraint default check if exists drop alter add
	column with recursive union all distinct case when then else end between like ilike asc desc count sum min max avg coalesce returning cast true false
	integer int text real varchar char bigint smallint serial boolean bool date time timestamp timestamptz numeric decimal double precision float blob json jsonb
	now current_timestamp current_date over partition row_number lower upper length conflict do nothing replace truncate begin commit rollback temp temporary
	autoincrement cascade restrict to for of interval extract excluded any some array only nulls first last fetch next rows row lateral materialized trigger
	procedure function returns language before after each execute autovacuum pragma explain analyze vacuum`)...)

// statement notes the tables and columns of one that begins at an offset.
func (s *scanner) statement(offset int, value []byte) {
	for _, at := range spoken.FindAllSubmatchIndex(value, -1) {
		start, end := at[0], at[1]
		if at[2] >= 0 {
			start, end = at[2], at[3]
		} else if c := value[start]; strings.IndexByte(`'-:$@%`, c) >= 0 {
			continue
		}
		if name := strings.ToLower(string(value[start:end])); !ownWords[name] && len(name) > 1 {
			s.add(facts.Stored, name, offset+start, offset+end, false)
		}
	}
}

// InScripts is the Reader of the language of databases, in which tables are made.
func InScripts(_ []byte, f *facts.File) (all []facts.Shared) {
	for i := range f.Defs {
		d := &f.Defs[i]
		switch d.Kind {
		case facts.Table, facts.View, facts.Field:
			all = append(all, facts.Shared{Realm: facts.Stored, Name: strings.ToLower(d.Name), At: d.At, Given: true})
		}
	}
	return all
}

func set(names ...string) map[string]bool {
	m := make(map[string]bool, len(names))
	for _, n := range names {
		m[n] = true
	}
	return m
}
