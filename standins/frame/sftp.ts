// An SFTP server over folders that are kept in memory (SSH File Transfer Protocol, draft-ietf-secsh-filexfer-02, which is
// what clients speak). One seller, known by name and password, or by a key
// whose public half was left at its desk (RFC 4252, 7).
import { createHash, timingSafeEqual } from 'node:crypto';
import ssh2, {
  type Attributes,
  type Connection,
  type FileEntry,
  type PublicKeyAuthContext,
  type SFTPWrapper,
} from 'ssh2';
import { cleanPath, folderOf, type Folders, listFolder, readFile, writeFile } from './folders';

const { Server, utils } = ssh2;
const { STATUS_CODE: status, OPEN_MODE: mode } = utils.sftp;

export interface SftpDoor {
  user: string;
  password: string;
  /** Public keys of the seller, each a line as OpenSSH writes it. */
  publicKeys: () => readonly string[];
  /** Private key of the host, in the form of OpenSSH. */
  hostKey: string;
  folders: Folders;
  /** Told when a file has been put or moved. */
  changed: () => void;
}

/**
 * A new key for a host, in the form of OpenSSH. Of some four hundred keys that the library makes it cannot read one itself;
 * such a one is thrown away.
 */
export function makeHostKey(make = (): string => utils.generateKeyPairSync('ed25519').private): string {
  for (;;) {
    const key = make();
    if (!(utils.parseKey(key) instanceof Error)) return key;
  }
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
const isSame = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b));

/** The server; connections are handed to it with `injectSocket`. */
export function createSftpServer(door: SftpDoor): InstanceType<typeof Server> {
  const server = new Server({ hostKeys: [door.hostKey] }, (client: Connection) => {
    client.on('error', () => undefined);
    client.on('authentication', (context) => {
      const isKnown =
        isSame(context.username, door.user) &&
        ((context.method === 'password' && isSame(context.password, door.password)) ||
          (context.method === 'publickey' && door.publicKeys().some((line) => hasKey(line, context))));
      if (isKnown) context.accept();
      else context.reject(['password', 'publickey']);
    });
    client.on('ready', () => {
      client.on('session', (accept) => {
        accept().on('sftp', (acceptSftp) => {
          serveFiles(acceptSftp(), door);
        });
      });
    });
  });
  server.on('error', () => undefined);
  return server;
}

/** Whether who comes has the private half of a key: it is asked first whether the key would do, then for its signature. */
function hasKey(line: string, { key, blob, signature, hashAlgo }: PublicKeyAuthContext): boolean {
  const known = utils.parseKey(line);
  if (known instanceof Error || key.algo !== known.type || !known.getPublicSSH().equals(key.data)) return false;
  return signature === undefined || (blob !== undefined && known.verify(blob, signature, hashAlgo));
}

interface Open {
  path: string;
  bytes: Buffer;
  isWritten: boolean;
  /** Names of a folder that have not been listed yet. */
  names: string[] | undefined;
}
const isFolder = 0o040755,
  isFile = 0o100644;

function attributesOf({ files, folders }: Folders, path: string): Attributes | undefined {
  const file = files[path];
  const time = file?.changed ?? 0;
  if (file) {
    const size = Buffer.byteLength(file.bytes, 'base64');
    return { mode: isFile, uid: 0, gid: 0, size, atime: time, mtime: time };
  }
  return folders.includes(path) ? { mode: isFolder, uid: 0, gid: 0, size: 0, atime: 0, mtime: 0 } : undefined;
}

function serveFiles(sftp: SFTPWrapper, { folders, changed }: SftpDoor): void {
  const open = new Map<number, Open>();
  let next = 1;
  const handleOf = (o: Open): Buffer => {
    const handle = Buffer.alloc(4);
    handle.writeUInt32BE(next);
    open.set(next++, o);
    return handle;
  };
  const openAt = (handle: Buffer): Open | undefined =>
    handle.length === 4 ? open.get(handle.readUInt32BE()) : undefined;
  const tell = (id: number, isDone: boolean, otherwise: number = status.NO_SUCH_FILE): void => {
    sftp.status(id, isDone ? status.OK : otherwise);
  };
  const stat = (id: number, path: string): void => {
    const attributes = attributesOf(folders, cleanPath(path));
    if (attributes) sftp.attrs(id, attributes);
    else tell(id, false);
  };
  const entry = (path: string, name: string): FileEntry => {
    const attrs = attributesOf(folders, path)!;
    return {
      filename: name,
      longname: `${attrs.mode === isFile ? '-' : 'd'}rw-r--r-- 1 seller seller ${attrs.size} ${name}`,
      attrs,
    };
  };
  sftp.on('REALPATH', (id, path) => {
    const clean = cleanPath(path);
    sftp.name(id, [{ filename: clean, longname: clean, attrs: {} as Attributes }]);
  });
  sftp.on('STAT', stat);
  sftp.on('LSTAT', stat);
  sftp.on('FSTAT', (id, handle) => {
    stat(id, openAt(handle)?.path ?? '/nowhere');
  });
  sftp.on('SETSTAT', (id) => {
    tell(id, true);
  });
  sftp.on('FSETSTAT', (id) => {
    tell(id, true);
  });
  sftp.on('OPENDIR', (id, path) => {
    const clean = cleanPath(path);
    if (!folders.folders.includes(clean)) tell(id, false);
    else
      sftp.handle(
        id,
        handleOf({ path: clean, bytes: Buffer.alloc(0), isWritten: false, names: listFolder(folders, clean) }),
      );
  });
  sftp.on('READDIR', (id, handle) => {
    const folder = openAt(handle);
    const names = folder?.names?.splice(0, 100) ?? [];
    if (!folder || names.length === 0) tell(id, false, folder ? status.EOF : status.FAILURE);
    else
      sftp.name(
        id,
        names.map((n) => entry(`${folder.path === '/' ? '' : folder.path}/${n}`, n)),
      );
  });
  sftp.on('OPEN', (id, path, flags) => {
    const clean = cleanPath(path);
    const isWritten = (flags & mode.WRITE) !== 0;
    const there = readFile(folders, clean);
    if (isWritten ? !folders.folders.includes(folderOf(clean)) : there === undefined) {
      tell(id, false);
      return;
    }
    const bytes = isWritten && (flags & mode.TRUNC) !== 0 ? Buffer.alloc(0) : (there ?? Buffer.alloc(0));
    if (isWritten) writeFile(folders, clean, bytes);
    sftp.handle(id, handleOf({ path: clean, bytes, isWritten, names: undefined }));
  });
  sftp.on('READ', (id, handle, offset, length) => {
    const bytes = openAt(handle)?.bytes.subarray(offset, offset + length);
    if (!bytes) tell(id, false, status.FAILURE);
    else if (bytes.length === 0) tell(id, false, status.EOF);
    else sftp.data(id, bytes);
  });
  sftp.on('WRITE', (id, handle, offset, piece) => {
    const file = openAt(handle);
    if (!file?.isWritten) {
      tell(id, false, status.FAILURE);
      return;
    }
    if (file.bytes.length < offset + piece.length)
      file.bytes = Buffer.concat([file.bytes], Math.max(offset + piece.length, file.bytes.length));
    piece.copy(file.bytes, offset);
    // What is half written is there half, as on a disk.
    writeFile(folders, file.path, file.bytes);
    tell(id, true);
  });
  sftp.on('CLOSE', (id, handle) => {
    const file = openAt(handle);
    if (file?.isWritten) changed();
    tell(id, file !== undefined && open.delete(handle.readUInt32BE()), status.FAILURE);
  });
  sftp.on('RENAME', (id, from, to) => {
    const [a, b] = [cleanPath(from), cleanPath(to)];
    const file = folders.files[a];
    // Version 3 of the protocol refuses to rename over what is there.
    const isRight = file !== undefined && folders.files[b] === undefined && folders.folders.includes(folderOf(b));
    if (isRight) {
      folders.files[b] = file;
      delete folders.files[a];
      changed();
    }
    tell(id, isRight, file ? status.FAILURE : status.NO_SUCH_FILE);
  });
  sftp.on('REMOVE', (id, path) => {
    const clean = cleanPath(path);
    const isThere = folders.files[clean] !== undefined;
    delete folders.files[clean];
    tell(id, isThere);
  });
  sftp.on('MKDIR', (id, path) => {
    const clean = cleanPath(path);
    const isNew = !folders.folders.includes(clean) && folders.folders.includes(folderOf(clean));
    if (isNew) folders.folders.push(clean);
    tell(id, isNew, status.FAILURE);
  });
}
