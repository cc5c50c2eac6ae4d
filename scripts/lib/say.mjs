/** Prints one line of progress, so that a first start is never silent. */
export const say = (text) => process.stdout.write(`kalvet: ${text}\n`);

/** An error that is already in words for the person at the terminal: printed without a stack. */
export class Told extends Error {}

/** Runs a script's main function; a `Told` error ends it with its words and exit code 1. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    if (error instanceof Told) process.stderr.write(`kalvet: ${error.message}\n`);
    else if (error?.code === 'ENOSPC')
      process.stderr.write('kalvet: the disk is full. Make room and start again: nothing that was saved is lost.\n');
    else process.stderr.write(`${error?.stack ?? error}\n`);
    process.exitCode = 1;
  }
}
