enum Sky { Clear, Fog }
interface Snow { kind: "snow"; sky: Sky.Clear; deep: number; ok: true } // @def deep:snow
interface Wind { kind: "wind"; sky: Sky.Fog; gust: number; deep: string; ok: false } // @def gust @def deep:wind
interface Rain { kind: "rain"; deep: boolean; wet: number; ok: false } // @def deep:rain @def wet
type Weather = Snow | Wind | Rain;
class Probe { deep = 1; } // @def deep:probe
class Mast { deep = 2; } // @def deep:mast

function bySwitch(w: Weather): number {
  switch (w.kind) {
    case "snow":
      return w.deep; // @use deep:snow
    case "rain":
    case "none":
      return w.deep ? w.wet : 0; // @use deep:rain @use wet
    default:
      return w.deep; // @use deep:snow
  }
}
function byTest(w: Weather) {
  if (w.kind === "wind") {
    return w.deep; // @use deep:wind
  } else if (w.kind === "rain") {
    return w.deep; // @use deep:rain
  }
  return w.deep; // @use deep:snow
}
function byLeaving(list: Weather[]) {
  for (const w of list) {
    if (w.kind !== "snow") continue;
    w.deep; // @use deep:snow
  }
  for (const w of list) w.deep; // @use deep:snow
}
function inline(w: Weather, m: Snow | Wind) {
  const a = w.kind === "rain" && w.deep; // @use deep:rain
  const b = w.kind === "wind" ? w.deep : 0; // @use deep:wind
  const c = w.kind !== "wind" || w.deep; // @use deep:wind
  const d = m.sky === Sky.Fog ? m.deep : 0; // @use deep:wind
  const e = m.ok ? m.deep : 0; // @use deep:snow
  const f = !m.ok && m.deep; // @use deep:wind
  const g = "wet" in w && w.deep; // @use deep:rain
  return [a, b, c, d, e, f, g];
}
function byClass(p: Probe | Mast) {
  if (p instanceof Mast) return p.deep; // @use deep:mast
  return p.deep; // @use deep:probe
}
class Reader<T> { last!: T }
class WeatherReader extends Reader<Wind> {
  read() { return this.last.gust; } // @use gust
}
