// Reading a picture: what it is, and a small one of it to show.
import { isOnWhite, type PictureFacts, type PictureKind } from '@basileus/core/pictures';
import sharp from 'sharp';

// Files of strangers are opened: by the loaders of the formats that markets take, and by no other.
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
  operation: [
    'VipsForeignLoadJpeg',
    'VipsForeignLoadPng',
    'VipsForeignLoadWebp',
    'VipsForeignLoadNsgif',
    'VipsForeignLoadHeif',
  ],
});
sharp.cache(false);
sharp.concurrency(1);

const kinds: Readonly<Record<string, PictureKind>> = {
  jpeg: 'jpeg',
  png: 'png',
  webp: 'webp',
  gif: 'gif',
  heif: 'avif',
};
/** Of the small picture, in pixels; of the one by which its edge is judged. */
const thumbEdge = 160,
  judgedEdge = 80;
const mostPixels = 150_000_000;

/** What bytes show, and a small WebP of it; `strange` where they are no picture that can be read. */
export async function readPicture(
  bytes: Buffer,
): Promise<{ facts: Extract<PictureFacts, { is: 'there' | 'strange' }>; thumb: Buffer | null }> {
  try {
    const options = { limitInputPixels: mostPixels };
    const { format, width, height, orientation } = await sharp(bytes, options).metadata();
    const kind = kinds[format];
    if (kind === undefined) return { facts: { is: 'strange' }, thumb: null };
    const small = await sharp(bytes, options)
      .rotate()
      .resize(thumbEdge, thumbEdge, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .toColourspace('srgb')
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const raw = { width: small.info.width, height: small.info.height, channels: 3 as const };
    const judged = await sharp(small.data, { raw })
      .resize(judgedEdge, judgedEdge, { fit: 'inside', withoutEnlargement: true })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const thumb = await sharp(small.data, { raw }).webp({ quality: 70 }).toBuffer();
    // EXIF: from 5 on it lies on its side.
    const isTurned = (orientation ?? 1) >= 5;
    return {
      facts: {
        is: 'there',
        ...(isTurned ? { width: height, height: width } : { width, height }),
        kind,
        bytes: bytes.length,
        isOnWhite: isOnWhite(judged.data, judged.info.width, judged.info.height),
      },
      thumb,
    };
  } catch {
    return { facts: { is: 'strange' }, thumb: null };
  }
}
