import { formatFigure } from './figure.ts';
import { celsius, cm2, kelvin, kg, mm, percent, plain, quantity } from './quantity.ts';
import type { Units } from './system.ts';
import { METRIC, quantityInWords, signOf } from './system.ts';
import type { Reader } from './words.ts';
import { NOTHING, at, inWords, isEmpty, joined, lowered, onDay, say, span } from './words.ts';

const AMERICAN: Units = { mass: 'lb', temperature: '°F', length: 'inch', volume: 'US gal', area: 'ft²' };
const reader: Reader = { units: AMERICAN, instant: (instant) => `<${instant}>`, day: (day) => `<${day}>` };

describe('a sentence as data', () => {
  it('is worded in the reader’s units, parts inside parts too', () => {
    const text = say`${kg(124.3)} is above ${say`the usable mark of ${kg(120, 0)}`}.`;
    expect(inWords(text)).toBe('124.3 kg is above the usable mark of 120 kg.');
    // ÷ 0.45359237
    expect(inWords(text, reader)).toBe('274.0 lb is above the usable mark of 265 lb.');
  });

  it('is the same message whatever its parts: its fixed words can be looked up', () => {
    const of = (weight: number) => say`The charge is ${kg(weight)}.`;
    expect(of(1).say).toBe('The charge is {0}.');
    expect(of(1).say).toBe(of(99).say);
  });

  it('prints instants, days and spans by the reader’s clock', () => {
    const text = say`Dry ${at('2027-03-01T08:00:00.000Z')}, due ${onDay('2027-03-02')}, after ${span(200)}`;
    expect(inWords(text, reader)).toBe('Dry <2027-03-01T08:00:00.000Z>, due <2027-03-02>, after 3 h 20 min');
  });

  it('keeps braces that somebody typed', () => {
    expect(inWords(say`Note: ${'{0} and {1}'}`)).toBe('Note: {0} and {1}');
  });

  it('can be put together, goes on in small letters, and may be nothing', () => {
    expect(inWords(joined(['One.', say`Two at ${celsius(20)}.`]))).toBe('One. Two at 20 °C.');
    expect(inWords(lowered(say`Wait ${plain(2)}`))).toBe('wait 2');
    expect([isEmpty(NOTHING), isEmpty(''), isEmpty(say`x`)]).toEqual([true, true, false]);
  });
});

describe('a quantity in words', () => {
  const american = (given: Parameters<typeof quantityInWords>[0]) => quantityInWords(given, AMERICAN);

  it('carries its unit, with the decimals it is worth', () => {
    expect([kg(8.54, 2), mm(4.5), percent(0.1), cm2(1600)].map((each) => quantityInWords(each))).toEqual([
      '8.54 kg',
      '4.5 mm',
      '10 %',
      '1600 cm²',
    ]);
  });

  it('is shown in pounds, ounces for what weighs little, Fahrenheit, inches and square feet', () => {
    expect([kg(10), kg(0.2, 3), celsius(1150), kelvin(100), mm(5, 1), cm2(9290.304)].map(american)).toEqual([
      '22.0 lb',
      '7.05 oz',
      '2102 °F',
      '180 F°',
      '0.197 in',
      '10.00 ft²',
    ]);
  });

  it('of a figure has its spread in the very unit of its value', () => {
    const figure = { value: 8.54, unit: 'kg', plusMinus: 0.26, source: 'computed', inWords: '', inputs: {} } as const;
    expect(formatFigure(figure)).toBe('8.54 ± 0.26 kg');
    expect(formatFigure(figure, 1, AMERICAN)).toBe('18.8 ± 0.6 lb');
    // A spread of temperature is no temperature: ±10 °C is ±18 °F, not ±50.
    const hot = { ...figure, value: 1000, unit: '°C', plusMinus: 10 } as const;
    expect(formatFigure(hot, 0, AMERICAN)).toBe('1832 ± 18 °F');
  });

  it('is typed with the sign of its reader', () => {
    expect([signOf('kg', AMERICAN), signOf('kg', METRIC), signOf('m', AMERICAN), signOf('min', AMERICAN)]).toEqual([
      'lb',
      'kg',
      'ft',
      'min',
    ]);
    expect(quantityInWords(quantity(3, 'min'), AMERICAN)).toBe('3 min');
  });
});
