package resolve_test

// casesOfTypeScript are of what the types of values are worked out by that do not say them.
var casesOfTypeScript = map[string]string{
	"typescript: types as newer compilers read them": `
-- hut.ts --
export interface Hut<
	/** How high. */
	in out ‹=t›T,
	out U = unknown> {
	‹=level›level: ‹t›T
	<K>(key: K): U
}
export type * from "./way";
-- way.ts --
type ‹=made›Made<A> = { a: A }

export interface Maker {
	(name: string): string

	/** One with what is made. */
	<‹=recipe›Recipe extends Function>(recipe: ‹recipe›Recipe): ‹made›Made<
		‹recipe›Recipe
	>
	<‹=state›State>(
		recipe: (state: ‹state›State) => boolean
	): (state?: ‹state›State) => ‹state›State
	‹=last›last: boolean
}
export class Box<T> { ‹=item›item!: T }
function climb(m: Maker, b: import("./way").Box<string>) { return m.‹last›last && b.‹item›item; }
export const after = (a: number, b: number) => a
	< b;
`,
	"typescript: what type parameters usually stand for": `
-- a.ts --
interface Bell { ‹=ring›ring: number }
interface Kept<T extends Bell = Bell, D = T["‹ring›ring"]> { ‹=value›value: T; other: D }
type Some<T extends Bell = Bell> = Kept<T>;
function make<T extends object = Bell>(name?: string): T { return {} as T; }
function climb(a: Kept, b: Some) { return a.value.‹ring›ring + b.‹value›value.‹ring›ring + make().‹ring›ring; }
`,
	"typescript: the constructor of a base, with what that is made for": `
-- a.ts --
interface Def { ‹=note›note: string }
interface BellDef extends Def { ‹=loud›loud: boolean }
abstract class Base<D extends Def = Def> { constructor(readonly def: D) {} }
class Middle<D extends Def> extends Base<D> {}
class Bell extends Middle<BellDef> {
	static make() { return new Bell({ ‹loud›loud: true, ‹note›note: "b" }); }
}
`,
	"typescript: what a call is wanted for": `
-- a.ts --
interface Trait { ‹=any›def: unknown }
interface Bell extends Trait { ‹=own›def: { ‹=loud›loud: boolean } }
interface Of<‹=of›T extends Trait, D = T["‹any›def"]> { make(d: D): T }
declare function maker<T extends Trait, D = T["‹any›def"]>(name: string, first: (inst: T, def: D) => void): Of<T, D>;
export const bell: Of<Bell> = maker("bell", (inst, def) => { inst.‹own›def; def.‹loud›loud; });
function ring(M: Maker2<Bell>) { return new M({ ‹loud›loud: true }); }
type Maker2<T extends Trait> = { new (def: T["‹any›def"]): T };
`,
	"typescript: functions that are given back where some are wanted": `
-- a.ts --
interface Call { ‹=at›at: number; ‹=from›from: string }
type Answer = (call: Call) => { ‹=text›text: string };
const german: () => Answer = () => {
	return (call) => {
		if (call.‹at›at > 3) return { ‹text›text: call.‹from›from };
		return { ‹text›text: "" };
	};
};
const french: () => Answer = () => (call) => ({ ‹text›text: call.‹from›from });
const slow: () => Promise<Call> = async () => { return { ‹at›at: 1, ‹from›from: "" }; };
const all: Record<string, Call> = { "first of all": { ‹at›at: 1, ‹from›from: "a" } };
`,
	"typescript: an object by the members that it has": `
-- a.ts --
enum Kind { bell, horn }
interface Bell { ‹=bellKind›kind: Kind.bell; ‹=bellLevel›level: number }
interface Horn { ‹=hornKind›kind: Kind.horn; ‹=hornLevel›level: number; ‹=tone›tone: string }
interface Lamp { ‹=lampKind›kind: "lamp"; ‹=lampLevel›level: number }
function alert(signal: Bell | Horn | Lamp) {}
alert({ ‹bellKind›kind: Kind.bell, ‹bellLevel›level: 1 });
alert({ ‹hornKind›kind: Kind.horn, ‹hornLevel›level: 1, ‹tone›tone: "a" });
alert({ ‹lampKind›kind: "lamp", ‹lampLevel›level: 1 });

interface Listen {
	(options: { ‹=noName›name?: never; ‹=test›test: () => boolean; ‹=effect›effect: () => void }): void
	(options: { ‹=name›name: string; ‹=noTest›test?: undefined; ‹=other›effect: () => void }): void
}
declare const listen: Listen;
listen({ ‹name›name: "a", ‹other›effect() {} });
listen({ ‹test›test: () => true, ‹effect›effect: () => {} });
`,
}
