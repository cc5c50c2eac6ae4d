import { saturationHpa } from '@kalvet/core';

/** A shell room as it stands in: what is outside, how it is heated and dried, and what wet shells give to its air. */
export interface StandInRoom {
  readonly outsideC: number;
  readonly outsidePercent: number;
  /** To where it is heated, and to what its drier brings it, %. */
  readonly heatedC: number;
  readonly driedPercent: number;
  /** Kilograms of water an hour that hang in it wet. */
  readonly wetKgAnHour: number;
  readonly volumeM3: number;
}

/** Its air at a moment. */
export interface RoomAir {
  readonly celsius: number;
  /** Water in it, kg. */
  readonly waterKg: number;
}

export const SHELL_ROOM: StandInRoom = {
  outsideC: 9,
  outsidePercent: 82,
  heatedC: 22,
  driedPercent: 48,
  wetKgAnHour: 1.1,
  volumeM3: 140,
};
/** Warmed, and dried by its own machine. */
export const CABINET: StandInRoom = { ...SHELL_ROOM, heatedC: 24.2, driedPercent: 40, wetKgAnHour: 0.12, volumeM3: 6 };

/** Water vapour's own gas constant, J/kgK. */
const VAPOUR = 461.5;
/** Air changes an hour: shut, and with doors and windows open. */
const [SHUT, AIRED] = [0.35, 9];
/** How fast heating and drier bring it back, an hour. */
const [HEATS, DRIES] = [1.6, 1.9];

/** Water that so much air holds at a temperature and humidity, kg. */
const water = (celsius: number, percent: number, volumeM3: number): number =>
  ((saturationHpa(celsius) * 100 * (percent / 100)) / (VAPOUR * (celsius + 273.15))) * volumeM3;

/** The air as it settles. */
export const settled = ({ heatedC, driedPercent, volumeM3 }: StandInRoom): RoomAir => ({
  celsius: heatedC,
  waterKg: water(heatedC, driedPercent, volumeM3),
});

/** So many seconds later: doors stand open or shut, the drier runs or does not. */
export function airLater(
  room: StandInRoom,
  { celsius, waterKg }: RoomAir,
  seconds: number,
  { aired = false, drier = true }: { readonly aired?: boolean; readonly drier?: boolean } = {},
): RoomAir {
  const hours = seconds / 3600;
  const changes = 1 - Math.exp(-(aired ? AIRED : SHUT) * hours);
  const outside = water(room.outsideC, room.outsidePercent, room.volumeM3);
  const cooled = celsius + (room.outsideC - celsius) * changes * 0.6;
  const warmed = cooled + (room.heatedC - cooled) * (1 - Math.exp(-HEATS * hours));
  const exchanged = waterKg + (outside - waterKg) * changes + room.wetKgAnHour * hours;
  const wanted = water(warmed, room.driedPercent, room.volumeM3);
  const dried =
    drier && exchanged > wanted ? exchanged + (wanted - exchanged) * (1 - Math.exp(-DRIES * hours)) : exchanged;
  // What is more than the air can hold runs down the windows.
  return { celsius: warmed, waterKg: Math.min(dried, water(warmed, 100, room.volumeM3)) };
}

/** The humidity of the air, %. */
export const humidityOf = ({ volumeM3 }: StandInRoom, { celsius, waterKg }: RoomAir): number =>
  Math.min(100, (waterKg / water(celsius, 100, volumeM3)) * 100);
