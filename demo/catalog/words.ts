// What the goods are called in German and Swedish: written by hand for the lines that go to markets of those languages.
import type { Line } from './lines';

interface Words {
  thing: string;
  body: string;
  points: readonly string[];
}
type Tongue = 'de' | 'sv';
export const tongues: readonly Tongue[] = ['de', 'sv'];

const pan = {
  de: ['Hält die Wärme lange', 'Ebener Boden ohne heiße Stellen', 'Genieteter, bequemer Griff'],
  sv: ['Håller värmen länge', 'Jämn botten utan heta fläckar', 'Nitat, bekvämt handtag'],
};
const cloth = {
  de: ['Aus langen Fasern gewebt', 'Ringsum gesäumt', 'Wird mit jeder Wäsche weicher'],
  sv: ['Vävd av långa fibrer', 'Fållad runt om', 'Blir mjukare för varje tvätt'],
};
const glass = {
  de: ['Feiner Rand', 'Steht sicher', 'Klingt hell'],
  sv: ['Fin kant', 'Står stadigt', 'Klingar ljust'],
};
const clay = {
  de: ['Innen und außen glasiert', 'Jedes Stück ein wenig anders', 'Lässt sich gut stapeln'],
  sv: ['Glaserad in- och utvändigt', 'Varje exemplar lite olikt', 'Går bra att stapla'],
};
const electric = {
  de: ['Leise im Betrieb', 'Leicht abzuwischen', 'Kabel lässt sich verstauen'],
  sv: ['Tyst i drift', 'Lätt att torka av', 'Sladden går att vira upp'],
};
const leafy = {
  de: ['Von Hand gepflückt', 'In kleinen Mengen gepackt', 'Behält den Duft im Beutel'],
  sv: ['Plockat för hand', 'Packat i små mängder', 'Behåller doften i påsen'],
};
const words = (
  points: Readonly<Record<Tongue, readonly string[]>>,
  de: readonly [string, string],
  sv: readonly [string, string],
): Readonly<Record<Tongue, Words>> => ({
  de: { thing: de[0], body: de[1], points: points.de },
  sv: { thing: sv[0], body: sv[1], points: points.sv },
});

const byLine: Readonly<Record<string, Readonly<Record<Tongue, Words>>>> = {
  FP: words(
    pan,
    ['Bratpfanne', 'Eine Pfanne für jeden Tag, mit ebenem Boden und schrägem Rand.'],
    ['Stekpanna', 'En panna för varje dag, med plan botten och sneda kanter.'],
  ),
  WK: words(pan, ['Wok', 'Dünne Wände, die schnell heiß werden.'], ['Wokpanna', 'Tunna väggar som snabbt blir heta.']),
  SP: words(
    pan,
    ['Kasserolle', 'Ausgüsse an beiden Seiten und ein Deckel, der passt.'],
    ['Kastrull', 'Hällpipar på båda sidor och ett lock som passar.'],
  ),
  SK: words(
    pan,
    ['Suppentopf', 'Hohe Wände, damit die Brühe nicht verkocht.'],
    ['Hög gryta', 'Höga väggar så att buljongen inte kokar bort.'],
  ),
  CS: words(
    pan,
    ['Bräter', 'Innen und außen emailliert, mit schwerem Deckel.'],
    ['Gryta', 'Emaljerad in- och utvändigt, med tungt lock.'],
  ),
  BT: words(pan, ['Springform', 'Loser Boden und gerollter Rand.'], ['Bakform', 'Lös botten och rullad kant.']),
  KN: words(
    pan,
    ['Kochmesser', 'Aus einem Stück geschmiedet und dünn geschliffen.'],
    ['Kockkniv', 'Smidd i ett stycke och tunt slipad.'],
  ),
  KB: words(
    pan,
    ['Brotmesser', 'Eine lange Wellenschneide für harte Krusten.'],
    ['Brödkniv', 'En lång vågig egg för hårda skorpor.'],
  ),
  CB: words(
    pan,
    ['Schneidebrett', 'Längs der Maser geschnitten und geölt.'],
    ['Skärbräda', 'Skuren längs fibrerna och oljad.'],
  ),
  EK: words(
    electric,
    ['Wasserkocher', 'Kocht einen Liter in unter drei Minuten und schaltet sich ab.'],
    ['Vattenkokare', 'Kokar en liter på under tre minuter och stänger av sig själv.'],
  ),
  TO: words(
    electric,
    ['Toaster', 'Breite Schlitze und ein Hebel für kleine Scheiben.'],
    ['Brödrost', 'Breda fack och en lyft för små skivor.'],
  ),
  SC: words(
    electric,
    ['Küchenwaage', 'Eine flache Platte, die aufs Gramm wiegt und auf null zurückgeht.'],
    ['Köksvåg', 'En platt platta som väger på grammet och går tillbaka till noll.'],
  ),
  TC: words(
    cloth,
    ['Tischdecke', 'Ein Tuch, das schön fällt, mit Briefecken gesäumt.'],
    ['Duk', 'En duk som faller fint, fållad med kuverthörn.'],
  ),
  NP: words(
    cloth,
    ['Servietten', 'Vier Servietten mit schmalem Saum.'],
    ['Servetter', 'Fyra servetter med smal fåll.'],
  ),
  TT: words(
    cloth,
    ['Geschirrtücher', 'Drei Tücher, die Gläser ohne Fusseln trocknen.'],
    ['Kökshanddukar', 'Tre handdukar som torkar glas utan ludd.'],
  ),
  GW: words(
    glass,
    ['Weingläser', 'Sechs dünn geblasene Gläser mit gezogenem Stiel.'],
    ['Vinglas', 'Sex tunt blåsta glas med draget ben.'],
  ),
  GT: words(
    glass,
    ['Becher aus Glas', 'Vier gerade Gläser mit schwerem Boden.'],
    ['Dricksglas', 'Fyra raka glas med tung botten.'],
  ),
  PL: words(
    clay,
    ['Speiseteller', 'Vier Teller mit erhöhtem Rand.'],
    ['Mattallrikar', 'Fyra tallrikar med upphöjd kant.'],
  ),
  BW: words(
    clay,
    ['Schalen', 'Vier tiefe Schalen für Suppe oder Müsli.'],
    ['Skålar', 'Fyra djupa skålar för soppa eller flingor.'],
  ),
  MG: words(clay, ['Becher', 'Ein breiter Henkel und eine dicke Wand.'], ['Mugg', 'Ett brett öra och en tjock vägg.']),
  TP: words(clay, ['Teekanne', 'Ein Sieb hinter der Tülle.'], ['Tekanna', 'En sil bakom pipen.']),
  LT: words(
    leafy,
    ['Loser Tee', 'Ganze Blätter für die Kanne oder das Teesieb.'],
    ['Te i lösvikt', 'Hela blad för kannan eller silen.'],
  ),
  TB: words(leafy, ['Teebeutel', 'Sechzig Beutel ohne Klammern.'], ['Tepåsar', 'Sextio påsar utan klammer.']),
  CO: words(
    leafy,
    ['Kaffeebohnen', 'In der Trommel geröstet und vor dem Packen geruht.'],
    ['Kaffebönor', 'Rostade i trumma och vilade före packning.'],
  ),
};

/** Words of our own values that a title says. */
const spoken: Readonly<Record<Tongue, Readonly<Record<string, string>>>> = {
  de: {
    Black: 'schwarz',
    White: 'weiß',
    Blue: 'blau',
    Red: 'rot',
    Grey: 'grau',
    Cream: 'creme',
    Olive: 'oliv',
    Natural: 'natur',
    Silver: 'silber',
    Cherry: 'kirschrot',
    Terracotta: 'terrakotta',
    Charcoal: 'anthrazit',
    'Navy blue': 'marineblau',
    Copper: 'kupfer',
    Green: 'Grüntee',
    Chamomile: 'Kamille',
    Peppermint: 'Pfefferminze',
  },
  sv: {
    Black: 'svart',
    White: 'vit',
    Blue: 'blå',
    Red: 'röd',
    Grey: 'grå',
    Cream: 'gräddvit',
    Olive: 'oliv',
    Natural: 'natur',
    Silver: 'silver',
    Cherry: 'körsbärsröd',
    Terracotta: 'terrakotta',
    Charcoal: 'antracit',
    'Navy blue': 'marinblå',
    Copper: 'koppar',
    Green: 'grönt te',
    Chamomile: 'kamomill',
    Peppermint: 'pepparmynta',
  },
};
const from = { de: 'der Serie', sv: 'i serien' },
  stock = { de: 'aus unserem eigenen Lager', sv: 'från vårt eget lager' };

/** Texts of an item in a language, where somebody has written them; `parts` are what its title names beside the thing. */
export function writeTexts(
  line: Line,
  tongue: Tongue,
  brand: string,
  series: string,
  parts: readonly string[],
): Record<string, string | string[]> {
  const w = byLine[line.code]?.[tongue];
  if (!w) return {};
  const named = parts.map((p) => spoken[tongue][p] ?? p.replace(/^(\d+)\.(\d+)/, '$1,$2'));
  return {
    [`fact.title@${tongue}`]: [brand, series, w.thing, ...named].join(' '),
    [`fact.description@${tongue}`]: `<p>${w.body} ${w.thing} ${from[tongue]} ${series}, ${stock[tongue]}.</p>`,
    [`fact.highlights@${tongue}`]: [...w.points],
  };
}

/** Ingredients of teas and coffees in a language; undefined where there are none. */
export function writeIngredients(line: Line, tongue: Tongue, blend: string | undefined): string | undefined {
  const name = blend === undefined ? undefined : (spoken[tongue][blend] ?? blend);
  switch (line.code) {
    case 'LT':
    case 'TB':
      return tongue === 'de' ? `Tee: ${name ?? 'Mischung'}` : `Te: ${name ?? 'blandning'}`;
    case 'CO':
      return tongue === 'de' ? 'Kaffeebohnen, geröstet' : 'Kaffebönor, rostade';
    default:
      return undefined;
  }
}
