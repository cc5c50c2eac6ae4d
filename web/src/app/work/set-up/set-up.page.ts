import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { ApprovalRule, Finishing, Method, SectionGiven, SetUpWork } from '@kalvet/core';
import {
  ALLOYS,
  FINISHINGS,
  FINISHING_NAMES,
  METHODS,
  METHOD_NAMES,
  alloyOf,
  castFromWax,
  coatsFor,
  usualOriginalScale,
  waxFromWall,
} from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { newId } from '../../shared/ids';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { Submission } from '../../shared/submission';
import { When } from '../../shared/when/when.component';
import { asDay } from '../../shared/time';
import { QuantityInput } from '../../shared/quantity-input.component';
import { ShopService } from '../../shared/shop.service';
import { FigureText } from '../../shared/figure.component';
import { GLYPHS, WorkGlyph } from '../work-glyph.component';

type Nullable<T> = { readonly [K in keyof T]: T[K] | null };
type SectionRow = Nullable<Omit<SectionGiven, 'typed'>> & {
  readonly typed?: Readonly<Record<string, string>>;
  readonly ownMould: boolean;
};

const emptySection = (name: string): SectionRow => ({
  name,
  wallMm: 5,
  metalHeightMm: null,
  expectedWaxKg: null,
  areaCm2: null,
  seamM: null,
  deep: false,
  ownMould: false,
});

/** The plain form that sets a work up: every step of every piece grows from it. */
@Component({
  selector: 'kv-set-up',
  imports: [
    Field,
    FormsModule,
    ButtonModule,
    CheckboxModule,
    When,
    InputNumberModule,
    InputTextModule,
    QuantityInput,
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
  protected readonly sending = new Submission();
  private id = newId();

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
  protected readonly sections = signal<SectionRow[]>([emptySection('Whole')]);

  protected readonly alloys = ALLOYS.map(({ id, name }) => ({ id, label: `${name} (${id})` }));
  protected readonly methods = METHODS.map((code) => ({ code, label: METHOD_NAMES[code] }));
  protected readonly approvals = [
    { code: 'first', label: 'the first wax' },
    { code: 'each', label: 'each wax' },
    { code: 'none', label: 'no wax' },
  ];
  protected readonly finishings = FINISHINGS.map((code) => ({ code, label: FINISHING_NAMES[code] }));
  protected readonly glyphs = Object.entries(GLYPHS).map(([code, { label }]) => ({ code, label }));

  /** Three letters of the title, unless somebody types others. */
  protected readonly code = computed(
    () =>
      this.typedCode() ??
      this.title()
        .normalize('NFD')
        .toUpperCase()
        .replace(/^(THE|A|AN) /, '')
        .replace(/[^A-Z0-9]/g, '')
        .slice(0, 3),
  );
  protected readonly direct = computed(() => this.method() === 'direct');
  protected readonly alloy = computed(() => alloyOf(this.alloyId()));
  protected readonly scale = computed(() => usualOriginalScale(this.alloy(), this.method()));

  constructor() {
    const { title, artist, typedCode, editionSize, artistProofs, alloyId, method, approval, finish } = this;
    const { finishing, glyph, due, pullsBefore, sections } = this;
    const first = { title, artist, typedCode, editionSize, artistProofs, alloyId, method, approval, finish };
    this.sending.keep('set up', { ...first, finishing, glyph, due, pullsBefore, sections });
  }

  /** What a section will take: its wax by wall and area where nothing is entered, its bronze, its coats. */
  protected says(section: SectionRow): {
    wax: ReturnType<typeof waxFromWall> | null;
    bronze: ReturnType<typeof castFromWax> | null;
    coats: number | null;
  } {
    const wax =
      section.expectedWaxKg === null && section.areaCm2 && section.wallMm
        ? waxFromWall(section.wallMm, section.areaCm2)
        : null;
    const kg = section.expectedWaxKg ?? wax?.value;
    return {
      wax,
      bronze: kg ? castFromWax(kg, this.alloy()) : null,
      coats: this.method() === 'block' ? null : coatsFor(section.metalHeightMm),
    };
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

  protected setTyped(place: number, key: string, text: string | undefined): void {
    const { [key]: _, ...rest } = this.sections()[place]?.typed ?? {};
    this.setSection(place, { typed: text ? { ...rest, [key]: text } : rest });
  }

  protected addSection(): void {
    this.sections.update((rows) => [...rows, { ...emptySection(''), ownMould: rows.length > 0 }]);
  }

  protected removeSection(place: number): void {
    this.sections.update((rows) => rows.filter((_, i) => i !== place));
  }

  protected wrong(field: string): string | undefined {
    return this.sending.fields()[field];
  }

  protected save(): void {
    const rows = this.sections();
    const shared = rows.flatMap((row, i) => (row.ownMould ? [] : [i + 1]));
    // A mould is called by what it makes.
    const sharedName =
      rows.length === 1
        ? 'whole'
        : shared.length === rows.length
          ? 'all sections'
          : shared.map((place) => rows[place - 1]!.name?.trim()).join(', ');
    const pullsBefore = this.pullsBefore() ?? 0;
    const body: Nullable<Omit<SetUpWork, 'sections'>> & { readonly sections: unknown } = {
      id: this.id,
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
      sections: rows.map(({ ownMould: _, ...row }) => ({ ...row, name: row.name?.trim() ?? '' })),
      moulds: this.direct()
        ? []
        : [
            ...(shared.length > 0
              ? [
                  {
                    name: sharedName.slice(0, 120),
                    sections: shared,
                    pullsBefore,
                  },
                ]
              : []),
            ...rows.flatMap((row, i) =>
              row.ownMould ? [{ name: row.name?.trim() || `section ${i + 1}`, sections: [i + 1], pullsBefore }] : [],
            ),
          ],
    };
    this.sending.send<{ pieceIds: string[] }>(
      '/works',
      body,
      ({ pieceIds }) => {
        this.id = newId();
        // Its first piece: from there the mould and every step can be recorded.
        void this.router.navigate(['/pieces', pieceIds[0]]);
      },
      { said: `${body.title} is set up` },
    );
  }
}
