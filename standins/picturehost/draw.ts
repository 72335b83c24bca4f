// Pictures of things of the house, drawn: a shape by the kind of thing, a colour by its SKU, one of three views. Every so
// often one is as pictures of real catalogs are: too small, too long, in a room instead of on white, of another format.

/** How a picture departs from what markets want. */
export type Flaw = 'none' | 'small' | 'long' | 'room' | 'png' | 'page' | 'gone';

/** A number for a text, the same everywhere (FNV-1a). */
export function numberOf(text: string): number {
  let n = 2166136261;
  for (const c of text) n = Math.imul(n ^ c.codePointAt(0)!, 16777619) >>> 0;
  return n;
}

/** Of 1,000 pictures so many are of each flaw. */
const flawsOf1000: readonly (readonly [Flaw, number])[] = [
  ['gone', 3],
  ['page', 1],
  ['small', 5],
  ['long', 6],
  ['room', 12],
  ['png', 2],
];
export function flawOf(name: string): Flaw {
  let n = numberOf(`flaw of ${name}`) % 1000;
  for (const [flaw, share] of flawsOf1000) {
    if (n < share) return flaw;
    n -= share;
  }
  return 'none';
}

/** Shapes in a square of 100, by the letters with which a SKU begins. */
const shapes: Readonly<Record<string, string>> = {
  pan: '<circle cx="42" cy="52" r="26"/><circle cx="42" cy="52" r="20" fill="#0002"/><rect x="66" y="48" width="28" height="7" rx="3.5"/>',
  pot: '<rect x="22" y="38" width="56" height="38" rx="6"/><rect x="12" y="46" width="12" height="6" rx="3"/><rect x="76" y="46" width="12" height="6" rx="3"/><rect x="20" y="31" width="60" height="6" rx="3" fill-opacity=".7"/><circle cx="50" cy="27" r="4"/>',
  tin: '<path d="M14 40h72l-8 30H22z"/><path d="M14 40h72l-2 7H16z" fill="#0002"/>',
  knife: '<path d="M10 54 62 44v12L20 60z" fill-opacity=".55"/><rect x="61" y="43" width="30" height="14" rx="5"/>',
  board:
    '<rect x="16" y="26" width="62" height="50" rx="6"/><circle cx="70" cy="36" r="4" fill="#fff"/><path d="M16 42h62M16 58h62" stroke="#0002" stroke-width="2"/>',
  spoon:
    '<ellipse cx="30" cy="36" rx="14" ry="18" transform="rotate(-40 30 36)"/><path d="M38 46 80 84" stroke="currentColor" stroke-width="7" stroke-linecap="round"/>',
  jar: '<rect x="32" y="20" width="36" height="10" rx="3" fill-opacity=".7"/><path d="M30 32h40v44a6 6 0 0 1-6 6H36a6 6 0 0 1-6-6z"/><rect x="38" y="48" width="24" height="18" fill="#fff9"/>',
  kettle:
    '<path d="M28 38h40l8 42H20z"/><path d="M38 38q10-14 20 0" fill="none" stroke="currentColor" stroke-width="5"/><path d="M72 50l16-10-4 16z"/>',
  machine:
    '<rect x="18" y="40" width="64" height="38" rx="8"/><rect x="28" y="34" width="18" height="8" rx="2" fill="#0003"/><rect x="54" y="34" width="18" height="8" rx="2" fill="#0003"/><circle cx="72" cy="66" r="4" fill="#fff8"/>',
  cloth: '<path d="M18 28h50l14 50H32z"/><path d="M22 42h50M26 56h50M30 68h49" stroke="#fff6" stroke-width="3"/>',
  glass: '<path d="M32 22h36l-6 58H38z" fill-opacity=".45"/><path d="M35 48h30l-3 32H38z" fill-opacity=".6"/>',
  plate: '<ellipse cx="50" cy="54" rx="40" ry="22"/><ellipse cx="50" cy="52" rx="27" ry="13" fill="#fff7"/>',
  mug: '<rect x="24" y="32" width="42" height="46" rx="6"/><path d="M66 42h8a9 9 0 0 1 0 24h-8" fill="none" stroke="currentColor" stroke-width="6"/><ellipse cx="45" cy="33" rx="21" ry="4" fill="#0003"/>',
  tea: '<path d="M28 24h44v56H28z"/><path d="M28 24l8 10h28l8-10z" fill="#0002"/><circle cx="50" cy="56" r="11" fill="#fff8"/>',
  book: '<rect x="28" y="20" width="46" height="60" rx="3"/><rect x="28" y="20" width="8" height="60" fill="#0003"/><path d="M44 36h22M44 44h16" stroke="#fff9" stroke-width="3"/>',
  box: '<path d="M20 38 50 24l30 14v36L50 88 20 74z"/><path d="M20 38l30 14 30-14M50 52v36" fill="none" stroke="#0003" stroke-width="2"/>',
};
const shapeOf: Readonly<Record<string, keyof typeof shapes>> = {
  ...{ FP: 'pan', GP: 'pan', WK: 'pan', SP: 'pot', SK: 'pot', CS: 'pot', CL: 'pot', RT: 'tin', BT: 'tin', PD: 'tin' },
  ...{ KN: 'knife', KB: 'knife', SR: 'knife', CB: 'board', GR: 'board', TL: 'spoon', CU: 'spoon' },
  ...{ MJ: 'jar', SJ: 'jar', JM: 'jar', EK: 'kettle', TP: 'kettle', TO: 'machine', SC: 'machine', HB: 'machine' },
  ...{ MF: 'machine', TC: 'cloth', NP: 'cloth', TT: 'cloth', AP: 'cloth', GW: 'glass', GT: 'glass', CF: 'glass' },
  ...{ VS: 'glass', CP: 'glass', PL: 'plate', BW: 'plate', MG: 'mug', LT: 'tea', TB: 'tea', CO: 'tea' },
  ...{ BK: 'book', QM: 'book' },
};
/** Colours of things by the letters with which a SKU ends. */
const named: Readonly<Record<string, string>> = {
  ...{ WHI: '#d9d8d2', CRE: '#e3d3ae', BLU: '#2f5d8c', BLA: '#26262a', OLI: '#6f7443', NAT: '#c9ab7d', GRE: '#85888a' },
  ...{ SIL: '#aeb4b9', RED: '#a3322b', TER: '#b8603e', NAV: '#23335b', COP: '#b3704a', CHE: '#7d2430', CHA: '#43474b' },
};
const colours = ['#3d4a55', '#8c3b2e', '#2f5d50', '#b9893c', '#5b4a78', '#7a8471', '#23395b', '#a65f3e'];

/** Names of drawings that look the same: there are far fewer than pictures. */
export function nameDrawing(name: string): { shape: string; colour: string; view: number; flaw: Flaw } {
  const [, sku = name, view = '1'] = /^(.*)-(\d+)$/.exec(name) ?? [];
  return {
    shape: shapeOf[sku.slice(0, 2).toUpperCase()] ?? 'box',
    colour: named[/-([a-z]{3})$/i.exec(sku)?.[1]?.toUpperCase() ?? ''] ?? colours[numberOf(sku) % colours.length]!,
    view: Number(view) % 3,
    flaw: flawOf(name),
  };
}

/** Where the thing stands in each view: whole, turned, and close by. */
const views = ['rotate(-8 50 50) translate(12 12) scale(.76)', '', 'translate(-22 -24) scale(1.45)'];

/** The drawing as SVG, with its edges in pixels. */
export function draw({ shape, colour, view, flaw }: ReturnType<typeof nameDrawing>): {
  svg: string;
  width: number;
  height: number;
} {
  const edge = flaw === 'small' ? 420 : 1200;
  const width = flaw === 'long' ? edge * 2 : edge;
  const room =
    flaw === 'room'
      ? '<rect x="-100" y="-100" width="300" height="300" fill="#d8cdbd"/><rect x="-100" y="70" width="300" height="130" fill="#a98e6c"/>'
      : '<rect x="-100" y="-100" width="300" height="300" fill="#fff"/>';
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${edge}" viewBox="0 0 100 100">${room}<ellipse cx="50" cy="86" rx="30" ry="3" fill="#0002"/><g fill="${colour}" color="${colour}" transform="${views[view] ?? ''}">${shapes[shape]!}</g></svg>`,
    width,
    height: edge,
  };
}
