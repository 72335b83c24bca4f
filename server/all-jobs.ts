// Every kind of job that this server knows.
import { sendDispatchJob, watchShelfJob } from './dispatches/jobs';
import { applyImportJob } from './imports/apply';
import { planImportJob } from './imports/plan';
import type { JobKind } from './jobs';
import { refreshMarketJob } from './listings/jobs';
import { reverseSetJob } from './products/reverse';

export const allJobs: readonly JobKind[] = [
  watchShelfJob,
  sendDispatchJob,
  planImportJob,
  applyImportJob,
  refreshMarketJob,
  reverseSetJob,
];
