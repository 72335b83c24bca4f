import { type Correspondences, createCorrespondences, everywhere } from '@basileus/core/listing';
import { compileFields } from '@basileus/core/product';

const noFields = compileFields({ fields: [], languages: [], currencies: [] });

/** Attributes of a market that have the same text for every item; an empty one has nothing. */
export const sayTexts = (texts: readonly (readonly [attribute: string, text: string])[]): Correspondences =>
  createCorrespondences(
    texts.map(([attribute, text]) => ({
      attribute,
      node: everywhere,
      source: text === '' ? { is: 'nothing' } : { is: 'text', text },
    })),
    [],
    noFields,
  );
