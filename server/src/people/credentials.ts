import type { Id } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import { people } from './person-of.ts';

/** By what somebody proves who they are: only hashes. */
export interface Credential {
  readonly personId: Id;
  readonly passwordHash: string | null;
  readonly pinHash: string | null;
  readonly mustChange: boolean;
  readonly openid: string | null;
}

export const credentialOf = async (store: Store, personId: Id): Promise<Credential | undefined> =>
  (await rowsOf<Credential>(store, 'credentials', { personId }))[0];

export const keepCredential = async (
  store: Store,
  personId: Id,
  values: Partial<Credential>,
  transaction: Transaction | null = null,
): Promise<void> => {
  await store.models.credentials.bulkCreate([{ mustChange: false, ...values, personId }], {
    updateOnDuplicate: Object.keys(values) as never[],
    transaction,
  });
};

/** Whether somebody manages the shop who can prove it: from then on nobody else can set it up. */
export async function isManaged(store: Store): Promise<boolean> {
  const found = await rowsOf<Credential>(store, 'credentials', {
    [Op.or]: [{ passwordHash: { [Op.ne]: null } }, { openid: { [Op.ne]: null } }],
  });
  const known = new Set(found.map(({ personId }) => personId));
  return (await people(store)).some(({ id, active, roles }) => active && roles.includes('manager') && known.has(id));
}
