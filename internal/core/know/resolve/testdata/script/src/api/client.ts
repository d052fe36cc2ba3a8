import type { Callout } from './types';  //@use Callout
import { Status } from './types';  //@use Status

/** Talks to the dispatch service. */
export class Client {  //@def Client
  static shared = new Client('x');  //@def shared @use Client
  private base: string;  //@def base
  last?: Callout;  //@def last @use Callout

  constructor(base: string, private readonly retries = 3) {  //@def base:param @def retries
    this.base = base;  //@use base @use base:param#2
  }

  async callouts(): Promise<Callout[]> {  //@def callouts @use Callout
    const answer = await fetch(this.base);  //@def answer @outside fetch @use base
    return answer.json() as Callout[];  //@use answer
  }

  open(list: Callout[]): Callout[] {  //@def open @def list:open
    return list.filter((c) => c.status === Status.Open);  //@use list:open @use Status @use Open
  }

  again() {
    return this.open([]).length + this.retries;  //@use open @use retries
  }
}

export function connect(url: string): Client {  //@def connect @use Client @def url
  return new Client(url);  //@use Client @use url
}

export const delays = { short: 1, long() { return delays.short; } };  //@def delays @def short @def long @use short#2

export default connect;  //@use connect
