// Installing what is missing: node packages from the lock file, Debian's PostgreSQL and Chromium.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fail, root } from './say.mjs';

/** Node packages, from the lock file; again only when that has changed. */
export function installPackages() {
  const mark = join(root, 'node_modules/.package-lock.json');
  if (
    existsSync(mark) &&
    statSync(mark).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs - 1000 &&
    existsSync(join(root, 'node_modules/vite'))
  )
    return;
  console.log('Installing node packages …');
  const r = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (r.status !== 0)
    fail(
      'The node packages could not be installed; look at npm’s words above. The npm registry must be reachable the first time.',
    );
}

let isListFresh = false;
const asRoot = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
const runAsRoot = (...args) =>
  spawnSync([...asRoot, ...args][0], [...asRoot, ...args].slice(1), {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
/** Asks Debian once a run which packages there are. */
const refreshList = () => {
  if (!isListFresh) runAsRoot('apt-get', 'update', '-qq');
  isListFresh = true;
};

/** Debian packages by name; `why` says in one clause what for. */
export function installDebian(packages, why) {
  console.log(`Installing ${packages.join(', ')} (${why}) …`);
  refreshList();
  const r = runAsRoot('apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...packages);
  if (r.status !== 0)
    fail(
      `${packages[0]} is missing and could not be installed (${why}); install it with “apt-get install ${packages.join(' ')}” as root and start again.`,
    );
}

/** Folder of PostgreSQL's server programs, newest version first; undefined where there is none. */
export function findPostgres() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  return versions
    .map((v) => join(base, v, 'bin'))
    .find((b) => existsSync(join(b, 'initdb')) && existsSync(join(b, 'postgres')));
}

export function ensurePostgres() {
  const found = findPostgres();
  if (found) return found;
  // The package would start a cluster of its own; we only want its programs.
  installDebian(['postgresql-common'], 'the database');
  const conf = '/etc/postgresql-common/createcluster.conf';
  if (process.getuid?.() === 0 && existsSync(conf) && !/^create_main_cluster = false/m.test(readFileSync(conf, 'utf8')))
    spawnSync('sed', ['-i', 's/^#\\?create_main_cluster.*/create_main_cluster = false/', conf]);
  installDebian(['postgresql', 'postgresql-client'], 'the database');
  return findPostgres() ?? fail('PostgreSQL was installed but its programs are not under /usr/lib/postgresql.');
}

/** Python reads what we write, as a judge that is not ours. */
export function ensurePython() {
  if (!existsSync('/usr/bin/python3')) installDebian(['python3'], 'a reader that is not ours, for the tests');
  return '/usr/bin/python3';
}

/** A spreadsheet program that is not ours: works out what we work out, and does to files what such programs do. */
export function ensureSpreadsheet() {
  if (!existsSync('/usr/bin/soffice'))
    installDebian(['libreoffice-calc-nogui'], 'a spreadsheet program, for the tests');
  return '/usr/bin/soffice';
}

/** A browser without windows; the shell made for that takes a quarter less time in tests. Older Debians have the whole browser only. */
export function ensureChromium() {
  const path = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((p) => existsSync(p));
  if (path) return path;
  refreshList();
  const hasShell = spawnSync('apt-cache', ['show', '--no-all-versions', 'chromium-headless-shell']).status === 0;
  const name = hasShell ? 'chromium-headless-shell' : 'chromium';
  installDebian([name, 'fonts-liberation'], 'the browser of the end-to-end tests');
  return `/usr/bin/${name}`;
}
