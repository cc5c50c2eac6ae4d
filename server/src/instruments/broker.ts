import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { inWords } from '@kalvet/core';
import { Aedes } from 'aedes';
import type { Store } from '../write/store.ts';
import type { Takers } from './instrument.service.ts';
import { takeIn } from './instrument.service.ts';

/** Topics that instruments speak on: the last part is their code. */
export const TOPIC = 'kalvet/instruments/';
const MOST_BYTES = 2000;
/** An instrument that says nonsense says it every second: it is told once a minute. */
const TELL_MS = 60_000;

/** A broker inside the server. It takes readings and gives nothing out: whoever wants to know asks Kalvet. */
export interface Broker {
  readonly url: string;
  close(): Promise<void>;
}

/**
 * Listens for instruments.
 * @param listen where: on this machine alone, unless the shop's network is told
 */
export async function openBroker(
  store: Store,
  listen: { readonly host: string; readonly port: number },
  now: () => string = () => new Date().toISOString(),
  takers: Takers = {},
): Promise<Broker> {
  const broker = await Aedes.createBroker({
    // Nobody listens in, and nobody speaks of anything else.
    authorizeSubscribe: (_client, _subscription, done) => done(null, null),
    authorizePublish: (_client, packet, done) => {
      const isOurs = packet.topic.startsWith(TOPIC) && packet.payload.length <= MOST_BYTES;
      done(isOurs ? null : new Error(`publish to ${TOPIC}<code>, ${MOST_BYTES} bytes at most`));
    },
  });
  const told = new Map<string, number>();
  broker.on('publish', (packet, client) => {
    if (!client || !packet.topic.startsWith(TOPIC)) return;
    const code = packet.topic.slice(TOPIC.length);
    takeIn(store, code, packet.payload.toString(), now(), takers).then(
      (taken) => {
        if (!('wrong' in taken) || Date.now() - (told.get(code) ?? 0) < TELL_MS) return;
        told.set(code, Date.now());
        console.error(`kalvet: instrument ${code}: ${inWords(taken.wrong)}`);
      },
      // The records are away: the next reading comes in a second.
      () => undefined,
    );
  });
  const server = createServer(broker.handle);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(listen.port, listen.host, resolve);
  });
  const { port } = server.address() as AddressInfo;
  return {
    url: `mqtt://${listen.host}:${port}`,
    close: () =>
      new Promise((resolve) => {
        broker.close(() => server.close(() => resolve()));
      }),
  };
}
