import { listPlanRows, listSendings, previewFile, readPlan } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { queryOptions } from '@tanstack/react-query';
import type { z } from 'zod';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';
import type { RowChoice } from './ChooseRows';

export type FilePreview = z.output<typeof previewFile.response>;

export const rowsOnPage = 100;

export const planQuery = (market: string, choice: RowChoice) =>
  queryOptions({
    queryKey: ['listings', 'plan', market, choice],
    queryFn: () => call(readPlan, { params: { market }, query: choice }),
    placeholderData: keepWithin('listings', 'plan', market),
  });

export const planRowsQuery = (
  market: string,
  operation: Operation,
  held: '' | 'yes' | 'no',
  choice: RowChoice,
  offset: number,
) =>
  queryOptions({
    queryKey: ['listings', 'plan', market, operation, held, offset, choice],
    queryFn: () =>
      call(listPlanRows, { params: { market, operation }, query: { ...choice, held, offset, limit: rowsOnPage } }),
    placeholderData: keepWithin('listings', 'plan', market, operation, held),
  });

/** What goes by the clock, to a market or all of them. */
export const sendingsQuery = (market: string) =>
  queryOptions({
    queryKey: ['dispatches', 'sendings', market],
    queryFn: () => call(listSendings, { query: { market } }),
  });

/** The file as the market would get it, its first rows. */
export const fileQuery = (market: string, operation: Operation, choice: RowChoice, form?: string) =>
  queryOptions({
    queryKey: ['listings', 'plan', market, operation, 'file', choice, form],
    queryFn: () => call(previewFile, { params: { market, operation }, query: { ...choice, form } }),
    placeholderData: keepWithin('listings', 'plan', market, operation, 'file'),
  });
