import standard, { Api, connect as link, Status } from './api';  //@use standard:connect @use Api:Client @use connect @use Status
import * as types from './api/types';
import helper, { twice } from './helper.js';  //@use helper:assist @use twice

type Props = { api: Api; onOpen: (id: string) => void };  //@def Props @def api:props @def onOpen @use Api:Client

export function App({ api, onOpen }: Props) {  //@def App @def api:local @def onOpen:local @use Props
  const first = link('x');  //@use link:connect @def first
  const callouts = first.open([]);  //@use first @use open @def callouts:local
  const [top, ...others] = callouts;  //@def top @def others @use callouts:local
  for (const c of callouts) {  //@def c:for @use callouts:local
    console.log(c.valley, c.team.leader.name);  //@use valley @use team @use leader @use name @outside log
  }
  top.valley = twice(2);  //@use top @use valley @use twice
  const state: types.Status = Status.Open;  //@use Status#1 @use Open
  return <Panel title={api.again()} onClose={() => onOpen(top.name)} />;  //@use Panel @use api:local @use onOpen:local @use name
}

const Panel = ({ title }: { title: number }) => <b>{title}</b>;  //@def Panel @def title @def title:type#2 @use title#3

interface Box<T> extends Holder<T> { item: T }  //@def Box @def T:box @use Holder @use T:box#2 @use T:box#3
interface Holder<T> { held: T }  //@def Holder @def T:holder @def held:holder
class Crate<U extends Api> extends Base<U> implements Box<U> { item: U; }  //@def Crate @def U @use U#2 @use U#3 @use U#4 @use Base @use Box @use Api:Client
class Base<V> { held: V }  //@def Base @def V @def held
type Keys<W> = { [K in keyof W]: W[K] };  //@def Keys @def W @def K @use W#2 @use K#2
type Item<X> = X extends Box<infer Y> ? Y : never;  //@def Item @def X @use X#2 @def Y @use Y#2
function unbox(c: Crate<Api>) { return c.held; }  //@use Crate @use held
