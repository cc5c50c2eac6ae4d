import type { Id, Instant, Instrument, InstrumentReading, SaveInstrument, Text } from '@kalvet/core';
import { INSTRUMENT_LOOKS_AT, INSTRUMENT_NAMES, say, understand } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { message } from './instrument.schema.ts';

/** Enters an instrument, or changes it. */
export async function saveInstrument(ctx: Context, given: SaveInstrument): Promise<{ id: Id }> {
  ctx.may('save instrument');
  const { version, ...fields } = given;
  const [twin] = await ctx.rows<Instrument>('instruments', { code: given.code });
  if (twin && twin.id !== given.id) throw invalid({ code: say`${twin.name} has it already` });
  const looksAt = INSTRUMENT_LOOKS_AT[given.kind];
  if ((looksAt === 'heat') !== (given.where !== null))
    throw invalid({ where: looksAt === 'heat' ? 'say where it reads' : 'it reads no metal' });
  const table = looksAt === 'drying place' ? 'dryingPlaces' : looksAt === 'tank' ? 'tanks' : null;
  if ((table !== null) !== (given.ofId !== null))
    throw invalid({ ofId: table === null ? 'it reads no room and no tank' : say`say which ${looksAt} it reads` });
  if (table !== null && (await ctx.rows(table, { id: given.ofId })).length === 0)
    throw invalid({ ofId: say`there is no such ${looksAt}` });
  if (version === 0) {
    if (await ctx.find('instruments', given.id))
      throw invalid({ id: 'this instrument is entered already; open the form again' });
    await ctx.insert<Instrument>('instruments', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<Instrument>('instruments', given.id, version, 'instrument', given);
    await ctx.update('instruments', before, fields);
  }
  ctx.event = {
    verb: 'save instrument',
    text: say`${given.name}, ${INSTRUMENT_NAMES[given.kind]}: ${given.state}`,
    room: 'pour',
  };
  ctx.concern('instrument', given.id);
  return { id: given.id };
}

/** What a room does with what its instruments say, beside its being shown. */
export type Taker = (store: Store, instrument: Instrument, reading: InstrumentReading) => Promise<unknown>;
export type Takers = Readonly<Partial<Record<Instrument['kind'], Taker>>>;

/** What became of a message: kept, or why not. */
export type Taken = { readonly kept: InstrumentReading } | { readonly wrong: Text };

/**
 * Takes in what an instrument sent. It is no record of the work and no event: what it said last is kept, and what counts is taken
 * into a heat by somebody.
 * @param payload as it came over the wire; @param takers what the rooms do with it
 */
export async function takeIn(
  store: Store,
  code: string,
  payload: string,
  now: Instant,
  takers: Takers = {},
): Promise<Taken> {
  const [instrument] = await rowsOf<Instrument>(store, 'instruments', { code });
  if (!instrument) return { wrong: say`no instrument ${code} is entered` };
  if (instrument.state === 'off') return { wrong: say`${instrument.name} is off` };
  let given: unknown;
  try {
    given = JSON.parse(payload);
  } catch {
    return { wrong: 'it is no JSON' };
  }
  const { error, value } = message.validate(given, { convert: false });
  if (error) return { wrong: error.message };
  const [before] = await rowsOf<InstrumentReading>(store, 'instrumentNow', { instrumentId: instrument.id });
  const read = understand(instrument.kind, value!, now, before);
  if ('wrong' in read) return read;
  const kept: InstrumentReading = { instrumentId: instrument.id, ...read };
  // What comes late does not take the place of what came since.
  if (before && before.at > kept.at) return { kept: before };
  await store.models.instrumentNow.upsert({ ...kept, at: new Date(kept.at) } as never);
  await takers[instrument.kind]?.(store, instrument, kept);
  return { kept };
}
