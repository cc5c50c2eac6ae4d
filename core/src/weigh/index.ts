export { NOT_KEPT, runModelJob } from './jobs.ts';
export { USUAL_YIELD, excessOf, judgePart } from './judge-part.ts';
export type { PartFinding, PartToJudge } from './judge-part.ts';
export type { ModelLook, PartReport, ShownMesh, ThicknessReport } from './model-jobs.ts';
export type { ModelAnswers, ModelJobKind, ModelQuestions } from './jobs.ts';
export { reportModel } from './report.ts';
export type { ModelReport, TrapsReport, Weighed } from './report.ts';
export { ModelWorker, serveModelJobs } from './worker.ts';
export type { JobsPort, WorkerLike } from './worker.ts';
