// Every kind of job that this server knows.
import { buildDispatchJob, sendByClockJob, sendDispatchJob, sendingClockJob, watchShelfJob } from './dispatches';
import { applyImportJob, importClockJob, planImportJob } from './imports';
import type { JobKind } from './jobs';
import { lookUpJob, refreshMarketJob } from './listings';
import { bulkChangeJob, bulkTrialJob, recipeClockJob } from './bulk';
import { reverseSetJob } from './changes';
import { exportClockJob, makeExportJob } from './exports';
import { emptyFieldJob, moveCategoryJob } from './own';
import { removeItemsJob } from './reshape';
import { lookAtPicturesJob } from './pictures';
import { lookForLeavesJob, placeItemsJob } from './placing';
import { runSourceJob, sourceClockJob } from './sources';

export const allJobs: readonly JobKind[] = [
  watchShelfJob,
  sendDispatchJob,
  buildDispatchJob,
  sendByClockJob,
  sendingClockJob,
  planImportJob,
  applyImportJob,
  importClockJob,
  refreshMarketJob,
  lookUpJob,
  lookForLeavesJob,
  placeItemsJob,
  reverseSetJob,
  emptyFieldJob,
  moveCategoryJob,
  bulkChangeJob,
  bulkTrialJob,
  recipeClockJob,
  makeExportJob,
  exportClockJob,
  removeItemsJob,
  runSourceJob,
  sourceClockJob,
  lookAtPicturesJob,
];
