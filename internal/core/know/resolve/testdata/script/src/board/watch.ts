import { Siren } from './siren';
import type { Options } from './siren';

export interface Watch { hours: number } //@def Watch:type
export const Watch = { begin(): Siren { return new Siren(); } }; //@def Watch:value //@def begin

export type Place = { valley: string; siren: Siren }; //@def valley:place //@def siren:place

function howls(list: Siren[], one: { tone: number }, watch: Watch) { //@def tone //@use Watch:type
  one.tone; //@use tone
  Watch.begin().howl(); //@use Watch:value //@use begin //@use howl
  list.forEach(s => s.howl()); //@use howl
  list.filter(s => s.other).map(s => s.other)[0].howl(); //@use howl //@use other
  const huts = new Map<string, Siren>();
  huts.get('a').howl(); //@use howl
  for (const s of list) s.howl(); //@use howl
  const { siren, valley } = here(); //@use here
  siren.howl(); //@use howl
  made().siren.howl(); //@use howl //@use made
  run(s => s.howl()); //@use howl
  const maybe: Siren | undefined = list[0];
  maybe?.howl(); //@use howl
  const some: Partial<Options> = {};
  some.loud; //@use loud
}

function here(): Place { return { valley: 'tarn', siren: new Siren() }; } //@def here
const made = () => ({ siren: new Siren() }); //@def made
function run(f: (s: Siren) => void) {} //@def run

class Ground { tone = 1; } //@def Ground
class Loud extends Ground { //@def Loud
  private box: Chest<Siren>; //@def box
  constructor() {
    super();
    this.tone = 2;
    this.box = new Chest<Siren>(); //@use box
    this.box.value.howl(); //@use howl
    this.box.map(s => s.other).value.howl(); //@use other //@use howl
  }
}
class Chest<T> { //@def Chest
  value: T; //@def value
  map<R>(f: (v: T) => R): Chest<R> { return null; } //@def map:of
}
type Last<T> = T extends (a: infer Arg) => any ? Arg : never;
