// What dies is started again: after a growing pause, and not for ever.
const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** Who lived so long is well again: the next pause is short. */
const WELL_MS = 60_000;
const MOST_DEATHS = 10;
const WITHIN_MS = 15 * 60_000;

/**
 * The pauses before each new start. Pure, so that it can be tested by itself.
 * @returns died(nowMs, livedMs) → the pause in ms, or undefined where it has died too often
 */
export function pauses() {
  let pause = FIRST_PAUSE_MS / 2;
  let deaths = [];
  return (nowMs, livedMs) => {
    deaths = [...deaths.filter((at) => nowMs - at < WITHIN_MS), nowMs];
    if (deaths.length > MOST_DEATHS) return undefined;
    pause = livedMs >= WELL_MS ? FIRST_PAUSE_MS : Math.min(LONGEST_PAUSE_MS, pause * 2);
    return pause;
  };
}

/**
 * Keeps something alive until `stopping()`.
 * @param begin starts it and resolves to { ended }, a promise of how it ended, in words
 * @param told is told of each death: (how, pauseMs)
 * @returns a promise that resolves when it was stopped, and rejects with words where it died too often
 */
export async function keepAlive({
  name,
  begin,
  told,
  stopping,
  wait = (ms) => new Promise((ok) => setTimeout(ok, ms)),
}) {
  const next = pauses();
  for (;;) {
    const began = Date.now();
    const how = await begin().then(
      ({ ended }) => ended,
      (error) => error.message,
    );
    if (stopping()) return;
    const pause = next(Date.now(), Date.now() - began);
    if (pause === undefined)
      throw new Error(`${name} ended ${MOST_DEATHS + 1} times within ${WITHIN_MS / 60_000} minutes, last: ${how}`);
    told(how, pause);
    await wait(pause);
    if (stopping()) return;
  }
}
