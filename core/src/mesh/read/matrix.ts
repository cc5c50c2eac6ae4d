/** A placement: a 3 × 3 matrix by columns and a shift, twelve numbers; `x' = m0·x + m3·y + m6·z + m9`. */
export type Placement = readonly number[];

export const UNPLACED: Placement = [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0];

/** The placement that first does `inner` and then `outer`. */
export function placed(outer: Placement, inner: Placement): Placement {
  const result: number[] = [];
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 3; row++) {
      let sum = column === 3 ? outer[9 + row]! : 0;
      for (let k = 0; k < 3; k++) sum += outer[3 * k + row]! * inner[3 * column + k]!;
      result.push(sum);
    }
  return result;
}

/** The volume that a unit cube becomes; negative where the placement mirrors. */
export const determinant = (m: Placement): number =>
  m[0]! * (m[4]! * m[8]! - m[7]! * m[5]!) -
  m[3]! * (m[1]! * m[8]! - m[7]! * m[2]!) +
  m[6]! * (m[1]! * m[5]! - m[4]! * m[2]!);

/** A coordinate of a place, after the placement; axis 0, 1 or 2. */
export const placeAxis = (m: Placement, axis: number, x: number, y: number, z: number): number =>
  m[axis]! * x + m[axis + 3]! * y + m[axis + 6]! * z + m[axis + 9]!;
