// Which models and pictures the demo shows: what, from where, in which state, and what is said of them.
import type { View } from '../../core/src/mesh/picture/render.ts';
import type { FigureName } from './figures.ts';

/** What a piece is made of when a picture is taken. */
export type Shade = 'clay' | 'wax' | 'shell' | 'metal' | 'brown' | 'verdigris' | 'black';

const FRONT: View = { from: [0, -1, 0.12], up: [0, 0, 1] };
const LEFT: View = { from: [-1, -0.05, 0.12], up: [0, 0, 1] };
const ASLANT: View = { from: [-0.75, -1, 0.3], up: [0, 0, 1] };
const NEAR: View = { from: [0.8, -1, 0.35], up: [0, 0, 1] };

export const MODELS: readonly {
  readonly figure: FigureName;
  /** What its wax weighs at its wall; how fine its triangles are before it is brought to that size. */
  readonly waxKg: number;
  readonly wallMm: number;
  readonly edgeMm: number;
  readonly outline: View;
  /** Its file is kept for the Model page; else only pictures are taken of it. */
  readonly kept: boolean;
}[] = [
  { figure: 'otter', waxKg: 0.75, wallMm: 5, edgeMm: 5.2, outline: LEFT, kept: true },
  { figure: 'heron', waxKg: 4.76, wallMm: 5, edgeMm: 8, outline: LEFT, kept: false },
  { figure: 'hound', waxKg: 3.15, wallMm: 5, edgeMm: 8.5, outline: FRONT, kept: true },
  { figure: 'mallet', waxKg: 0.21, wallMm: 4.5, edgeMm: 4, outline: FRONT, kept: false },
  { figure: 'pilot', waxKg: 1.45, wallMm: 5, edgeMm: 7, outline: LEFT, kept: true },
];

export interface DemoPicture {
  readonly name: string;
  readonly figure: FigureName;
  readonly view: View;
  readonly shade: Shade;
  /** Only a part: its middle and size as shares of the picture. */
  readonly crop?: readonly [number, number, number];
}

export const PICTURES: readonly DemoPicture[] = [
  { name: 'otter-clay-front', figure: 'otter', view: FRONT, shade: 'clay' },
  { name: 'otter-clay-left', figure: 'otter', view: LEFT, shade: 'clay' },
  { name: 'otter-wax', figure: 'otter', view: ASLANT, shade: 'wax' },
  { name: 'otter-metal-ear', figure: 'otter', view: NEAR, shade: 'metal', crop: [0.52, 0.24, 0.36] },
  { name: 'otter-brown', figure: 'otter', view: ASLANT, shade: 'brown' },
  { name: 'otter-brown-two', figure: 'otter', view: { from: [-0.7, -1, 0.33], up: [0, 0, 1] }, shade: 'brown' },
  { name: 'heron-clay-left', figure: 'heron', view: LEFT, shade: 'clay' },
  {
    name: 'heron-shell-wing',
    figure: 'heron',
    view: { from: [-1, 0.4, 0.3], up: [0, 0, 1] },
    shade: 'shell',
    crop: [0.5, 0.42, 0.5],
  },
  { name: 'heron-verdigris', figure: 'heron', view: ASLANT, shade: 'verdigris' },
  { name: 'hound-clay', figure: 'hound', view: ASLANT, shade: 'clay' },
  {
    name: 'hound-haunch',
    figure: 'hound',
    view: { from: [-1, -0.5, 0.35], up: [0, 0, 1] },
    shade: 'metal',
    crop: [0.42, 0.68, 0.6],
  },
  { name: 'mallet-black', figure: 'mallet', view: ASLANT, shade: 'black' },
  { name: 'pilot-clay', figure: 'pilot', view: ASLANT, shade: 'clay' },
  { name: 'pilot-wax', figure: 'pilot', view: LEFT, shade: 'wax' },
  { name: 'pilot-metal', figure: 'pilot', view: NEAR, shade: 'metal' },
];
