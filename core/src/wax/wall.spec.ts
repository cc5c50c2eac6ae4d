import { inWords } from '../units/words.ts';
import { wallFromWax, waxFromWall } from './wall.ts';

describe('wall from weight', () => {
  // Sphere R 50 mm, wall 5 mm: wax volume 4/3·π·(5³−4.5³) = 141.9 cm³, outer area 4·π·5² = 314.2 cm².
  const waxKg = ((4 / 3) * Math.PI * (5 ** 3 - 4.5 ** 3) * 0.93) / 1000;
  const area = 4 * Math.PI * 25;

  it('reads a curved wall thin over the outer area: 4.52 mm, and says so', () => {
    const wall = wallFromWax(waxKg, area);
    expect(wall.value).toBeCloseTo(4.52, 2);
    expect(wall.plusMinus! / wall.value).toBeCloseTo(0.1, 6);
    expect(inWords(wall.inWords)).toContain('reads thin');
  });

  it('is the inverse of the wax that a wall asks for', () => {
    expect(wallFromWax(waxFromWall(5, area).value, area).value).toBeCloseTo(5, 9);
  });
});
