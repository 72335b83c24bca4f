// Words by which files of other people call our fields, in the languages of the trade around us. Data alone; how they are
// weighed against each other stands in the heading reader. From memory of everyday words; no list of anybody's headings.

export interface HeadingWords {
  /** Words that mean the field; one of them must stand in the heading. A word of four letters counts within another too. */
  heads: readonly string[];
  /** One of these must stand there too. */
  needs?: readonly string[];
  /** Words that mean the field only where nothing else stands beside them that the field does not explain. */
  weak?: readonly string[];
  /** Words that may stand beside. */
  also?: readonly string[];
  /** Words with which the heading means something else. */
  not?: readonly string[];
}

const w = (text: string): string[] => text.split(' ').filter(Boolean);

const numberWords = w(
  'no nr num number nummer numero number id code kode codigo codice ref reference referenz part sku 番号 コード',
);
const productWords = w('product produkt produit producto prodotto item items article artikel articulo articolo our');
const packing = w(
  'pack package packaging packed parcel box carton karton case outer inner pallet verpackung paket colis caja scatola doos shipping versand ve',
);
const weightWords = w('weight gewicht poids peso vikt waga 重量 重さ');
const netWords = w('net netto nett fill contents neto 正味 内容');
const positions = w('1 2 3 4 5 6 7 8 9 10 11 12 no nr');

/** By field of ours, the narrower before the wider. Prices are read by `money-heading`. */
export const headingWords: Readonly<Record<string, HeadingWords>> = {
  parent_sku: {
    heads: w(
      'parent master vater eltern hauptartikel stammartikel elternartikel vaterartikel family padre ouder moederartikel huvudartikel 親',
    ),
    also: [...numberWords, ...productWords, ...w('family 商品')],
    not: w('carton case pallet name product title brand'),
  },
  gtin: {
    heads: w('gtin ean upc barcode isbn strichcode jan janコード バーコード codebarre streepjescode streckkod'),
    weak: w('bar'),
    also: [...numberWords, ...productWords, ...w('13 14 12 8 a each unit digits retail barres')],
    not: [...packing, ...w('master type kind image')],
  },
  mpn: {
    heads: w(
      'mpn manufacturer hersteller herstellernummer mfr mfg maker model modell modelo modele modello fabricant fabricante fabrikant tillverkare メーカー 型番 oem',
    ),
    needs: [...numberWords, ...w('mpn 型番')],
    also: [...productWords, ...numberWords],
  },
  sku: {
    heads: w(
      'sku artikelnummer artikelnr artnr artikelnr bestellnummer bestellnr 品番 商品コード 商品番号 artikelcode artikelkode itemcode stockcode productcode',
    ),
    weak: w(
      'bestell item article artikel art product produkt code ref reference referenz referencia riferimento codice codigo numero id',
    ),
    also: [...numberWords, ...productWords, ...w('stock code our unser eigene supplier art')],
    not: w('name title type group description country customs tariff hs tax'),
  },
  sale_start: {
    heads: w(
      'sale promo promotion offer aktion angebot soldes oferta promozione aanbieding actie kampanj rea special discount セール',
    ),
    needs: w('start starts from begin begins beginn ab von debut inicio inizio desde dal vanaf start date1 開始'),
    also: w('date day datum price valid'),
  },
  sale_end: {
    heads: w(
      'sale promo promotion offer aktion angebot soldes oferta promozione aanbieding actie kampanj rea special discount セール',
    ),
    needs: w('end ends until till to bis ende fin fine hasta tot slut 終了'),
    also: w('date day datum price valid'),
  },
  pictures: {
    heads: w(
      'picture pictures image images photo photos foto fotos bild bilder img immagine immagini imagen imagenes afbeelding zdjecie zdjecia 画像 pic pics',
    ),
    also: [
      ...positions,
      ...productWords,
      ...w(
        'main haupt url urls link links additional weitere gallery front back side extra principal principale file name hero web adresse address',
      ),
    ],
    not: w('alt text size width height caption date credit copyright'),
  },
  highlights: {
    heads: w(
      'highlights highlight features feature bullet bullets vorteile merkmale eigenschaften ventajas vantaggi voordelen 特長 特徴 argument',
    ),
    weak: w('points'),
    also: [...positions, ...productWords, ...w('key point points selling text')],
  },
  brand: {
    heads: w(
      'brand brands marke markenname marque marca merk varumarke marka ブランド manufacturer hersteller fabricant fabricante produttore fabrikant tillverkare producent',
    ),
    weak: w('make label'),
    also: [...productWords, ...w('name')],
    not: [...numberWords, ...w('country url logo warranty')],
  },
  category: {
    heads: w(
      'category kategorie categorie categoria kategori kategoria warengruppe produktgruppe artikelgruppe department rayon famille familia famiglia varugrupp カテゴリ カテゴリー 分類',
    ),
    weak: w('group gruppe range section'),
    also: [...productWords, ...w('main own name path sub group')],
    not: w('tax customer price age sku steuer code'),
  },
  title: {
    heads: w(
      'title titel titre titulo titolo bezeichnung artikelbezeichnung benamning nazwa designation libelle denominazione 商品名 品名 kurztext kurzbeschreibung',
    ),
    weak: w('name names nom nombre nome naam namn'),
    also: [...productWords, ...w('name short kurz full web des')],
    not: w(
      'brand marke supplier lieferant file image customer colour color category vendor manufacturer hersteller latin seller fichier meta seo author',
    ),
  },
  description: {
    heads: w(
      'description beschreibung langtext produkttext descripcion descrizione omschrijving beskrivning opis 説明 商品説明 copytext',
    ),
    weak: w('text copy details'),
    also: [...productWords, ...w('long lang full detailed html web marketing longue larga lunga')],
    not: w('short kurz courte corta breve kort customs meta seo alt picture image category'),
  },
  stock: {
    heads: w(
      'stock bestand lagerbestand quantity qty menge inventory voorraad lagersaldo quantite cantidad quantita giacenza existencias disponible disponibile verfugbar 在庫 在庫数 aantal antal',
    ),
    weak: w('available hand lager saldo free'),
    also: [
      ...productWords,
      ...w('free on hand level available current total unit units pcs freier aktueller actual physical en magasin 数'),
    ],
    not: [
      ...packing,
      ...w(
        'min minimum mindest max maximum order bestell reorder incoming reserved reserviert expected date code moq per status location price keeping safety value no number sku',
      ),
    ],
  },
  'fact.net_weight': {
    heads: weightWords,
    needs: netWords,
    also: [...productWords, ...w('kg g gr grams in of')],
    not: w('carton case pallet'),
  },
  'fact.parcel_weight': {
    heads: weightWords,
    also: [
      ...productWords,
      ...w('gross brutto brut lordo bruto parcel package paket packed shipping versand unit kg g lb in'),
    ],
    not: [...netWords, ...w('carton case outer pallet max maximum per class count')],
  },
  'fact.colour': {
    heads: w('colour color farbe couleur colore kleur farg kolor 色 カラー'),
    also: [...productWords, ...w('name main haupt base')],
    not: w('code temperature hex count map no number image'),
  },
  'fact.diameter': {
    heads: w('diameter durchmesser diametre diametro 直径 ø'),
    weak: w('dia'),
    also: [...productWords, ...w('cm mm in outer rim top')],
    not: w('parcel package'),
  },
  'fact.length': {
    heads: w('length lange laenge longueur longitud lunghezza lengte langd 長さ'),
    weak: w('largo'),
    also: [...productWords, ...w('blade klingen cm mm in')],
    not: [...packing, ...w('cable title text max min warranty kabel cord')],
  },
  'fact.width': {
    heads: w('width breite largeur ancho anchura larghezza breedte bredd 幅'),
    also: [...productWords, ...w('cm mm in')],
    not: [...packing, ...w('image max min')],
  },
  'fact.height': {
    heads: w('height hohe hoehe hauteur altura altezza hoogte hojd 高さ'),
    weak: w('alto'),
    also: [...productWords, ...w('cm mm in')],
    not: [...packing, ...w('image max min')],
  },
  'fact.volume': {
    heads: w(
      'volume capacity inhalt fassungsvermogen fuellmenge contenance capacite capacidad capacita inhoud volym 容量',
    ),
    also: [...productWords, ...w('l ml litre litres')],
    not: [...packing, ...w('sales battery discount')],
  },
  'fact.size': {
    heads: w('size große grosse groesse taille talla taglia maat storlek rozmiar サイズ'),
    also: [...productWords, ...w('name cm')],
    not: [...packing, ...w('image file chart set unit batch lot order font screen')],
  },
  'fact.material': {
    heads: w('material werkstoff materiau matiere materiale materiaal 素材 材質'),
    weak: w('fabric'),
    also: [...productWords, ...w('main haupt')],
    not: [...numberWords, ...w('group packaging safety')],
  },
  'fact.battery_count': {
    heads: w('battery batteries batterie batterien pile piles pila pilas batterijen batterier 電池'),
    needs: w('count number anzahl nombre numero quantity qty aantal antal 数'),
    also: w('of de di no cells'),
    not: w('type included weight'),
  },
  'fact.battery_type': {
    heads: w('battery batterie batteries pile pila batterij batteri 電池'),
    also: w('type typ kind art required size chemistry 種類'),
    not: w('count number anzahl included life capacity weight energy qty quantity'),
  },
  'fact.power': {
    heads: w('power wattage leistung puissance potencia potenza vermogen effekt 消費電力'),
    weak: w('watt watts w'),
    also: [...productWords, ...w('watt watts w kw rated in')],
    not: w('supply cable cord plug source'),
  },
  'fact.blend': {
    heads: w('blend flavour flavor sorte variety parfum sabor gusto smaak smak'),
    weak: w('tea'),
    also: w('tea type name'),
  },
  'fact.ingredients': {
    heads: w('ingredients ingredient zutaten ingredienti ingredientes ingredienten 原材料'),
    also: w('list text'),
  },
  'fact.allergens': {
    heads: w('allergens allergene allergenes alergenos allergeni allergenen アレルゲン'),
    also: w('list contains'),
  },
  'fact.best_before_days': {
    heads: w('shelf mhd haltbarkeit mindesthaltbarkeit'),
    needs: w('life days tage mhd haltbarkeit mindesthaltbarkeit day'),
    also: w('in total'),
    not: w('date location place'),
  },
  'fact.country': {
    heads: w('origin ursprungsland herkunft herkunftsland origine origen 原産国 ursprung land'),
    weak: w('country made land'),
    also: w('country of in pays pais paese made d de di land'),
    not: w('sale ship dispatch code2 delivery'),
  },
  'fact.author': { heads: w('author authors autor autoren auteur autore 著者 forfattare'), also: w('name s') },
  'fact.pages': {
    heads: w('pages seiten seitenzahl paginas pagine ページ数 sidor'),
    also: w('count number of no anzahl'),
  },
  'fact.binding': { heads: w('binding einband reliure encuadernacion rilegatura'), weak: w('format'), also: w('type') },
  'fact.published': {
    heads: w('published publication erscheinungsdatum erscheint parution publicacion pubblicazione 発売日'),
    also: w('date day on datum'),
  },
  'fact.language': { heads: w('language sprache langue idioma lingua taal sprak 言語'), also: w('text') },
  'fact.pieces': {
    heads: w('pieces stuckzahl teile teilig'),
    weak: w('set'),
    also: w('in set of per number no pack anzahl'),
    not: w('carton case pallet'),
  },
  'fact.dishwasher': {
    heads: w(
      'dishwasher spulmaschine spulmaschinenfest spulmaschinengeeignet lavavaisselle lavavajillas lavastoviglie vaatwasser 食洗機',
    ),
    also: w('safe proof'),
  },
  'fact.induction': {
    heads: w('induction induktion induktionsgeeignet induccion induzione inductie'),
    also: w('hob safe suitable ready'),
  },
  'fact.box_contents': {
    heads: w('lieferumfang 同梱物'),
    weak: w('contents box'),
    also: w('box contents in the what included of'),
    not: w('weight size length width height carton ean barcode'),
  },
  'fact.care': {
    heads: w('care pflege pflegehinweise entretien cuidado onderhoud skotsel'),
    also: w('instructions notes'),
  },
};

/** Words that say nothing of which field is meant. */
export const neutralWords: ReadonlySet<string> = new Set(
  w(
    'the a of in our und and de la le les du des del di da het van den el los der die das gbp eur usd sek jpy kwd chf £ € $ uk eu en fr text1',
  ),
);
