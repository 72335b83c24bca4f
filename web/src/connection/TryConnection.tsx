import { tryConnection } from '@basileus/contract';
import { useMutation } from '@tanstack/react-query';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** A real try of an address, with the key that is typed or else the one that is kept, with a clear answer. */
export function TryConnection({
  market,
  url,
  user,
  secret,
}: {
  market: string;
  url: string;
  user: string;
  secret: string;
}) {
  const attempt = useMutation({
    mutationFn: () =>
      call(tryConnection, {
        params: { market },
        body: { url: url.trim() || null, ...(user === '' ? {} : { user }), ...(secret === '' ? {} : { secret }) },
      }),
  });
  return (
    <>
      <button
        type="button"
        className="btn btn-sm"
        disabled={attempt.isPending || url.trim() === ''}
        onClick={() => {
          attempt.mutate();
        }}
      >
        {attempt.isPending ? say`Asking the market …` : say`Try the connection`}
      </button>
      <div role="status" className="order-last basis-full text-sm">
        {attempt.data?.is === 'good' && (
          <p className="text-success">
            {tell`The market answers and lists ${plural(attempt.data.entries, 'entry', 'entries')} of ours.`}
          </p>
        )}
        {attempt.data?.is === 'bad' && (
          <p>
            <span className="text-error">{attempt.data.says}</span> {attempt.data.remedy}
          </p>
        )}
      </div>
      {attempt.error && <Refused error={attempt.error} />}
    </>
  );
}
