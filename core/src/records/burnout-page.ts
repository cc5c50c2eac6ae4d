import type { FiringState, LoadPurpose } from './burnout.ts';
import type { Id } from './common.ts';

export interface LoadAnswer {
  readonly id: Id;
  readonly number: number;
  readonly purpose: LoadPurpose;
  readonly state: FiringState;
  readonly trees: readonly { readonly treeId: Id; readonly label: string; readonly outcome: string | null }[];
  readonly version: number;
}
