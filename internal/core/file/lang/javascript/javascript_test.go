package javascript_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/javascript"
)

const sample = `import base, { a as b } from './x';

/** Talks. */
export default class Client<T> extends base.Thing implements Closer {
  static shared = 1;
  #hidden: T;
  constructor(readonly url: string) { super(); }
  get open(): boolean { return true; }
  send = async (x: T) => { await x; };
}

export interface Closer { close(): void; [key: string]: unknown; at?: { line: number } }
export enum Level { Low = 1, High }
export type Pair<K, V> = [K, V];
// Makes one.
export const make = (url: string): Client<Level> => new Client(url);
const { p, q: [r], ...rest } = make('x');
namespace Deep { export function inside() {} }
`

func TestOutline(t *testing.T) {
	_, lines := factstest.Outline(t, javascript.TypeScript, sample)
	assert.Equal(t, []string{
		"class Client | export default class Client<T> extends base.Thing implements Closer | /** Talks. */",
		"property Client.shared | static shared = 1 | ",
		"property Client.#hidden | #hidden: T | ",
		"constructor Client.constructor | constructor(readonly url: string) | ",
		"property Client.url | readonly url: string | ",
		"property Client.open | get open(): boolean | ",
		"method Client.send | send = async (x: T) => | ",
		"interface Closer | export interface Closer | ",
		"method Closer.close | close(): void | ",
		"property Closer.at | at?: { line: number } | ",
		"property at.line | line: number | ",
		"enum Level | export enum Level | ",
		"enum member Level.Low | Low = 1 | ",
		"enum member Level.High | High | ",
		"type Pair | export type Pair<K, V> = [K, V]; | ",
		"function make | export const make = (url: string): Client<Level> => | // Makes one.",
		"constant p | p | ", "constant r | r | ", "constant rest | rest | ", "namespace Deep | namespace Deep | ",
		"function Deep.inside | export function inside() | ",
	}, lines)
}

func TestBrokenCodeCostsWhatItTouches(t *testing.T) {
	f, err := javascript.JavaScript.Facts(context.Background(), []byte("function good() {}\nfunction bad( {{\nfunction later() {}\n"))
	require.NoError(t, err)
	require.NotEmpty(t, f.Defs)
	assert.Equal(t, "good", f.Defs[0].Name)
}

func FuzzTypeScript(f *testing.F) {
	factstest.Fuzz(f, javascript.TypeScript, sample, "class {", "let [a, {b = c}] = d",
		"interface A<in out T,\n\tout U> {\n\t(): T\n\t<K>(k: K): import('./x').Y<T>\n}\nexport type * from 'y'\nusing a = b")
}

func FuzzTSX(f *testing.F) {
	factstest.Fuzz(f, javascript.TSX, sample, "const x = <A b={c} {...d}><e.f/></A>;", "<", "export default () => <></>")
}

func FuzzJavaScript(f *testing.F) {
	factstest.Fuzz(f, javascript.JavaScript, "const {a} = require('b'); module.exports = { a() {}, get b() {} };", "class A extends (B, C) { constructor() { this.x = 1; } }")
}
