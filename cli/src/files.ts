import { readFile, rename, writeFile } from 'node:fs/promises';

/** Something about the command or a file that is wrong, in one line for the person at the terminal. */
export class Wrong extends Error {}

const reason = (error: unknown): string =>
  ({ ENOENT: 'there is no such file', EACCES: 'it may not be opened', EISDIR: 'it is a folder' })[
    (error as { code?: string }).code ?? ''
  ] ?? (error as Error).message.split('\n')[0]!;

/** Reads a file as bytes. @throws Wrong saying what is the matter with it */
export async function readBytes(path: string): Promise<Uint8Array> {
  return readFile(path).catch((error: unknown) => {
    throw new Wrong(`${path}: ${reason(error)}`);
  });
}

/** Reads a JSON file. @throws Wrong saying what is the matter with it */
export async function readJson(path: string): Promise<unknown> {
  const text = await readFile(path, 'utf8').catch((error: unknown) => {
    throw new Wrong(`${path}: ${reason(error)}`);
  });
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Wrong(`${path} is not JSON: ${(error as Error).message}`);
  }
}

/** Writes a JSON file as a whole: a reader never sees half of it. */
export async function writeJson(path: string, value: unknown): Promise<void> {
  const part = `${path}.${process.pid}.part`;
  try {
    await writeFile(part, `${JSON.stringify(value, null, 1)}\n`);
    await rename(part, path);
  } catch (error) {
    throw new Wrong(`${path} cannot be written: ${reason(error)}`);
  }
}
