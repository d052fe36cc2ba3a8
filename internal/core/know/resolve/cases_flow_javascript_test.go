package resolve_test

// casesOfJavaScript are of JavaScript and TypeScript, by what values are given and where types are expected.
var casesOfJavaScript = map[string]string{
	"javascript: what a module exports before it is declared": `
-- a.js --
exports.Hut = void 0;
var ‹=hut›Hut = (function (s) {
    function ‹=inner›Hut() {}
    return ‹inner›Hut;
}(1));
exports.Hut = ‹hut›Hut;
`,
	"typescript: attributes of components lead to what these are given": `
-- board.tsx --
import * as React from "react";

interface RowProps { ‹=depth›depth: number; ‹=rowName›name?: string; onRing?: (at: Bell) => void }
interface Bell { ‹=ring›ring: number }

function Row({ depth, name }: RowProps) { return <b>{depth}{name}</b>; }
const Arrow: React.FC<RowProps> = ({ depth, onRing }) => <i>{depth}</i>;
const Ref = React.forwardRef<HTMLElement, RowProps>((props, ref) => <i>{props.‹depth›depth}</i>);
const Made = React.forwardRef((props: RowProps, ref: any) => <i>{props.‹rowName›name}</i>);
const Kept = React.memo(Row);
class Panel extends React.Component<RowProps, { ‹=open›open: boolean }> {
	render() {
		const { depth } = this.props;
		return this.state.‹open›open && <Row ‹depth›depth={this.props.‹depth›depth} onRing={b => b.‹ring›ring} />;
	}
}
type Same = React.ComponentProps<typeof Row>;
function Plain(p: Same) { return p.‹depth›depth; }
export const all = <div className="x">
	<Row ‹depth›depth={1} ‹rowName›name="a" /> <Arrow ‹depth›depth={2} /> <Ref ‹depth›depth={3} />
	<Made ‹rowName›name="b" /> <Kept ‹depth›depth={4} /> <Panel ‹depth›depth={5} /> <Plain ‹depth›depth={6} />
</div>;
`,
	"typescript: names of members between quotes, where one is wanted": `
-- hut.ts --
interface Snow { ‹=deep›deep: number; ‹=kind›kind?: string }
type Names = keyof Snow;
function only(name: keyof Snow) { }
function from<T, K extends keyof T>(of: T, name: K): T[K] { return of[name]; }
class Store<S> { get(name: keyof S) { } each(...names: (keyof S)[]) { } }
interface Column { head: string; field: keyof Snow; more?: Names[] }
const seen: Names = "‹kind›kind";
only("‹deep›deep");
only("other");
export function use(s: Snow, store: Store<Snow>, strange: any) {
	from(s, "‹deep›deep");
	store.get("‹kind›kind");
	const cs: Column[] = [{ head: "deep", field: "‹deep›deep", more: ["‹kind›kind"] }];
	const which: keyof Snow | "none" = s ? "‹deep›deep" : "none";
	return "deep";
}
function named(): keyof Snow { return "‹kind›kind"; }
`,
	"javascript: this in functions that have none of their own, and exports by another name": `
-- old.js --
var util = require('./util').‹depth›depth;
class ‹=hut›Hut {
	constructor() { this.‹=count›count = 0; this.on(() => { this.‹=state›state = 1; }); }
	run() { const end = () => { this.‹state›state = 2; this.‹count›count += 1; }; util(1); return end; }
}
class Big extends Hut { more() { this.‹count›count += 2; return ‹depth›util(2); } }
exports.‹hut›Hut = Hut;
-- util.js --
exports.‹=depth›depth = function (n) { return n; };
`,
	"typescript: objects where a type is expected": `
-- hut.ts --
interface Snow { ‹=deep›deep: number; ‹=kind›kind?: string }
type Half = Pick<Snow, "‹deep›deep"> & Omit<Snow, "‹kind›kind">;
type All = { [K in keyof Snow]?: Snow[K] };
interface Hut { ‹=snow›snow: Snow; ‹=rows›rows: Snow[]; by: Record<string, Snow> }

function take(h: Hut, each: (s: Snow) => Snow): Partial<Snow> {
	return { ‹deep›deep: 1 };
}
const hut: Hut = {
	‹snow›snow: { ‹deep›deep: 1, ‹kind›kind: "x" },
	‹rows›rows: [{ ‹deep›deep: 2 }],
	by: { a: { ‹deep›deep: 3 } },
};
take({ ‹snow›snow: { ‹deep›deep: 1 }, ‹rows›rows: [], by: {} }, s => ({ ‹deep›deep: s.‹deep›deep }));
const kept = { ‹deep›deep: 4 } satisfies Snow;
let all: All = { ‹deep›deep: 1 };
let half: Half = { ‹deep›deep: 1 };
const made: (s: Snow) => number = s => s.‹deep›deep;
type Wet = { kind: "wet"; ‹=level›level: number };
type Dry = { kind: "dry"; ‹=dryLevel›level: number };
function both(w: Wet | Dry) { return w.‹level›level; }
-- lib.d.ts --
export = Tools;
declare class Tool<P> { constructor(p: P); }
interface Tool<P> { ‹=handle›handle: P }
declare namespace Tools { interface Bag { ‹=size›size: number } }
declare function Tools(): Tools.Bag;
-- use.ts --
import Tools from "./lib";
let bag: Tools.Bag;
bag.‹size›size;
-- handed.ts --
function inner() {}
const ‹=outer›_inner = inner;
export { _inner as inner };
-- taken.ts --
import { inner } from "./handed";
‹outer›inner();
`,
	"pages and style sheets: addresses lead to files": `
-- index.html --
<html><head><link rel="stylesheet" href="‹style›style.css"><script src="/js/‹app›app.js?v=2"></script></head>
<body><img src="img/‹img›hut.svg"></body></html>
-- style.css --
‹=style›@import "‹base›base.css";
.a { background: url("img/‹img›hut.svg#roof"); }
-- base.css --
‹=base›.b { top: 0; }
-- main.scss --
@use "lib/‹colors›colors" as c;
@import "lib/‹colors›colors";
.a { top: 0; }
-- lib/_colors.scss --
‹=colors›$red: red;
-- js/app.js --
‹=app›let x = 1;
-- img/hut.svg --
‹=img›<svg></svg>
`,
	"javascript: what is in lists and maps": `
-- kit.js --
class Bell { ‹=ring›ring() {} }
class Log { ‹=line›line() {} }
class Hut {
	constructor() {
		this.bells = [];
		this.named = {};
		this.logs = new Map();
		this.row = [new Bell()];
		this.last = null;
	}
	add(name) {
		const bell = new Bell();
		this.bells.push(bell);
		this.named[name] = bell;
		this.logs.set(name, new Log());
		this.last = bell;
	}
	alert() {
		for (const bell of this.bells) bell.‹ring›ring();
		this.bells.forEach(b => b.‹ring›ring());
		this.bells.pop().‹ring›ring();
		this.bells[0].‹ring›ring();
		this.named["x"].‹ring›ring();
		for (const n in this.named) this.named[n].‹ring›ring();
		Object.values(this.named).map((b) => b.‹ring›ring());
		this.logs.get("x").‹line›line();
		for (const [name, log] of this.logs) log.‹line›line();
		for (const log of this.logs.values()) log.‹line›line();
		this.last.‹ring›ring();
		const [first, ...rest] = this.bells;
		first.‹ring›ring();
		rest[0].‹ring›ring();
		[...this.bells].filter(b => b).find(b => b.on).‹ring›ring();
		this.bells.slice(1).concat(this.row).forEach((b) => b.‹ring›ring());
		this.bells.map(b => new Log())[0].‹line›line();
		this.bells.sort().reverse()[0].‹ring›ring();
		this.bells.at(-1).‹ring›ring();
	}
}
`,
	"javascript: what a name was given last": `
-- kit.js --
class Bell { ‹=ringB›ring() {} }
class Horn { ‹=ringH›ring() {} }
function alert(loud) {
	let x = new Bell();
	x.‹ringB›ring();
	x = new Horn();
	x.‹ringH›ring();
	let y;
	if (loud) {
		y = new Bell();
		y.‹ringB›ring();
	} else {
		y = new Horn();
		y.‹ringH›ring();
	}
	y = null;
	y = new Horn();
	y.‹ringH›ring();
	let z = null;
	z = z || new Horn();
	z.‹ringH›ring();
}
`,
	"javascript: what is passed": `
-- kit.js --
class Bell { ‹=ring›ring() {} }
class Hut {
	constructor(bell, other) { this.bell = bell; this.other = other; }
	alert() { this.bell.‹ring›ring(); this.other.bell.‹ring›ring(); }
	static make(bell) { return new Hut(bell, null); }
}
function sound(bell) { bell.‹ring›ring(); }
const each = (bells) => { for (const b of bells) b.‹ring›ring(); };
sound(new Bell());
each([new Bell()]);
const hut = new Hut(new Bell(), new Hut(new Bell()));
Hut.make(new Bell()).bell.‹ring›ring();
-- old.js --
function Horn(pitch) { this.pitch = pitch; }
Horn.prototype.‹=blow›blow = function () { return this; };
Horn.prototype.twice = function () { this.‹blow›blow(); this.blow().‹blow›blow(); };
function use(horn) { horn.‹blow›blow(); }
use(new Horn(3));
module.exports = { make: function () { return new Horn(1); }, all: [new Horn(2)] };
-- main.js --
const old = require("./old");
old.make().‹blow›blow();
old.all[0].‹blow›blow();
`,
	"javascript: types in comments": `
-- bell.js --
export class Bell { ‹=ring›ring() {} }
/**
 * @typedef {Object} Hut where they are
 * @property {Bell} ‹=bell›bell
 * @property {Bell[]} more
 */
-- kit.js --
import { Bell } from "./bell.js";
/**
 * Rings.
 * @param {Bell} bell - which
 * @param {Array<Bell>} all
 * @param {import('./bell').Hut} hut
 * @param {?string|Bell} [other]
 * @returns {Promise<Bell>}
 */
export function alert(bell, all, hut, other) {
	bell.‹ring›ring();
	all[0].‹ring›ring();
	hut.‹bell›bell.‹ring›ring();
	hut.more[1].‹ring›ring();
	other.‹ring›ring();
}
/** @type {Map<string, Bell>} */
const named = make();
named.get("x").‹ring›ring();
(/** @type {Bell} */ (find())).‹ring›ring();
class Row {
	constructor() {
		/** @type {Bell} */
		this.first = null;
	}
	/** @param {Bell} b */
	add(b) { b.‹ring›ring(); this.first.‹ring›ring(); }
}
async function f() { (await alert()).‹ring›ring(); }
`,
}
