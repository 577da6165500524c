/** What the pages show. Lengths and depths in metres, prices in pence, days as ISO text. */
import type { KeptFile } from './data/files.ts';

export interface Berth {
  id: number;
  pontoon: string;
  name: string;
  length: number;
  depth: number;
  /** The price of a night. */
  nightly: number;
  power: boolean;
  water: boolean;
  free: boolean;
  /** The day on which it becomes free; missing where it is free now. */
  freeFrom?: string | undefined;
}

export interface BerthSearch {
  /** Part of a berth’s name. */
  q?: string | undefined;
  /** At least so long. */
  length?: number | undefined;
  /** Only those that are free today. */
  free: boolean;
  page: number;
}

export interface Boat {
  id: number;
  name: string;
  kind: 'sail' | 'motor' | 'rowing';
  length: number;
  homePort: string;
  skipper: string;
  /** The last day of the insurance. */
  insuredUntil: string | null;
  about: string | null;
  photo: KeptFile | null;
  insurance: KeptFile | null;
  /** Grows with every change. */
  revision: number;
}

export interface CrewMember {
  name: string;
  /** In years. */
  age: number;
}

export interface Stay {
  id: number;
  boat: string;
  from: string;
  until: string;
  status: 'requested' | 'accepted' | 'refused';
}

export interface Comment {
  id: number;
  author: string;
  /** When it was written, as ISO text. */
  at: string;
  text: string;
  /** Whether a picture came with it. */
  hasPicture: boolean;
  answers: Comment[];
}

export interface Arrival {
  id: number;
  at: string;
  boat: string;
  kind: 'sail' | 'motor' | 'rowing';
  berth: string;
  berthId: number;
  lastPort: string;
}
