// Which amount a heading speaks of. A file may hold four: what the item costs us, what it sells for, what it sells for
// during a sale, and the price that its maker recommends. A sale price taken for the price sells everything short.

export type MoneyConcept = 'cost' | 'price' | 'sale' | 'list';

const w = (text: string): string[] => text.split(' ').filter(Boolean);

/** Words that make a heading one of money. */
const money = w(
  'price prices preis preise prix precio precios prezzo prezzi prijs pris priser cena ceny preco 価格 単価 値段 売価 原価 定価 特価 卸値',
);
/** Words of money that need no “price” beside them, by what they mean. */
const alone: Readonly<Record<MoneyConcept, readonly string[]>> = {
  cost: w('cost ek hek einstand einstandspreis coste costo cout wholesale 原価 卸値 nettoek'),
  price: w('vk retail 売価'),
  sale: w('特価'),
  list: w('rrp srp msrp rsp uvp upe 定価 pvpr'),
};
const beside: Readonly<Record<MoneyConcept, readonly string[]>> = {
  cost: w(
    'cost costs purchase purchasing buy buying bought trade wholesale dealer supplier landed factory einkauf einkaufs einstand achat revient grossiste gros compra mayorista acquisto ingrosso inkoop groothandel inkop inkops grossist kostpris kostprij selbstkosten zakupu hurtowa hurt 仕入 卸 原価 your',
  ),
  sale: w(
    'sale special offer offers promo promotion promotional promotions discount discounted reduced markdown clearance deal aktion aktions angebot angebots sonder rabatt reduziert reduzierter soldes solde remise promotionnel promotionnelle reduit oferta ofertas rebaja rebajado promocional promocion descuento offerta scontato sconto saldi promozionale aanbieding aanbiedings actie korting uitverkoop kampanj kampanje rea erbjudande extra promocyjna promocja obnizona セール 割引 特別',
  ),
  list: w(
    'list listen liste listino lista rrp srp msrp recommended suggested empfohlener empfohlene unverbindliche unverb uvp conseille conseillee catalogue katalog recomendado consigliato advies adviesverkoop rekommenderat cirka sugerowana 希望小売 定価',
  ),
  price: [],
};
/** With these the amount is another one, or of something else. */
const others = w(
  'old previous was alt alter ancien anterior precedente tidigare per base grund grundpreis min minimum max maximum map floor ceiling lowest highest shipping delivery versand porto freight group gruppe category code break scale staffel valid date type currency change net netto transfer tax tva competitor konkurrent average',
);
/** What we pay is said without its tax; of what we ask that is another amount. */
const net = w('net netto nett neto');

/** With these beside it, a bare price may be what we pay or what we ask. */
const unsure = w('unit each piece stuck');

const isJoined = /[^\p{Script=Latin}]/u;
const includes = (token: string, word: string): boolean =>
  token === word || ((word.length > 3 || isJoined.test(word)) && token.includes(word));
const has = (tokens: readonly string[], words: readonly string[]): boolean =>
  tokens.some((t) => words.some((x) => includes(t, x)));
/** Whole words only: “wholesale” and “resale” are no sale. */
const hasWhole = (tokens: readonly string[], words: readonly string[]): boolean =>
  tokens.some((t) => words.includes(t));
const compound = (tokens: readonly string[], words: readonly string[]): boolean =>
  tokens.some((t) =>
    words.some((x) => t === x || (x.length > 4 && t.startsWith(x)) || (isJoined.test(x) && t.includes(x))),
  );

/** What amount a heading means, from its folded words; undefined where it means none of the four, or may mean several. */
export function readMoneyHeading(tokens: readonly string[]): MoneyConcept | undefined {
  const means = (Object.keys(alone) as MoneyConcept[]).find((c) => hasWhole(tokens, alone[c]));
  if (!means && !has(tokens, money)) return undefined;
  const judged = means === 'cost' ? tokens.filter((t) => !net.includes(t)) : tokens;
  if (
    hasWhole(judged, others) ||
    compound(
      judged,
      others.filter((o) => o.length > 4),
    )
  )
    return undefined;
  for (const concept of ['cost', 'sale', 'list'] as const) if (compound(tokens, beside[concept])) return concept;
  return means ?? (hasWhole(tokens, unsure) ? undefined : 'price');
}
