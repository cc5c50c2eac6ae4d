import type { ChargeLine, Client, FoundLine, Heat, Id, Load, Order, Person, Piece, Rights, Work } from '@kalvet/core';
import { alloyOf, mayRead, maySee, markOf } from '@kalvet/core';
import type { WhereOptions } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { labelled } from '../shop/labelled.ts';
import type { Store } from '../write/store.ts';

interface PieceFound extends Pick<Piece, 'id' | 'series' | 'number' | 'of' | 'state'> {
  readonly work: { readonly title: string; readonly code: string };
}

const PIECES = 8;
const OTHERS = 4;
const NUMBER_AT_END = /(\d+)(?:\/\d+)?$/;
/** `T-12`, `H-31`, `L-88`, `O-3`, `M-5`. */
const NUMBERED = /^([thlom])-?(\d{1,9})$/i;

/** Everything that is called so, as far as whoever asks may see it: pieces first, then what they belong to. */
export async function find(store: Store, asked: string, person: Rights): Promise<FoundLine[]> {
  const numbered = NUMBERED.exec(asked);
  const letter = numbered?.[1]?.toLowerCase();
  const number = Number(numbered?.[2] ?? 0);
  if (letter === 't') return pieces(store, { id: await piecesOnTree(store, number) });
  if (letter === 'h' && mayRead(person, 'heats')) {
    const found = await heats(store, { number });
    if (found.length > 0) return found;
  }
  if (letter === 'l' && mayRead(person, 'loads')) {
    const found = await loads(store, { number });
    if (found.length > 0) return found;
  }
  if (letter === 'o' && mayRead(person, 'orders')) {
    const found = await orders(store, { number }, person);
    if (found.length > 0) return found;
  }
  const like = { [Op.like]: `%${asked.replace(/[%_\\]/g, '\\$&')}%` };
  const all = await Promise.all([
    pieces(store, byWords(asked)),
    works(store, { [Op.or]: [{ title: like }, { artist: like }] }),
    mayRead(person, 'orders') ? orders(store, { title: like }, person) : [],
    maySee(person, 'clients') && mayRead(person, 'orders') ? clients(store, { name: like }) : [],
    mayRead(person, 'heats') ? lots(store, like) : [],
    mayRead(person, 'people') ? persons(store, { name: like }) : [],
  ]);
  return all.flat();
}

async function pieces({ models }: Store, where: WhereOptions): Promise<FoundLine[]> {
  const rows = await models.pieces.findAll({
    where,
    attributes: ['id', 'series', 'number', 'of', 'state'],
    include: [{ association: 'work', attributes: ['title', 'code'], required: true }],
    order: [
      ['work', 'title', 'ASC'],
      ['series', 'ASC'],
      ['number', 'ASC'],
    ],
    limit: PIECES,
  });
  return (rows as unknown as PieceFound[]).map(({ id, series, number, of, state, work }) => ({
    what: 'piece',
    label: `${work.title} ${markOf({ series, number, of })}`,
    beside: `${work.code}${state === 'in work' ? '' : ` · ${state}`}`,
    path: `/pieces/${id}`,
  }));
}

const few = <T>(rows: readonly T[]): readonly T[] => rows.slice(0, OTHERS);

async function works(store: Store, where: object): Promise<FoundLine[]> {
  return few(await rowsOf<Work>(store, 'works', where as never)).map(({ id, title, artist }) => ({
    what: 'work',
    label: title,
    beside: `work by ${artist}`,
    path: `/works/${id}`,
  }));
}

async function orders(store: Store, where: object, person: Rights): Promise<FoundLine[]> {
  const found = few(await rowsOf<Order>(store, 'orders', where as never));
  const names = new Map((await rowsOf<Client>(store, 'clients', {})).map(({ id, name }) => [id, name]));
  return found.map(({ id, number, title, clientId }) => ({
    what: 'order',
    label: `O-${number} ${title}`,
    beside: maySee(person, 'clients') ? `order of ${names.get(clientId) ?? 'a client'}` : 'order',
    path: '/orders',
    query: { order: id },
  }));
}

async function clients(store: Store, where: object): Promise<FoundLine[]> {
  return few(await rowsOf<Client>(store, 'clients', where as never)).map(({ id, name }) => ({
    what: 'client',
    label: name,
    beside: 'client: pieces on the Floor',
    path: '/floor',
    query: { client: id },
  }));
}

async function heats(store: Store, where: object): Promise<FoundLine[]> {
  return few(await rowsOf<Heat>(store, 'heats', where as never)).map(({ id, number, alloyId, state }) => ({
    what: 'heat',
    label: `H-${number}`,
    beside: `heat of ${alloyOf(alloyId).name}, ${state}`,
    path: `/heats/${id}`,
  }));
}

async function loads(store: Store, where: object): Promise<FoundLine[]> {
  return few(await rowsOf<Load>(store, 'loads', where as never)).map(({ id, number, state, profile }) => ({
    what: 'load',
    label: `L-${number}`,
    beside: `kiln load, ${profile || state}`,
    path: `/loads/${id}`,
  }));
}

/** A lot leads to the heats that it went into. */
async function lots(store: Store, like: object): Promise<FoundLine[]> {
  const lines = await rowsOf<ChargeLine>(store, 'chargeLines', { lot: like } as never);
  const byHeat = new Map(lines.map(({ heatId, lot }): [Id, string] => [heatId, lot]));
  const found = await rowsOf<Heat>(store, 'heats', { id: [...byHeat.keys()] });
  return few([...found].sort((a, b) => b.number - a.number)).map(({ id, number }) => ({
    what: 'lot',
    label: `lot ${byHeat.get(id)!}`,
    beside: `charged in H-${number}`,
    path: `/heats/${id}`,
  }));
}

async function persons(store: Store, where: object): Promise<FoundLine[]> {
  return few(await rowsOf<Person>(store, 'people', where as never)).map(({ name, active }) => ({
    what: 'person',
    label: name,
    beside: active ? 'works here' : 'worked here',
    path: '/people',
  }));
}

async function piecesOnTree(store: Store, number: number): Promise<Id[]> {
  const [row] = await rowsOf<{ id: Id }>(store, 'trees', { number });
  if (!row) return [];
  const index = await labelled(store, { trees: [row.id] });
  return [...index.piece.keys()];
}

/** A title, artist or tag begins so; a number at the end is the piece's. */
function byWords(asked: string): WhereOptions {
  const number = NUMBER_AT_END.exec(asked);
  const words = (number ? asked.slice(0, number.index) : asked).trim().replace(/\s+ap$/i, '');
  const escaped = words.replace(/[%_\\]/g, '\\$&');
  const inside = { [Op.like]: `%${escaped}%` };
  const named = [{ '$work.title$': inside }, { '$work.code$': { [Op.like]: `${escaped}%` } }];
  return number
    ? { [Op.or]: named, number: Number(number[1]!.slice(0, 9)) }
    : { [Op.or]: [...named, { '$work.artist$': inside }] };
}
