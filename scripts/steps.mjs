// Steps shared by the two commands. Plain Node, so that they run before anything is installed and on any desktop.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const windows = process.platform === 'win32';
let told = process.stdout;
export const say = (text) => told.write(`${text}\n`);
/** What steps say goes to standard error, and standard output is left to the command's data. */
export const sayOnStandardError = () => (told = process.stderr);

/**
 * Runs a command, showing what it prints or gathering it in `output`; resolves with its exit code.
 * `niceness` above 0 leaves the processor to others first.
 */
export function run(command, args, options = {}) {
  return new Promise((done, fail) => {
    const { output, niceness = 0, ...rest } = options;
    const child = spawn(command, args, { cwd: root, stdio: ['inherit', told, 'inherit'], shell: windows, ...rest });
    if (niceness > 0 && child.pid) setPriority(child.pid, niceness);
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (text) => output?.push(String(text)));
    child.on('error', fail);
    child.on('exit', (code, signal) => done(signal ? 1 : (code ?? 1)));
  });
}

export async function mustRun(command, args, options) {
  const code = await run(command, args, options);
  if (code !== 0) {
    say(`Stopped: ${command} ${args.join(' ')} ended with ${code}.`);
    process.exit(code);
  }
}

/** The file of a package's command, so that no shell wrapper is needed. */
export const bin = (path) => join(root, 'node_modules', path);
export const node = process.execPath;

const digest = (parts) => createHash('sha256').update(parts.join('\n')).digest('hex');
const stamp = (name) => join(root, '.cache', `${name}.stamp`);
const isStamped = (name, value) => existsSync(stamp(name)) && readFileSync(stamp(name), 'utf8') === value;
function setStamp(name, value) {
  mkdirSync(join(root, '.cache'), { recursive: true });
  writeFileSync(stamp(name), value);
}

const lockDigest = () => digest([readFileSync(join(root, 'package-lock.json'), 'utf8'), process.version]);
const npm = windows ? 'npm.cmd' : 'npm';

/** Installs the locked dependencies when they are absent or the lock file changed; sqlite3 is compiled apart, by `compileDatabase`. */
export async function installPackages() {
  const wanted = lockDigest();
  if (existsSync(join(root, 'node_modules')) && isStamped('install', wanted)) return;
  say('Installing dependencies.');
  await mustRun(npm, ['ci', '--ignore-scripts', '--no-audit', '--no-fund']);
  setStamp('install', wanted);
}

/**
 * Makes sqlite3's native part when it is absent: fetched where there is a network, compiled from
 * source otherwise. Its output is shown only when it fails, since other steps may run beside it.
 */
export async function compileDatabase() {
  const wanted = lockDigest();
  if (existsSync(join(root, 'node_modules/sqlite3/build/Release/node_sqlite3.node')) && isStamped('native', wanted)) return;
  say('Preparing sqlite3. Where it has to be compiled from source this takes two to four minutes.');
  const { JOBS = 'max', CFLAGS = '-O2', CXXFLAGS = '-O2' } = process.env;
  // the level SQLite's authors build at; what Node's build would set takes a third longer
  const env = { ...process.env, JOBS, CFLAGS, CXXFLAGS };
  // Node's own headers beside the binary save node-gyp a download.
  const prefix = resolve(dirname(node), '..');
  if (!env.npm_config_nodedir && existsSync(join(prefix, 'include', 'node', 'node.h'))) env.npm_config_nodedir = prefix;
  const output = [];
  const code = await run(npm, ['rebuild', 'sqlite3', '--foreground-scripts'], { env, stdio: ['ignore', 'pipe', 'pipe'], output });
  if (code !== 0) {
    say(output.join(''));
    say(`Stopped: sqlite3 could not be prepared (npm rebuild sqlite3 ended with ${code}). It needs python3, make and a C++ compiler.`);
    process.exit(code);
  }
  setStamp('native', wanted);
}

/** Both, one after the other. */
export async function install() {
  await installPackages();
  await compileDatabase();
}

const everyFile = (directory) =>
  readdirSync(directory, { withFileTypes: true }).flatMap((entry) => {
    const path = join(directory, entry.name);
    if (entry.isDirectory()) return entry.name === 'node_modules' || entry.name === 'dist' ? [] : everyFile(path);
    return entry.isFile() ? [path] : [];
  });

/** A digest of every file that types, format, lint and the dependency rule look at. */
export function checkedFiles() {
  const files = ['packages', 'apps', 'demo', 'tests', 'bench', 'scripts', 'docs'].flatMap((part) => everyFile(join(root, part)));
  const beside = readdirSync(root, { withFileTypes: true }).flatMap((entry) => (entry.isFile() ? [join(root, entry.name)] : []));
  return digest([process.version, ...[...files, ...beside].map((path) => `${path} ${digest([readFileSync(path, 'latin1')])}`)]);
}
/** Whether a check passed on files with this digest. */
export const hasPassed = (name, files) => isStamped(`check-${name}`, files);
export const notePassed = (name, files) => setStamp(`check-${name}`, files);

/** Builds the server and the web application when a source is newer than the last build. */
export async function build() {
  const sources = ['packages', 'apps', 'demo/src']
    .flatMap((part) => everyFile(join(root, part)))
    .filter((path) => !path.endsWith('.test.ts'));
  const wanted = digest(sources.map((path) => `${path} ${statSync(path).mtimeMs} ${statSync(path).size}`));
  const outputs = ['apps/server/dist/main.js', 'apps/web/dist/index.html', 'apps/cli/dist/bin.js'];
  if (outputs.every((path) => existsSync(join(root, path))) && isStamped('build', wanted)) return;
  say('Building the application.');
  await mustRun(node, [join(root, 'scripts', 'build.mjs')]);
  setStamp('build', wanted);
}

/** Starts the server on a data folder and ends with it; signals go on to it. */
export function serve(data) {
  const server = spawn(node, [join(root, 'apps/server/dist/main.js')], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, WISE_MARGIN_DATA: data },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
  server.on('exit', (code) => process.exit(code ?? 0));
}

const SHELL = '/usr/bin/chromium-headless-shell';
/** Chromium's path, from the environment or the usual places; null when there is none. Its build without a window starts and draws faster. */
export function findChromium() {
  const places = [
    process.env.CHROMIUM_PATH,
    SHELL,
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
    '/usr/bin/google-chrome',
    '/Applications/Chromium.app/Contents/MacOS/Chromium',
    '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
    'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
  ];
  return places.find((path) => path && existsSync(path)) ?? null;
}

/** Installs Chromium from Debian's packages when this user may: its build without a window, whose journeys take a quarter less, else the whole. */
export async function ensureChromium() {
  const mayInstall = existsSync('/usr/bin/apt-get') && process.getuid?.() === 0;
  const debian = (args, stdio) => run('apt-get', args, { stdio, env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  const install = (name, stdio) => debian(['install', '-y', '-qq', '--no-install-recommends', name], stdio);
  if (mayInstall && !process.env.CHROMIUM_PATH && !existsSync(SHELL) && findChromium()) {
    say('Installing Chromium’s build without a window from Debian’s packages: the browser tests take a quarter less with it.');
    // where it is not to be had, the browser that is there does
    await install('chromium-headless-shell', 'ignore');
  }
  if (findChromium()) return findChromium();
  if (mayInstall) {
    say('Installing Chromium from Debian’s packages for the browser tests.');
    await debian(['update', '-qq'], 'inherit');
    for (const name of ['chromium-headless-shell', 'chromium']) if (!findChromium()) await install(name, 'inherit');
  }
  if (findChromium()) return findChromium();
  say('The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium) or set CHROMIUM_PATH to a Chromium or Chrome.');
  process.exit(1);
}

/**
 * Makes the demo data in a folder when it is absent.
 * @param cli arguments that start the command line, built or from source
 */
export async function makeDemoData(data, cli) {
  if (existsSync(join(data, 'wise-margin.sqlite'))) return;
  say('Creating the demo companies: two ledgers and their budgets, about ten seconds.');
  // Made beside its place and moved there whole, so that a stop in the middle leaves no half of it.
  const making = `${data}.making`;
  rmSync(making, { recursive: true, force: true });
  await mustRun(node, [...cli, 'demo', '--data', making]);
  rmSync(data, { recursive: true, force: true });
  renameSync(making, data);
}
