/** Readings that were begun while the application was still starting, each to be taken once. */
const begun = new Map<string, Promise<unknown>>();

/** Begins to read before there is anybody to show it. Where it fails, whoever takes it reads again as usual. */
export function readEarly(path: string): void {
  begun.set(
    path,
    fetch(`/api${path}`).then(
      (answer) => (answer.ok ? answer.json() : undefined),
      () => undefined,
    ),
  );
}

/** What was begun for an address, once; undefined where nothing was. */
export function takeEarly(path: string): Promise<unknown> | undefined {
  const found = begun.get(path);
  begun.delete(path);
  return found;
}
