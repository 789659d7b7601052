// npm run test:start: what a stranger does first. HEAD is cloned into a new folder, the README's first command runs there, and a
// browser opens the demo and waits for its first figure. With --here it runs in this checkout, as it is.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { BROWSER, needPrograms } from './debian.mjs';
import { readmeCommand } from './readme.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
/** Ends what hangs; how long it takes is told, not judged. */
const PATIENCE = 30 * 60_000;

const isHere = process.argv.includes('--here');
needPrograms(BROWSER);
const seconds = (since) => `${((Date.now() - since) / 1000).toFixed(1)} s`;
const began = Date.now();
let folder = root;
if (!isHere) {
  folder = join(mkdtempSync(join(tmpdir(), 'bold-ruler-start-')), 'Bold Rüler');
  const cloned = spawnSync('git', ['clone', '--quiet', root, folder], { stdio: 'inherit' });
  if (cloned.status !== 0) process.exit(1);
}

const port = await new Promise((resolve) => {
  const probe = createServer().listen(0, '127.0.0.1', () => {
    const { port } = probe.address();
    probe.close(() => resolve(port));
  });
});
const command = readmeCommand('start');
console.log(`${folder}: ${command}`);
const server = spawn('sh', ['-c', `exec ${command}`], {
  cwd: folder,
  env: { ...process.env, PORT: String(port) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
let isWell = false;
try {
  const address = await addressOf(server);
  console.log(`— it serves ${address} after ${seconds(began)}`);
  console.log(`— ${await firstFigure(address)} marks of the demo’s first figure are there after ${seconds(began)}`);
  isWell = true;
} catch (error) {
  console.error(`— ${command} has failed: ${error.message}`);
} finally {
  isWell = (await ended(server)) && isWell;
  if (!isHere) rmSync(join(folder, '..'), { recursive: true, force: true });
}
console.log(isWell ? '1 passed, 0 failed' : '0 passed, 1 failed');
process.exit(isWell ? 0 : 1);

/** The address that the last line holds, alone. */
function addressOf(child) {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new Error('it said no address')), PATIENCE);
    let said = '';
    child.stdout.on('data', (text) => {
      process.stdout.write(text);
      said += text;
      const [, found] = /^(http:\/\/localhost:\d+)\n/m.exec(said) ?? [];
      if (!found) return;
      clearTimeout(timer);
      resolve(found);
    });
    child.on('error', reject);
    child.on('exit', (code) => reject(new Error(`it ended with ${code}`)));
  });
}

/** Opens the demo as a person would, and waits until the first figure's marks are drawn. @returns how many there are */
async function firstFigure(address) {
  // The clone's own package: this checkout may have none yet.
  const { resolve } = createRequire(join(folder, 'package.json'));
  const load = (name) => import(pathToFileURL(resolve(name)));
  const { Builder, By, until } = (await load('selenium-webdriver')).default;
  const chrome = (await load('selenium-webdriver/chrome.js')).default;
  const profile = mkdtempSync(join(tmpdir(), 'bold-ruler-browser-'));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    ...'headless=new no-sandbox disable-gpu disable-quic no-first-run disable-background-networking disable-component-update disable-sync'
      .split(' ')
      .map((flag) => `--${flag}`),
    `--user-data-dir=${profile}`,
  );
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  try {
    await driver.get(address);
    const opens = By.xpath("//button[normalize-space()='Open the demo'] | //a[normalize-space()='Open the demo']");
    await (await driver.wait(until.elementLocated(opens), PATIENCE)).click();
    return await driver.wait(async () => {
      const marks = await driver.findElements(By.css('main [data-row]'));
      return marks.length > 0 && marks.length;
    }, PATIENCE);
  } finally {
    await driver.quit();
    rmSync(profile, { recursive: true, force: true });
  }
}

/** Ends what was started by its process id. @returns whether nothing of it goes on */
async function ended(child) {
  if (child.exitCode === null && child.signalCode === null) {
    const gone = new Promise((resolve) => child.once('exit', resolve));
    process.kill(child.pid);
    await gone;
  }
  for (let tries = 0; tries < 100; tries++) {
    const isGone = await fetch(`http://localhost:${port}`).then(
      () => false,
      () => true,
    );
    if (isGone) return true;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  console.error(`— the server goes on after ${command} was ended`);
  return false;
}
