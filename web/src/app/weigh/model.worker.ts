// Reads and measures models beside the screens, so that they go on answering.
import { serveModelJobs } from '@kalvet/core/weigh/index';
import type { JobsPort } from '@kalvet/core/weigh/index';

// The screens' types know windows, not workers; of a worker's scope only these two are needed.
const scope = globalThis as unknown as {
  postMessage(message: unknown): void;
  addEventListener(name: 'message', hear: (event: { data: unknown }) => void): void;
};

const port: JobsPort = {
  post: (message) => scope.postMessage(message),
  listen: (hear) => scope.addEventListener('message', ({ data }) => hear(data)),
};
serveModelJobs(port);
