import { makeChoice } from '@basileus/contract';
import { everyItem, isEveryItem } from '@basileus/core/choose';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { toast } from '../ui/messages';
import { toWhich } from './which';

/** Takes listings on to be changed in bulk: those that are marked, else all that is shown. */
export function useToBulk(market: string, products: readonly number[], shown: Parameters<typeof toWhich>[1]) {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async () => {
      // One row is marked wherever the cursor stands.
      const which = products.length > 1 ? { ...everyItem, ids: [...products] } : toWhich(market, shown);
      return isEveryItem(which) ? 0 : (await call(makeChoice, { body: { which } })).id;
    },
    onSuccess: (choice) => navigate(`/${market}/gather/bulk?on=${market}${choice > 0 ? `&choice=${choice}` : ''}`),
    onError: (e) => toast.error(e.message),
  });
}
