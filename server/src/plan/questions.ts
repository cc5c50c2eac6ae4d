import { Problem } from '../write/problem.ts';

/** A question is heavy: one is worked out at a time, and so many may wait. */
const MOST_WAITING = 8;
/** An answer stays for whoever asks again; a question that nobody asks for any more is let go. */
const KEPT_MS = 20_000;
const ASKED_AGAIN_MS = 6_000;

interface Question {
  readonly key: string;
  readonly work: () => Promise<object>;
  answer?: object;
  error?: unknown;
  asked: number;
  done: number;
  readonly ended: Promise<void>;
  readonly end: () => void;
}

/** An answer, or the place in the queue (1 is the next one, 0 is being worked out) and what it is asked for again by. */
export type Asked = { readonly answer: object } | { readonly place: number; readonly ticket: string };

/** Questions about what would happen: worked out one after another, equal ones once. */
export class Questions {
  private readonly all = new Map<string, Question>();
  private running: Question | undefined;

  /**
   * Asks, or asks again. Waits a little for the answer, so that a quick one needs no second asking.
   * @param key what makes two questions equal: what is asked, of the shop as it stands
   * @param ticket of a question that waits: its answer counts although the shop has moved on since
   * @throws Problem `unavailable` where too many wait, and what the question itself throws
   */
  async ask(key: string, work: () => Promise<object>, { ticket = '', waitMs = 2_500 } = {}): Promise<Asked> {
    this.forget();
    const question = this.all.get(ticket) ?? this.all.get(key) ?? this.add(key, work);
    question.asked = Date.now();
    this.next();
    let timer: NodeJS.Timeout | undefined;
    await Promise.race([question.ended, new Promise((resolve) => (timer = setTimeout(resolve, waitMs)))]);
    clearTimeout(timer);
    question.asked = Date.now();
    if (question.error !== undefined) {
      this.all.delete(question.key);
      throw question.error;
    }
    if (question.answer) return { answer: question.answer };
    return { place: question === this.running ? 0 : this.waiting().indexOf(question) + 1, ticket: question.key };
  }

  private waiting(): Question[] {
    return [...this.all.values()].filter((each) => each.done === 0 && each !== this.running);
  }

  private add(key: string, work: () => Promise<object>): Question {
    if (this.waiting().length >= MOST_WAITING)
      throw new Problem(
        'unavailable',
        `${MOST_WAITING} questions about dates wait before yours. Ask again in a minute; recording goes on meanwhile.`,
      );
    let end = () => {};
    const ended = new Promise<void>((resolve) => (end = resolve));
    const question: Question = { key, work, asked: Date.now(), done: 0, ended, end };
    this.all.set(key, question);
    return question;
  }

  private next(): void {
    if (this.running) return;
    const question = this.waiting()[0];
    if (!question) return;
    this.running = question;
    void question
      .work()
      .then(
        (answer) => (question.answer = answer),
        (error: unknown) => (question.error = error),
      )
      .finally(() => {
        question.done = Date.now();
        this.running = undefined;
        question.end();
        this.forget();
        this.next();
      });
  }

  private forget(): void {
    const now = Date.now();
    for (const each of this.all.values())
      if (each !== this.running && now - (each.done || each.asked) > (each.done ? KEPT_MS : ASKED_AGAIN_MS))
        this.all.delete(each.key);
  }
}
