import { Injectable, computed, inject, signal } from '@angular/core';
import type { AttachFile, AttachedTo, FileContent, Id, PictureRole, UploadAnswer } from '@kalvet/core';
import { FILE_LIMITS, kindOfFile, HEAD_BYTES, inWords } from '@kalvet/core';
import { firstValueFrom } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, ApiError, asApiError } from '../shared/api.service';
import { newId, newKey } from '../shared/ids';
import { Live } from '../shared/live.service';

/** What files are hung on. */
export interface Hook {
  readonly subject: AttachedTo;
  readonly subjectId: Id;
  readonly defect?: number | null;
  readonly role?: PictureRole;
  readonly words?: string;
}

/** `broken`: the network has gone; it goes on by itself. */
export type UploadState = 'waiting' | 'sending' | 'looking' | 'broken' | 'done' | 'failed';

/** A file on its way. */
export interface Upload {
  readonly id: Id;
  readonly name: string;
  readonly bytes: number;
  readonly sent: number;
  readonly state: UploadState;
  /** Why it was not taken. */
  readonly wrong: string;
  readonly hook: Hook;
  /** Once it is attached. */
  readonly attachmentId: Id | null;
  readonly content: FileContent | null;
}

/** So many files are sent at once: more would only share the same way. */
const AT_ONCE = 2;
const PATIENCE_MS = [1000, 2000, 4000, 8000, 15_000] as const;

class GivenUp extends Error {}

/**
 * Files on their way to the records: in parts, several at once, taken up where they broke off, and given up when nobody
 * wants them any more. What is sent goes on while one looks at other pages.
 */
@Injectable({ providedIn: 'root' })
export class Uploads {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly all = signal<readonly Upload[]>([]);
  private readonly files = new Map<Id, File>();
  private readonly givenUp = new Set<Id>();
  private running = 0;

  readonly uploads = this.all.asReadonly();
  readonly busy = computed(() => this.all().some(({ state }) => state !== 'done' && state !== 'failed'));

  /** Those of one record, the newest last. */
  of(subjectId: Id): readonly Upload[] {
    return this.all().filter(({ hook }) => hook.subjectId === subjectId);
  }

  /** Sends files and hangs them on a record. @returns the uploads' ids */
  send(files: readonly File[], hook: Hook): Id[] {
    const made = files.map((file) => {
      const id = newId();
      this.files.set(id, file);
      return {
        ...{ id, name: nameOf(file), bytes: file.size, sent: 0, state: 'waiting', wrong: '', hook },
        ...{ attachmentId: null, content: null },
      } as const satisfies Upload;
    });
    this.all.update((list) => [...list, ...made]);
    this.next();
    return made.map(({ id }) => id);
  }

  /** Stops an upload, or takes one that ended off the list. */
  giveUp(id: Id): void {
    this.givenUp.add(id);
    this.files.delete(id);
    this.all.update((list) => list.filter((each) => each.id !== id));
  }

  /** Tries one again that was not taken. */
  again(id: Id): void {
    this.patch(id, { state: 'waiting', wrong: '', sent: 0 });
    this.next();
  }

  private next(): void {
    while (this.running < AT_ONCE) {
      const waiting = this.all().find(({ state }) => state === 'waiting');
      if (!waiting) return;
      this.running++;
      this.patch(waiting.id, { state: 'sending' });
      void this.run(waiting).finally(() => {
        this.running--;
        this.next();
      });
    }
  }

  private async run(upload: Upload): Promise<void> {
    const { id } = upload;
    let server: Id | undefined;
    try {
      const file = this.files.get(id)!;
      await refuseEarly(file);
      const begun = await this.begin(id, file);
      server = begun.id;
      await this.sendParts(id, file, begun);
      this.patch(id, { state: 'looking' });
      const content = await this.patiently(id, () => this.api.ask<FileContent>(`/files/${begun.id}/end`, {}));
      this.patch(id, { content });
      const attachmentId = await this.attach(upload, content);
      this.patch(id, { state: 'done', sent: file.size, attachmentId });
      this.files.delete(id);
      this.live.wrote();
    } catch (failure) {
      if (failure instanceof GivenUp) {
        if (server) this.api.ask(`/files/${server}/give-up`, {}).subscribe({ error: () => undefined });
        return;
      }
      this.patch(id, { state: 'failed', wrong: asApiError(failure).message });
    }
  }

  private begin(id: Id, file: File): Promise<UploadAnswer> {
    const fingerprint = `${file.name} ${file.size} ${file.lastModified}`.slice(0, 300);
    const body = { id: newId(), name: nameOf(file), bytes: file.size, fingerprint };
    return this.patiently(id, () => this.api.ask<UploadAnswer>('/files', body));
  }

  private async sendParts(id: Id, file: File, { id: server, parts, partBytes }: UploadAnswer): Promise<void> {
    const here = new Set(parts);
    const sizeOf = (part: number) => Math.min(partBytes, file.size - part * partBytes);
    let sent = parts.reduce((sum, part) => sum + sizeOf(part), 0);
    for (let part = 0; part * partBytes < file.size; part++) {
      if (here.has(part)) continue;
      const data = file.slice(part * partBytes, (part + 1) * partBytes);
      await this.patiently(id, () => this.api.putPart(`/files/${server}/parts/${part}`, data));
      sent += sizeOf(part);
      this.patch(id, { sent, state: 'sending' });
    }
  }

  private async attach({ id, hook, name }: Upload, content: FileContent): Promise<Id> {
    const { subject, subjectId, defect = null, role = 'seen', words = '' } = hook;
    const isPicture = content.kind === 'picture';
    const body: AttachFile = {
      ...{ id: newId(), contentId: content.id, subject, subjectId, defect, name, words, pins: [], at: null },
      role: isPicture ? role : 'seen',
    };
    const key = newKey();
    await this.patiently(id, () => this.api.post('/attachments', body, key));
    return body.id;
  }

  /** Asks until the records answer: what broke off goes on as soon as there is a way again. */
  private async patiently<T>(id: Id, ask: () => Observable<T>): Promise<T> {
    for (let tried = 0; ; tried++) {
      if (this.givenUp.has(id)) throw new GivenUp();
      try {
        return await firstValueFrom(ask());
      } catch (failure) {
        const error = asApiError(failure);
        if (error.error.code !== 'unavailable') throw error;
        this.patch(id, { state: 'broken' });
        await later(PATIENCE_MS[Math.min(tried, PATIENCE_MS.length - 1)]!);
        if (this.givenUp.has(id)) throw new GivenUp();
        this.patch(id, { state: 'sending' });
      }
    }
  }

  private patch(id: Id, with_: Partial<Upload>): void {
    this.all.update((list) => list.map((each) => (each.id === id ? { ...each, ...with_ } : each)));
  }
}

const later = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** What a pasted picture or one from the camera is called, which have no name of their own. */
const nameOf = ({ name }: File): string => (name.trim() === '' ? 'picture' : name).slice(-200);

/** Says what will not be taken before it is sent. @throws ApiError */
async function refuseEarly(file: File): Promise<void> {
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  const found = kindOfFile(head, { name: nameOf(file), bytes: file.size });
  if ('refused' in found) throw new ApiError({ code: 'invalid', message: `${inWords(found.refused)}.` });
}

/** What may be sent, in a line. */
export const TAKEN = `Pictures up to ${FILE_LIMITS.pictureBytes / 1e6} MB, models up to ${FILE_LIMITS.modelBytes / 1e6} MB, PDFs.`;
