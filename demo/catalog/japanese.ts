// What the goods are called in Japanese, and how that is read: written by hand for the lines that go there. A name is in kana
// and kanji, its reading in katakana alone, since the market sorts by it.
import type { Line } from './lines';

interface Words {
  thing: string;
  reading: string;
  body: string;
  points: readonly string[];
}
const pan = ['熱を長く保つ', '底が平らでむらがない', '握りやすい柄'];
const cloth = ['長い繊維で織った布', '四方を縫い留めた縁', '洗うほど柔らか'];
const glass = ['薄い口元', '安定した底', '澄んだ音'];
const clay = ['内も外も釉薬がけ', '一つずつ違う表情', '重ねて仕舞える'];
const electric = ['音が静か', '拭きやすい', 'コードを巻いて仕舞える'];
const leafy = ['手摘み', '少しずつ詰めた袋', '香りを逃さない袋'];
const words = (points: readonly string[], thing: string, reading: string, body: string): Words => ({
  thing,
  reading,
  body,
  points,
});

const byLine: Readonly<Record<string, Words>> = {
  FP: words(pan, 'フライパン', 'フライパン', '底が平らで縁が斜めの、毎日使うフライパンです。'),
  WK: words(pan, '中華鍋', 'チュウカナベ', '薄い肌がすぐ熱くなる中華鍋です。'),
  SP: words(pan, '片手鍋', 'カタテナベ', '両側に注ぎ口があり、蓋がぴったり合う片手鍋です。'),
  SK: words(pan, '両手鍋', 'リョウテナベ', '深くて煮詰まりにくい両手鍋です。'),
  CS: words(pan, '煮込み鍋', 'ニコミナベ', '内も外も琺瑯がけで、蓋の重い煮込み鍋です。'),
  BT: words(pan, '丸い焼き型', 'マルイヤキガタ', '底が外れ、縁を巻いた焼き型です。'),
  KN: words(pan, '三徳包丁', 'サントクボウチョウ', '一枚の鋼から打ち、薄く研いだ包丁です。'),
  KB: words(pan, 'パン切り包丁', 'パンキリボウチョウ', '硬い皮も切れる、波刃の長い包丁です。'),
  CB: words(pan, 'まな板', 'マナイタ', '木目に沿って挽き、油で仕上げたまな板です。'),
  EK: words(electric, '電気ケトル', 'デンキケトル', '一リットルを三分たらずで沸かし、自分で切れるケトルです。'),
  TO: words(electric, 'トースター', 'トースター', '厚切りも入り、小さな一枚も持ち上がるトースターです。'),
  SC: words(electric, 'キッチンはかり', 'キッチンハカリ', '一グラムまで量れる、平らなはかりです。'),
  TC: words(cloth, 'テーブルクロス', 'テーブルクロス', '角を額縁に仕立てた、落ち感のよい布です。'),
  NP: words(cloth, 'ナプキン四枚', 'ナプキンヨンマイ', '細く縁を取った、四枚組のナプキンです。'),
  TT: words(cloth, '布巾三枚', 'フキンサンマイ', '毛羽を残さずグラスが拭ける、三枚組の布巾です。'),
  GW: words(glass, 'ワイングラス六脚', 'ワイングラスロッキャク', '脚を引いた、薄吹きのグラス六脚です。'),
  GT: words(glass, 'タンブラー四個', 'タンブラーヨンコ', '底の重い、まっすぐなグラス四個です。'),
  PL: words(clay, '平皿四枚', 'ヒラザラヨンマイ', '縁の立った平皿の四枚組です。'),
  BW: words(clay, '深鉢四個', 'フカバチヨンコ', '汁物にも朝食にもよい深鉢の四個組です。'),
  MG: words(clay, 'マグ', 'マグ', '持ち手が広く、肌の厚いマグです。'),
  TP: words(clay, 'ティーポット', 'ティーポット', '注ぎ口に茶漉しの付いたポットです。'),
  LT: words(leafy, '茶葉', 'チャバ', 'ポットで淹れる、葉の形のままの茶葉です。'),
  TB: words(
    leafy,
    'ティーバッグ六十袋',
    'ティーバッグロクジュウタイ',
    '針金を使わない、六十袋入りのティーバッグです。',
  ),
  CO: words(leafy, 'コーヒー豆', 'コーヒーマメ', '釜で焙煎し、寝かせてから詰めた豆です。'),
};

const brands: Readonly<Record<string, string>> = {
  Brindlewick: 'ブリンドルウィック',
  'Oakmere & Daughter': 'オークミア',
  'Tallow Lane': 'タローレーン',
  'Fennimore Row': 'フェニモア',
  'Withy & Wren': 'ウィジーアンドレン',
  Greyfell: 'グレイフェル',
  Pellow: 'ペロウ',
  'Saltern Pottery': 'ソルターンポタリー',
  'Brindlewick Larder': 'ブリンドルウィックラーダー',
  'Harrowgate Leaf': 'ハロウゲートリーフ',
};
const series: Readonly<Record<string, string>> = {
  Hearth: 'ハース',
  Ember: 'エンバー',
  Forge: 'フォージ',
  Anvil: 'アンビル',
  Cinder: 'シンダー',
  Kiln: 'キルン',
  Drift: 'ドリフト',
  Gale: 'ゲイル',
  Squall: 'スコール',
  Mallow: 'マロウ',
  Sorrel: 'ソレル',
  Tansy: 'タンジー',
  Yarrow: 'ヤロウ',
  Homestead: 'ホームステッド',
  'Lodge Hill': 'ロッジヒル',
  Crumb: 'クラム',
  'Victoria Lane': 'ビクトリアレーン',
  Sponge: 'スポンジ',
  Raven: 'レイブン',
  Kestrel: 'ケストレル',
  Merlin: 'マーリン',
  Harrier: 'ハリアー',
  Osprey: 'オスプレイ',
  Grain: 'グレイン',
  Ridge: 'リッジ',
  Plank: 'プランク',
  Whistle: 'ホイッスル',
  Harbour: 'ハーバー',
  Beacon: 'ビーコン',
  Tern: 'ターン',
  Lantern: 'ランタン',
  Feather: 'フェザー',
  Plume: 'プルーム',
  Down: 'ダウン',
  'Quill Set': 'クイルセット',
  Balance: 'バランス',
  Meadow: 'メドウ',
  Hedgerow: 'ヘッジロウ',
  Linnet: 'リネット',
  Dovecote: 'ダブコート',
  Thrift: 'スリフト',
  Scullery: 'スカラリー',
  Dresser: 'ドレッサー',
  Airer: 'エアラー',
  Lark: 'ラーク',
  Finch: 'フィンチ',
  Siskin: 'シスキン',
  Wagtail: 'ワグテイル',
  Brook: 'ブルック',
  Rill: 'リル',
  Beck: 'ベック',
  Shingle: 'シングル',
  Estuary: 'エスチュアリー',
  Dune: 'デューン',
  Tideline: 'タイドライン',
  Morning: 'モーニング',
  Afternoon: 'アフタヌーン',
  Study: 'スタディー',
  Garden: 'ガーデン',
  Winter: 'ウィンター',
  Dawn: 'ドーン',
  Noon: 'ヌーン',
  Dusk: 'ダスク',
};
/** Colours and blends: as they are written, and as they are read where that differs. */
const spoken: Readonly<Record<string, readonly [string, string?]>> = {
  Black: ['ブラック'],
  White: ['ホワイト'],
  Blue: ['ブルー'],
  Red: ['レッド'],
  Grey: ['グレー'],
  Cream: ['クリーム'],
  Olive: ['オリーブ'],
  Natural: ['ナチュラル'],
  Silver: ['シルバー'],
  Cherry: ['チェリー'],
  Terracotta: ['テラコッタ'],
  Copper: ['カッパー'],
  Assam: ['アッサム'],
  Darjeeling: ['ダージリン'],
  'Earl Grey': ['アールグレイ'],
  Sencha: ['煎茶', 'センチャ'],
  Peppermint: ['ペパーミント'],
  Rooibos: ['ルイボス'],
  'English Breakfast': ['イングリッシュブレックファスト'],
  Green: ['緑茶', 'リョクチャ'],
  Chamomile: ['カモミール'],
};
const sizes: readonly (readonly [RegExp, string, string])[] = [
  [/ cm$/, 'cm', 'センチ'],
  [/ ml$/, 'ml', 'ミリリットル'],
  [/ l$/, 'L', 'リットル'],
  [/ kg$/, 'kg', 'キロ'],
  [/ g$/, 'g', 'グラム'],
];
/** A part of a name as it is written and as it is read. */
function speak(part: string): readonly [string, string] {
  const said = spoken[part];
  if (said) return [said[0], said[1] ?? said[0]];
  for (const [unit, written, read] of sizes)
    if (unit.test(part)) {
      const number = part.replace(unit, '').replace(/ x /g, 'x');
      return [number + written, number + read];
    }
  return [part, part];
}

/** A name of ours in kana, with the number of a further round behind it. */
function inKana(names: Readonly<Record<string, string>>, name: string): string {
  const [, plain = name, round = ''] = /^(.*?)(?: (\d+))?$/.exec(name) ?? [];
  return (names[plain] ?? plain) + round;
}

/** Texts of an item in Japanese, where somebody has written them; `parts` are what its title names beside the thing. */
export function writeJapanese(
  line: Line,
  brand: string,
  seriesName: string,
  parts: readonly string[],
  blend: string | undefined,
): Record<string, string | string[]> {
  const w = byLine[line.code];
  if (!w) return {};
  const maker = inKana(brands, brand),
    own = inKana(series, seriesName),
    said = parts.map(speak);
  const ingredients =
    line.code === 'CO'
      ? 'コーヒー豆（焙煎）'
      : line.code === 'LT' || line.code === 'TB'
        ? `茶葉（${blend === undefined ? '混合' : speak(blend)[0]}）`
        : undefined;
  return {
    'fact.title@ja': [maker, own, w.thing, ...said.map((s) => s[0])].join(' '),
    'fact.reading@ja': [maker, own, w.reading, ...said.map((s) => s[1])].join(' '),
    'fact.description@ja': `<p>${w.body}${own}の揃いで、自社の倉庫からお届けします。</p>`,
    'fact.highlights@ja': [...w.points],
    ...(ingredients === undefined ? {} : { 'fact.ingredients@ja': ingredients }),
  };
}
