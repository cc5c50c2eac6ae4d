import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

/** How often the records are copied by themselves, how many copies stay, and where a second one goes. */
export interface BackupWishes {
  readonly everyHours: number;
  readonly keep: number;
  /** A folder on the server's machine, best on another disk; empty for none. */
  readonly secondFolder: string;
}

export const BACKUP_WISHES: BackupWishes = { everyHours: 6, keep: 28, secondFolder: '' };

/** How often a copy can be made, in hours. */
export const BACKUP_HOURS = [1, 3, 6, 12, 24] as const;
/** A shop whose newest proven copy is older than this would lose more than a day's work. */
export const BACKUP_OLD_HOURS = 24;

export const BACKUP_STATES = ['wanted', 'running', 'checked', 'failed'] as const;
export type BackupState = (typeof BACKUP_STATES)[number];

/** One copy of the records. Only one that was read back and found the same is `checked`. */
export interface Backup {
  readonly id: Id;
  readonly why: string;
  readonly state: BackupState;
  readonly askedAt: Instant;
  readonly madeAt: Instant | null;
  readonly checkedAt: Instant | null;
  readonly file: string | null;
  readonly bytes: number | null;
  readonly change: number | null;
  /** Where the second copy lies. */
  readonly second: string | null;
  readonly error: string | null;
}

export interface SaveBackupWishes extends BackupWishes {
  readonly version: number;
}

export interface BackupsAnswer {
  readonly version: number;
  readonly wishes: BackupWishes;
  readonly backups: readonly Backup[];
  readonly now: Instant;
}

export type DiskState = 'well' | 'low' | 'full';

/** How much room is left where the records lie. */
export interface Disk {
  readonly freeMb: number;
  readonly state: DiskState;
}

/** Below this the disk is said to fill up. */
export const DISK_LOW_MB = 1024;
/** Below this nothing is written any more: the database needs what is left to end in order. */
export const DISK_FULL_MB = 200;

/** What free room means. */
export const diskState = (freeMb: number): DiskState =>
  freeMb < DISK_FULL_MB ? 'full' : freeMb < DISK_LOW_MB ? 'low' : 'well';

/** What whoever keeps the shop running must know, whatever page they look at. */
export interface StandingAnswer {
  readonly now: Instant;
  /** None where the database lies elsewhere. */
  readonly disk: Disk | null;
  readonly backup: {
    readonly checkedAt: Instant | null;
    readonly overdue: boolean;
    /** What went wrong with the newest try. */
    readonly trouble: string | null;
  };
}
