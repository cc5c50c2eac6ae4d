import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { AttachedTo, AttachmentView, AttachmentsAnswer, Id } from '@kalvet/core';
import { pageData } from '../shared/page-data';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { Camera } from './camera.component';
import { altOf, captionOf, sizeOf } from './file-words';
import { TAKEN, Uploads } from './uploads.service';
import type { Hook, Upload } from './uploads.service';

/** Pictures in a strip before the rest is behind a word. */
const SHOWN = 12;

/** What hangs on a record: a strip of its pictures in time, its papers, and the ways to add to them. */
@Component({
  selector: 'kv-files',
  imports: [Camera, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:paste)': 'pasted($event)' },
  templateUrl: './files.component.html',
  styleUrl: './files.component.css',
})
export class Files {
  private readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  protected readonly uploads = inject(Uploads);
  readonly subject = input.required<AttachedTo>();
  readonly subjectId = input.required<Id>();
  /** What it is, for who cannot see the page. */
  readonly label = input('this');
  /** What newly added pictures show or are. */
  readonly hook = input<Omit<Hook, 'subject' | 'subjectId'>>({});
  readonly shownMost = input(SHOWN);
  /** Asked of nobody who has nothing to add: the strip stands only where there are pictures. */
  readonly readOnly = input(false);
  /** Takes what is pasted anywhere on its page. */
  readonly pastes = input(false);
  readonly added = output();

  private readonly page = pageData<AttachmentsAnswer>(
    () => `/attachments?subject=${this.subject()}&id=${this.subjectId()}`,
  );
  private readonly all = computed(() => this.page.answer()?.attachments ?? []);
  protected readonly pictures = computed(() => this.all().filter(({ content }) => content.kind === 'picture'));
  protected readonly papers = computed(() => this.all().filter(({ content }) => content.kind !== 'picture'));
  /** The newest; none where its page shows them itself. */
  protected readonly shown = computed(() => {
    const most = this.shownMost();
    return most === 0 ? [] : this.pictures().slice(-most);
  });
  protected readonly more = computed(() => (this.shownMost() === 0 ? 0 : this.pictures().length - this.shown().length));
  protected readonly seen = computed(() => this.all().length > 0);
  protected readonly coming = computed(() => this.uploads.of(this.subjectId()).filter(({ state }) => state !== 'done'));
  protected readonly mayAdd = computed(() => !this.readOnly() && this.session.may('attach file'));
  protected readonly camera = signal(false);
  protected readonly over = signal(false);
  protected readonly hasCamera = 'mediaDevices' in navigator && navigator.mediaDevices !== undefined;
  protected readonly taken = TAKEN;
  protected readonly altOf = (each: AttachmentView) => altOf(each, this.shop);
  protected readonly captionOf = (each: AttachmentView) => captionOf(each, this.shop);
  protected readonly sizeOf = sizeOf;

  constructor() {
    let done = 0;
    effect(() => {
      const now = this.uploads.of(this.subjectId()).filter(({ state }) => state === 'done').length;
      if (now > done) {
        this.page.read();
        this.added.emit();
      }
      done = now;
    });
  }

  protected stateOf({ state, sent, bytes }: Upload): string {
    if (state === 'broken') return 'no connection; it goes on by itself';
    if (state === 'looking') return 'looking at it …';
    return state === 'waiting' ? 'waits' : `${sizeOf(sent)} of ${sizeOf(bytes)}`;
  }

  protected add(files: readonly File[]): void {
    if (files.length === 0 || !this.mayAdd()) return;
    this.uploads.send(files, { ...this.hook(), subject: this.subject(), subjectId: this.subjectId() });
  }

  protected chosen(event: Event): void {
    const field = event.target as HTMLInputElement;
    this.add([...(field.files ?? [])]);
    // The same file again is another choice.
    field.value = '';
  }

  protected dragged(event: DragEvent): void {
    if (!this.mayAdd() || !event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.over.set(true);
  }

  protected dropped(event: DragEvent): void {
    this.over.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    this.add(files);
  }

  protected pasted(event: ClipboardEvent): void {
    if (!this.pastes() || event.defaultPrevented) return;
    const files = [...(event.clipboardData?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    this.add(files);
  }
}
