// Debian's packages that tests need: installed as root, else named.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** The packages by the programs in them. */
const PACKAGES = {
  '/usr/bin/chromium': 'chromium',
  '/usr/bin/chromedriver': 'chromium-driver',
  '/usr/bin/pdftotext': 'poppler-utils',
  '/usr/bin/rsvg-convert': 'librsvg2-bin',
};
export const BROWSER = ['/usr/bin/chromium', '/usr/bin/chromedriver'];

// Nothing is asked, and no service begins.
const QUIETLY = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive', RUNLEVEL: '1' } };
const isRoot = process.getuid?.() === 0;
const apt = (...words) => spawnSync('apt-get', words, { stdio: ['ignore', 'ignore', 'inherit'], ...QUIETLY });
const install = (...packages) => apt('install', '-y', '-qq', ...packages).status === 0;

/** Installs what is missing of some programs; ends this process where it cannot, and says what to install. */
export function needPrograms(programs = Object.keys(PACKAGES)) {
  const packages = programs.filter((path) => !existsSync(path)).map((path) => PACKAGES[path]);
  if (packages.length === 0) return;
  const names = packages.join(', ');
  if (isRoot && spawnSync('apt-get', ['--version']).status === 0) {
    console.log(`Installing Debian’s packages ${names} …`);
    apt('update', '-qq');
    if (install(...packages)) return;
  }
  console.error(
    `The tests need Debian’s packages ${names}: run “apt-get install ${packages.join(' ')}” as root, then try again.`,
  );
  process.exit(1);
}

/** Databases are tested where they can be had: without one its tests are skipped, and said to be. */
export function wantDatabases() {
  const missing = [
    ['postgresql', '/usr/lib/postgresql'],
    ['clickhouse-server', '/usr/sbin/clickhouse-server'],
  ].flatMap(([name, place]) => (existsSync(place) ? [] : [name]));
  if (missing.length === 0) return;
  if (isRoot) {
    console.log(`Installing Debian’s packages ${missing.join(', ')} for the tests of databases …`);
    apt('update', '-qq');
  }
  for (const name of missing)
    if (!isRoot || !(name === 'postgresql' ? withoutCluster(() => install(name)) : install(name)))
      console.log(`The tests of databases that need it are skipped: install Debian’s package ${name} for them.`);
}

/** PostgreSQL makes a database cluster of its own when it is installed, unless its settings say otherwise while that runs. */
function withoutCluster(installing) {
  const settings = '/etc/postgresql-common/createcluster.conf';
  if (!install('postgresql-common')) return false;
  const before = existsSync(settings) ? readFileSync(settings) : '';
  writeFileSync(settings, `${before}\ncreate_main_cluster = false\n`);
  try {
    return installing();
  } finally {
    writeFileSync(settings, before);
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  needPrograms();
  wantDatabases();
}
