export enum Status {  //@def Status
  Open = 'open',  //@def Open
  Closed = 'closed',
}

export interface Person { name: string }  //@def Person @def name

export interface Callout extends Person {  //@def Callout @use Person
  valley: string;  //@def valley
  status: Status;  //@def status @use Status
  team?: { leader: Person };  //@def team @def leader @use Person
}
