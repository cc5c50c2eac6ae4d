import type { Units } from '../units/system.ts';
import type { Id } from './common.ts';

export interface AddPerson {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  readonly mayOverride: boolean;
}

export interface ChangePerson {
  readonly version: number;
  readonly name?: string | undefined;
  readonly mayOverride?: boolean | undefined;
  readonly active?: boolean | undefined;
  readonly units?: Units | undefined;
}
