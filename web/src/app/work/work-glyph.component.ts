import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** Small silhouettes by name; a work without one of its own gets a plain block of metal. */
export const GLYPHS: Readonly<Record<string, { readonly label: string; readonly path: string }>> = {
  block: { label: 'block', path: 'M5 7h22v18H5z' },
  otter: { label: 'low animal', path: 'M3 24c2-7 8-6 11-9 2-3 5-6 9-5l4 3-4 2c2 4 0 7-2 9z' },
  bird: {
    label: 'standing bird',
    path: 'M13 4c4 0 6 3 6 7 0 6-3 8-3 13v5h-2v-5c-4-2-6-6-5-11 0-2 1-3 2-4l-7-2 7-1c0-1 1-2 2-2z',
  },
  hound: { label: 'lying animal', path: 'M3 23c0-5 4-7 9-7 4 0 5-4 9-5 3-1 5 1 8 3l-3 3c1 3 0 5-2 6z' },
  figure: { label: 'figure', path: 'M16 4a4 4 0 1 1 0 8 4 4 0 0 1 0-8zM9 29c0-9 2-15 7-15s7 6 7 15z' },
  tool: { label: 'tool', path: 'M5 6h22v8H19v15h-6V14H5z' },
  column: { label: 'column', path: 'M8 4h16v4h-3v16h3v4H8v-4h3V8H8z' },
  bowl: { label: 'bowl', path: 'M3 12h26c0 8-5 14-13 14S3 20 3 12z' },
  head: { label: 'head', path: 'M9 28v-5c-4-3-5-8-3-13 3-6 12-8 17-3 4 4 4 10 1 14-2 2-2 4-2 7z' },
};

@Component({
  selector: 'kv-work-glyph',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
    <path [attr.d]="path()" fill="var(--kv-glyph)" fill-rule="evenodd" />
  </svg>`,
  styles: `
    :host {
      flex: none;
      line-height: 0;
    }
  `,
})
export class WorkGlyph {
  readonly glyph = input.required<string>();
  /** A silhouette of its own is an outline; else one of the small ones by name. */
  protected readonly path = computed(() => {
    const glyph = this.glyph();
    return glyph.startsWith('M') ? glyph : (GLYPHS[glyph] ?? GLYPHS['block']!).path;
  });
}
