import {
  ChangeDetectionStrategy,
  Component,
  Injector,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { ApprovalRule, Finishing, Id, Method, SectionGiven, SetUpWork, WorkAnswer } from '@kalvet/core';
import {
  ALLOYS,
  APPROVAL_NAMES,
  FINISHINGS,
  FINISHING_NAMES,
  METHODS,
  METHOD_NAMES,
  alloyOf,
  castFromWax,
  coatsByPlan,
  formatFigure,
  sectionDoubt,
  usualOriginalScale,
  waxFromWall,
  codeOfTitle,
} from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Api, asApiError } from '../../shared/api.service';
import { newId } from '../../shared/ids';
import { Doubt } from '../../shared/doubt.component';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { Submission } from '../../shared/submission';
import { When } from '../../shared/when/when.component';
import { asDay, dayPicker } from '../../shared/time';
import { QuantityInput } from '../../shared/quantity-input.component';
import { ShopService } from '../../shared/shop.service';
import { FigureText } from '../../shared/figure.component';
import { GLYPHS, WorkGlyph } from '../work-glyph.component';
import { mouldNumbers, mouldsOf } from './moulds-of';
import type { SectionFigure, SectionRow } from './section-figures';
import { SECTION_FIGURES, WHOLE, emptySection } from './section-figures';
import { SectionRows } from './section-rows.component';

/** The form that sets a work up: every step of every piece grows from it. With an id it sets one up anew. */
@Component({
  selector: 'kv-set-up',
  imports: [
    Doubt,
    Field,
    FormsModule,
    ButtonModule,
    When,
    InputNumberModule,
    InputTextModule,
    QuantityInput,
    RouterLink,
    SectionRows,
    SelectModule,
    Refusal,
    FigureText,
    WorkGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './set-up.page.html',
  styleUrl: './set-up.page.css',
})
export class SetUpPage {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  protected readonly sending = new Submission();
  /** The work that is set up anew; none for a new one. */
  readonly id = input<Id>();
  private readonly table = viewChild(SectionRows);
  private readonly injector = inject(Injector);
  private readonly own = newId();
  private read: { readonly setUp: SetUpWork; readonly version: number } | undefined;

  protected readonly title = signal('');
  protected readonly artist = signal('');
  protected readonly typedCode = signal<string | null>(null);
  protected readonly editionSize = signal<number | null>(8);
  protected readonly artistProofs = signal<number | null>(0);
  protected readonly alloyId = signal('C87300');
  protected readonly method = signal<Method>('shell');
  protected readonly approval = signal<ApprovalRule>('first');
  protected readonly finish = signal('');
  protected readonly finishing = signal<Finishing>('patina');
  protected readonly glyph = signal('block');
  protected readonly due = signal<Date | null>(null);
  protected readonly pullsBefore = signal<number | null>(0);
  protected readonly sections = signal<readonly SectionRow[]>([emptySection(WHOLE)]);
  /** What is seldom asked is shown. */
  protected readonly more = signal(false);

  protected readonly alloys = ALLOYS.map(({ id, name }) => ({ id, label: name }));
  protected readonly methods = METHODS.map((code) => ({ code, label: METHOD_NAMES[code] }));
  protected readonly approvals = Object.entries(APPROVAL_NAMES).map(([code, label]) => ({ code, label }));
  protected readonly finishings = FINISHINGS.map((code) => ({ code, label: FINISHING_NAMES[code] }));
  protected readonly glyphs = Object.entries(GLYPHS).map(([code, { label }]) => ({ code, label }));
  protected readonly ofWhole = SECTION_FIGURES.filter(({ key }) => key !== 'seamM');

  /** Three letters of the title, unless somebody types others. */
  protected readonly code = computed(() => this.typedCode() ?? codeOfTitle(this.title()));
  protected readonly direct = computed(() => this.method() === 'direct');
  protected readonly alloy = computed(() => alloyOf(this.alloyId()));
  protected readonly scale = computed(() => usualOriginalScale(this.alloy(), this.method()));

  protected readonly eachWill = computed(() => this.sections().map((section) => this.will(section)));
  protected readonly says = computed(() =>
    this.sections().length === 1 && this.eachWill()[0] ? `Will be ${this.eachWill()[0]}.` : '',
  );
  /** What stands behind "More", in a line. */
  protected readonly usual = computed(() =>
    [
      this.code() ? `${this.code()} on the tags` : '',
      METHOD_NAMES[this.method()],
      this.artistProofs() ? `${this.artistProofs()} artist’s ${this.artistProofs() === 1 ? 'proof' : 'proofs'}` : '',
      `the artist approves ${APPROVAL_NAMES[this.approval()]}`,
      FINISHING_NAMES[this.finishing()],
      this.due() ? `due ${this.shop.day(asDay(this.due())!)}` : 'no due date',
    ]
      .filter((part) => part !== '')
      .join(' · '),
  );
  /** What is folded away is shown where something in it is wrong. */
  protected readonly unfolded = computed(
    () => this.more() || ['code', 'artistProofs', 'dueDate', 'finish', 'glyph'].some((field) => this.wrong(field)),
  );
  protected readonly wrongOf = (field: string): string | undefined => this.sending.fields()[field];

  constructor() {
    // Whoever comes to set up a work begins to type.
    afterNextRender(() => this.id() || document.getElementById('title')?.focus());
    effect(() => {
      const id = this.id();
      untracked(() => (id ? this.fill(id) : this.keep('set up')));
    });
  }

  private keep(name: string): void {
    const { title, artist, typedCode, editionSize, artistProofs, alloyId, method, approval, finish } = this;
    const { finishing, glyph, due, pullsBefore, sections } = this;
    const first = { title, artist, typedCode, editionSize, artistProofs, alloyId, method, approval, finish };
    this.sending.keep(name, { ...first, finishing, glyph, due, pullsBefore, sections });
  }

  /** Reads the work that is set up anew; where something of it was begun meanwhile, there is nothing to set up. */
  private fill(id: Id): void {
    this.api.get<WorkAnswer>(`/works/${id}`).subscribe({
      next: ({ setUp, work }) => {
        if (!setUp) return void this.router.navigate(['/works', id]);
        this.read = { setUp, version: work.version };
        this.show(setUp);
        this.keep(`set up ${id} ${work.version}`);
      },
      error: (failure: unknown) => this.sending.error.set(asApiError(failure)),
    });
  }

  private show(setUp: SetUpWork): void {
    const { title, artist, code, editionSize, artistProofs, alloyId, method, approval, finish, finishing } = setUp;
    this.title.set(title);
    this.artist.set(artist);
    this.typedCode.set(code);
    this.editionSize.set(editionSize);
    this.artistProofs.set(artistProofs);
    this.alloyId.set(alloyId);
    this.method.set(method);
    this.approval.set(approval);
    this.finish.set(finish);
    this.finishing.set(finishing);
    this.glyph.set(setUp.glyph);
    this.due.set(setUp.dueDate ? dayPicker(setUp.dueDate) : null);
    this.pullsBefore.set(setUp.moulds[0]?.pullsBefore ?? 0);
    const moulds = mouldNumbers(setUp.moulds, setUp.sections.length);
    this.sections.set(
      setUp.sections.map(({ typed, ...section }, i) => ({ ...section, typed: typed ?? {}, mould: moulds[i]! })),
    );
  }

  /** Somebody else changed it meanwhile: what is there now, in place of what was typed. */
  protected readAgain(): void {
    this.sending.reset();
    if (this.id()) this.fill(this.id()!);
  }

  /** What a section will be: its bronze by the wax, or by wall and area where no wax is expected yet; its coats. */
  private will(section: SectionRow): string {
    const wax = section.areaCm2 && section.wallMm ? waxFromWall(section.wallMm, section.areaCm2).value : undefined;
    const kg = section.expectedWaxKg ?? wax;
    const coats =
      this.method() === 'block' ? null : coatsByPlan(this.shop.settings().coatPlans[0]!, section.metalHeightMm);
    return [
      kg ? `${formatFigure(castFromWax(kg, this.alloy()), 1, this.shop.units())} bronze` : '',
      coats !== null && section.metalHeightMm !== null ? `${coats} coats` : '',
    ]
      .filter((part) => part !== '')
      .join(', ');
  }

  /** Waxes that do not fit their walls, asked while they can still be mended. */
  protected readonly doubts = computed(() =>
    this.sections().flatMap(({ mould: _, ...section }, place) => {
      const asked = sectionDoubt(section as SectionGiven, `sections.${place}`);
      return asked ? [{ place, asked }] : [];
    }),
  );

  /** What was meant, where it is asked once more when it is sent. */
  protected mend({ field, value }: { readonly field: string; readonly value: number }): void {
    this.sending.error.set(undefined);
    this.setSection(Number(field.split('.')[1]), { expectedWaxKg: value });
  }

  protected setMethod(method: Method): void {
    this.method.set(method);
    if (method !== 'direct') return;
    this.editionSize.set(1);
    this.artistProofs.set(0);
    this.approval.set('none');
  }

  protected setSection(place: number, patch: Partial<SectionRow>): void {
    this.sections.update((rows) => rows.map((row, i) => (i === place ? { ...row, ...patch } : row)));
  }

  protected putFigure(key: SectionFigure['key'], value: number | null): void {
    this.setSection(0, { [key]: value });
  }

  protected setTyped({ place, key, text }: { place: number; key: string; text: string | undefined }): void {
    const { [key]: _, ...rest } = this.sections()[place]?.typed ?? {};
    this.setSection(place, { typed: text ? { ...rest, [key]: text } : rest });
  }

  /** One section becomes several: the first waits for its name, the second stands under it. */
  protected split(): void {
    const [first] = this.sections();
    const name = first!.name === WHOLE ? '' : first!.name;
    this.sections.set([{ ...first!, name }, emptySection('', first!.wallMm, 2)]);
    afterNextRender(() => this.table()?.name(0), { injector: this.injector });
  }

  protected chosen(event: Event): void {
    (event.target as HTMLInputElement).select();
  }

  protected wrong(field: string): string | undefined {
    return this.sending.fields()[field];
  }

  protected save(override = false): void {
    const rows = this.sections();
    const body = {
      id: this.id() ?? this.own,
      code: this.code(),
      title: this.title().trim(),
      artist: this.artist().trim(),
      editionSize: this.editionSize(),
      artistProofs: this.artistProofs() ?? 0,
      alloyId: this.alloyId(),
      method: this.method(),
      approval: this.approval(),
      finish: this.finish().trim(),
      finishing: this.finishing(),
      glyph: this.glyph(),
      dueDate: asDay(this.due()),
      sections: rows.map(({ mould: _, ...row }) => ({ ...row, name: row.name?.trim() ?? '' })),
      moulds: this.direct() ? [] : mouldsOf(rows, this.pullsBefore() ?? 0, this.read?.setUp.moulds),
    };
    // What is there next is the work: what was set up, and what to do first.
    const done = ({ id }: { readonly id: Id }) => void this.router.navigate(['/works', id]);
    if (this.id())
      this.sending.send(`/works/${this.id()}/set-up`, { ...body, version: this.read?.version }, done, {
        method: 'put',
        override,
        said: `${body.title} is set up anew`,
      });
    else this.sending.send('/works', body, done, { override, said: `${body.title} is set up` });
  }
}
