export class Siren { //@def Siren
  howl(): void {} //@def howl
  other: Siren; //@def other
}
export interface Options { loud: boolean } //@def loud
