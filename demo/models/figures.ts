// The works of Marrowby Quay as solids, in mm, standing on z = 0 and facing −y. All made up here.
import type { Depth, Place } from './solid.ts';
import { bone, chain, drum, egg, melted, slab, without, worked } from './solid.ts';

export interface Figure {
  readonly depth: Depth;
  readonly box: { readonly min: Place; readonly max: Place };
}

const mirrored = (make: (side: 1 | -1) => Depth): Depth[] => [make(1), make(-1)];

/** An otter that stands up against a bundle of reed. */
const otter: Figure = {
  depth: worked(
    melted(
      14,
      chain([6, 20, 14, 30], [0, 8, 70, 36], [-4, 0, 130, 30], [-2, -6, 178, 22]),
      // Neck and head, looking up.
      chain([-2, -6, 178, 22], [-2, -14, 206, 21], [-4, -34, 216, 15], [-5, -46, 217, 10]),
      ...mirrored((side) => bone([side * 14 - 3, -4, 222], [side * 15 - 3, -2, 226], 5)),
      // Tail, thick at its root, along the ground.
      chain([8, 30, 16, 24], [24, 64, 12, 16], [20, 98, 9, 11], [4, 124, 8, 7]),
      // Hind feet and thighs.
      ...mirrored((side) => chain([side * 26, 8, 40, 24], [side * 38, -14, 14, 14], [side * 38, -40, 9, 9])),
      // Forepaws on the reed.
      ...mirrored((side) => chain([side * 20 - 3, -10, 140, 15], [side * 24, -36, 128, 11], [side * 10, -52, 132, 9])),
      // The reed.
      ...[-8, 2, 11].map((x, i) =>
        chain([x, -56, 0, 7], [x + 3 - i, -58, 150, 6], [x + 9 - 5 * i, -60, 236 + 8 * i, 4]),
      ),
      slab([4, 8, 5], [58, 76, 8], 6),
    ),
    0.7,
    24,
  ),
  box: { min: [-75, -90, -6], max: [75, 140, 262] },
};

/** A heron on one leg, its head drawn in; the wings are hung on as slabs of feathers. */
const heron: Figure = {
  depth: worked(
    melted(
      16,
      egg([0, 10, 300], [56, 92, 66]),
      chain([0, 80, 286, 30], [0, 130, 262, 20], [0, 168, 240, 9]),
      // Neck in its bow, head and bill.
      chain([0, -52, 326, 30], [0, -82, 366, 22], [0, -70, 408, 18], [0, -62, 436, 19]),
      chain([0, -70, 440, 17], [0, -104, 442, 9], [0, -150, 436, 5]),
      chain([0, -44, 448, 8], [0, -10, 452, 4]),
      ...mirrored((side) =>
        melted(10, egg([side * 52, 26, 306], [15, 104, 52]), egg([side * 50, 104, 268], [9, 62, 22])),
      ),
      // The leg it stands on, the one drawn up, the foot.
      chain([-12, 6, 246, 24], [-10, 2, 196, 13], [-10, 6, 120, 10], [-10, 0, 14, 10]),
      chain([16, 4, 246, 22], [18, -22, 208, 11], [16, -6, 178, 8]),
      slab([-8, -2, 7], [46, 52, 9], 6),
    ),
    0.9,
    30,
  ),
  box: { min: [-78, -165, -5], max: [78, 190, 470] },
};

/** A hound asleep, its muzzle on its paws. */
const hound: Figure = {
  depth: worked(
    melted(
      22,
      chain([-120, 30, 62, 58], [-40, 36, 74, 62], [60, 30, 70, 60], [120, 10, 58, 54]),
      // Head.
      chain([128, -30, 74, 34], [172, -50, 66, 38], [206, -66, 50, 24], [232, -78, 42, 18]),
      ...mirrored((side) => chain([168, -50 + side * 34, 92, 11], [186, -60 + side * 42, 54, 13])),
      // Legs.
      chain([118, -10, 34, 32], [176, -40, 20, 19], [240, -62, 15, 15]),
      chain([84, -16, 30, 30], [140, -78, 18, 17], [226, -104, 14, 14]),
      chain([-120, -10, 40, 40], [-60, -52, 22, 22], [-110, -84, 15, 15]),
      chain([-160, 40, 30, 22], [-184, -20, 18, 14], [-150, -70, 13, 10], [-96, -92, 10, 7]),
    ),
    0.9,
    38,
  ),
  box: { min: [-215, -140, -10], max: [275, 110, 160] },
};

/** A caulking mallet: a head with hoops and a slot, and its handle. */
const mallet: Figure = {
  depth: worked(
    without(
      melted(
        3,
        drum([0, 0, 120], 92, 23, 4),
        ...[-74, -26, 26, 74].map((x) => drum([x, 0, 120], 6, 26, 2)),
        chain([0, 0, 112, 11], [0, 0, 60, 10], [0, 0, 8, 13]),
      ),
      slab([-44, 0, 120], [12, 5, 40], 2),
    ),
    0.35,
    9,
  ),
  box: { min: [-106, -30, -8], max: [106, 30, 150] },
};

/** The head of a pilot in a cap, on its neck. */
const pilot: Figure = {
  depth: without(
    worked(
      melted(
        15,
        egg([0, 0, 196], [74, 90, 96]),
        egg([0, -16, 148], [56, 70, 62]),
        chain([0, 20, 120, 56], [0, 26, 40, 58], [0, 28, 8, 66]),
        // Nose, brows, chin, ears.
        chain([0, -84, 204, 9], [0, -104, 174, 13], [0, -90, 166, 15]),
        ...mirrored((side) => chain([side * 12, -86, 210, 9], [side * 44, -74, 210, 9])),
        chain([-20, -80, 134, 9], [20, -80, 134, 9]),
        egg([0, -78, 108], [26, 18, 18]),
        ...mirrored((side) => egg([side * 74, 8, 178], [9, 19, 27])),
        // The cap, its peak and band.
        egg([0, 10, 262], [88, 100, 52]),
        slab([0, 4, 240], [82, 94, 13], 12),
        slab([0, -96, 232], [56, 40, 5], 4),
      ),
      0.9,
      34,
    ),
    // It stands on the cut of its neck.
    slab([0, 0, -100], [200, 200, 108], 0),
  ),
  box: { min: [-115, -150, -6], max: [115, 130, 330] },
};

export const FIGURES = { otter, heron, hound, mallet, pilot } as const;
export type FigureName = keyof typeof FIGURES;
