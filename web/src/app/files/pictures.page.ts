import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { AttachedTo, AttachmentView, AttachmentsAnswer, Id, PictureRole, Pin } from '@kalvet/core';
import { FILE_LIMITS, PICTURE_ROLES, PICTURE_ROLE_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { TextareaModule } from 'primeng/textarea';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { altOf, captionOf } from './file-words';
import { Files } from './files.component';
import { Picture } from './picture.component';

/** One picture; two beside each other; one over the other with a slider between. */
const WAYS = [
  { code: 'one', label: 'One' },
  { code: 'beside', label: 'Beside each other' },
  { code: 'over', label: 'One over the other' },
] as const;
type Way = (typeof WAYS)[number]['code'];

/** All pictures of a record: one large with its places, two compared, and the strip of all in time. */
@Component({
  selector: 'kv-pictures',
  imports: [ButtonModule, Choices, Field, Files, FormsModule, InputTextModule, May, Picture, Refusal, TextareaModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'walk($event)' },
  templateUrl: './pictures.page.html',
  styleUrl: './pictures.page.css',
})
export class PicturesPage {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  readonly subject = input.required<AttachedTo>();
  readonly id = input.required<Id>();
  /** The picture that is looked at, and the one it is held beside. */
  readonly picture = input<Id>();
  readonly beside = input<Id>();
  readonly view = input<string>();

  protected readonly page = pageData<AttachmentsAnswer>(() => `/attachments?subject=${this.subject()}&id=${this.id()}`);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly ways = WAYS;
  protected readonly roles = PICTURE_ROLES.map((code) => ({ code, label: PICTURE_ROLE_NAMES[code] }));
  protected readonly altOf = (each: AttachmentView) => altOf(each, this.shop);
  protected readonly captionOf = (each: AttachmentView) => captionOf(each, this.shop);

  protected readonly way = computed<Way>(() => WAYS.find(({ code }) => code === this.view())?.code ?? 'one');
  protected readonly groups = computed(() => {
    const { attachments = [], beside = [], title = '' } = this.answer() ?? {};
    return [{ title, attachments }, ...beside]
      .map((group) => ({
        ...group,
        attachments: group.attachments.filter(({ content }) => content.kind === 'picture'),
      }))
      .filter((group) => group.attachments.length > 0);
  });
  protected readonly pictures = computed(() => this.groups().flatMap(({ attachments }) => attachments));
  protected readonly place = computed(() => {
    const asked = this.pictures().findIndex(({ id }) => id === this.picture());
    // Without a choice the newest of its own is looked at.
    return asked >= 0 ? asked : (this.groups()[0]?.attachments.length ?? 0) - 1;
  });
  protected readonly at = computed(() => this.pictures()[this.place()]);
  protected readonly other = computed(() => {
    const asked = this.pictures().find(({ id }) => id === this.beside());
    const reference = this.answer()?.beside[0]?.attachments[0];
    return asked ?? [reference, ...this.pictures()].find((each) => each && each.id !== this.at()?.id);
  });

  protected readonly chosen = signal<number | null>(null);
  protected readonly share = signal(50);
  protected readonly editing = signal(false);
  protected readonly words = signal('');
  protected readonly role = signal<PictureRole>('seen');
  /** Which of the inspection's defects it shows. */
  protected readonly defect = signal<number | null>(null);
  protected readonly defects = computed(() => {
    const found = this.at()?.defects ?? [];
    return [{ code: null, label: 'none of them' }, ...found.map((label, code) => ({ code, label }))];
  });
  private readonly edited = signal<readonly Pin[]>([]);
  protected readonly pins = computed(() => (this.editing() ? this.edited() : (this.at()?.pins ?? [])));
  protected readonly mayBeView = computed(() => ['work', 'section'].includes(this.at()?.subject ?? ''));
  protected readonly putting = signal(false);
  protected readonly reason = signal('');
  protected readonly sending = new Submission();

  constructor() {
    effect(() => {
      this.picture();
      untracked(() => this.stop());
    });
  }

  protected goTo(query: Readonly<Record<string, string | null>>): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected back(event: MouseEvent): void {
    event.preventDefault();
    void this.router.navigateByUrl(this.answer()!.path);
  }

  /** A picture of the strip: looked at, or held beside the one that is looked at. */
  protected choose({ id }: AttachmentView): void {
    this.goTo(this.way() === 'one' ? { picture: id } : { beside: id });
  }

  protected walk(event: KeyboardEvent): void {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const typing = (event.target as HTMLElement).closest('input, textarea, [role=radiogroup], .pin');
    if (by === undefined || typing || this.editing()) return;
    const next = this.pictures()[this.place() + by];
    if (next) this.goTo({ picture: next.id });
  }

  protected edit({ words, role, pins, defect }: AttachmentView): void {
    this.defect.set(defect);
    this.words.set(words);
    this.role.set(role);
    this.edited.set(pins);
    this.editing.set(true);
  }

  protected stop(): void {
    this.editing.set(false);
    this.putting.set(false);
    this.chosen.set(null);
    this.sending.reset();
  }

  protected put({ x, y }: { x: number; y: number }): void {
    if (this.edited().length >= FILE_LIMITS.pins) return;
    this.edited.update((pins) => [...pins, { x, y, words: '' }]);
    this.chosen.set(this.edited().length - 1);
    const at = this.edited().length - 1;
    setTimeout(() => document.getElementById(`pin-${at}`)?.focus());
  }

  protected move({ place, x, y }: { place: number; x: number; y: number }): void {
    this.edited.update((pins) => pins.map((pin, i) => (i === place ? { ...pin, x, y } : pin)));
  }

  protected describe(place: number, words: string): void {
    this.edited.update((pins) => pins.map((pin, i) => (i === place ? { ...pin, words } : pin)));
  }

  protected drop(place: number): void {
    this.edited.update((pins) => pins.filter((_, i) => i !== place));
    this.chosen.set(null);
  }

  protected save({ id, version }: AttachmentView): void {
    const body = { version, defect: this.defect(), role: this.role(), words: this.words().trim(), pins: this.edited() };
    this.sending.send(
      `/attachments/${id}`,
      body,
      () => {
        this.stop();
        this.page.read();
      },
      { method: 'put', said: 'The picture is described' },
    );
  }

  protected putAway({ id, version }: AttachmentView): void {
    const body = { version, reason: this.reason().trim() };
    this.sending.send(
      `/attachments/${id}/put-away`,
      body,
      () => {
        this.reason.set('');
        this.goTo({ picture: null });
        this.stop();
        this.page.read();
      },
      { said: 'The picture is put away' },
    );
  }
}
