// What can be taken back, and what was taken back and can be made again, by what it belongs to. Kept for as long as the
// window is open, whatever page one visits meanwhile.
import { takeBackCells, type UnsavedCell } from './queue';

/** A change that was made: which of its cells truly were is known when the server has answered. */
interface Done {
  made: Promise<readonly UnsavedCell[]>;
}
interface Stacks {
  undo: Done[];
  redo: Done[];
}

export interface UndoLog {
  /** Notes a change as it is made; what was taken back before it cannot be made again. */
  note: (scope: string, made: Promise<readonly UnsavedCell[]>) => void;
  /** Takes the last change back by `save`, once it is known what of it was made; undefined where there is none. */
  undo: (scope: string, save: SaveCells) => Promise<number> | undefined;
  /** Makes again what was taken back last. */
  redo: (scope: string, save: SaveCells) => Promise<number> | undefined;
}
/** Saves cells and answers those that truly were changed. */
export type SaveCells = (cells: UnsavedCell[]) => Promise<readonly UnsavedCell[]>;

export function createUndoLog(): UndoLog {
  const all = new Map<string, Stacks>();
  const of = (scope: string): Stacks => all.get(scope) ?? all.set(scope, { undo: [], redo: [] }).get(scope)!;
  /** Moves the last change of one stack to the other, turned round where it is taken back. */
  const turn = (from: Done[], to: Done[], save: SaveCells): Promise<number> | undefined => {
    const last = from.pop();
    if (!last) return undefined;
    // The change stands on the other stack at once, so that the keys can be pressed faster than the server answers.
    const saved = last.made.then(async (cells) => (cells.length ? save(takeBackCells(cells)) : []));
    to.push({ made: saved });
    return saved.then((cells) => cells.length);
  };
  return {
    note: (scope, made) => {
      const stacks = of(scope);
      stacks.undo.push({ made });
      stacks.redo = [];
    },
    undo: (scope, save) => turn(of(scope).undo, of(scope).redo, save),
    redo: (scope, save) => turn(of(scope).redo, of(scope).undo, save),
  };
}
