import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { isAway } from '../write/away.ts';
import { connect } from './connection.ts';

describe('the way to the database', () => {
  it('is encrypted as the URL says, or says in words what is wrong with that', () => {
    const url = (query: string) => `mariadb://kalvet:x@db.example:3306/kalvet${query}`;
    const ssl = (query: string) =>
      (connect(url(query)) as unknown as { options: { dialectOptions: { ssl?: { rejectUnauthorized: boolean } } } })
        .options.dialectOptions.ssl;
    expect(ssl('')).toBeUndefined();
    expect(ssl('?tls=on')!.rejectUnauthorized).toBeFalse();
    expect(ssl('?tls=verify')!.rejectUnauthorized).toBeTrue();
    expect(() => connect(url('?tls=perhaps'))).toThrowError(/takes tls=on or tls=verify/);
    expect(() => connect(url('?tls=verify&ca=/no/such.pem'))).toThrowError(
      /\/no\/such\.pem of KALVET_DB_URL cannot be read/,
    );
  });

  it('is given up where somebody answers there who never says anything', async () => {
    const silent = createServer(() => undefined);
    await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
    const { port } = silent.address() as AddressInfo;
    const db = connect(`mariadb://kalvet:x@127.0.0.1:${port}/none`);
    const began = Date.now();
    const error = await db.query('SELECT 1').then(
      () => undefined,
      (failure: unknown) => failure,
    );
    expect(isAway(error)).toBeTrue();
    expect(Date.now() - began).toBeLessThan(9_000);
    await db.close();
    silent.close();
  }, 20_000);
});
