/** Kinds of picture that can be told apart by their bytes. */
export const pictureKinds = ['jpeg', 'png', 'webp', 'gif', 'avif'] as const;
export type PictureKind = (typeof pictureKinds)[number];

/** What was found behind a link to a picture. */
export type PictureFacts =
  /** Edges in pixels as people see it (turned as its EXIF says), its size, and whether what is around the item is white. */
  | { is: 'there'; width: number; height: number; kind: PictureKind; bytes: number; isOnWhite: boolean }
  /** The host answers, with a status that says that there is nothing. */
  | { is: 'missing'; status: number }
  /** Something answers that is no picture. */
  | { is: 'strange' };

/** Endings of links by the kind of picture that they promise; common practice. */
const endings: Readonly<Record<string, PictureKind>> = {
  jpg: 'jpeg',
  jpeg: 'jpeg',
  png: 'png',
  webp: 'webp',
  gif: 'gif',
  avif: 'avif',
};
/** The kind that a link promises by its ending, before a query or a fragment (RFC 3986, 3); undefined where by none. */
export const readPromisedKind = (link: string): PictureKind | undefined =>
  endings[/\.([a-z]+)$/i.exec(link.split(/[?#]/, 1)[0]!)?.[1]?.toLowerCase() ?? ''];

/** Of 255: as white as a picture on white is after it was pressed. */
const leastWhite = 245;
/** Of the pixels at the edge, that many have to be white: a handle may reach out. */
const leastShare = 0.9;

/** True where the edge of a picture is white; `pixels` are red, green and blue in rows, with nothing between. */
export function isOnWhite(pixels: Uint8Array, width: number, height: number): boolean {
  let white = 0,
    all = 0;
  const look = (x: number, y: number): void => {
    const at = (y * width + x) * 3;
    all++;
    if (Math.min(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!) >= leastWhite) white++;
  };
  for (let x = 0; x < width; x++) {
    look(x, 0);
    look(x, height - 1);
  }
  for (let y = 1; y < height - 1; y++) {
    look(0, y);
    look(width - 1, y);
  }
  return all > 0 && white / all >= leastShare;
}
