import { type PictureFacts, readPromisedKind } from './facts';

/** What a market asks of a picture; whatever is left open is not asked. */
export interface PictureTerms {
  minEdge?: number | undefined;
  maxEdge?: number | undefined;
  zoomEdge?: number | undefined;
  maxRatio?: string | undefined;
  maxBytes?: number | undefined;
  firstOnWhite?: boolean | undefined;
}
export type PictureFault =
  | { message: 'missing'; params: { status: number } }
  | { message: 'strange' | 'notOnWhite'; params: Record<never, never> }
  | { message: 'small'; params: { width: number; height: number; least: number } }
  | { message: 'large'; params: { width: number; height: number; most: number } }
  | { message: 'heavy'; params: { kilobytes: number; most: number } }
  | { message: 'noZoom'; params: { longer: number; advised: number } }
  | { message: 'notSquare'; params: { width: number; height: number; ratio: string } }
  | { message: 'otherKind'; params: { promised: string; kind: string } };

const toKb = (bytes: number): number => Math.ceil(bytes / 1000);

/** What a market finds wanting in a picture, as the first of an entry or as a further one. */
export function judgePicture(terms: PictureTerms, link: string, found: PictureFacts, isFirst: boolean): PictureFault[] {
  if (found.is === 'missing') return [{ message: 'missing', params: { status: found.status } }];
  if (found.is === 'strange') return [{ message: 'strange', params: {} }];
  const faults: PictureFault[] = [];
  const { minEdge, maxEdge, zoomEdge, maxRatio, maxBytes, firstOnWhite } = terms;
  const { width, height, bytes, kind } = found;
  const shorter = Math.min(width, height),
    longer = Math.max(width, height);
  if (minEdge !== undefined && shorter < minEdge)
    faults.push({ message: 'small', params: { width, height, least: minEdge } });
  else if (zoomEdge !== undefined && longer < zoomEdge)
    faults.push({ message: 'noZoom', params: { longer, advised: zoomEdge } });
  if (maxEdge !== undefined && longer > maxEdge)
    faults.push({ message: 'large', params: { width, height, most: maxEdge } });
  if (maxBytes !== undefined && bytes > maxBytes)
    faults.push({ message: 'heavy', params: { kilobytes: toKb(bytes), most: toKb(maxBytes) } });
  if (maxRatio !== undefined && longer > shorter * Number(maxRatio))
    faults.push({ message: 'notSquare', params: { width, height, ratio: maxRatio } });
  if (isFirst && firstOnWhite && !found.isOnWhite) faults.push({ message: 'notOnWhite', params: {} });
  const promised = readPromisedKind(link);
  if (promised !== undefined && promised !== kind)
    faults.push({ message: 'otherKind', params: { promised: promised.toUpperCase(), kind: kind.toUpperCase() } });
  return faults;
}
