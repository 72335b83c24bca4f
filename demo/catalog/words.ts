// What the goods are called in German, Swedish and Arabic: written by hand for the lines that go to markets of those languages.
import type { Line } from './lines';

interface Words {
  thing: string;
  body: string;
  points: readonly string[];
}
type Tongue = 'de' | 'sv' | 'ar';
export const tongues: readonly Tongue[] = ['de', 'sv', 'ar'];

const pan = {
  de: ['Hält die Wärme lange', 'Ebener Boden ohne heiße Stellen', 'Genieteter, bequemer Griff'],
  sv: ['Håller värmen länge', 'Jämn botten utan heta fläckar', 'Nitat, bekvämt handtag'],
  ar: ['تحتفظ بالحرارة طويلا', 'قاعدة مستوية بلا بقع ساخنة', 'مقبض مثبت ومريح'],
};
const cloth = {
  de: ['Aus langen Fasern gewebt', 'Ringsum gesäumt', 'Wird mit jeder Wäsche weicher'],
  sv: ['Vävd av långa fibrer', 'Fållad runt om', 'Blir mjukare för varje tvätt'],
  ar: ['منسوجة من ألياف طويلة', 'محاكة من كل الجوانب', 'تزداد نعومة مع كل غسلة'],
};
const glass = {
  de: ['Feiner Rand', 'Steht sicher', 'Klingt hell'],
  sv: ['Fin kant', 'Står stadigt', 'Klingar ljust'],
  ar: ['حافة رفيعة', 'ثابتة على الطاولة', 'صوتها صاف'],
};
const clay = {
  de: ['Innen und außen glasiert', 'Jedes Stück ein wenig anders', 'Lässt sich gut stapeln'],
  sv: ['Glaserad in- och utvändigt', 'Varje exemplar lite olikt', 'Går bra att stapla'],
  ar: ['مطلية من الداخل والخارج', 'كل قطعة تختلف قليلا', 'سهلة الترتيب فوق بعضها'],
};
const electric = {
  de: ['Leise im Betrieb', 'Leicht abzuwischen', 'Kabel lässt sich verstauen'],
  sv: ['Tyst i drift', 'Lätt att torka av', 'Sladden går att vira upp'],
  ar: ['هادئة أثناء العمل', 'سهلة المسح', 'مكان لحفظ السلك'],
};
const leafy = {
  de: ['Von Hand gepflückt', 'In kleinen Mengen gepackt', 'Behält den Duft im Beutel'],
  sv: ['Plockat för hand', 'Packat i små mängder', 'Behåller doften i påsen'],
  ar: ['مقطوف باليد', 'معبأ بكميات صغيرة', 'يحفظ رائحته في الكيس'],
};
const words = (
  points: Readonly<Record<Tongue, readonly string[]>>,
  de: readonly [string, string],
  sv: readonly [string, string],
  ar: readonly [string, string],
): Readonly<Record<Tongue, Words>> => ({
  de: { thing: de[0], body: de[1], points: points.de },
  sv: { thing: sv[0], body: sv[1], points: points.sv },
  ar: { thing: ar[0], body: ar[1], points: points.ar },
});

const byLine: Readonly<Record<string, Readonly<Record<Tongue, Words>>>> = {
  FP: words(
    pan,
    ['Bratpfanne', 'Eine Pfanne für jeden Tag, mit ebenem Boden und schrägem Rand.'],
    ['Stekpanna', 'En panna för varje dag, med plan botten och sneda kanter.'],
    ['مقلاة', 'مقلاة لكل يوم بقاعدة مستوية وجوانب مائلة.'],
  ),
  WK: words(
    pan,
    ['Wok', 'Dünne Wände, die schnell heiß werden.'],
    ['Wokpanna', 'Tunna väggar som snabbt blir heta.'],
    ['مقلاة ووك', 'جدران رقيقة تسخن بسرعة.'],
  ),
  SP: words(
    pan,
    ['Kasserolle', 'Ausgüsse an beiden Seiten und ein Deckel, der passt.'],
    ['Kastrull', 'Hällpipar på båda sidor och ett lock som passar.'],
    ['قدر صغير', 'مصب من الجانبين وغطاء محكم.'],
  ),
  SK: words(
    pan,
    ['Suppentopf', 'Hohe Wände, damit die Brühe nicht verkocht.'],
    ['Hög gryta', 'Höga väggar så att buljongen inte kokar bort.'],
    ['قدر عميق', 'جدران عالية تحفظ المرق.'],
  ),
  CS: words(
    pan,
    ['Bräter', 'Innen und außen emailliert, mit schwerem Deckel.'],
    ['Gryta', 'Emaljerad in- och utvändigt, med tungt lock.'],
    ['طنجرة ثقيلة', 'مطلية بالمينا من الداخل والخارج وبغطاء ثقيل.'],
  ),
  BT: words(
    pan,
    ['Springform', 'Loser Boden und gerollter Rand.'],
    ['Bakform', 'Lös botten och rullad kant.'],
    ['قالب كعك', 'قاعدة متحركة وحافة ملفوفة.'],
  ),
  KN: words(
    pan,
    ['Kochmesser', 'Aus einem Stück geschmiedet und dünn geschliffen.'],
    ['Kockkniv', 'Smidd i ett stycke och tunt slipad.'],
    ['سكين الطاهي', 'مطروقة من قطعة واحدة ومشحوذة رفيعة.'],
  ),
  KB: words(
    pan,
    ['Brotmesser', 'Eine lange Wellenschneide für harte Krusten.'],
    ['Brödkniv', 'En lång vågig egg för hårda skorpor.'],
    ['سكين الخبز', 'شفرة طويلة مسننة للقشور الصلبة.'],
  ),
  CB: words(
    pan,
    ['Schneidebrett', 'Längs der Maser geschnitten und geölt.'],
    ['Skärbräda', 'Skuren längs fibrerna och oljad.'],
    ['لوح تقطيع', 'مقطوع مع عروق الخشب ومدهون بالزيت.'],
  ),
  EK: words(
    electric,
    ['Wasserkocher', 'Kocht einen Liter in unter drei Minuten und schaltet sich ab.'],
    ['Vattenkokare', 'Kokar en liter på under tre minuter och stänger av sig själv.'],
    ['غلاية كهربائية', 'تغلي لترا في أقل من ثلاث دقائق ثم تتوقف.'],
  ),
  TO: words(
    electric,
    ['Toaster', 'Breite Schlitze und ein Hebel für kleine Scheiben.'],
    ['Brödrost', 'Breda fack och en lyft för små skivor.'],
    ['محمصة خبز', 'فتحات واسعة ورافعة للشرائح الصغيرة.'],
  ),
  SC: words(
    electric,
    ['Küchenwaage', 'Eine flache Platte, die aufs Gramm wiegt und auf null zurückgeht.'],
    ['Köksvåg', 'En platt platta som väger på grammet och går tillbaka till noll.'],
    ['ميزان مطبخ', 'سطح مستو يزن بالغرام ويعود إلى الصفر.'],
  ),
  TC: words(
    cloth,
    ['Tischdecke', 'Ein Tuch, das schön fällt, mit Briefecken gesäumt.'],
    ['Duk', 'En duk som faller fint, fållad med kuverthörn.'],
    ['مفرش طاولة', 'مفرش ينسدل بجمال وزواياه مطوية.'],
  ),
  NP: words(
    cloth,
    ['Servietten', 'Vier Servietten mit schmalem Saum.'],
    ['Servetter', 'Fyra servetter med smal fåll.'],
    ['مناديل قماش', 'أربعة مناديل بحافة ضيقة.'],
  ),
  TT: words(
    cloth,
    ['Geschirrtücher', 'Drei Tücher, die Gläser ohne Fusseln trocknen.'],
    ['Kökshanddukar', 'Tre handdukar som torkar glas utan ludd.'],
    ['مناشف مطبخ', 'ثلاث مناشف تجفف الزجاج بلا وبر.'],
  ),
  GW: words(
    glass,
    ['Weingläser', 'Sechs dünn geblasene Gläser mit gezogenem Stiel.'],
    ['Vinglas', 'Sex tunt blåsta glas med draget ben.'],
    ['كؤوس', 'ست كؤوس منفوخة رقيقة بساق طويلة.'],
  ),
  GT: words(
    glass,
    ['Becher aus Glas', 'Vier gerade Gläser mit schwerem Boden.'],
    ['Dricksglas', 'Fyra raka glas med tung botten.'],
    ['أكواب زجاج', 'أربعة أكواب مستقيمة بقاعدة ثقيلة.'],
  ),
  PL: words(
    clay,
    ['Speiseteller', 'Vier Teller mit erhöhtem Rand.'],
    ['Mattallrikar', 'Fyra tallrikar med upphöjd kant.'],
    ['صحون', 'أربعة صحون بحافة مرتفعة.'],
  ),
  BW: words(
    clay,
    ['Schalen', 'Vier tiefe Schalen für Suppe oder Müsli.'],
    ['Skålar', 'Fyra djupa skålar för soppa eller flingor.'],
    ['أوعية', 'أربعة أوعية عميقة للحساء أو الحبوب.'],
  ),
  MG: words(
    clay,
    ['Becher', 'Ein breiter Henkel und eine dicke Wand.'],
    ['Mugg', 'Ett brett öra och en tjock vägg.'],
    ['كوب', 'مقبض عريض وجدار سميك.'],
  ),
  TP: words(
    clay,
    ['Teekanne', 'Ein Sieb hinter der Tülle.'],
    ['Tekanna', 'En sil bakom pipen.'],
    ['إبريق شاي', 'مصفاة خلف المصب.'],
  ),
  LT: words(
    leafy,
    ['Loser Tee', 'Ganze Blätter für die Kanne oder das Teesieb.'],
    ['Te i lösvikt', 'Hela blad för kannan eller silen.'],
    ['شاي سائب', 'أوراق كاملة للإبريق أو المصفاة.'],
  ),
  TB: words(
    leafy,
    ['Teebeutel', 'Sechzig Beutel ohne Klammern.'],
    ['Tepåsar', 'Sextio påsar utan klammer.'],
    ['أكياس شاي', 'ستون كيسا بلا دبابيس.'],
  ),
  CO: words(
    leafy,
    ['Kaffeebohnen', 'In der Trommel geröstet und vor dem Packen geruht.'],
    ['Kaffebönor', 'Rostade i trumma och vilade före packning.'],
    ['حبوب قهوة', 'محمصة في أسطوانة ومرتاحة قبل التعبئة.'],
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
  ar: {
    Black: 'أسود',
    White: 'أبيض',
    Blue: 'أزرق',
    Red: 'أحمر',
    Grey: 'رمادي',
    Cream: 'كريمي',
    Olive: 'زيتوني',
    Natural: 'طبيعي',
    Silver: 'فضي',
    Cherry: 'كرزي',
    Terracotta: 'طيني',
    Charcoal: 'فحمي',
    'Navy blue': 'كحلي',
    Copper: 'نحاسي',
    Green: 'شاي أخضر',
    Chamomile: 'بابونج',
    Peppermint: 'نعناع',
    Assam: 'أسام',
    Darjeeling: 'دارجيلنغ',
    'Earl Grey': 'إيرل غراي',
    Sencha: 'سنشا',
    Rooibos: 'رويبوس',
    'English Breakfast': 'فطور إنجليزي',
  },
};
const from = { de: 'der Serie', sv: 'i serien', ar: 'من سلسلة' },
  stock = { de: 'aus unserem eigenen Lager', sv: 'från vårt eget lager', ar: 'من مخزننا' };
/** Units as they are said: Arabic has letters of its own for them. */
const units: readonly (readonly [RegExp, string])[] = [
  [/ cm\b/g, ' سم'],
  [/ ml\b/g, ' مل'],
  [/ l\b/g, ' لتر'],
  [/ kg\b/g, ' كغ'],
  [/ g\b/g, ' غ'],
];
const speak = (part: string, tongue: Tongue): string =>
  tongue === 'ar'
    ? units.reduce((text, [unit, word]) => text.replace(unit, word), part)
    : part.replace(/^(\d+)\.(\d+)/, '$1,$2');

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
  const named = parts.map((p) => spoken[tongue][p] ?? speak(p, tongue));
  return {
    [`fact.title@${tongue}`]: (tongue === 'ar'
      ? [w.thing, ...named, series, brand]
      : [brand, series, w.thing, ...named]
    ).join(' '),
    [`fact.description@${tongue}`]: `<p>${w.body} ${w.thing} ${from[tongue]} ${series}${tongue === 'ar' ? '،' : ','} ${stock[tongue]}.</p>`,
    [`fact.highlights@${tongue}`]: [...w.points],
  };
}

/** Ingredients of teas and coffees in a language; undefined where there are none. */
export function writeIngredients(line: Line, tongue: Tongue, blend: string | undefined): string | undefined {
  const name = blend === undefined ? undefined : (spoken[tongue][blend] ?? blend);
  switch (line.code) {
    case 'LT':
    case 'TB':
      return { de: `Tee: ${name ?? 'Mischung'}`, sv: `Te: ${name ?? 'blandning'}`, ar: `شاي: ${name ?? 'خليط'}` }[
        tongue
      ];
    case 'CO':
      return { de: 'Kaffeebohnen, geröstet', sv: 'Kaffebönor, rostade', ar: 'حبوب قهوة محمصة' }[tongue];
    default:
      return undefined;
  }
}
