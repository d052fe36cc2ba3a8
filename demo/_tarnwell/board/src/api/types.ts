/** How far a call-out is; the numbers are those of the dispatch service. */
export enum Status {
  Open = 0,
  Assigned = 1,
  Closed = 2,
}

export enum Level {
  Low = 1,
  Moderate,
  Considerable,
  High,
  VeryHigh,
}

export type Skill = 'rope' | 'medic' | 'dog' | 'cave' | 'ski' | 'stream';

export interface Named {
  name: string;
}

export interface Callout {
  id: number;
  valley: string;
  needs: Skill[];
  status: Status;
  team?: string;
  opened: string;
  note: string;
}

export interface Team extends Named {
  valley: string;
  skills: Skill[];
  /** The valley the team is in while it is on a call-out. */
  out: string;
}
