import { useQueryClient } from '@tanstack/react-query';
import { toast } from '../ui/messages';
import { plural, say } from '../ui/text';

/** Says what a correspondence that was kept has brought about, and asks anew for what it changes. */
export function useFollowUp(): (followed: { refreshed: number; job: string | null }) => void {
  const client = useQueryClient();
  return ({ refreshed, job }) => {
    toast.success(
      job
        ? say`Kept; all listings are being checked anew.`
        : say`Kept; ${plural(refreshed, 'listing was', 'listings were')} checked anew.`,
    );
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
}
