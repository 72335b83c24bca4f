import type { Values } from '../../listing/values';
import { convertUnit, exact, parseMeasure } from '../../quantity';
import { defineCheck } from '../define-check';

/**
 * Kilograms that a litre of parcel can weigh. Lead has 11.3 (CRC Handbook of Chemistry and Physics, from memory), and no
 * parcel is of lead alone; under five grams there is only air in it. The lower bound is common practice, without a source.
 */
const heaviest = 11.3,
  lightest = 0.005;
/** How many times its weight a parcel is charged as before that is worth a word; common practice. */
const mostAir = 4;
/** What a slip of the unit multiplies a weight by: grams for kilograms, a decimal point. */
const slips = ['0.001', '0.01', '0.1', '10', '100', '1000'] as const;
/** Densities among which most goods in boxes are; common practice. */
const isUsual = (density: number): boolean => density >= 0.03 && density <= 3;

/** A carrier charges by what a parcel is said to measure; one that cannot be is a unit that slipped. */
export const parcelForm = defineCheck({
  id: 'parcel-form',
  level: 'caution',
  docs: {
    title: 'Parcels can be what they are said to be',
    why: 'Freight is charged by the size and the weight that are given; a wrong unit costs with every order.',
    source: 'density from size and weight; bounds as explained in the check',
  },
  messages: {
    tooHeavy: {
      title: '{{field}} is too much for the size of the parcel',
      says: '{{field}} is {{value}} for {{litres}} litres, {{density}} kg a litre; lead has 11.3. One of the four is in the wrong unit.',
    },
    tooLight: {
      title: '{{field}} is too little for the size of the parcel',
      says: '{{field}} is {{value}} for {{litres}} litres, {{density}} kg a litre, which is air. One of the four is in the wrong unit.',
    },
    tooLong: {
      title: '{{field}} is longer than carriers take',
      says: '{{field}} is {{value}}; the carriers of {{market}} take edges up to {{max}} cm.',
    },
    tooWide: {
      title: 'The parcel is larger around than carriers take',
      says: 'The longest edge and twice the two others make {{girth}} cm; the carriers of {{market}} take {{max}}. Give it smaller parcels, or look whether an edge is in the wrong unit.',
    },
    tooMuch: {
      title: '{{field}} is more than carriers take',
      says: '{{field}} is {{value}}; the carriers of {{market}} take up to {{max}} kg.',
    },
    mostlyAir: {
      title: 'The parcel is charged by its size, not its weight',
      level: 'tip',
      says: '{{field}} is {{value}}, and by its size the parcel is charged as {{charged}} kg, {{times}} times as much. Look whether an edge is in the wrong unit, or whether it can be packed smaller.',
    },
    contentsHeavier: {
      title: '{{field}} is less than what is in the parcel',
      says: '{{field}} is {{value}}, less than the net weight of {{net}}.',
    },
  },
  prepareRow(category, say) {
    const { parcelLength, parcelWidth, parcelHeight, parcelWeight, netWeight } = category.rulebook.roles;
    const { maxEdge, maxGirth, maxWeight, volumeDivisor } = category.rulebook.parcel;
    if (parcelWeight === undefined || !category.byKey.has(parcelWeight)) return undefined;
    return ({ values }, _, out) => {
      const weight = read(values, parcelWeight, 'kg');
      if (weight === undefined || weight <= 0) return;
      const given = values[parcelWeight];
      const net = netWeight === undefined ? undefined : read(values, netWeight, 'kg');
      if (net !== undefined && net > weight)
        say(out, 'contentsHeavier', parcelWeight, given, { net: String(values[netWeight!]) }, [
          { kind: 'fill', field: parcelWeight },
        ]);
      if (maxWeight !== undefined && weight > Number(maxWeight))
        say(out, 'tooMuch', parcelWeight, given, { max: maxWeight }, [{ kind: 'fill', field: parcelWeight }]);
      const edges = [parcelLength, parcelWidth, parcelHeight].map((k) =>
        k === undefined ? undefined : read(values, k, 'cm'),
      );
      if (!edges.every((e) => e !== undefined && e > 0)) return;
      const litres = edges.reduce<number>((n, e) => n * e!, 0.001);
      const density = weight / litres;
      const longest = edges.reduce<number>((most, e, i) => (e! > edges[most]! ? i : most), 0);
      const longestKey = [parcelLength, parcelWidth, parcelHeight][longest]!;
      const girth = edges.reduce<number>((n, e, i) => n + e! * (i === longest ? 1 : 2), 0);
      if (maxEdge !== undefined && edges[longest]! > Number(maxEdge))
        say(out, 'tooLong', longestKey, values[longestKey], { max: maxEdge }, [{ kind: 'fill', field: longestKey }]);
      else if (maxGirth !== undefined && girth > Number(maxGirth))
        say(out, 'tooWide', longestKey, values[longestKey], { girth: String(Math.ceil(girth)), max: maxGirth }, [
          { kind: 'fill', field: longestKey },
        ]);
      if (density <= heaviest && density >= lightest) {
        const charged = volumeDivisor === undefined ? 0 : (litres * 1000) / volumeDivisor;
        if (charged >= weight * mostAir)
          say(out, 'mostlyAir', parcelWeight, given, { charged: round(charged), times: Math.floor(charged / weight) }, [
            { kind: 'fill', field: parcelWeight },
          ]);
        return;
      }
      const mended = slips.filter((by) => isUsual(density * Number(by)));
      say(
        out,
        density > heaviest ? 'tooHeavy' : 'tooLight',
        parcelWeight,
        given,
        { litres: round(litres), density: round(density) },
        mended.length === 1 && typeof given === 'string'
          ? [{ kind: 'set', field: parcelWeight, value: times(given, mended[0]!), safe: false }]
          : [{ kind: 'fill', field: parcelWeight }],
      );
    };
  },
});

/** A measure in a unit, for comparing; undefined where it is none. */
function read(values: Values, key: string, unit: string): number | undefined {
  const text = values[key];
  const measure = typeof text === 'string' ? parseMeasure(text) : undefined;
  if (measure?.unit === undefined) return undefined;
  return convertUnit({ amount: measure.amount, unit: measure.unit }, unit)?.toNumber();
}

const round = (n: number): string => String(Number(n.toPrecision(2)));

/** The same measure so many times. */
function times(text: string, by: string): string {
  const { amount, unit } = parseMeasure(text)!;
  return `${exact(amount).times(by).toFixed()} ${unit!}`;
}
