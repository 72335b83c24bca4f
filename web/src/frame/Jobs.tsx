import { cancelJob, type Job } from '@basileus/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { Activity } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { jobsQuery } from './queries';
import { count, say } from '../ui/text';

/** Running jobs with progress; they go on when the window closes. */
export function Jobs() {
  const [isOpen, setOpen] = useState(false);
  const rows = useQuery(jobsQuery).data?.rows ?? [];
  const running = rows.filter((j) => j.state === 'running' || j.state === 'queued');
  const cancel = useMutation({
    mutationFn: (id: string) => call(cancelJob, { params: { id } }),
    onError: (e) => toast.error(e.message),
  });
  return (
    <div
      className="relative"
      onKeyDown={(e) => {
        if (e.key === 'Escape') setOpen(false);
      }}
    >
      <button
        type="button"
        className="btn btn-ghost btn-sm gap-1.5"
        aria-expanded={isOpen}
        onClick={() => {
          setOpen(!isOpen);
        }}
        aria-label={running.length ? say`Jobs: ${running.length} running` : say`Jobs`}
      >
        <Activity size={16} className={running.length ? 'text-secondary' : ''} />
        {running.length > 0 && <span className="num">{running.length}</span>}
      </button>
      {isOpen && (
        <div
          className="panel absolute end-0 z-40 mt-1 max-h-[70vh] w-80 overflow-auto shadow-lg"
          role="region"
          aria-label={say`Jobs`}
        >
          {rows.length === 0 && (
            <p className="p-4 quiet">
              {say`No jobs yet. Imports, checks and sending show here while they run, and go on when you close the window.`}
            </p>
          )}
          {rows.map((j) => (
            <JobLine
              key={j.id}
              job={j}
              onCancel={() => {
                cancel.mutate(j.id);
              }}
              onGo={() => {
                setOpen(false);
              }}
            />
          ))}
        </div>
      )}
    </div>
  );
}

const words: Record<Job['state'], string> = {
  queued: say`waits`,
  running: say`runs`,
  done: say`done`,
  failed: say`failed`,
  cancelled: say`stopped`,
};

function JobLine({ job, onCancel, onGo }: { job: Job; onCancel: () => void; onGo: () => void }) {
  const isOpen = job.state === 'running' || job.state === 'queued';
  return (
    <div className="border-b border-base-300 px-3 py-2 last:border-0">
      <div className="flex items-baseline gap-2">
        {job.link ? (
          <Link
            to={job.link}
            onClick={onGo}
            className="min-w-0 flex-1 truncate underline decoration-base-300 underline-offset-2"
          >
            {job.title}
          </Link>
        ) : (
          <span className="min-w-0 flex-1 truncate">{job.title}</span>
        )}
        <span className={`text-xs ${job.state === 'failed' ? 'text-error' : 'quiet'}`}>{words[job.state]}</span>
      </div>
      {isOpen && (
        <progress
          className="progress progress-primary mt-1 h-1.5 w-full"
          value={job.total ? job.done : undefined}
          max={job.total || 1}
          aria-label={job.title}
        />
      )}
      <div className="flex items-center text-xs quiet">
        <span className="num">{job.total > 0 && say`${count(job.done)} of ${count(job.total)}`}</span>
        {isOpen && job.cancellable && (
          <button type="button" className="btn btn-ghost btn-xs ms-auto" onClick={onCancel}>
            {say`Stop`}
          </button>
        )}
      </div>
      {job.error && <p className="text-xs text-error">{job.error}</p>}
    </div>
  );
}
