// Folders of files as a market gives them to sellers: kept in memory, saved with the rest of what the market remembers.
export interface KeptFile {
  /** Base64, so that it can be saved as text. */
  bytes: string;
  /** Seconds. */
  changed: number;
}
export interface Folders {
  /** Files by their whole path, such as /in/goods.xml. */
  files: Record<string, KeptFile>;
  /** Paths of folders. */
  folders: string[];
}

export const openFolders = (folders: readonly string[]): Folders => ({ files: {}, folders: ['/', ...folders] });

/** A path from the root, without steps up or double slashes. */
export function cleanPath(path: string): string {
  const parts: string[] = [];
  for (const part of path.split('/')) {
    if (part === '..') parts.pop();
    else if (part !== '' && part !== '.') parts.push(part);
  }
  return `/${parts.join('/')}`;
}
export const folderOf = (path: string): string => path.slice(0, path.lastIndexOf('/')) || '/';

export function writeFile(folders: Folders, path: string, bytes: Uint8Array, now = Date.now()): void {
  folders.files[path] = { bytes: Buffer.from(bytes).toString('base64'), changed: Math.floor(now / 1000) };
}
export const readFile = (folders: Folders, path: string): Buffer | undefined => {
  const file = folders.files[path];
  return file && Buffer.from(file.bytes, 'base64');
};
/** Names in a folder: its files, and the folders in it. */
export const listFolder = (folders: Folders, folder: string): string[] =>
  [...Object.keys(folders.files), ...folders.folders]
    .filter((p) => p !== '/' && folderOf(p) === folder)
    .map((p) => p.slice(p.lastIndexOf('/') + 1));
