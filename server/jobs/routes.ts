import { cancelJob, listJobs } from '@basileus/contract';
import type { Router } from 'express';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { AppError, route } from '../http';
import { say } from '@basileus/core/text';

interface JobRow {
  id: string;
  kind: string;
  title: string;
  state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  total: number;
  error: string | null;
  link: string | null;
  cancellable: boolean;
  created_at: Date;
}

export function addJobRoutes(router: Router, db: Db): void {
  route(router, listJobs, async () => {
    const rows = await rowsOf<JobRow>(
      db,
      `select *
        from jobs
        where title <> '' and (state in ('queued', 'running') or updated_at > now() - interval '2 hours')
        order by state in ('queued', 'running') desc, created_at desc limit 20`,
    );
    return {
      rows: rows.map((r) => ({
        id: r.id,
        kind: r.kind,
        title: r.title,
        state: r.state,
        done: r.done,
        total: r.total,
        error: r.error,
        link: r.link,
        cancellable: r.cancellable,
        createdAt: r.created_at.toISOString(),
      })),
    };
  });
  route(router, cancelJob, async ({ params }) => {
    const changed = await rowsOf(
      db,
      `update jobs
        set cancel_wanted = true
        where id::text = ? and cancellable and state in ('queued', 'running')
        returning id`,
      [params.id],
    );
    if (changed.length === 0)
      throw new AppError('not-now', say`This job has ended already or cannot be stopped safely.`, {
        remedy: say`Let it end; what it changed can be taken back from the change history.`,
      });
    await announce(db, { topic: 'jobs', id: params.id });
    return { ok: true as const };
  });
}
