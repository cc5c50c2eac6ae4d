export { runModelJob } from './jobs.ts';
export type { ModelAnswers, ModelJobKind, ModelQuestions } from './jobs.ts';
export { reportModel } from './report.ts';
export type { ModelReport, TrapsReport, Weighed } from './report.ts';
export { ModelWorker, serveModelJobs } from './worker.ts';
export type { JobsPort, WorkerLike } from './worker.ts';
