// What a request may ask of a worker thread, so that whatever was uploaded never holds up the answers to others.
import type { ImportReadingShape } from '@basileus/contract';
import type { Db } from './database';
import { readColumns, understandFile } from './imports';
import { tryFill, tryOnListings, tryRemedies } from './remedies';
import { lookAtDeed } from './changes';
import { countBulkNow, loadBulkRows, tryBulkNow } from './bulk';
import { tryRulesOn } from './sources';
import { judgeTemplate } from './markets';
import { matchLinks } from './pictures';
import type { SourceRules } from '@basileus/core/source';

export const asks = {
  'look-at-reversal': (db: Db, given: { set: number; skus?: string[] }) => lookAtDeed(db, given.set, given.skus),
  'count-bulk': countBulkNow,
  'look-at-bulk': loadBulkRows,
  'try-bulk': tryBulkNow,
  'try-remedies': tryRemedies,
  'try-fill': tryFill,
  'try-on-listings': tryOnListings,
  'understand-file': (db: Db, given: { file: number; name: string }) => understandFile(db, given.file, given.name),
  'read-columns': (db: Db, given: { file: number; kind: 'text' | 'workbook'; reading: ImportReadingShape }) =>
    readColumns(db, given.file, given.kind, given.reading),
  'judge-template': judgeTemplate,
  'match-pictures': matchLinks,
  'try-rules': (db: Db, given: { source: number; rules: SourceRules; search: string }) =>
    tryRulesOn(db, given.source, given.rules, given.search),
} as const;
