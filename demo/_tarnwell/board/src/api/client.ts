import type { Callout, Skill, Team } from './types';

/** What the dispatch service said when it would not do what was asked. */
export class RefusedError extends Error {
  constructor(readonly status: number, words: string) {
    super(words);
  }
}

/** Talks to the dispatch service. */
export class Client {
  private readonly base: string;
  private retries = 2;

  constructor(base: string) {
    this.base = base.replace(/\/$/, '');
  }

  /** The call-outs that wait for a team, urgent ones first. */
  async waiting(): Promise<Callout[]> {
    return this.get<Callout[]>('/callouts');
  }

  async teams(): Promise<Team[]> {
    return this.get<Team[]>('/teams');
  }

  async open(valley: string, needs: Skill[], note: string): Promise<Callout> {
    return this.post<Callout>('/callouts', { valley, needs, note });
  }

  async close(callout: Callout): Promise<Callout> {
    return this.post<Callout>(`/callouts/${callout.id}/close`, {});
  }

  private async get<T>(path: string): Promise<T> {
    for (let attempt = 0; ; attempt++) {
      try {
        return await read<T>(await fetch(this.base + path));
      } catch (error) {
        if (error instanceof RefusedError || attempt >= this.retries) throw error;
      }
    }
  }

  private async post<T>(path: string, body: unknown): Promise<T> {
    return read<T>(await fetch(this.base + path, { method: 'POST', body: JSON.stringify(body) }));
  }
}

async function read<T>(response: Response): Promise<T> {
  const body = await response.json();
  if (!response.ok) {
    throw new RefusedError(response.status, body.error ?? response.statusText);
  }
  return body as T;
}
