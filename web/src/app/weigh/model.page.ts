import {
  ChangeDetectionStrategy,
  Component,
  OnDestroy,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { ModelsAnswer } from '@kalvet/core';
import { HEAD_BYTES, inWords, kindOfFile } from '@kalvet/core';
import type { Shown, Vec } from './model-scene';
import { ButtonModule } from 'primeng/button';
import { Uploads } from '../files/uploads.service';
import { Choices } from '../shared/choices.component';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';
import { CutsPanel } from './cuts-panel.component';
import { MetalPanel } from './metal-panel.component';
import { ModelDesk } from './model-desk';
import type { Tab } from './model-desk';
import { ModelView } from './model-view.component';
import { OtherWays } from './other-ways.component';
import { PART_COLOURS } from './part-colours';
import { SizePanel } from './size-panel.component';
import { StillPictures } from './still-pictures.component';
import { WaysPanel } from './ways-panel.component';

const TABS: readonly { readonly code: Tab; readonly label: string }[] = [
  { code: 'size', label: 'Size and weight' },
  { code: 'cuts', label: 'Cuts' },
  { code: 'thickness', label: 'Metal' },
  { code: 'ways', label: 'Way up' },
];

/** Red, green and blue of thin metal, of the wall, and of solid metal. */
const THIN = [179, 38, 30] as const;
const WALL = [203, 183, 155] as const;
const THICK = [74, 61, 120] as const;

/** The model of a work: how large, how heavy, where it is cut, where metal is thin or thick, which way up it is poured. */
@Component({
  selector: 'kv-model',
  imports: [
    ButtonModule,
    Choices,
    CutsPanel,
    May,
    MetalPanel,
    ModelView,
    OtherWays,
    Refusal,
    RouterLink,
    SizePanel,
    StillPictures,
    WaysPanel,
  ],
  providers: [ModelDesk],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './model.page.html',
  styleUrl: './model.page.css',
})
export class ModelPage implements OnDestroy {
  protected readonly desk = inject(ModelDesk);
  private readonly router = inject(Router);
  private readonly uploads = inject(Uploads);
  readonly id = input.required<string>();
  readonly tab = input<string>();
  readonly section = input<string>();
  private readonly page = pageData<ModelsAnswer>(() => `/works/${this.id()}/models`);
  protected readonly wrong = this.page.wrong;
  protected readonly answer = this.page.answer;
  protected readonly tabs = TABS;
  protected readonly over = signal(false);
  protected readonly refused = signal('');
  protected readonly noView = signal(false);
  protected readonly adding = signal<'vent' | 'gate' | null>(null);
  protected readonly sending = new Submission();
  private readonly view = viewChild(ModelView);

  /** The work whole, or each of its sections. */
  protected readonly subjects = computed(() => {
    const sections = this.answer()?.sections ?? [];
    if (sections.length < 2) return [];
    return [{ code: null, label: 'The whole' }, ...sections.map(({ id, name }) => ({ code: id, label: name }))];
  });
  protected readonly placing = computed(
    () =>
      this.desk.tab() === 'ways' &&
      this.desk.way() !== null &&
      (this.adding() !== null || this.desk.chosenPin() !== null),
  );
  protected readonly standing = computed<Vec | null>(() =>
    this.desk.tab() === 'ways' ? (this.desk.way()?.up ?? null) : null,
  );
  protected readonly shown = computed<readonly Shown[]>(() => {
    const look = this.desk.look();
    if (!look) return [];
    const tab = this.desk.tab();
    const parts = this.desk.parts();
    if (tab === 'cuts' && parts.length > 0)
      return parts.map(({ mesh }, i) => ({ mesh, colour: PART_COLOURS[i % PART_COLOURS.length]! }));
    const thickness = this.desk.thickness();
    if (tab === 'thickness' && thickness)
      return [{ mesh: thickness.mesh, colours: coloursOf(thickness.metalMm, thickness.thinMm, thickness.thickMm) }];
    return [{ mesh: look.mesh, standIn: look.standIn }];
  });

  constructor() {
    effect(() => {
      const answer = this.answer();
      if (answer) this.desk.answer.set(answer);
    });
    effect(() => this.desk.tab.set(TABS.find(({ code }) => code === this.tab())?.code ?? 'size'));
    effect(() => this.desk.sectionId.set(this.section() ?? null));
  }

  ngOnDestroy(): void {
    this.desk.end();
  }

  protected goTo(query: Readonly<Record<string, string | null>>): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected read(): void {
    this.page.read();
  }

  protected chosen(event: Event): void {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    if (file) void this.take(file);
    field.value = '';
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    const [file] = event.dataTransfer?.files ?? [];
    if (file) void this.take(file);
  }

  /** Opens a file where it is a model, whatever it is called. */
  private async take(file: File): Promise<void> {
    const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
    const found = kindOfFile(head, { name: file.name, bytes: file.size });
    const wrong =
      'refused' in found
        ? inWords(found.refused)
        : found.kind === 'model'
          ? ''
          : `${file.name} is a ${found.called}, not a model`;
    this.refused.set(wrong === '' ? '' : `${wrong}.`);
    if (wrong === '') await this.desk.open(file);
  }

  protected movePlane({ plane, byMm, done }: { plane: number; byMm: number; done: boolean }): void {
    this.desk.planes.update((planes) =>
      planes.map((each, i) =>
        i === plane ? { ...each, offsetMm: each.offsetMm + byMm * Math.hypot(...each.normal) } : each,
      ),
    );
    if (done) void this.desk.cut();
  }

  /** A tap on the surface: a further vent or gate, or a chosen one moved there. */
  protected place([x, y, z]: Vec): void {
    const way = this.desk.way();
    if (!way) return;
    const adding = this.adding();
    if (adding) {
      const key = adding === 'vent' ? 'vents' : 'gates';
      this.desk.way.set({ ...way, [key]: [...way[key], { x, y, z, words: '' }] });
      this.adding.set(null);
      return;
    }
    const pin = this.desk.chosenPin();
    if (pin === null) return;
    const moved = <T extends { x: number; y: number; z: number }>(places: readonly T[], from: number) =>
      places.map((each, i) => (from + i === pin ? { ...each, x, y, z } : each));
    this.desk.way.set({ ...way, vents: moved(way.vents, 0), gates: moved(way.gates, way.vents.length) });
    this.desk.chosenPin.set(null);
  }

  protected choosePin(pin: number): void {
    this.desk.chosenPin.set(this.desk.chosenPin() === pin ? null : pin);
  }

  /** The outline seen now stands for the work on the Floor. */
  protected async silhouette(): Promise<void> {
    const work = this.answer()!.work;
    const view = this.view()?.view() ?? { from: [0, -1, 0] as const, up: [0, 0, 1] as const };
    const glyph = await this.desk.session()?.run('silhouette', { view }, this.desk.sizing());
    if (!glyph) return;
    this.sending.send(`/works/${work.id}/silhouette`, { version: work.version, glyph }, () => this.read(), {
      method: 'put',
      said: 'The outline stands for the work on the Floor',
    });
  }

  /** What is seen now becomes a reference view of the work. */
  protected async reference(): Promise<void> {
    const view = this.view()?.view() ?? { from: [0, -1, 0] as const, up: [0, 0, 1] as const };
    const pixels = await this.desk
      .session()
      ?.run('picture', { view, look: { width: 1200, height: 900 } }, this.desk.sizing());
    if (!pixels) return;
    const canvas = document.createElement('canvas');
    canvas.width = pixels.width;
    canvas.height = pixels.height;
    canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels.data), pixels.width), 0, 0);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob) return;
    const file = new File([blob], 'view of the model.png', { type: 'image/png' });
    this.uploads.send([file], { subject: 'work', subjectId: this.id(), role: 'reference', words: 'view of the model' });
    this.said.set('The view is kept among the work’s reference views.');
  }
  protected readonly said = signal('');
}

/** Thin metal red, solid metal violet, the wall in between; brightness differs too, for who sees no colours. */
function coloursOf(metalMm: Float32Array, thinMm: number, thickMm: number): Uint8Array {
  const colours = new Uint8Array(3 * metalMm.length);
  // A third of the way to either limit the colour begins to turn.
  const wallMm = thinMm + (thickMm - thinMm) / 2.7;
  metalMm.forEach((mm, i) => {
    const to = mm < wallMm ? THIN : THICK;
    const limit = mm < wallMm ? thinMm : thickMm;
    const share = mm === 0 ? 0 : Math.min(1, Math.max(0, ((mm - wallMm) / (limit - wallMm)) ** 2));
    colours.set(
      WALL.map((each, k) => each + (to[k]! - each) * share),
      3 * i,
    );
  });
  return colours;
}
