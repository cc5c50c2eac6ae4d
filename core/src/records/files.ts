import type { Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';

export const FILE_KINDS = ['picture', 'model', 'paper'] as const;
/** What a file is by its content: a picture, a model of a sculpture, or a document to read (PDF). */
export type FileKind = (typeof FILE_KINDS)[number];

/** What a file can be attached to. A defect is a line of an inspection's record: the step, and which line. */
export const ATTACHED_TO = [
  'work',
  'section',
  'piece',
  'mould',
  'pull',
  'cast',
  'tree',
  'step',
  'load',
  'heat',
  'order',
] as const;
export type AttachedTo = (typeof ATTACHED_TO)[number];

/** What a picture of a work is: the original, what every cast is compared with, or anything that was seen. */
export const PICTURE_ROLES = ['seen', 'reference', 'original'] as const;
export type PictureRole = (typeof PICTURE_ROLES)[number];

export const PICTURE_ROLE_NAMES: Readonly<Record<PictureRole, string>> = {
  seen: 'as it was seen',
  reference: 'reference view',
  original: 'the original',
};

/** A place on a picture, as shares of its width and height from its upper left corner, and what is there. */
export interface Pin {
  readonly x: number;
  readonly y: number;
  readonly words: string;
}

/** What is kept of a file beside its bytes. */
export interface FileContent {
  readonly id: Id;
  readonly kind: FileKind;
  readonly mime: string;
  readonly bytes: number;
  /** Of a picture, as it is kept. */
  readonly width: number | null;
  readonly height: number | null;
}

/** A file at a record. The same content may be attached to several. */
export interface Attachment {
  readonly id: Id;
  readonly contentId: Id;
  readonly subject: AttachedTo;
  readonly subjectId: Id;
  /** Which line of an inspection's defects it shows, from 0. */
  readonly defect: number | null;
  /** The file's own name, as it was given. */
  readonly name: string;
  readonly role: PictureRole;
  /** What is seen, or the view's name: `left side`. */
  readonly words: string;
  readonly pins: readonly Pin[];
  /** When it was taken, or attached where nobody says. */
  readonly at: Instant;
  readonly byId: Id | null;
  /** Why it was put away; a picture that was attached is never erased. */
  readonly voidReason: string | null;
  readonly version: number;
}

/** An upload begins: what it will be. Nothing of it is trusted but the name. */
export interface BeginUpload {
  readonly id: Id;
  readonly name: string;
  readonly bytes: number;
  /** What makes it the same file of the same browser again, so that it is taken up where it broke off. */
  readonly fingerprint: string;
}

/** How far an upload is. */
export interface UploadAnswer {
  /** Of the upload that goes on: another than was asked, where one of the same file was broken off. */
  readonly id: Id;
  /** Which parts are here already. */
  readonly parts: readonly number[];
  readonly partBytes: number;
}

export interface AttachFile {
  readonly id: Id;
  readonly contentId: Id;
  readonly subject: AttachedTo;
  readonly subjectId: Id;
  readonly defect: number | null;
  readonly name: string;
  readonly role: PictureRole;
  readonly words: string;
  readonly pins: readonly Pin[];
  readonly at: Instant | null;
}

export interface ChangeAttachment {
  readonly version: number;
  readonly defect: number | null;
  readonly role: PictureRole;
  readonly words: string;
  readonly pins: readonly Pin[];
}

export interface RemoveAttachment {
  readonly version: number;
  readonly reason: string;
}

/** A file as a strip shows it: with what it hangs on, in words. */
export interface AttachmentView extends Attachment {
  readonly content: FileContent;
  readonly by: string | null;
  /** `Wax chasing, B Wing` or the like; empty where it hangs on what is being looked at. */
  readonly on: string;
  /** The piece's mark, where it is of one. */
  readonly mark: string | null;
  readonly room: Room | null;
  /** The defects that the inspection it hangs on wrote down: it may show one of them. */
  readonly defects?: readonly string[];
}

/** Pictures that others are held beside: the work's references, another piece's. */
export interface BesideGroup {
  readonly title: string;
  readonly attachments: readonly AttachmentView[];
}

export interface AttachmentsAnswer {
  readonly change: number;
  /** What they hang on, and the page it is on. */
  readonly title: string;
  readonly path: string;
  readonly attachments: readonly AttachmentView[];
  readonly beside: readonly BesideGroup[];
}

/** What may be sent, said before anything is. */
export const FILE_LIMITS = {
  pictureBytes: 60e6,
  modelBytes: 250e6,
  paperBytes: 60e6,
  /** More than any camera gives, and as much as can be opened without taking the machine. */
  pictureMegapixels: 120,
  /** How long the larger side of a picture is kept, px; what is shown on a page; what stands in a strip. */
  keptPx: 4096,
  largePx: 1600,
  smallPx: 360,
  partBytes: 1024 * 1024,
  /** Uploads that one person may have begun and not ended. */
  begun: 40,
  pins: 40,
  /** Attached to one record. */
  attached: 400,
} as const;
