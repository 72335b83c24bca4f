import { z } from 'zod';
import { canonicalNumber, exact } from '../../quantity';
import { becomes, left, type OperationKind, ready, refuse } from './define';
import { readEnding } from './number';

const schema = z.strictObject({
  do: z.literal('leave'),
  /** Percent of what is taken without tax. */
  margin: z.string().trim(),
  /** Up to the next price that ends so; none where it is empty. */
  ending: z.string().trim(),
});

/** The price that leaves a margin after tax, the market's cut and cost, rounded up. */
export const leave: OperationKind<typeof schema> = {
  do: 'leave',
  schema,
  fits: (field) => field.sells === true,
  prepare: ({ margin, ending }, field) => {
    if (margin === '') return refuse({ is: 'nothing-given', part: 'margin' });
    if (!canonicalNumber.test(margin) || exact(margin).abs().gte(100))
      return refuse({ is: 'no-margin', value: margin });
    const written = ending === '' ? undefined : readEnding(ending);
    if (ending !== '' && written === undefined) return refuse({ is: 'not-a-number', part: 'ending', value: ending });
    const share = exact(margin).dividedBy(100).toFixed();
    return ready(
      (_held, { values, priceLeaving }) => {
        const cost = values['cost'];
        const found = priceLeaving?.(field.key, typeof cost === 'string' ? cost : undefined, share, written);
        if (!found) return left;
        return found.ok ? becomes(found.price) : { is: 'fault', fault: found.fault };
      },
      ['cost'],
    );
  },
};
