// Reads and measures models in a thread of its own.
import { parentPort } from 'node:worker_threads';
import { serveModelJobs } from '@kalvet/core/weigh/index';

serveModelJobs({
  post: (message) => parentPort?.postMessage(message),
  listen: (hear) => parentPort?.on('message', hear),
});
