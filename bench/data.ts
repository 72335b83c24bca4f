// The same rows for ours and for the reference, made from a seed.
import { parseRulebook, compileCategory } from '@basileus/core/rulebook';
import type { Listing, Value } from '@basileus/core/listing';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { computeGs1CheckDigit } from '@basileus/core/identifiers';
import { createRandom } from '@basileus/demo/catalog';

const reading = parseRulebook(quillhavenDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
export const book = reading.rulebook;
export const pans = compileCategory(book, 'frying_pans')!;

/** Frying pans, one in seven with a fault. */
export function* makeListings(count: number): Generator<Listing> {
  const random = createRandom(5);
  for (let i = 0; i < count; i++) {
    const body = `952${String(i).padStart(9, '0')}`;
    const values: Record<string, Value> = {
      title: `Brindlewick Hearth Frying Pan ${20 + (i % 16)} cm number ${i}`,
      brand: 'Brindlewick',
      item_number: body + computeGs1CheckDigit(body),
      maker_reference: `FP-${i}`,
      description: `<p>A pan for daily frying with a flat base and sloping sides, number ${i} of its kind.</p>`,
      highlights: ['Holds its heat', 'Even base', 'Riveted handle'],
      box_contents: ['1 x pan'],
      pictures: [1, 2, 3].map((n) => `https://pictures.brindlewick.example/fp-${i}-${n}.jpg`),
      price: `${20 + (i % 60)}.99`,
      quantity: String(i % 400),
      handling_days: 'h2',
      condition: 'fresh',
      tax_class: 'full',
      delivery_profile: 'small',
      parcel_weight: `${1 + (i % 3)}.20 kg`,
      colour: 'blk',
      material: 'castiron',
      coating: 'season',
      diameter: `${20 + (i % 16)} cm`,
      hob_kinds: ['gas', 'indu'],
      dishwasher_safe: 'no',
      lid_included: 'no',
      oven_safe_to: '250 °C',
      handle_kind: 'fixed',
    };
    switch (i % 35) {
      case 5:
        delete values['brand'];
        break;
      case 10:
        values['colour'] = 'Blak';
        break;
      case 15:
        values['item_number'] = body + '0';
        break;
      case 20:
        values['price'] = '20.999';
        break;
      case 25:
        values['title'] = 'x'.repeat(150 + Math.floor(random.next() * 9));
        break;
      default:
    }
    yield {
      sku: `FP-${i}`,
      role: 'single',
      parentSku: undefined,
      category: 'frying_pans',
      axes: [],
      values,
      cost: '9.10',
      accepted: undefined,
    };
  }
}

/** A sheet of `rows` x 40 cells with umlauts and quotes, as text. */
export function* makeSheet(rows: number): Generator<string> {
  const names = [
    'Item no',
    'Product name',
    'Brand',
    'Group',
    'Barcode',
    'Trade price',
    'RRP',
    'Free stock',
    'Colour',
    'Material',
    ...Array.from({ length: 30 }, (_, i) => `Extra ${i}`),
  ];
  let chunk = names.join(';') + '\r\n';
  for (let i = 0; i < rows; i++) {
    chunk +=
      [
        `SKU-${i}`,
        i % 9 === 0 ? `"Pfanne ""Größe"" ${i}"` : `Pfanne ${i} für Küche`,
        'Brindlewick',
        'Frying pans',
        `952000${String(1000000 + i)}`,
        `${i % 90},50`,
        `${i % 200},99`,
        String(i % 300),
        'Schwarz',
        'Gusseisen',
        ...Array.from({ length: 30 }, (_, k) => `Zelle ${k} ${i % 97}`),
      ].join(';') + '\r\n';
    if (chunk.length > 60_000) {
      yield chunk;
      chunk = '';
    }
  }
  yield chunk;
}
