import type { AuditAnswer, AuditLine, AuditWhat, How, Id, Person } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';

/** From where somebody asks. */
export interface From {
  readonly address: string;
  readonly agent: string;
}

export const NOWHERE: From = { address: '', agent: '' };

export interface Audited {
  readonly what: AuditWhat;
  readonly person: Pick<Person, 'id' | 'name'> | null;
  /** Where nobody is known by it: the name that was tried. */
  readonly name?: string;
  readonly how?: How | null;
  readonly text: string;
  readonly from: From;
}

/** Writes a line into the audit, which is kept apart from the work's history and is never changed. */
export async function audit(
  store: Store,
  { what, person, name, how = null, text, from }: Audited,
  transaction: Transaction | null = null,
): Promise<void> {
  await store.models.audit.create(
    {
      id: newId(),
      at: new Date().toISOString(),
      what,
      personId: person?.id ?? null,
      name: (person?.name ?? name ?? '').slice(0, 120),
      how,
      text: text.slice(0, 600),
      address: from.address.slice(0, 60),
      agent: from.agent.slice(0, 120),
    },
    { transaction },
  );
}

export interface AuditAsked {
  readonly what?: AuditWhat | undefined;
  readonly before?: Id | undefined;
}

const AT_ONCE = 100;
const IN_A_FILE = 50_000;

async function lines(store: Store, { what, before }: AuditAsked, limit: number): Promise<AuditLine[]> {
  const found = await store.models.audit.findAll({
    attributes: ['id'],
    where: { ...(what ? { what } : {}), ...(before ? { id: { [Op.lt]: before } } : {}) } as never,
    order: [['id', 'DESC']],
    limit,
    raw: true,
  });
  const rows = await rowsOf<AuditLine>(store, 'audit', { id: (found as unknown as { id: Id }[]).map(({ id }) => id) });
  return rows.sort((a, b) => b.id.localeCompare(a.id));
}

/** The newest lines, or those before one. */
export async function auditLines(store: Store, asked: AuditAsked, now: string): Promise<AuditAnswer> {
  const found = await lines(store, asked, AT_ONCE + 1);
  return { lines: found.slice(0, AT_ONCE), more: found.length > AT_ONCE, now };
}

/** The lines as rows for a file, the newest first. */
export const auditRows = (store: Store, asked: AuditAsked): Promise<AuditLine[]> => lines(store, asked, IN_A_FILE);
