import { Worker } from 'node:worker_threads';
import type { WorkerOptions } from 'node:worker_threads';
import { ModelWorker } from '@kalvet/core/weigh/index';

/** A million triangles take a few hundred megabytes; a file that takes more than this must not take the server along. */
const HEAP_MB = 2048;

/**
 * Measures models in a thread.
 * @param program the built thread: `weigher.mjs` beside the server's own program
 */
export const modelWorker = (program: URL, options: WorkerOptions = {}): ModelWorker =>
  new ModelWorker(() => {
    const thread = new Worker(program, { resourceLimits: { maxOldGenerationSizeMb: HEAP_MB }, ...options });
    return {
      post: (message) => thread.postMessage(message),
      listen: (hear, broken) => {
        thread.on('message', hear);
        thread.on('error', broken);
      },
      end: () => void thread.terminate(),
    };
  });
