import type { ChangeMessage, Id, Room } from '@kalvet/core';
import type { Request, Response } from 'express';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { signedIn } from '../people/who.ts';
import { isAway } from '../write/away.ts';
import { Problem } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

/** The number of the newest change. */
export async function changeNumber(store: Store): Promise<number> {
  const [row] = await rowsOf<{ value: number }>(store, 'counters', { name: 'change' });
  return row?.value ?? 0;
}

/** What changed after a number, one message a change; `limit` newest ones where there are more. */
export async function changesSince(store: Store, after: number, limit = 50): Promise<ChangeMessage[]> {
  const events = await store.models.events.findAll({
    where: { number: { [Op.gt]: after } },
    attributes: ['number', 'room'],
    order: [['number', 'DESC']],
    limit,
    raw: true,
  });
  const changed = (events as unknown as { number: number; room: Room | null }[]).reverse();
  const pieces = await rowsOf<{ subject: Id; number: number }>(store, 'eventSubjects', {
    number: changed.map(({ number }) => number),
    kind: 'piece',
  });
  return changed.map(({ number, room }) => ({
    change: number,
    rooms: room ? [room] : [],
    pieces: pieces.filter((each) => each.number === number).map(({ subject }) => subject),
  }));
}

const POLL_MS = 1000;
/** Streams at once: of one person, and of all. */
const MOST_OF_ONE = 24;
const MOST = 600;
const COMMENT_MS = 20_000;

/**
 * The stream that tells screens to read again. It asks the database for the counter each second while somebody listens,
 * so that several servers on one database all tell of all changes.
 */
export class LiveStream {
  /** Who listens, and whose they are. */
  private readonly listeners = new Map<Response, Id>();
  private timer: NodeJS.Timeout | undefined;
  private last: number | undefined;
  private asking = false;

  constructor(private readonly store: Store) {}

  /** Opens the stream for one screen; what it missed since its `Last-Event-ID` comes first. */
  async open(request: Request, response: Response): Promise<void> {
    const since = Number(request.header('Last-Event-ID'));
    // Heard before anything is waited for: a stream given up while it opens is forgotten at once.
    const timers: NodeJS.Timeout[] = [];
    // It may have been given up even before it came here.
    let gone = response.destroyed || request.socket.destroyed;
    response.on('close', () => {
      gone = true;
      timers.forEach(clearInterval);
      this.forget(response);
    });
    const who = signedIn(response);
    if (
      this.listeners.size >= MOST ||
      [...this.listeners.values()].filter((id) => id === who.person.id).length >= MOST_OF_ONE
    )
      throw new Problem('wait', 'Too many pages listen already. Close some of them.', { waitS: 30 });
    const newest = await changeNumber(this.store);
    if (gone) return;
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store, no-transform',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    response.write(`retry: 1500\nid: ${newest}\nevent: hello\ndata: {"change":${newest}}\n\n`);
    if (Number.isInteger(since) && since > 0 && since < newest)
      for (const message of await changesSince(this.store, since)) send(response, message);
    if (gone) return;
    this.listeners.set(response, who.person.id);
    this.last ??= newest;
    timers.push(setInterval(() => void this.stillIn(response, who.session.id), COMMENT_MS));
    this.timer ??= setInterval(() => void this.poll(), POLL_MS);
  }

  /** Says now and then that the stream lives, as long as its session does. */
  private async stillIn(response: Response, sessionId: string): Promise<void> {
    const alive = await this.store.models.sessions.count({ where: { id: sessionId } }).catch(() => 1);
    if (alive === 0) response.end();
    else response.write(': here\n\n');
  }

  private forget(response: Response): void {
    this.listeners.delete(response);
    if (this.listeners.size > 0) return;
    clearInterval(this.timer);
    this.timer = undefined;
    this.last = undefined;
  }

  private async poll(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    try {
      const newest = await changeNumber(this.store);
      const last = this.last ?? newest;
      if (newest > last)
        for (const message of await changesSince(this.store, last))
          for (const listener of this.listeners.keys()) send(listener, message);
      if (this.listeners.size > 0) this.last = newest;
    } catch (error) {
      // Whatever it is, screens say that news is missing, and this goes on; what nobody foresaw is printed.
      if (!isAway(error)) console.error('live stream:', error);
      for (const listener of this.listeners.keys()) listener.write('event: away\ndata: {}\n\n');
    } finally {
      this.asking = false;
    }
  }

  /** Ends every stream, so that the server can stop. */
  close(): void {
    clearInterval(this.timer);
    for (const listener of this.listeners.keys()) listener.end();
  }
}

function send(response: Response, message: ChangeMessage): void {
  response.write(`id: ${message.change}\ndata: ${JSON.stringify(message)}\n\n`);
}
