// Root installs; it never runs anything that answers the net. What runs is a system user of its own.
import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, lchownSync, lstatSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail } from './say.mjs';

const name = 'basileus';
/** What a start leaves in the folder, in whatever order it was broken off; and the memories of the stand-in markets. */
const ours = ['postgres', 'app', 'start.sock'];
const memoriesOf = (markets) => markets.flatMap((m) => [`${m}.json`, `${m}.json.new`]);

/** Numbers of a system user, or undefined where there is none. */
export function findUser(wanted) {
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((l) => l.startsWith(`${wanted}:`));
  if (!line) return undefined;
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

function ensureUser(home) {
  const found = findUser(name);
  if (found) return found;
  const made = spawnSync(
    'useradd',
    ['--system', '--user-group', '--home-dir', home, '--no-create-home', '--shell', '/usr/sbin/nologin', name],
    { encoding: 'utf8' },
  );
  return (
    findUser(name) ??
    fail(`The system user “${name}” could not be made: ${(made.stderr || made.error?.message || '').trim()}`)
  );
}

function giveTo(path, user) {
  lchownSync(path, user.uid, user.gid);
  if (lstatSync(path).isDirectory()) for (const entry of readdirSync(path)) giveTo(join(path, entry), user);
}

/**
 * The folder of the data, for its owner alone. Started as root it is given to a system user of ours, made where there is
 * none, who must be able to reach it; `become()` then makes this process that user, for good.
 */
export function prepareData(folder, markets) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const isOurs =
    existsSync(join(folder, 'postgres')) ||
    readdirSync(folder).every((n) => [...ours, ...memoriesOf(markets)].includes(n));
  if (!isOurs)
    fail(
      `${folder} holds other things; name a folder for Basileus alone with BASILEUS_DATA, one that may be made anew.`,
    );
  chmodSync(folder, 0o700);
  process.umask(0o077);
  if (process.getuid?.() !== 0) return { isRoot: false, canRunNode: true, become: () => process.chdir(folder) };
  const user = ensureUser(folder);
  // Only what is not the user's yet: root writes nothing and changes nothing in a folder that another user rules.
  if (lstatSync(folder).uid !== user.uid) giveTo(folder, user);
  if (spawnSync('test', ['-w', folder], user).status !== 0)
    fail(
      `The user “${name}”, as whom everything runs, cannot reach ${folder}; choose another data folder with BASILEUS_DATA.`,
    );
  return {
    isRoot: true,
    canRunNode: spawnSync(process.execPath, ['-e', '0'], { ...user, cwd: folder }).status === 0,
    become: () => {
      process.chdir(folder);
      process.initgroups(name, user.gid);
      process.setgid(user.gid);
      process.setuid(user.uid);
      process.env.HOME = folder;
      process.env.USER = process.env.LOGNAME = name;
    },
  };
}

/**
 * Where the data lies when nobody says: beside the program; for root, whose home nobody else may enter, where Debian
 * keeps such things.
 */
export const defaultData = (root) => {
  const beside = join(root, '.data');
  return process.getuid?.() === 0 && !existsSync(join(beside, 'postgres/cluster/PG_VERSION'))
    ? '/var/lib/basileus'
    : beside;
};
