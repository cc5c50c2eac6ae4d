import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id, Room } from './common.ts';
import type { How } from './how.ts';

/** What an event can concern: the one list. */
export const SUBJECTS = [
  'order',
  'client',
  'piece',
  'work',
  'tree',
  'cast',
  'mould',
  'load',
  'heat',
  'step',
  'person',
  'lot',
  'crucible',
  'instrument',
  'drying place',
  'tank',
  'supply',
  'profile',
] as const;
export type Subject = (typeof SUBJECTS)[number];

/** Every verb an event can have: a closed list. */
export const VERBS = [
  'set up work',
  'change work',
  'remove work',
  'change piece',
  'hold',
  'release',
  'cancel',
  'model again',
  'start step',
  'record step',
  'insert step',
  'lose cast',
  'plan load',
  'record load',
  'abandon load',
  'plan heat',
  'change heat',
  'confirm crew',
  'pour',
  'finish heat',
  'abandon heat',
  'read heat',
  'light furnace',
  'shell out',
  'set in pit',
  'save lot',
  'count metal',
  'save crucible',
  'look at crucible',
  'save instrument',
  'take back',
  'add person',
  'change person',
  'change settings',
  'pin step',
  'save client',
  'save order',
  'open item',
  'close item',
  'take plan',
  'keep records',
  'decide',
  'change staffing',
  'keep draft',
  'take draft',
  'drop draft',
  'renew address',
  'save visit',
  'attach file',
  'change file',
  'put file away',
  'save model',
  'put model away',
  'estimate section',
  'set way up',
  'set silhouette',
  'read climate',
  'import climate',
  'save drying place',
  'hang trees',
  'look at coat',
  'air moved',
  'save coat plan',
  'change coats',
  'save tank',
  'check tank',
  'decide tank',
  'save supply',
  'set shape',
  'light load',
  'read kiln',
  'import kiln',
  'save profile',
  'measure tree',
] as const;
export type Verb = (typeof VERBS)[number];

/** What can be taken back: records of the work, not the setting up of works and people. */
export const TAKEN_BACK: ReadonlySet<Verb> = new Set<Verb>([
  'start step',
  'record step',
  'insert step',
  'lose cast',
  'hold',
  'release',
  'cancel',
  'model again',
  'plan load',
  'record load',
  'abandon load',
  'plan heat',
  'confirm crew',
  'pour',
  'finish heat',
  'abandon heat',
  'read heat',
  'light furnace',
  'shell out',
  'set in pit',
  'count metal',
  'look at crucible',
  'decide',
  'attach file',
  'put file away',
  'put model away',
  'estimate section',
  'set way up',
  'set silhouette',
  'hang trees',
  'look at coat',
  'change coats',
  'check tank',
  'decide tank',
  'save supply',
  'light load',
]);

/** The event that a write leaves behind. */
export interface EventDraft {
  readonly verb: Verb;
  readonly text: Text;
  readonly room?: Room | null;
  readonly doneAt?: Instant;
  readonly reason?: string | null;
  /** Something went wrong in the work: shown in the alert colour. */
  readonly bad?: boolean;
}

export interface HistoryLine {
  readonly number: number;
  readonly verb: Verb;
  readonly text: Text;
  readonly room: Room | null;
  readonly at: Instant;
  readonly typedAt: Instant;
  readonly actor: string;
  /** How sure it is that it was they; null for what Kalvet did by itself. */
  readonly how: How | null;
  readonly reason: string | null;
  readonly bad: boolean;
  readonly takenBack: boolean;
  readonly mayTakeBack: boolean;
}

/** A record that an event concerns. */
export type Concern = readonly [subject: Subject, id: Id];
