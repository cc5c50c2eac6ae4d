import { normal } from './chance.ts';

/** How an instrument distorts what it looks at. */
export interface SignalModel {
  /** Its time constant, s: a dipped thermocouple takes six to eight. */
  readonly lagS: number;
  /** Standard deviation of its noise, K. */
  readonly noiseK: number;
  /** What it reads of what is there: an emissivity that is set wrong. */
  readonly offsetK: number;
  /** Chance, a reading, that it falls silent, and for how long, s. */
  readonly dropout: number;
  readonly dropoutS: readonly [least: number, most: number];
  /** Chance, a reading, that it sends °F and calls them °C. */
  readonly wrongUnit: number;
}

export const IMMERSION: SignalModel = {
  lagS: 7,
  noiseK: 1.2,
  offsetK: 0,
  dropout: 0.004,
  dropoutS: [3, 9],
  wrongUnit: 0.004,
};
export const INFRARED: SignalModel = {
  lagS: 0.4,
  noiseK: 6,
  offsetK: -8,
  dropout: 0.01,
  dropoutS: [1, 4],
  wrongUnit: 0,
};
export const CONTROLLER: SignalModel = {
  lagS: 20,
  noiseK: 0.8,
  offsetK: 0,
  dropout: 0.001,
  dropoutS: [10, 30],
  wrongUnit: 0,
};

/** What it sends; null where it is silent. */
export interface Sent {
  readonly value: number;
  readonly unit: '°C';
}

/** An instrument that looks at a temperature: with lag, noise, silences, and now and then the wrong unit. */
export class Signal {
  private reads: number;
  private silentS = 0;

  constructor(
    private readonly model: SignalModel,
    private readonly random: () => number,
    startsC = 20,
  ) {
    this.reads = startsC;
  }

  /** So many seconds later it looks at so many °C. */
  look(celsius: number, seconds: number): Sent | null {
    const { lagS, noiseK, offsetK, dropout, dropoutS, wrongUnit } = this.model;
    this.reads += (celsius - this.reads) * (lagS === 0 ? 1 : 1 - Math.exp(-seconds / lagS));
    if (this.silentS > 0) {
      this.silentS -= seconds;
      return null;
    }
    if (this.random() < dropout) {
      this.silentS = dropoutS[0] + (dropoutS[1] - dropoutS[0]) * this.random();
      return null;
    }
    const shown = this.reads + offsetK + noiseK * normal(this.random);
    const value = this.random() < wrongUnit ? shown * 1.8 + 32 : shown;
    return { value: Math.round(value * 10) / 10, unit: '°C' };
  }
}
