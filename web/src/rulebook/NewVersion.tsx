import { type compareRulebook, putRulebook } from '@basileus/contract';
import { changeAreas, type ChangeArea } from '@basileus/core/rulebook';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from '../ui/messages';
import type { z } from 'zod';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

export type NextVersion = z.output<typeof compareRulebook.response> & { document: Record<string, unknown> };

const titles: Record<ChangeArea, string> = {
  categories: say`Categories`,
  demands: say`What is demanded`,
  attributes: say`Attributes`,
  codes: say`Values`,
  files: say`Files`,
  terms: say`Terms`,
};
const tones = { new: 'text-success', gone: 'text-error', changed: 'text-secondary' } as const;

/** What a new version changes, area by area; only then can it be put in force. */
export function NewVersion({
  market,
  next,
  onPut,
  onClose,
}: {
  market: string;
  next: NextVersion;
  /** What is done once it is in force, before anybody is told. */
  onPut?: () => Promise<unknown>;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: async () => {
      const put = await call(putRulebook, { params: { market }, body: next.document });
      await onPut?.();
      return put;
    },
    onSuccess: (r) => {
      toast.success(say`Version ${r.version} is in force; everything is being checked anew.`);
      void client.invalidateQueries();
      onClose();
    },
  });
  return (
    <Modal title={say`Version ${next.version}, against ${next.inForce}`} onClose={onClose} wide>
      <div className="flex flex-col gap-4 p-5">
        <div className="flex flex-wrap items-center gap-4">
          <span>
            {next.changes.length === 0
              ? say`It changes nothing that is checked or sent.`
              : say`${plural(next.changes.length, 'change', 'changes')}. Everything is checked anew once it is in force.`}
          </span>
          <button
            type="button"
            className="btn btn-sm btn-primary ms-auto"
            disabled={put.isPending}
            onClick={() => {
              put.mutate();
            }}
          >
            {tell`Put version ${next.version} in force`}
          </button>
        </div>
        {put.error && <Refused error={put.error} />}
        {changeAreas.map((area) => {
          const changes = next.changes.filter((c) => c.area === area);
          if (changes.length === 0) return null;
          return (
            <section key={area} aria-label={titles[area]}>
              <h3 className="mb-1 font-semibold">{titles[area]}</h3>
              <table className="plain-table">
                <tbody>
                  {changes.map((c) => (
                    <tr key={c.says}>
                      <td className={`w-24 ${tones[c.kind]}`}>{c.kind}</td>
                      <td>{c.says}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          );
        })}
      </div>
    </Modal>
  );
}
