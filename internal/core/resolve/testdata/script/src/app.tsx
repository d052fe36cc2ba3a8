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
