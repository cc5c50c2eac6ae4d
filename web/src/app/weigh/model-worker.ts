import { ModelWorker } from '@kalvet/core/weigh/index';

/** Measures models in a browser worker. Questions that may need the geometry kernel name where its program lies: `kernelUrl()`. */
export const modelWorker = (): ModelWorker =>
  new ModelWorker(() => {
    const worker = new Worker(new URL('./model.worker', import.meta.url), { type: 'module' });
    return {
      post: (message) => worker.postMessage(message),
      listen: (hear, broken) => {
        worker.onmessage = ({ data }) => hear(data);
        worker.onerror = (event) => broken(new Error(event.message || 'the worker that measures models broke down'));
      },
      end: () => worker.terminate(),
    };
  });

/** Where the geometry kernel's program is served: beside the pages. */
export const kernelUrl = (): string => new URL('manifold.wasm', document.baseURI).href;
