import type { DeflatePiece } from '@basileus/core/sheet';
import { constants, deflateRawSync } from 'node:zlib';

/** Deflates as the runtime does it, to blocks that others may follow. */
export const deflatePiece: DeflatePiece = (bytes) =>
  deflateRawSync(bytes, { level: 3, finishFlush: constants.Z_SYNC_FLUSH });
