// The stand-ins that there are: markets by the keys of their rulebooks, the business system, and the host of the house's pictures.
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { type BookDocument as CedarpostBook, startMarket as startCedarpost } from './cedarpost';
import { startSystem } from './countinghouse';
import type { Pace, Served } from './frame';
import { type BookDocument as LumbaraBook, startMarket as startLumbara } from './lumbara';
import { startPictures } from './picturehost';
import { type BookDocument as QuillhavenBook, startMarket as startQuillhaven } from './quillhaven';
import { type BookDocument as TorgvikBook, startMarket as startTorgvik } from './torgvik';
import { type BookDocument as WadilineBook, startMarket as startWadiline } from './wadiline';

type Start = (pace: Pace, port: number, ready: (port: number) => void) => Served;
export const standIns: Readonly<Record<string, Start>> = {
  cedarpost: (pace, port, ready) => startCedarpost({ book: cedarpostDocument as CedarpostBook, ...pace }, port, ready),
  countinghouse: startSystem,
  lumbara: (pace, port, ready) => startLumbara({ book: lumbaraDocument as LumbaraBook, ...pace }, port, ready),
  picturehost: startPictures,
  quillhaven: (pace, port, ready) =>
    startQuillhaven({ book: quillhavenDocument as QuillhavenBook, ...pace }, port, ready),
  wadiline: (pace, port, ready) => startWadiline({ book: wadilineDocument as WadilineBook, ...pace }, port, ready),
  torgvik: (pace, port, ready) => startTorgvik({ book: torgvikDocument as TorgvikBook, ...pace }, port, ready),
};
