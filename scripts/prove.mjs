// Proves both commands on a bare Debian: a system made by debootstrap (minbase, ca-certificates) with Node.js from this
// machine, once as root in root's own home, once as an ordinary user. Needs root and Debian's mirror.
//   node scripts/prove.mjs [start] [test] [--as root|user] [--keep folder]
import { spawn, spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  realpathSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fail, root } from './lib/say.mjs';

if (process.getuid?.() !== 0) fail('A system can only be made as root.');
const words = process.argv.slice(2);
const valueOf = (name) => (words.includes(name) ? words[words.indexOf(name) + 1] : undefined);
const commands = ['start', 'test'].filter(
  (c) => words.includes(c) || !words.some((w) => w === 'start' || w === 'test'),
);
const people = [valueOf('--as') ?? ['root', 'user']].flat();
const suite = /VERSION_CODENAME=(\w+)/.exec(readFileSync('/etc/os-release', 'utf8'))?.[1] ?? 'bookworm';

function run(file, args, options = {}) {
  const r = spawnSync(file, args, { stdio: 'inherit', ...options });
  if (r.status !== 0) fail(`${file} ${args.join(' ')} ended with ${r.status ?? r.error?.message}.`);
}

/** A bare system with Node.js in it, as a person would find it on a new machine. */
function makeSystem(folder) {
  if (!existsSync('/usr/sbin/debootstrap')) run('apt-get', ['install', '-y', '-qq', 'debootstrap']);
  if (!existsSync(join(folder, 'bin/sh')))
    run('debootstrap', ['--variant=minbase', '--include=ca-certificates', suite, folder], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
  // How this machine reaches Debian and npm: names, mirrors, certificates.
  for (const path of [
    '/etc/resolv.conf',
    '/etc/hosts',
    '/etc/apt',
    '/etc/ssl/certs/ca-certificates.crt',
    '/usr/local/share/ca-certificates',
    '/etc/npmrc',
    '/root/.npmrc',
  ])
    if (existsSync(path)) run('cp', ['-rLT', '--remove-destination', path, join(folder, path)]);
  const node = realpathSync(process.execPath),
    npm = join(
      dirname(realpathSync(spawnSync('sh', ['-c', 'command -v npm'], { encoding: 'utf8' }).stdout.trim())),
      '..',
    );
  mkdirSync(join(folder, 'usr/local/bin'), { recursive: true });
  cpSync(node, join(folder, 'usr/local/bin/node'));
  cpSync(npm, join(folder, 'usr/local/lib/node_modules/npm'), { recursive: true, dereference: true });
  for (const name of ['npm', 'npx'])
    writeFileSync(
      join(folder, 'usr/local/bin', name),
      `#!/bin/sh\nexec /usr/local/bin/node /usr/local/lib/node_modules/npm/bin/${name}-cli.js "$@"\n`,
      { mode: 0o755 },
    );
  for (const [kind, path] of [
    ['proc', 'proc'],
    ['sysfs', 'sys'],
    ['devpts', 'dev/pts'],
    ['tmpfs', 'dev/shm'],
  ]) {
    mkdirSync(join(folder, path), { recursive: true });
    if (spawnSync('mountpoint', ['-q', join(folder, path)]).status !== 0)
      run('mount', ['-t', kind, kind, join(folder, path)]);
  }
  for (const device of ['null', 'zero', 'urandom', 'random', 'tty'])
    if (!existsSync(join(folder, 'dev', device)))
      cpSync(join('/dev', device), join(folder, 'dev', device), { recursive: true });
}

/** The project as it is committed here, in somebody's home. */
function putProject(folder, person) {
  const home = person === 'root' ? '/root' : `/home/${person}`,
    inside = join(folder, home, 'basileus');
  if (person !== 'root' && spawnSync('chroot', [folder, 'id', person], { stdio: 'ignore' }).status !== 0) {
    run('chroot', [folder, 'useradd', '--create-home', '--shell', '/bin/sh', person]);
    // An ordinary user may install Debian packages only through sudo; a person who may not has had them installed.
    run('chroot', [
      folder,
      'sh',
      '-c',
      'apt-get update -qq && apt-get install -y -qq --no-install-recommends sudo >/dev/null',
    ]);
    writeFileSync(join(folder, 'etc/sudoers.d/proof'), `${person} ALL=(ALL) NOPASSWD: ALL\n`, { mode: 0o440 });
  }
  rmSync(inside, { recursive: true, force: true });
  mkdirSync(inside, { recursive: true, mode: 0o700 });
  run('sh', ['-c', `git -C "${root}" archive HEAD | tar -x -C "${inside}"`]);
  run('chroot', [folder, 'chown', '-R', `${person}:`, `${home}/basileus`]);
  run('chroot', [folder, 'chmod', '700', home, `${home}/basileus`]);
  return `${home}/basileus`;
}

const within = (folder, person, place, command) =>
  spawn('chroot', [`--userspec=${person}:${person}`, folder, 'sh', '-c', `cd ${place} && ${command}`], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      PATH: '/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin',
      LANG: 'C.UTF-8',
      HOME: dirname(place),
      USER: person,
      ...proxies(),
    },
    detached: true,
  });
const proxies = () =>
  Object.fromEntries(Object.entries(process.env).filter(([k]) => /proxy|npm_config|NODE_EXTRA_CA_CERTS/i.test(k)));

/** Processes in the system whose command line holds a word: number and user. */
const listProcesses = (folder, word) =>
  readdirSync('/proc')
    .filter((pid) => /^\d+$/.test(pid))
    .flatMap((pid) => {
      try {
        const isInside = readlinkSync(`/proc/${pid}/root`) === realpathSync(folder);
        return isInside && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word)
          ? [{ pid: Number(pid), uid: statSync(`/proc/${pid}`).uid }]
          : [];
      } catch {
        return [];
      }
    });

/** `npm start` comes to where its health is good. */
async function proveStart(folder, person, place) {
  const child = within(folder, person, place, 'BASILEUS_PORT=4655 npm start');
  child.stdout.pipe(process.stdout);
  const isGone = () => child.exitCode !== null || child.signalCode !== null;
  let answers = false;
  while (!answers && !isGone()) {
    await new Promise((r) => setTimeout(r, 250));
    answers = await fetch('http://127.0.0.1:4655/api/health').then(
      (r) => r.ok,
      () => false,
    );
  }
  const servers = listProcesses(folder, 'server.mjs');
  const isRoot = servers.length === 0 || servers.some((s) => s.uid === 0);
  if (child.exitCode === null) process.kill(-child.pid, 'SIGINT');
  await new Promise((done) =>
    child.exitCode === null && child.signalCode === null ? child.once('exit', done) : done(),
  );
  const left = listProcesses(folder, 'server.mjs').concat(listProcesses(folder, 'postgres'));
  for (const { pid } of left) process.kill(pid, 'SIGKILL');
  if (left.length) console.log(`${left.length} processes outlived it.`);
  return answers && !isRoot && left.length === 0;
}

/** `npm test` ends well; its last line counts. */
async function proveTest(folder, person, place) {
  const child = within(folder, person, place, 'npm test');
  let said = '';
  child.stdout.on('data', (d) => {
    process.stdout.write(d);
    said = (said + d).slice(-400);
  });
  const code = await new Promise((done) => child.once('exit', done));
  return code === 0 && / passed, 0 failed\s*$/.test(said);
}

const folder = valueOf('--keep') ?? mkdtempSync(join(tmpdir(), 'basileus-proof-'));
mkdirSync(folder, { recursive: true });
let passed = 0,
  failed = 0;
try {
  makeSystem(folder);
  for (const person of people) {
    const place = putProject(folder, person === 'user' ? 'ada' : person);
    for (const command of commands) {
      const isGood = await (command === 'start' ? proveStart : proveTest)(
        folder,
        person === 'user' ? 'ada' : person,
        place,
      );
      console.log(`npm ${command} as ${person}: ${isGood ? 'good' : 'FAILED'}`);
      if (isGood) passed++;
      else failed++;
    }
  }
} finally {
  for (const path of ['dev/shm', 'dev/pts', 'sys', 'proc']) spawnSync('umount', ['-l', join(folder, path)]);
  if (!valueOf('--keep')) rmSync(folder, { recursive: true, force: true });
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
